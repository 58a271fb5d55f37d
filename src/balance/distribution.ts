import { mean, quantileSorted, sampleStandardDeviation } from 'simple-statistics';
import { clustersOf, type Estimate, share } from './intervals.js';

export interface Distribution {
  readonly mean: number;
  readonly sd: number;
  readonly p10: number;
  readonly p50: number;
  readonly p90: number;
  readonly min: number;
  readonly max: number;
}

/** What a list of numbers looks like, or undefined for an empty one; the `sd` of one number is 0. */
export function distributionOf(values: readonly number[]): Distribution | undefined {
  if (values.length === 0) return undefined;
  const sorted = [...values].sort((a, b) => a - b);
  return {
    mean: mean(sorted),
    sd: sorted.length === 1 ? 0 : sampleStandardDeviation(sorted),
    p10: quantileSorted(sorted, 0.1),
    p50: quantileSorted(sorted, 0.5),
    p90: quantileSorted(sorted, 0.9),
    min: sorted[0]!,
    max: sorted.at(-1)!,
  };
}

/**
 * A quantile over runs with an interval that assumes no form of distribution: the interval of the share of runs at or below
 * it, by session, is carried back to the scale of the values (Woodruff, "Confidence intervals for medians and other
 * position measures", 1952).
 *
 * @param session for each value, the session it comes from, ascending
 */
export function quantile(values: readonly number[], session: readonly number[], at: number): Estimate {
  const sorted = [...values].sort((a, b) => a - b);
  const value = quantileSorted(sorted, at);
  const below: number[] = [];
  const all: number[] = [];
  values.forEach((each, row) => {
    if (row === 0 || session[row] !== session[row - 1]) {
      below.push(0);
      all.push(0);
    }
    if (each <= value) below[below.length - 1]!++;
    all[all.length - 1]!++;
  });
  const { value: found, low, high } = share(clustersOf(below, all));
  const bounded = (part: number): number => quantileSorted(sorted, Math.min(1, Math.max(0, part)));
  // Values may repeat, so that the share at or below differs from the one asked for; the interval's width is what counts.
  return {
    value,
    low: Math.min(value, bounded(at - (found - low))),
    high: Math.max(value, bounded(at + (high - found))),
  };
}
