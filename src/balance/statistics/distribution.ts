import type { Histogram, SpreadStep } from '../../measure/histogram.js';
import {
  type Clusters,
  deviateOf,
  type Estimate,
  ratio,
  ratioError,
  share,
  usualConfidence,
} from './intervals.js';

export const quantileNames = { p10: 0.1, p25: 0.25, p50: 0.5, p75: 0.75, p90: 0.9 } as const;
export type QuantileName = keyof typeof quantileNames;

/** How something spreads, in its own unit. */
export interface Distribution {
  /** Runs (or sessions) that have a value, and the sessions that they come from. */
  readonly runs: number;
  readonly sessions: number;
  readonly mean: number;
  /** Of the runs; 0 for one run. */
  readonly sd: number;
  readonly p10: number;
  readonly p25: number;
  readonly p50: number;
  readonly p75: number;
  readonly p90: number;
  readonly min: number;
  readonly max: number;
  /** 95 % intervals by session, `[low, high]`; null: one session alone says nothing of its error. */
  readonly intervals: { readonly [Name in QuantileName | 'mean']: readonly [number, number] | null };
  readonly histogram: readonly HistogramPart[];
}

export interface HistogramPart {
  /** Values from this, and below `to`. */
  readonly from: number;
  readonly to: number;
  readonly runs: number;
}

/**
 * What a spread looks like, or undefined for an empty one.
 *
 * @param unit what one step of the spread is worth
 */
export function distributionOf(spread: Histogram, unit: number): Distribution | undefined {
  const { runs, sessions } = spread;
  if (runs === 0) return undefined;
  const { sum, squares } = spread.moments;
  const steps = [...spread];
  const interval = ({ low, high }: Estimate): readonly [number, number] | null =>
    Number.isFinite(high - low) ? [low, high] : null;
  const quantiles = Object.entries(quantileNames).map(
    ([name, at]) => [name, quantileOf(spread, steps, at, unit)] as const,
  );
  return {
    runs,
    sessions,
    mean: (sum / runs) * unit,
    sd: runs === 1 ? 0 : Math.sqrt(Math.max(0, squares - (sum * sum) / runs) / (runs - 1)) * unit,
    ...(Object.fromEntries(quantiles.map(([name, { value }]) => [name, value])) as Record<
      QuantileName,
      number
    >),
    min: spread.least * unit,
    max: spread.most * unit,
    intervals: {
      mean: interval(meanOf(spread, unit)),
      ...(Object.fromEntries(quantiles.map(([name, found]) => [name, interval(found)])) as Record<
        QuantileName,
        readonly [number, number] | null
      >),
    },
    histogram: histogramOf(steps, unit),
  };
}

/** The mean over runs with its interval by session. */
export function meanOf(spread: Histogram, unit: number, confidence = usualConfidence): Estimate {
  const { sum, sessionSquares, products } = spread.moments;
  return ratio(
    {
      sessions: spread.sessions,
      hits: sum * unit,
      all: spread.runs,
      hitsSquared: sessionSquares * unit * unit,
      allSquared: spread.runsSquared,
      product: products * unit,
    },
    confidence,
  );
}

/** The runs of at most a value, as a share of all, by session. */
function atMost(spread: Histogram, steps: readonly SpreadStep[], value: number): Clusters {
  let hits = 0;
  let product = 0;
  let hitsSquared = 0;
  for (const step of steps) {
    if (step.value > value) break;
    hits += step.count;
    product += step.weighted;
    hitsSquared += step.pairs;
  }
  const { sessions, runs, runsSquared } = spread;
  return { sessions, hits, all: runs, hitsSquared, allSquared: runsSquared, product };
}

/**
 * A quantile over runs with an interval that assumes no form of distribution: the interval of the share of runs at or below
 * it, by session, is carried back to the scale of the values (Woodruff, "Confidence intervals for medians and other
 * position measures", 1952).
 *
 * @param steps what the spread holds, ascending
 * @param at from 0 to 1
 */
export function quantileOf(
  spread: Histogram,
  steps: readonly SpreadStep[],
  at: number,
  unit: number,
  confidence = usualConfidence,
): Estimate {
  const value = valueAt(steps, spread.runs, at);
  const clusters = atMost(spread, steps, value);
  const { value: found, low, high } = share(clusters, confidence);
  if (spread.sessions < 2)
    return { value: value * unit, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY };
  const bounded = (part: number): number => valueAt(steps, spread.runs, Math.min(1, Math.max(0, part)));
  // Values may repeat, so that the share at or below differs from the one asked for; the interval's width is what counts.
  return {
    value: value * unit,
    low: Math.min(value, bounded(at - (found - low))) * unit,
    high: Math.max(value, bounded(at + (high - found))) * unit,
  };
}

