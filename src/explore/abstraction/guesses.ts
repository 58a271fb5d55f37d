import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import type { Form, Term } from '../../engine/program/form.js';
import { visitTerm } from '../../engine/program/lower/lower-expression.js';
import { rangeOf } from '../../engine/program/ranges.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import type { Comparison, Loosened } from './loosen.js';

/** A part of a condition that is not followed, by its number, and whether it is taken to hold. */
export interface Guess {
  readonly part: number;
  readonly holds: boolean;
}

/** What a guess says of a counter that is not followed, in the state in which it is made: how it compares with something from `least` to `most`. */
export interface Compared {
  readonly counter: number;
  readonly operator: Comparison['operator'];
  readonly least: number;
  readonly most: number;
}

/** What is known of a counter since it may last have changed. An edge that is open is not reached. */
interface Interval {
  low: number;
  high: number;
  isLowOpen: boolean;
  isHighOpen: boolean;
}

/** Guesses of one step that are tried both ways, and ways of one step that are tried, at the most. */
const mostGuesses = 60;
const mostWays = 4096;

/** A step with some guesses, and by the next guess, those with one more. */
export interface Variant {
  /** Its number; -1: it has none yet. */
  edge: number;
  readonly more: Map<number, Variant>;
}

/** The variant of a step in which these guesses were made. */
export function variantOf(variants: Map<number, Variant>, edge: number, made: readonly Guess[]): Variant {
  let variant = entryOf(variants, edge);
  for (const { part, holds } of made) variant = entryOf(variant.more, holds ? part : -1 - part);
  return variant;
}

function entryOf(variants: Map<number, Variant>, key: number): Variant {
  let found = variants.get(key);
  if (found === undefined) {
    found = { edge: -1, more: new Map() };
    variants.set(key, found);
  }
  return found;
}

/** The guesses of one step after the other: as planned, and past the plan that all holds. */
export class Guesses {
  #planned: readonly Guess[] = [];
  #made: Guess[] = [];
  #ways = 0;
  /** The two guesses of each part, each made once. */
  readonly #both: (readonly [Guess, Guess])[] = [];
  /** Guesses of the step that leave no choice, by their place among all. */
  readonly #bound = new Set<number>();
  /** What was guessed of a part when it was first asked for in a state, by the part. */
  readonly #first = new Map<number, { readonly state: Float64Array; readonly holds: boolean }[]>();
  /** What was guessed since the last transition of the step, of parts that ask the same, by the first of these. */
  readonly #asked = new Map<number, boolean>();
  /** What was guessed of counters since a rule or a transition of the step last changed something, by counter. */
  readonly #intervals = new Map<number, Interval>();
  /** Parts of which it was guessed otherwise, at any step, so that the step would not go in a circle. */
  readonly turned = new Set<number>();

