import { ExactSums } from './exact-sums.js';

/**
 * How finely values are kept: in steps of `step`, each with a bin of its own below `exactBelow` steps, a power of two; each doubling above
 * has half as many bins.
 */
export interface Fineness {
  readonly step: number;
  readonly exactBelow: number;
}

export const fineness = {
  /** Scores and counts: exact to 16,384, then to one part in as many. */
  values: { step: 1, exactBelow: 2 ** 14 },
  /** Milliseconds: hundredths of a second up to forty seconds, then to one part in 4,096. */
  times: { step: 10, exactBelow: 2 ** 12 },
} as const;

/** The bin of a whole number from 0. */
function binOf(value: number, exactBelow: number): number {
  if (value < exactBelow) return value;
  let doublings = 0;
  let width = 2;
  while (value >= exactBelow * width) {
    doublings++;
    width *= 2;
  }
  const perDoubling = exactBelow / 2;
  return exactBelow + doublings * perDoubling + Math.floor(value / width) - perDoubling;
}

/** The value in the middle of a bin; of one that holds a single value, that value. */
function binMiddle(bin: number, exactBelow: number): number {
  if (bin < exactBelow) return bin;
  const perDoubling = exactBelow / 2;
  const doublings = Math.floor((bin - exactBelow) / perDoubling);
  const width = 2 ** (doublings + 1);
  return (((bin - exactBelow) % perDoubling) + perDoubling) * width + width / 2;
}

/** A value as it is kept: the middle of its bin. */
export const binned = (value: number, exactBelow: number): number =>
  value < 0 ? -binned(-value, exactBelow) : binMiddle(binOf(value, exactBelow), exactBelow);

/** What `Histogram` counts by bin: how often a value occurs, its weight and its pairs. */
const numbersOfBin = 3;

/** Numbers by bin; those of negative values stand in a list of their own, by the size of the value. */
class Bins {
  up: Float64Array = new Float64Array(64 * numbersOfBin);
  down: Float64Array = new Float64Array(0);

  constructor(private readonly exactBelow: number) {}

  add(value: number, count: number, weighted: number, pairs: number): void {
    const place = binOf(Math.abs(value), this.exactBelow) * numbersOfBin;
    if (value < 0 && place >= this.down.length) this.down = grown(this.down, place + numbersOfBin);
    if (value >= 0 && place >= this.up.length) this.up = grown(this.up, place + numbersOfBin);
    const numbers = value < 0 ? this.down : this.up;
    numbers[place]! += count;
    numbers[place + 1]! += weighted;
    numbers[place + 2]! += pairs;
  }

  /** What occurs, ascending: the bin's value, in steps, and its numbers. */
  *[Symbol.iterator](): Generator<readonly [value: number, numbers: Float64Array]> {
    const { up, down, exactBelow } = this;
    for (let place = down.length - numbersOfBin; place > 0; place -= numbersOfBin)
      if (down[place]! > 0)
        yield [-binMiddle(place / numbersOfBin, exactBelow), down.subarray(place, place + numbersOfBin)];
    for (let place = 0; place < up.length; place += numbersOfBin)
      if (up[place]! > 0)
        yield [binMiddle(place / numbersOfBin, exactBelow), up.subarray(place, place + numbersOfBin)];
  }

  merge({ up, down }: Bins): void {
    if (up.length > this.up.length) this.up = grown(this.up, up.length);
    if (down.length > this.down.length) this.down = grown(this.down, down.length);
    for (let place = 0; place < up.length; place++) this.up[place]! += up[place]!;
    for (let place = 0; place < down.length; place++) this.down[place]! += down[place]!;
  }
}

/** With room for `length` numbers, and usually for more. */
function grown(numbers: Float64Array, length: number): Float64Array {
  const wider = new Float64Array(Math.max(length, 2 * numbers.length));
  wider.set(numbers);
  return wider;
}

/** Sums that a mean with its interval by session is made of, by index. */
const sums = { values: 0, squares: 1, sessionSquares: 2, products: 3 } as const;

/**
 * How a value spreads over runs (or sessions), in as much room for a million sessions as for a thousand. Values are as
 * exact as its fineness says; least, most and mean are exact always.
 *
 * What an interval by session needs is counted along: of n runs in one session, sorted, the k-th counts 1, weighs n and
 * adds 2 k - 1 pairs, so that the weights and the pairs up to a value are the sums over sessions of h n and of h squared, h being how many of a session's runs have at most that value.
 */