/** The value below which a part of the runs lie, between two of them in proportion, as in simple-statistics. */
function valueAt(steps: readonly SpreadStep[], runs: number, part: number): number {
  const rank = (runs - 1) * part;
  const lower = Math.floor(rank);
  let seen = 0;
  for (const [index, { value, count }] of steps.entries()) {
    seen += count;
    if (seen <= lower) continue;
    const isLast = seen === lower + 1;
    const next = isLast ? (steps[index + 1]?.value ?? value) : value;
    return value + (rank - lower) * (next - value);
  }
  return steps.at(-1)!.value;
}

/** Parts of a histogram, at the most. */
const mostParts = 30;

/** Counts in parts of equal width; the width is 1, 2 or 5 times a power of ten, or one step where values are few. */
function histogramOf(steps: readonly SpreadStep[], unit: number): HistogramPart[] {
  const least = steps[0]!.value;
  const most = steps.at(-1)!.value;
  const wanted = Math.max(1, (most - least + 1) / mostParts);
  const power = 10 ** Math.floor(Math.log10(wanted));
  const width = [1, 2, 5, 10].map((factor) => factor * power).find((each) => each >= wanted - 1e-9)!;
  const first = Math.floor(least / width);
  const counts = Array.from({ length: Math.floor(most / width) - first + 1 }, () => 0);
  for (const { value, count } of steps) counts[Math.floor(value / width) - first]! += count;
  return counts.map((runs, index) => ({
    from: (first + index) * width * unit,
    to: (first + index + 1) * width * unit,
    runs,
  }));
}

/** How many times as many independent runs would say as much about the middle of a spread (Kish 1965). */
export function designEffect(spread: Histogram): number {
  const steps = [...spread];
  const { runs, sessions } = spread;
  if (sessions < 2) return 1;
  const clusters = atMost(spread, steps, valueAt(steps, runs, 0.5));
  const part = clusters.hits / clusters.all;
  if (part <= 0 || part >= 1) return 1;
  return ratioError(clusters) ** 2 / ((part * (1 - part)) / runs);
}

/**
 * The chance that a run of one spread scores higher than one of another, half of the ties with it (Vargha and Delaney, "A critique and
 * improvement of the CL common language effect size statistics", 2000). Its error is that of DeLong, DeLong and
 * Clarke-Pearson (1988) for independent runs, each part widened by its spread's design effect.
 */
export function betterChance(
  one: Histogram,
  other: Histogram,
  confidence = usualConfidence,
): Estimate | undefined {
  if (one.runs === 0 || other.runs === 0) return undefined;
  const oneSteps = [...one];
  const otherSteps = [...other];
  const mine = placements(oneSteps, otherSteps, other.runs);
  const theirs = placements(otherSteps, oneSteps, one.runs);
  if (one.sessions < 2 || other.sessions < 2) return { value: mine.mean, low: 0, high: 1 };
  const error = Math.sqrt(
    (mine.variance * Math.max(1, designEffect(one))) / one.runs +
      (theirs.variance * Math.max(1, designEffect(other))) / other.runs,
  );
  const reach = deviateOf(confidence) * error;
  return { value: mine.mean, low: Math.max(0, mine.mean - reach), high: Math.min(1, mine.mean + reach) };
}

/** For each run the share of the others' runs below it, half of those equal: mean and variance over the runs. */
function placements(
  steps: readonly SpreadStep[],
  others: readonly SpreadStep[],
  otherRuns: number,
): { readonly mean: number; readonly variance: number } {
  let below = 0;
  let at = 0;
  let runs = 0;
  let sum = 0;
  let squares = 0;
  for (const { value, count } of steps) {
    while (at < others.length && others[at]!.value < value) below += others[at++]!.count;
    const equal = at < others.length && others[at]!.value === value ? others[at]!.count : 0;
    const place = (below + equal / 2) / otherRuns;
    runs += count;
    sum += count * place;
    squares += count * place * place;
  }
  const mean = sum / runs;
  return { mean, variance: runs < 2 ? 0 : Math.max(0, squares - runs * mean * mean) / (runs - 1) };
}