  /** Begins a way in which a step can go; its first is planned by nothing. */
  plan(planned: readonly Guess[]): void {
    this.#ways = planned.length === 0 ? 1 : this.#ways + 1;
    this.#planned = planned;
    this.#made = [];
    // Most steps guess nothing that has to be kept.
    if (this.#bound.size > 0) this.#bound.clear();
    if (this.#first.size > 0) this.#first.clear();
    if (this.#asked.size > 0) this.#asked.clear();
    this.changed();
  }

  /**
   * Tells that a transition was taken: what is asked after it may have changed.
   *
   * @param known what counters hold after it, by counter
   */
  goOn(known: ReadonlyMap<number, number>): void {
    this.#asked.clear();
    this.changed();
    for (const [counter, value] of known)
      this.#intervals.set(counter, { low: value, high: value, isLowOpen: false, isHighOpen: false });
  }

  /** Tells that counters may have changed. */
  changed(): void {
    if (this.#intervals.size > 0) this.#intervals.clear();
  }

  /**
   * The next guess of the step, 1 or 0.
   *
   * @param compared what it says of a counter; undefined: nothing
   * @param settling where transitions without an event are asked one after the other, with nothing left to hear: the first part that asks the
   * same, and all that the step goes on from
   */
  make(
    part: number,
    compared: Compared | undefined,
    settling?: { readonly same: number; readonly state: Float64Array },
  ): number {
    const at = this.#made.length;
    const interval = compared && this.#intervalOf(compared);
    const bound =
      (settling && this.#boundTo(part, settling.same, settling.state)) ??
      (interval && saidBy(interval, compared!));
    const holds = bound ?? this.#planned[at]?.holds ?? at < mostGuesses;
    if (bound !== undefined) this.#bound.add(at);
    else if (settling !== undefined)
      this.#first.set(part, [...(this.#first.get(part) ?? []), { state: settling.state.slice(), holds }]);
    if (settling !== undefined) this.#asked.set(settling.same, holds);
    if (interval !== undefined) narrow(interval, compared!, holds);
    this.#made.push(this.#guess(part, holds));
    return holds ? 1 : 0;
  }

  /**
   * What a guess has to be: as it was when the same was asked a moment ago; or, where the step has come to this place in this very state
   * before, not as it was then, since whatever would follow has followed the first time as well. Undefined: either.
   */
  #boundTo(part: number, same: number, state: Float64Array): boolean | undefined {
    const asked = this.#asked.get(same);
    if (asked !== undefined) return asked;
    const before = this.#first
      .get(part)
      ?.find((each) => each.state.every((cell, index) => cell === state[index]));
    if (before !== undefined) this.turned.add(part);
    return before && !before.holds;
  }

  #intervalOf({ counter }: Compared): Interval {
    let interval = this.#intervals.get(counter);
    if (interval === undefined) {
      interval = {
        low: Number.NEGATIVE_INFINITY,
        high: Number.POSITIVE_INFINITY,
        isLowOpen: false,
        isHighOpen: false,
      };
      this.#intervals.set(counter, interval);
    }
    return interval;
  }

  #guess(part: number, holds: boolean): Guess {
    this.#both[part] ??= [
      { part, holds: false },
      { part, holds: true },
    ];
    return this.#both[part][holds ? 1 : 0];
  }

  /** Those that the step has made so far. */
  get made(): readonly Guess[] {
    return this.#made;
  }

  /** Whether the step asked for so many that not all of them are tried both ways. */
  get isTooMany(): boolean {
    return this.#made.length > mostGuesses || this.#ways > mostWays;
  }

  /** A plan for the next way in which the step can go, until there is none: the last guess that was taken to hold does not. */
  get others(): readonly Guess[] | undefined {
    let last = Math.min(this.#made.length, mostGuesses) - 1;
    while (last >= 0 && (!this.#made[last]!.holds || this.#bound.has(last))) last--;
    if (last < 0 || this.#ways > mostWays) return undefined;
    return [...this.#made.slice(0, last), this.#guess(this.#made[last]!.part, false)];
  }
}

/** Works out for each guess what it says of a counter in the state that the cells hold; undefined: nothing. */
export function comparing(
  { form, comparisons }: Pick<Loosened, 'form' | 'comparisons'>,
  cells: Float64Array,
): (() => Compared | undefined)[] {
  const evaluator = new Evaluator(form, cells);
  const build = new Build(form, {});
  return comparisons.map((comparison) => {
    if (comparison === undefined) return () => undefined;
    const { counter, operator, to } = comparison;
    if (isExact(to, form)) {
      const index = evaluator.add(to);
      return () => {
        const value = evaluator.value(index);
        return { counter, operator, least: value, most: value };
      };
    }
    const [least, most] = rangeOf(term(build, to), form);
    const compared = { counter, operator, least, most };
    return () => compared;
  });
}

/** Whether a term is worked out exactly in every state of a search: it reads no more than which level of the list it is. */
function isExact(of: Term, { endless }: Form): boolean {
  let isKnown = true;
  visitTerm(of, ({ op }) => {
    if (op === 'level' || op === 'lastLevel' || op === 'levelValue') isKnown &&= !endless;
    if (['counter', 'present', 'left', 'course', 'timer', 'guess'].includes(op)) isKnown = false;
  });
  return isKnown;
}

const isBelow = ({ high, isHighOpen }: Interval, { least }: Compared): boolean =>
  high < least || (high === least && isHighOpen);
const isAbove = ({ low, isLowOpen }: Interval, { most }: Compared): boolean =>
  low > most || (low === most && isLowOpen);

/** What is known of a comparison by an interval; undefined: nothing. */
function saidBy(interval: Interval, compared: Compared): boolean | undefined {
  const { low, high } = interval;
  const { operator, least, most } = compared;
  switch (operator) {
    case '<':
    case '>=': {
      const isLess = isBelow(interval, compared) ? true : low >= most ? false : undefined;
      return isLess === undefined ? undefined : isLess === (operator === '<');
    }
    case '>':
    case '<=': {
      const isMore = isAbove(interval, compared) ? true : high <= least ? false : undefined;
      return isMore === undefined ? undefined : isMore === (operator === '>');
    }
    case '==':
    case '!=': {
      const isOther = isBelow(interval, compared) || isAbove(interval, compared);
      const isOne = low === high && least === most && low === least;
      const isEqual = isOther ? false : isOne ? true : undefined;
      return isEqual === undefined ? undefined : isEqual === (operator === '==');
    }
  }
}

/** Takes from an interval what a guess leaves out. */
function narrow(interval: Interval, { operator, least, most }: Compared, holds: boolean): void {
  const [hasLess, hasEqual, hasMore] = {
    '<': [true, false, false],
    '<=': [true, true, false],
    '==': [false, true, false],
    '!=': [true, false, true],
    '>=': [false, true, true],
    '>': [false, false, true],
  }[operator].map((each) => each === holds);
  if (!hasMore && interval.high >= most) {
    interval.isHighOpen = !hasEqual || (interval.high === most && interval.isHighOpen);
    interval.high = most;
  }
  if (!hasLess && interval.low <= least) {
    interval.isLowOpen = !hasEqual || (interval.low === least && interval.isLowOpen);
    interval.low = least;
  }
}