export class Histogram {
  readonly #bins: Bins;
  readonly #sums = new ExactSums(4);
  /** Runs that have a value, sessions that have any such run, and the sum of the squares of how many each has. */
  runs = 0;
  sessions = 0;
  runsSquared = 0;
  least = Number.POSITIVE_INFINITY;
  most = Number.NEGATIVE_INFINITY;

  constructor(private readonly fineness: Fineness) {
    this.#bins = new Bins(fineness.exactBelow);
  }

  /**
   * Adds the first `count` values of one session, and sorts them.
   *
   * @param values whole numbers
   */
  add(values: Float64Array, count: number): void {
    if (count === 0) return;
    const { step } = this.fineness;
    let sum = 0;
    for (let at = 1; at < count; at++) {
      const value = values[at]!;
      let to = at;
      for (; to > 0 && values[to - 1]! > value; to--) values[to] = values[to - 1]!;
      values[to] = value;
    }
    for (let rank = 0; rank < count; rank++) {
      const value = values[rank]!;
      sum += value;
      const steps = step === 1 ? value : Math.round(value / step);
      this.#bins.add(steps, 1, count, 2 * rank + 1);
      this.#sums.addProduct(sums.squares, value, value);
    }
    this.#sums.add(sums.values, sum);
    this.#sums.addProduct(sums.sessionSquares, sum, sum);
    this.#sums.addProduct(sums.products, sum, count);
    this.runs += count;
    this.sessions++;
    this.runsSquared += count * count;
    if (values[0]! < this.least) this.least = values[0]!;
    if (values[count - 1]! > this.most) this.most = values[count - 1]!;
  }

  merge(other: Histogram): void {
    this.#bins.merge(other.#bins);
    this.#sums.merge(other.#sums);
    this.runs += other.runs;
    this.sessions += other.sessions;
    this.runsSquared += other.runsSquared;
    this.least = Math.min(this.least, other.least);
    this.most = Math.max(this.most, other.most);
  }

  /** Sum of all values, of their squares, and of squares and products by session. */
  get moments(): {
    readonly sum: number;
    readonly squares: number;
    readonly sessionSquares: number;
    readonly products: number;
  } {
    return {
      sum: this.#sums.value(sums.values),
      squares: this.#sums.value(sums.squares),
      sessionSquares: this.#sums.value(sums.sessionSquares),
      products: this.#sums.value(sums.products),
    };
  }

  /** The values that occur, ascending, with how often each does. */
  *[Symbol.iterator](): Generator<SpreadStep> {
    const { step } = this.fineness;
    for (const [steps, [count, weighted, pairs]] of this.#bins)
      yield { value: steps * step, count: count!, weighted: weighted!, pairs: pairs! };
  }

  /** As plain data, in one form for one content. */
  toData(): SpreadData {
    return {
      bins: [...this].map(({ value, count, weighted, pairs }) => [value, count, weighted, pairs]),
      sums: [...this.#sums.high, ...this.#sums.low],
      runs: this.runs,
      sessions: this.sessions,
      runsSquared: this.runsSquared,
      ends: this.runs === 0 ? [] : [this.least, this.most],
    };
  }

  static fromData(data: SpreadData, fineness: Fineness): Histogram {
    const spread = new Histogram(fineness);
    for (const [value, count, weighted, pairs] of data.bins)
      spread.#bins.add(value! / fineness.step, count!, weighted!, pairs!);
    spread.#sums.high.set(data.sums.slice(0, 4));
    spread.#sums.low.set(data.sums.slice(4));
    spread.runs = data.runs;
    spread.sessions = data.sessions;
    spread.runsSquared = data.runsSquared;
    if (data.ends.length === 2) [spread.least, spread.most] = data.ends as [number, number];
    return spread;
  }
}

export interface SpreadStep {
  readonly value: number;
  readonly count: number;
  readonly weighted: number;
  readonly pairs: number;
}

export interface SpreadData {
  readonly bins: readonly (readonly number[])[];
  readonly sums: readonly number[];
  readonly runs: number;
  readonly sessions: number;
  readonly runsSquared: number;
  readonly ends: readonly number[];
}
