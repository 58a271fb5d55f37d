import { ExactSums } from './exact-sums.js';

/**
 * Runs of a session that something holds for, over sessions: sums of how many (h), of its square, and of its product with how many
 * runs the session has. Doubles, exact below 2^53: a session has at most 1,000 runs.
 */
export class RunShares {
  readonly hits: Float64Array;
  readonly squares: Float64Array;
  readonly products: Float64Array;
  /** Of the session that is taken in. */
  readonly here: Float64Array;

  constructor(length: number) {
    this.hits = new Float64Array(length);
    this.squares = new Float64Array(length);
    this.products = new Float64Array(length);
    this.here = new Float64Array(length);
  }

  /** Takes in what was counted in `here`, of a session with `runs` runs. */
  fold(runs: number): void {
    const { here } = this;
    for (let index = 0; index < here.length; index++) {
      const hits = here[index]!;
      if (hits === 0) continue;
      this.hits[index]! += hits;
      this.squares[index]! += hits * hits;
      this.products[index]! += hits * runs;
      here[index] = 0;
    }
  }
}

/** A ratio of sums over sessions, such as points of a rule of all points: what its interval by session is made of. */
export class RatioSums {
  readonly hits: ExactSums;
  readonly all: ExactSums;
  readonly hitsSquared: ExactSums;
  readonly allSquared: ExactSums;
  readonly products: ExactSums;

  constructor(readonly length: number) {
    this.hits = new ExactSums(length);
    this.all = new ExactSums(length);
    this.hitsSquared = new ExactSums(length);
    this.allSquared = new ExactSums(length);
    this.products = new ExactSums(length);
  }

  add(index: number, hits: number, all: number): void {
    this.all.add(index, all);
    this.allSquared.addProduct(index, all, all);
    if (hits === 0) return;
    this.hits.add(index, hits);
    this.hitsSquared.addProduct(index, hits, hits);
    this.products.addProduct(index, hits, all);
  }
}
