import {
  asValue,
  type KnownSlot,
  type Slot,
  slot,
  slotAt,
  type Value,
} from '../../compile/representation.js';

/** Several slots one after the other, by index. */
export interface Area {
  readonly name: string;
  readonly base: number;
  readonly length: number;
  /** Whether whoever runs the program brings it along; else it is the program's own. */
  readonly isGiven: boolean;
  at(index: Value | number): Slot;
}

/** What stands in an area of a memory; what is written to the one is in the other. */
export const cellsOf = ({ base, length }: Area, memory: Float64Array): Float64Array =>
  memory.subarray(base, base + length);

/** Gives out slots past those of a form, and knows them by name. */
export class Slots {
  readonly names = new Map<number, string>();
  readonly areas: Area[] = [];

  constructor(private next: number) {}

  /** Slots in all. */
  get size(): number {
    return this.next;
  }

  one(name: string): KnownSlot {
    this.names.set(this.next, name);
    return slot(this.next++);
  }

  /** Room for at least one, so that code which is never reached has something to name. */
  area(name: string, many: number, isGiven = false): Area {
    const length = Math.max(1, many);
    const made = areaAt(name, this.next, length, isGiven);
    this.areas.push(made);
    this.next += length;
    return made;
  }
}

export const areaAt = (name: string, base: number, length: number, isGiven = false): Area => ({
  name,
  base,
  length,
  isGiven,
  at: (index) => slotAt(base, length, asValue(index)),
});
