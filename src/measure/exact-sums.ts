/** Where the low part of a sum is carried to the high one. */
const base = 2 ** 50;
const bigBase = BigInt(base);
/** Up to here the sum of a low part and a value is exact. */
const largest = 2 ** 52;

/**
 * Sums of whole numbers that stay exact past 2^53, so that they come out the same in whatever order they are added. Sum i is
 * high[i] * 2^50 + low[i], with low[i] from 0 to below 2^50.
 */
export class ExactSums {
  readonly high: Float64Array;
  readonly low: Float64Array;

  constructor(length: number) {
    this.high = new Float64Array(length);
    this.low = new Float64Array(length);
  }

  /** @param value a whole number up to 2^53 in size */
  add(index: number, value: number): void {
    if (value > largest || value < -largest) this.#addBig(index, BigInt(value));
    else this.#carry(index, this.low[index]! + value);
  }

  addProduct(index: number, one: number, other: number): void {
    const product = one * other;
    if (product > largest || product < -largest) this.#addBig(index, BigInt(one) * BigInt(other));
    else this.#carry(index, this.low[index]! + product);
  }

  merge({ high, low }: ExactSums): void {
    for (let index = 0; index < high.length; index++) {
      this.high[index]! += high[index]!;
      this.#carry(index, this.low[index]! + low[index]!);
    }
  }

  /** The sum as the nearest double. */
  value(index: number): number {
    return this.high[index]! * base + this.low[index]!;
  }

  #addBig(index: number, value: bigint): void {
    const rest = BigInt.asUintN(50, value);
    this.high[index]! += Number((value - rest) / bigBase);
    this.#carry(index, this.low[index]! + Number(rest));
  }

  #carry(index: number, sum: number): void {
    if (sum >= 0 && sum < base) {
      this.low[index] = sum;
      return;
    }
    const carried = Math.floor(sum / base);
    this.high[index]! += carried;
    this.low[index] = sum - carried * base;
  }
}
