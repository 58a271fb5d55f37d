import { widened } from '../../engine/program/columns.js';
import { mix } from '../../engine/run/draw.js';
import type { Packing } from '../abstraction/packing.js';

/** Where one word holds a state and there are at most so many, a bit for each says whether it was visited. */
const mostBits = 2 ** 28;

/**
 * The visited states, packed, each held once, in the order in which they were found. Whether one is known is told by a bitset
 * where the states are few enough to have a bit each (what of it nothing touches takes no memory: it is set aside zeroed), else by a hash table with open addressing.
 */
export class States {
  length = 0;
  /** State i stands at `i * words`. */
  packed: Int32Array;
  /** For each state, the state it was first reached from and the edge taken there; -1 for the first. */
  parents = new Int32Array(256);
  edges: Uint8Array | Uint16Array = new Uint16Array(256);
  /** Bit `b` of word `w` stands for the state `(w << 5) + b`; undefined: there is a hash table instead. */
  readonly bits: Int32Array | undefined;
  /** Slots of the hash table: 1 + the number of the state, or 0 where it is free. */
  slots: Int32Array;
  /** The number of a part whose value did not fit into a state that was to be added; -1: none yet. */
  unfit = -1;
  readonly #key: Int32Array;

  /** @param isNumbered whether the number of a known state will be asked for, which a bitset cannot tell */
  constructor(
    readonly packing: Packing,
    isNumbered: boolean,
  ) {
    this.packed = new Int32Array(256 * packing.words);
    this.#key = new Int32Array(packing.words);
    const hasBits = !isNumbered && packing.words === 1 && packing.combinations <= mostBits;
    this.bits = hasBits ? new Int32Array(Math.ceil(packing.combinations / 32)) : undefined;
    this.slots = new Int32Array(hasBits ? 0 : 1024);
  }

  /** Where there are so few edges, one byte says which; before any state but the first is added. */
  countEdges(count: number): void {
    if (count <= 2 ** 8) this.edges = new Uint8Array(this.edges.length);
  }

  /** The number of a state that was known, or -1: it is new and has now been added, or it does not fit. */
  add(state: Float64Array, parent: number, edge: number): number {
    const unfit = this.packing.pack(state, this.#key);
    if (unfit >= 0) {
      this.unfit = unfit;
      return -1;
    }
    return this.addKey(this.#key, parent, edge);
  }

  /** The number of a state, which is added where it is new; -1: it does not fit. For those that are numbered. */
  numberOf(state: Float64Array): number {
    const before = this.length;
    const known = this.add(state, -1, -1);
    if (known >= 0) return known;
    return this.length === before ? -1 : before;
  }

  /** The same as `add` for a packed state; without the numbers of states, 0 for each that was known. */
  addKey(key: Int32Array, parent: number, edge: number): number {
    if (this.bits !== undefined) {
      if (mark(this.bits, key[0]!)) return 0;
    } else {
      const slot = this.#slotOf(key);
      if (this.slots[slot] !== 0) return this.slots[slot]! - 1;
      this.slots[slot] = this.length + 1;
    }
    const row = this.length++;
    if (row === this.parents.length) this.#widen();
    const { words } = this.packing;
    for (let word = 0; word < words; word++) this.packed[row * words + word] = key[word]!;
    this.parents[row] = parent;
    this.edges[row] = edge;
    if (this.bits === undefined && this.length * 4 > this.slots.length * 3) this.#rehash();
    return -1;
  }

  /** The number of a packed state that the hash table knows, or -1. */
  find(key: Int32Array): number {
    return this.slots[this.#slotOf(key)]! - 1;
  }

  /** Makes room for so many states more, so that whoever adds them need not look. */
  reserve(count: number): void {
    while (this.parents.length < this.length + count) this.#widen();
    if (this.bits !== undefined) return;
    while ((this.length + count) * 4 > this.slots.length * 3) this.#rehash();
  }

  read(row: number, into: Float64Array): void {
    this.packing.unpack(this.packed, row * this.packing.words, into);
  }

  /** The edges from the first state to this one, and the states after each. */
  pathTo(row: number): { edge: number; state: number }[] {
    const path: { edge: number; state: number }[] = [];
    for (let at = row; this.parents[at]! >= 0; at = this.parents[at]!)
      path.push({ edge: this.edges[at]!, state: at });
    return path.reverse();
  }

  /** Bytes that each state takes up, and bytes that were set aside in all. */
  get bytes(): { readonly inUse: number; readonly allocated: number } {
    const bits = this.bits?.byteLength ?? 0;
    const found = this.length * (this.packing.words * 4 + 4 + this.edges.BYTES_PER_ELEMENT);
    const table = this.bits === undefined ? Math.ceil((this.length * 4 * 4) / 3) : bits;
    const columns = this.packed.byteLength + this.parents.byteLength + this.edges.byteLength;
    return { inUse: found + table, allocated: columns + bits + this.slots.byteLength };
  }

  #slotOf(key: Int32Array): number {
    const { words } = this.packing;
    const mask = this.slots.length - 1;
    let slot = hash(key, 0, words) & mask;
    for (let entry = this.slots[slot]!; entry !== 0; entry = this.slots[slot]!) {
      const from = (entry - 1) * words;
      let word = 0;
      while (word < words && this.packed[from + word] === key[word]) word++;
      if (word === words) return slot;
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  #widen(): void {
    this.packed = widened(this.packed);
    this.parents = widened(this.parents);
    this.edges = widened(this.edges);
  }

  #rehash(): void {
    const { words } = this.packing;
    this.slots = new Int32Array(this.slots.length * 2);
    const mask = this.slots.length - 1;
    for (let row = 0; row < this.length; row++) {
      let slot = hash(this.packed, row * words, words) & mask;
      while (this.slots[slot] !== 0) slot = (slot + 1) & mask;
      this.slots[slot] = row + 1;
    }
  }
}

/** Sets the bit of a state, and says whether it was set. */
export function mark(bits: Int32Array, key: number): boolean {
  const word = key >>> 5;
  const bit = 1 << (key & 31);
  const isSet = (bits[word]! & bit) !== 0;
  bits[word] = bits[word]! | bit;
  return isSet;
}

function hash(words: Int32Array, from: number, count: number): number {
  let mixed = 0;
  for (let word = 0; word < count; word++) mixed = mix(mixed ^ words[from + word]!) + word;
  return mixed;
}
