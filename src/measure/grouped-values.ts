import { Bins, fineness } from './histogram.js';

/** Groups that the sessions are dealt into, by their number. */
export const groupCount = 32;

const { exactBelow } = fineness.values;

/**
 * How often each value occurs, in groups of sessions: what leaving out one group after the other (the jackknife) needs. The group follows from
 * the session's number, so that the same session of another player is in the same one.
 */
export class GroupedValues {
  readonly groups: readonly Bins[] = Array.from({ length: groupCount }, () => new Bins(exactBelow));
  /** Sessions or runs that were added. */
  readonly counts = new Float64Array(groupCount);

  /** @param value a whole number */
  add(session: number, value: number): void {
    const group = session % groupCount;
    this.groups[group]!.add(value, 1);
    this.counts[group]!++;
  }

  merge({ groups, counts }: GroupedValues): void {
    for (let group = 0; group < groupCount; group++) {
      this.groups[group]!.merge(groups[group]!);
      this.counts[group]! += counts[group]!;
    }
  }

  /** As plain data: the values of each group with how often they occur. */
  toData(): GroupedData {
    return this.groups.map((group) => [...group]);
  }

  static fromData(data: GroupedData): GroupedValues {
    const values = new GroupedValues();
    data.forEach((group, index) => {
      for (const [value, count] of group) {
        values.groups[index]!.add(value, count);
        values.counts[index]! += count;
      }
    });
    return values;
  }
}

export type GroupedData = readonly (readonly (readonly [value: number, count: number])[])[];
