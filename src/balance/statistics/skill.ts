import { type GroupedValues, groupCount } from '../../measure/grouped-values.js';
import {
  byOdds,
  chanceWith,
  type Estimate,
  neverSeenBound,
  ratioOfVariances,
  skewed,
  studentDeviate,
  usualConfidence,
} from './intervals.js';

/** The scores of some players side by side. */
interface Aligned {
  /** Every score that any of them has, ascending. */
  readonly values: readonly number[];
  /** How often each player has each of these. */
  readonly counts: readonly Float64Array[];
}

/**
 * The chance that a run of one player scores higher than one of another, half of the ties with it (Vargha and Delaney, "A critique and improvement
 * of the CL common language effect size statistics", 2000). What players meet in the same session may be the same, so that its error is
 * found by leaving out one group of sessions of both after the other (jackknife; Efron and Stein 1981).
 *
 * @returns undefined where one of them has no run
 */
export function outscores(
  one: GroupedValues,
  other: GroupedValues,
  sessions: number,
  confidence = usualConfidence,
): Estimate | undefined {
  const found = leavingOut([one, other], ({ counts: [mine, theirs] }) => [chanceOf(mine!, theirs!)]);
  if (found === undefined) return undefined;
  const [value] = found.value as [number];
  const { without, covariance, skewness } = found;
  if (without < 2) return { value, low: 0, high: 1 };
  const error = Math.sqrt(covariance[0]![0]!);
  const inside = chanceWith(value, error, sessions, without - 1, confidence);
  if (error === 0 || value <= 0 || value >= 1) return inside;
  const deviate = studentDeviate(confidence, without - 1);
  const leaning = skewed(value, error, skewness[0]!, deviate);
  const odds = byOdds(value, error, deviate);
  // A kind of session that none of these showed may be lost, or won, altogether: the two errors are put together by their squares.
  const unseen = neverSeenBound(sessions, confidence);
  const below = value - Math.min(inside.low, leaning.low, odds.low);
  const above = Math.max(inside.high, leaning.high, odds.high) - value;
  return {
    value,
    low: Math.max(0, value - Math.sqrt(below ** 2 + (unseen * value) ** 2)),
    high: Math.min(1, value + Math.sqrt(above ** 2 + (unseen * (1 - value)) ** 2)),
  };
}

/** Whether all scores of both are one and the same: neither can be said to beat the other. */
export const isTied = (one: GroupedValues, other: GroupedValues): boolean =>
  aligned([one, other]).values.length === 1;

/**
 * How much of the score is skill and how much luck: of the variance of scores over all players, each weighing the same, the share that
 * lies between the players' means (omega squared; Hays, "Statistics for psychologists", 1963). What means differ by through chance alone
 * is taken off.
 *
 * Its interval is one for the distance of the means from their middle, in deviations of a run: the error of the means is found by leaving out one
 * group of sessions of all players after the other (jackknife), and its length by two moments (Satterthwaite 1946), so that it holds where
 * players hardly differ too.
 *
 * @param scores of each player
 * @returns undefined where there are not two players with scores that differ
 */
export function skillShare(
  scores: readonly GroupedValues[],
  sessions: number,
  confidence = usualConfidence,
): Estimate | undefined {
  const playing = scores.filter(({ counts }) => sumOf(counts) > 1);
  if (playing.length < 2) return undefined;
  const found = leavingOut(playing, standardizedMeans);
  if (found === undefined || found.value.some(Number.isNaN)) return undefined;
  const { value, without, covariance, skewness } = found;
  const squared = value.reduce((sum, each) => sum + each * each, 0);
  if (without < 2) return { value: shareAt(Math.sqrt(squared)), low: 0, high: 1 };
  // No run differs from another of the same player.
  if (!Number.isFinite(squared)) return chanceWith(1, 0, sessions, without - 1, confidence);
  const trace = covariance.reduce((sum, row, index) => sum + row[index]!, 0);
  const traceSquared = covariance.flat().reduce((sum, each) => sum + each * each, 0);
  const degrees = trace === 0 ? 1 : trace ** 2 / traceSquared;
  // Where few sessions tell players apart, the errors lean to one side.
  const deviate = studentDeviate(confidence, without - 1);
  const leaning = skewness.map((each) => {
    const { low, high } = skewed(0, 1, each, deviate);
    return Math.max(-low, high) / deviate;
  });
  const radius =
    Math.sqrt(trace * ratioOfVariances(confidence, degrees, without - 1)) * Math.max(1, ...leaning);
  const distance = Math.sqrt(squared);
  return {
    value: shareAt(Math.sqrt(Math.max(0, squared - trace))),
    low: shareAt(Math.max(0, distance - radius)),
    high: shareAt(distance + radius),
  };
}

