import type { Histogram } from '../../measure/histogram.js';
import { designEffect } from './distribution.js';
import { deviateOf, type Estimate, usualConfidence } from './intervals.js';

/**
 * How much of the score is skill and how much luck: of the variance of scores over all players, each weighing the same, the share that
 * lies between the players' means. Without bias, as omega squared (Hays, "Statistics for psychologists", 1963): what means differ by
 * through chance alone is taken off. Its interval follows from the errors of means and variances (delta method), with each
 * player's design effect.
 *
 * @param spreads the scores of each player
 * @returns undefined where there are not two players with scores that differ
 */
export function skillShare(
  spreads: readonly Histogram[],
  confidence = usualConfidence,
): Estimate | undefined {
  const parts = spreads.filter(({ runs }) => runs > 1).map(partOf);
  if (parts.length < 2) return undefined;
  const weight = 1 / parts.length;
  const sum = (of: (part: (typeof parts)[0]) => number): number =>
    parts.reduce((total, part) => total + of(part), 0);
  const mean = weight * sum((part) => part.mean);
  const between = Math.max(
    0,
    weight * sum((part) => (part.mean - mean) ** 2 - part.meanError * (1 - weight)),
  );
  const within = weight * sum((part) => part.variance);
  const all = between + within;
  if (all === 0) return undefined;
  const value = between / all;
  // The share's slope to each mean and each variance, over the squares of their errors.
  const variance = sum(
    (part) =>
      ((2 * weight * (part.mean - mean) * (1 - value)) / all) ** 2 * part.meanError +
      ((weight * value) / all) ** 2 * part.varianceError,
  );
  const reach = deviateOf(confidence) * Math.sqrt(variance);
  return { value, low: Math.max(0, value - reach), high: Math.min(1, value + reach) };
}

/** Mean and variance of a spread, with the squares of their standard errors. */
function partOf(spread: Histogram) {
  const { runs } = spread;
  const steps = [...spread];
  const mean = steps.reduce((total, { value, count }) => total + value * count, 0) / runs;
  const moment = (power: number): number =>
    steps.reduce((total, { value, count }) => total + count * (value - mean) ** power, 0) / runs;
  const variance = moment(2) * (runs / (runs - 1));
  const independent = runs / Math.max(1, designEffect(spread));
  return {
    mean,
    variance,
    meanError: variance / independent,
    varianceError: Math.max(0, moment(4) - variance ** 2) / independent,
  };
}
