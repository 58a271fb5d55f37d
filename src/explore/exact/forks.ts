import { UsageError } from '../../design/problems/problem.js';
import { splitKinds } from '../../engine/compile/representation.js';

/** All whole numbers that a draw can be. */
const all = 2 ** 32;

/** Ways that one draw can fall, at the most: more would be a search of its own at every turn. */
const mostChoices = 100_000;

/** One draw, or one decision, on the way through a turn. */
export interface Fork {
  /** Of each way that it can fall: its chance, and a draw that falls so. Of a decision all chances are 1, and the draws are its options. */
  readonly chances: readonly number[];
  readonly draws: readonly number[];
  readonly decides: boolean;
  /** The way that is gone now. */
  at: number;
}

/**
 * Goes every way through a turn, one after the other: each draw is answered by each of the ways in which it can fall that make a difference.
 * A turn is gone through from its start for each way, so that nothing has to be put back midway.
 */
export class Forks {
  readonly path: Fork[] = [];
  #depth = 0;
  #next: Pick<Fork, 'chances' | 'draws'> | undefined;

  /** Before the first way of a turn. */
  begin(): void {
    this.path.length = 0;
    this.#depth = 0;
  }

  /** Goes on to the next way; false where all were gone. */
  next(): boolean {
    this.#depth = 0;
    while (this.path.length > 0) {
      const last = this.path.at(-1)!;
      if (++last.at < last.chances.length) return true;
      this.path.pop();
    }
    return false;
  }

  /** The chance of the way that was gone; decisions are taken for granted. */
  get chance(): number {
    let product = 1;
    for (const { chances, at } of this.path) product *= chances[at]!;
    return product;
  }

  /** How the draw that comes next is told apart: see `Split`. */
  split(kind: number, ...of: readonly number[]): void {
    if (this.#depth < this.path.length) return;
    if (kind === splitKinds.threshold) this.#next = bounded([of[0]!, all]);
    else if (kind === splitKinds.choices) this.#next = chosen(of[0]!);
    else this.#next = weighted(of);
  }

  draw(): number {
    const { at, draws } = this.#fork(() => ({ ...this.#next!, decides: false, at: 0 }));
    return draws[at]!;
  }

  /** The place of the option that is decided on. */
  decide(options: readonly number[]): number {
    return this.#fork(() => ({ chances: options.map(() => 1), draws: options, decides: true, at: 0 })).at;
  }

  #fork(make: () => Fork): Fork {
    if (this.#depth === this.path.length) this.path.push(make());
    return this.path[this.#depth++]!;
  }
}

const splits = new Map<number, Pick<Fork, 'chances' | 'draws'>>();

/** Into so many parts that are as equal as whole numbers can be. */
function chosen(choices: number): Pick<Fork, 'chances' | 'draws'> {
  if (choices > mostChoices)
    throw new UsageError(
      'bad-argument',
      `A draw falls in ${choices} ways, and at most ${mostChoices} are followed; make the range of the interval narrower, or the grid coarser.`,
    );
  const known = splits.get(choices);
  if (known !== undefined) return known;
  const made = bounded(Array.from({ length: choices }, (_, nth) => Math.ceil(((nth + 1) * all) / choices)));
  splits.set(choices, made);
  return made;
}

function weighted(weights: readonly number[]): Pick<Fork, 'chances' | 'draws'> {
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  if (!(total > 0)) return bounded([all]);
  const upTo = weights.map((_, nth) => weights.slice(0, nth + 1).reduce((sum, weight) => sum + weight, 0));
  return bounded(upTo.map((sum) => Math.min(all, Math.ceil((sum * all) / total))));
}

/** The parts of all draws that end, each before one of these; those that hold none are left out. */
function bounded(ends: readonly number[]): Pick<Fork, 'chances' | 'draws'> {
  const chances: number[] = [];
  const draws: number[] = [];
  let from = 0;
  for (const end of ends) {
    if (end > from) {
      chances.push((end - from) / all);
      draws.push(Math.floor((from + end - 1) / 2));
    }
    from = Math.max(from, end);
  }
  return { chances, draws };
}