/** The share of the variance between players whose means lie so far from their middle, in deviations of a run. */
const shareAt = (distance: number): number =>
  distance === Number.POSITIVE_INFINITY ? 1 : distance ** 2 / (1 + distance ** 2);

/**
 * A figure of several parts, and how it varies when each group of sessions in turn is left out; groups may differ in size (Busing, Meijer and van
 * der Leeden, "Delete-m jackknife for unequal m", 1999).
 */
function leavingOut(
  scores: readonly GroupedValues[],
  figure: (players: Aligned) => readonly number[],
):
  | {
      readonly value: readonly number[];
      readonly without: number;
      readonly covariance: readonly (readonly number[])[];
      readonly skewness: readonly number[];
    }
  | undefined {
  const whole = aligned(scores);
  const playedBy = scores.map(({ counts }) => sumOf(counts));
  if (playedBy.includes(0)) return undefined;
  const indexOf = new Map(whole.values.map((value, index) => [value, index]));
  const value = figure(whole);
  const all = sumOf(playedBy);
  const without = Array.from({ length: groupCount }, (_, group) => group).flatMap((group) => {
    const own = sumOf(scores.map(({ counts }) => counts[group]!));
    if (own === 0 || scores.some(({ counts }, player) => counts[group] === playedBy[player])) return [];
    const rest = whole.counts.map((counts, player) => {
      const left = counts.slice();
      for (const [score, count] of scores[player]!.groups[group]!) left[indexOf.get(score)!]! -= count;
      return left;
    });
    const left = figure({ values: whole.values, counts: rest });
    // Of a handful of runs, those that are left may not vary at all.
    return left.every(Number.isFinite) ? [{ left, weight: all / own - 1 }] : [];
  });
  const count = without.length;
  // What each group says of the figure by itself: its pseudo-values.
  const said = without.map(({ left, weight }) =>
    value.map((each, part) => each + weight * (each - left[part]!)),
  );
  const middles = value.map((_, part) => average(said.map((each) => each[part]!)));
  const off = said.map((each, group) =>
    each.map((one, part) => (one - middles[part]!) / Math.sqrt(without[group]!.weight)),
  );
  const covariance = value.map((_, one) =>
    value.map((__, other) => average(off.map((each) => each[one]! * each[other]!))),
  );
  const skewness = value.map((_, part) => {
    const squares = covariance[part]![part]! * count;
    const cubes = off.reduce((sum, each) => sum + each[part]! * each[part]! * each[part]!, 0);
    return squares === 0 ? 0 : cubes / (squares * Math.sqrt(squares));
  });
  return { value, without: count, covariance, skewness };
}

const sumOf = (values: ArrayLike<number>): number => {
  let sum = 0;
  for (let index = 0; index < values.length; index++) sum += values[index]!;
  return sum;
};
const average = (values: readonly number[]): number => sumOf(values) / values.length;

function aligned(scores: readonly GroupedValues[]): Aligned {
  const found = scores.map(({ groups }) => {
    const counts = new Map<number, number>();
    for (const group of groups)
      for (const [value, count] of group) counts.set(value, (counts.get(value) ?? 0) + count);
    return counts;
  });
  const values = [...new Set(found.flatMap((counts) => [...counts.keys()]))].sort((a, b) => a - b);
  return {
    values,
    counts: found.map((counts) => Float64Array.from(values, (value) => counts.get(value) ?? 0)),
  };
}

/** Both are aligned. */
function chanceOf(mine: Float64Array, theirs: Float64Array): number {
  const all = sumOf(theirs);
  let below = 0;
  let sum = 0;
  for (let at = 0; at < mine.length; at++) {
    sum += (mine[at]! * (below + theirs[at]! / 2)) / all;
    below += theirs[at]!;
  }
  return sum / sumOf(mine);
}

/**
 * How far the mean of each player lies from the middle of all means, in deviations of a run, by the root of how many players there are: the sum of
 * its squares is the variance between players by that within. Not a number where nothing varies.
 */
function standardizedMeans({ values, counts: players }: Aligned): number[] {
  const moments = players.map((counts) => {
    const runs = sumOf(counts);
    let sum = 0;
    for (let at = 0; at < values.length; at++) sum += values[at]! * counts[at]!;
    const mean = sum / runs;
    let squares = 0;
    for (let at = 0; at < values.length; at++) squares += counts[at]! * (values[at]! - mean) ** 2;
    return { mean, variance: runs > 1 ? squares / (runs - 1) : 0 };
  });
  const middle = average(moments.map(({ mean }) => mean));
  const within = average(moments.map(({ variance }) => variance));
  return moments.map(({ mean }) => (mean - middle) / Math.sqrt(within * players.length));
}
