import { widened } from '../engine/columns.js';
import { mix } from '../engine/draw.js';

/** The visited states: rows of whole numbers, each held once, found again by a hash table with open addressing. */
export class States {
  length = 0;
  /** Row i stands at `i * width`. */
  #rows: Float64Array;
  /** Slots of the hash table: 1 + the row, or 0 where it is free. */
  #slots = new Int32Array(1024);
  /** For each state, the state it was first reached from and the edge taken there; -1 for the first. */
  #parents = new Int32Array(512);
  #edges = new Int32Array(512);

  constructor(readonly width: number) {
    this.#rows = new Float64Array(512 * Math.max(1, width));
  }

  /** The number of a state, or -1 where it is new and has now been added. */
  add(state: Float64Array, parent: number, edge: number): number {
    const mask = this.#slots.length - 1;
    let slot = hash(state) & mask;
    for (let entry = this.#slots[slot]!; entry !== 0; entry = this.#slots[slot]!) {
      if (this.#equals(entry - 1, state)) return entry - 1;
      slot = (slot + 1) & mask;
    }
    const row = this.length++;
    if (row === this.#parents.length) this.#widen();
    this.#rows.set(state, row * this.width);
    this.#parents[row] = parent;
    this.#edges[row] = edge;
    this.#slots[slot] = row + 1;
    if (this.length * 2 > this.#slots.length) this.#rehash();
    return -1;
  }

  read(row: number, into: Float64Array): void {
    for (let index = 0; index < this.width; index++) into[index] = this.#rows[row * this.width + index]!;
  }

  /** The edges from the first state to this one, and the states after each. */
  pathTo(row: number): { edge: number; state: number }[] {
    const path: { edge: number; state: number }[] = [];
    for (let at = row; this.#parents[at]! >= 0; at = this.#parents[at]!)
      path.unshift({ edge: this.#edges[at]!, state: at });
    return path;
  }

  #equals(row: number, state: Float64Array): boolean {
    for (let index = 0; index < this.width; index++) {
      if (this.#rows[row * this.width + index] !== state[index]) return false;
    }
    return true;
  }

  #widen(): void {
    this.#rows = widened(this.#rows);
    this.#parents = widened(this.#parents);
    this.#edges = widened(this.#edges);
  }

  #rehash(): void {
    this.#slots = new Int32Array(this.#slots.length * 2);
    const mask = this.#slots.length - 1;
    const state = new Float64Array(this.width);
    for (let row = 0; row < this.length; row++) {
      this.read(row, state);
      let slot = hash(state) & mask;
      while (this.#slots[slot] !== 0) slot = (slot + 1) & mask;
      this.#slots[slot] = row + 1;
    }
  }
}

function hash(state: Float64Array): number {
  let word = 0;
  for (let index = 0; index < state.length; index++) {
    const value = state[index]!;
    word = mix(word ^ (value | 0) ^ Math.imul(Math.floor(value / 2 ** 32), 0x85ebca6b)) + index;
  }
  return word;
}
