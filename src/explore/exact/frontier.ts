import { RowTable } from './row-table.js';

/** What is known to happen at one moment: the states that are reached then, and how likely each is with each score. */
export class Moment {
  readonly table = new RowTable();
  /** By row, and by the score that is summed up beside it; undefined: its way was gone already. */
  readonly chances: (Map<number, number> | undefined)[] = [];
  /** Rows whose way is still to be gone, in the order in which they came. */
  readonly waiting: number[] = [];

  /** Gives the number of the row. */
  add(row: Float64Array, length: number, score: number, chance: number): number {
    const number = this.table.numberOf(row, length);
    const known = this.chances[number];
    if (known === undefined) {
      this.chances[number] = new Map([[score, chance]]);
      this.waiting.push(number);
    } else known.set(score, (known.get(score) ?? 0) + chance);
    return number;
  }
}

/** Moments of session time that are still to come, the next one first: a binary heap. */
export class Frontier {
  readonly #moments = new Map<number, Moment>();
  readonly #times: number[] = [];

  at(time: number): Moment {
    const known = this.#moments.get(time);
    if (known !== undefined) return known;
    const made = new Moment();
    this.#moments.set(time, made);
    this.#push(time);
    return made;
  }

  /** The next moment, which is there until it is taken off; undefined: nothing is to come. */
  get next(): { readonly time: number; readonly moment: Moment } | undefined {
    const time = this.#times[0];
    return time === undefined ? undefined : { time, moment: this.#moments.get(time)! };
  }

  /** Takes the next moment off. */
  pop(): void {
    const times = this.#times;
    this.#moments.delete(times[0]!);
    const last = times.pop()!;
    if (times.length === 0) return;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= times.length) break;
      if (child + 1 < times.length && times[child + 1]! < times[child]!) child++;
      if (times[child]! >= last) break;
      times[at] = times[child]!;
      at = child;
    }
    times[at] = last;
  }

  #push(time: number): void {
    const times = this.#times;
    let at = times.push(time) - 1;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (times[parent]! <= time) break;
      times[at] = times[parent]!;
      at = parent;
    }
    times[at] = time;
  }
}
