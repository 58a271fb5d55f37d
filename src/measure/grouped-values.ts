import { Bins, fineness } from './histogram.js';

/** Groups that the sessions are dealt into, by their number. */
export const groupCount = 32;

const { exactBelow } = fineness.values;

/**
 * How often each value occurs, in groups of sessions: what leaving out one group after the other (the jackknife) needs. The group follows from
 * the session's number, so that the same session of another player is in the same one.
 */
export class GroupedValues {
  readonly groups: readonly Bins[] = Array.from({ length: groupCount }, () => new Bins(exactBelow, 1));
  /** Sessions or runs that were added. */
  readonly counts = new Float64Array(groupCount);

  /** @param value a whole number */
  add(session: number, value: number): void {
    const group = session % groupCount;
    this.#count(group, value, 1);
  }

  merge({ groups, counts }: GroupedValues): void {
    for (let group = 0; group < groupCount; group++) {
      this.groups[group]!.merge(groups[group]!);
      this.counts[group]! += counts[group]!;
    }
  }

  /** As plain data: the values of each group with how often they occur. */
  toData(): GroupedData {
    return this.groups.map((group) => [...group].map(([value, [count]]) => [value, count!] as const));
  }

  static fromData(data: GroupedData): GroupedValues {
    const values = new GroupedValues();
    data.forEach((group, index) => {
      for (const [value, count] of group) {
        values.#count(index, value, count);
      }
    });
    return values;
  }

  #count(index: number, value: number, count: number): void {
    const group = this.groups[index]!;
    const place = group.placeOf(value);
    (value < 0 ? group.down : group.up)[place]! += count;
    this.counts[index]! += count;
  }
}

export type GroupedData = readonly (readonly (readonly [value: number, count: number])[])[];
