import type { Histogram, SpreadStep } from '../../measure/histogram.js';
import {
  type Clusters,
  chanceWith,
  type Estimate,
  independentTrials,
  ratio,
  ratioError,
  skewed,
  usualConfidence,
} from './intervals.js';

const quantileNames = { p10: 0.1, p25: 0.25, p50: 0.5, p75: 0.75, p90: 0.9 } as const;
type QuantileName = keyof typeof quantileNames;

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
  /** 95 % intervals by session, `[low, high]`; null: too few sessions to say how far off it may be. */
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
 * @param mean with its interval, where more is known of it than the spread holds
 */
export function distributionOf(
  spread: Histogram,
  unit: number,
  mean = meanOf(spread, unit),
): Distribution | undefined {
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
      mean: interval(mean),
      ...(Object.fromEntries(quantiles.map(([name, found]) => [name, interval(found)])) as Record<
        QuantileName,
        readonly [number, number] | null
      >),
    },
    histogram: histogramOf(steps, unit),
  };
}

/**
 * The mean over runs with its interval by session. Where a few runs are worth far more than the others, it reaches further to their side, and their
 * variance itself is known less well (Box, "Non-normality and tests on variances", 1953).
 */
export function meanOf(spread: Histogram, unit: number, confidence = usualConfidence): Estimate {
  const { sum, squares, sessionSquares, products } = spread.moments;
  const { runs, sessions, runsSquared } = spread;
  const clusters = {
    sessions,
    hits: sum * unit,
    all: runs,
    hitsSquared: sessionSquares * unit * unit,
    allSquared: runsSquared,
    product: products * unit,
  };
  const variance = squares / runs - (sum / runs) ** 2;
  const error = ratioError(clusters);
  if (!(variance > 0 && error > 0)) return ratio(clusters, confidence);
  let [third, fourth] = [0, 0];
  for (const { value, count } of spread) {
    const off = (value - sum / runs) / Math.sqrt(variance);
    third += (count * off * off * off) / runs;
    fourth += (count * off * off * off * off) / runs;
  }
  const plain = ratio(clusters, confidence, Math.max(1, (2 * runs) / Math.max(fourth - 1, 2)));
  // Of the mean: that of runs by the root of how many independent ones would have its error.
  const skewness = third * (error / (Math.sqrt(variance) * unit));
  return Number.isFinite(plain.high)
    ? skewed(plain.value, error, skewness, (plain.high - plain.value) / error)
    : plain;
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
 * A quantile over runs with an interval that assumes no form of distribution: all values that a share of the runs might lie below which is as
 * near to the one asked for as it may be by chance (Woodruff, "Confidence intervals for medians and other position measures", 1952, at the
 * width that the asked share has). Where values tie, it holds the true one more often than it says.
 *
 * @param steps what the spread holds, ascending
 * @param at from 0 to 1
 * @returns without a bound on a side on which too few runs lie
 */
export function quantileOf(
  spread: Histogram,
  steps: readonly SpreadStep[],
  at: number,
  unit: number,
  confidence = usualConfidence,
): Estimate {
  const value = valueAt(steps, spread.runs, at);
  const { trials, deviate } = independentTrials(atMost(spread, steps, value), confidence);
  const width = trials > 0 ? deviate * Math.sqrt((at * (1 - at)) / trials) : 1;
  const first = (isPast: (share: number) => boolean): number => {
    let seen = 0;
    for (const step of steps) {
      seen += step.count;
      if (isPast(seen / spread.runs)) return step.value;
    }
    return steps.at(-1)!.value;
  };
  const [least, most] = [at - width, at + width];
  return {
    value: value * unit,
    low:
      least <= 0
        ? Number.NEGATIVE_INFINITY
        : Math.min(
            value,
            first((share) => share >= least),
          ) * unit,
    high:
      most >= 1
        ? Number.POSITIVE_INFINITY
        : Math.max(
            value,
            first((share) => share > most),
          ) * unit,
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
function designEffect(spread: Histogram): number {
  const steps = [...spread];
  const { runs, sessions } = spread;
  if (sessions < 2) return 1;
  const clusters = atMost(spread, steps, valueAt(steps, runs, 0.5));
  const part = clusters.hits / clusters.all;
  if (part <= 0 || part >= 1) return 1;
  return ratioError(clusters) ** 2 / ((part * (1 - part)) / runs);
}

/**
 * The chance that a run of one spread scores higher than one of another that was played apart from it, half of the ties with it (Vargha and
 * Delaney, "A critique and improvement of the CL common language effect size statistics", 2000). Its error is that of DeLong, DeLong
 * and Clarke-Pearson (1988) for independent runs, each part widened by its spread's design effect.
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
  const sessions = Math.min(one.sessions, other.sessions);
  if (sessions < 2) return { value: mine.mean, low: 0, high: 1 };
  const error = Math.sqrt(
    (mine.variance * Math.max(1, designEffect(one))) / one.runs +
      (theirs.variance * Math.max(1, designEffect(other))) / other.runs,
  );
  return chanceWith(mine.mean, error, sessions, sessions - 1, confidence);
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
