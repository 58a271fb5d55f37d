import { widened } from '../../engine/program/columns.js';
import { mix } from '../../engine/run/draw.js';

/** Rows of numbers, each held once and numbered in the order in which they came: a hash table with open addressing. */
export class RowTable {
  length = 0;
  /** Row i stands from `ends[i - 1]`, or 0, up to and without `ends[i]`. */
  #numbers = new Float64Array(256);
  #ends = new Int32Array(64);
  /** 1 + the number of a row, or 0 where it is free. */
  #slots = new Int32Array(128);

  begin(row: number): number {
    return row === 0 ? 0 : this.#ends[row - 1]!;
  }

  end(row: number): number {
    return this.#ends[row]!;
  }

  /** The numbers of all rows, one after the other; good until a row is added. */
  get numbers(): Float64Array {
    return this.#numbers;
  }

  /** The number of a row of so many numbers, which is added where it is new. */
  numberOf(row: Float64Array, length: number): number {
    const mask = this.#slots.length - 1;
    let slot = hash(row, 0, length) & mask;
    for (let entry = this.#slots[slot]!; entry !== 0; entry = this.#slots[slot]!) {
      if (this.#isAt(entry - 1, row, length)) return entry - 1;
      slot = (slot + 1) & mask;
    }
    const added = this.length++;
    this.#slots[slot] = added + 1;
    const begin = this.begin(added);
    while (begin + length > this.#numbers.length) this.#numbers = widened(this.#numbers);
    if (added === this.#ends.length) this.#ends = widened(this.#ends);
    for (let at = 0; at < length; at++) this.#numbers[begin + at] = row[at]!;
    this.#ends[added] = begin + length;
    if (this.length * 2 > this.#slots.length) this.#rehash();
    return added;
  }

  #isAt(number: number, row: Float64Array, length: number): boolean {
    const begin = this.begin(number);
    if (this.#ends[number]! - begin !== length) return false;
    for (let at = 0; at < length; at++) if (this.#numbers[begin + at] !== row[at]) return false;
    return true;
  }

  #rehash(): void {
    this.#slots = new Int32Array(this.#slots.length * 2);
    const mask = this.#slots.length - 1;
    for (let row = 0; row < this.length; row++) {
      const begin = this.begin(row);
      let slot = hash(this.#numbers, begin, this.#ends[row]! - begin) & mask;
      while (this.#slots[slot] !== 0) slot = (slot + 1) & mask;
      this.#slots[slot] = row + 1;
    }
  }
}

function hash(numbers: Float64Array, from: number, length: number): number {
  let mixed = length;
  for (let at = 0; at < length; at++) mixed = mix(mixed ^ numbers[from + at]!) + at;
  return mixed;
}
