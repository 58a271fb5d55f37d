import { binned, fineness } from './histogram.js';

/** Groups that the sessions are dealt into, by their number. */
export const groupCount = 32;

const { exactBelow } = fineness.values;

/**
 * How often each value occurs, in groups of sessions: what leaving out one group after the other (the jackknife) needs. The group follows from
 * the session's number, so that the same session of another player is in the same one.
 */
export class GroupedValues {
  /** Of each group, how often each value occurs in it. */
  readonly groups: readonly Map<number, number>[] = Array.from({ length: groupCount }, () => new Map());
  /** Sessions or runs that were added. */
  readonly counts = new Float64Array(groupCount);

  /** @param value a whole number */
  add(session: number, value: number): void {
    this.#count(session % groupCount, value, 1);
  }

  merge({ groups }: GroupedValues): void {
    groups.forEach((group, index) => {
      for (const [value, count] of group) this.#count(index, value, count);
    });
  }

  /** As plain data: the values of each group, ascending, with how often they occur. */
  toData(): GroupedData {
    return this.groups.map((group) => [...group].sort(([one], [other]) => one - other));
  }

  static fromData(data: GroupedData): GroupedValues {
    const values = new GroupedValues();
    data.forEach((group, index) => {
      for (const [value, count] of group) values.#count(index, value, count);
    });
    return values;
  }

  #count(index: number, value: number, count: number): void {
    const group = this.groups[index]!;
    const kept = binned(value, exactBelow);
    group.set(kept, (group.get(kept) ?? 0) + count);
    this.counts[index]! += count;
  }
}

export type GroupedData = readonly (readonly (readonly [value: number, count: number])[])[];
