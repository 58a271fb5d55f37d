import { largestNumber } from '../../design/limits.js';
import type { Design, Player } from '../../design/model.js';
import type { SpreadName, Tally } from '../../measure/tally.js';
import { meanOf } from '../statistics/distribution.js';
import { type Estimate, neverSeenBound, ratio, share, withRare } from '../statistics/intervals.js';
import { ofRatio, type Played, scaled, unitOf } from './estimates.js';
import { rareInMean, rareInShare, rarePoints } from './rare-points.js';

/**
 * The mean of a spread. Of what came rarely or never, the points that it is worth are allowed for; of what was one and the same in all sessions,
 * that a rarer one may be as small or large as can be.
 */
export function meanOfRuns(
  design: Design,
  { player, tally }: Played,
  spread: SpreadName,
  confidence?: number,
): Estimate {
  const found = tally.spreads[spread];
  const unit = unitOf(design, spread);
  const known = meanOf(found, unit, confidence);
  const { value } = known;
  const [least, most] = boundsOfSpread(design, player, spread, value);
  const unseen = neverSeenBound(found.sessions, confidence);
  const mean =
    known.low === known.high
      ? { value, low: value - unseen * (value - least), high: value + unseen * (most - value) }
      : known;
  if (spread !== 'score') return mean;
  return withRare(mean, rareInMean(rarePoints(design, tally), value, unit / found.runs), confidence);
}

/** What the values of a spread lie between, as far as that is known; of points, a run without any. */
function boundsOfSpread(
  design: Design,
  { patience }: Player,
  spread: SpreadName,
  value: number,
): readonly [number, number] {
  if (spread === 'score') return [Math.min(0, value), Math.max(0, value)];
  if (spread === 'streak') return [0, value];
  if (spread !== 'lives') return [0, patience / 1000];
  const lives = design.counters.find(({ name }) => name === design.lives);
  const bound = (written: unknown): number =>
    typeof written === 'number' && Math.abs(written) < largestNumber ? written : value;
  return [bound(lives?.min), bound(lives?.max)];
}

/** The share of all points that a rule makes. */
export function pointsShare(
  design: Design,
  tally: Tally,
  rule: number,
  confidence?: number,
): Estimate | undefined {
  const found = ofRatio(tally.sessions, tally.gains, rule, share, confidence);
  if (found === undefined) return undefined;
  const [gained, all] = [tally.gains.hits.value(rule), tally.gains.all.value(rule)];
  const { value, low, high } = withRare(
    found,
    rareInShare(rarePoints(design, tally), rule, gained, all),
    confidence,
  );
  return { value, low: Math.max(0, low), high: Math.min(1, high) };
}

/** The points of all runs by how long they lasted together, in points for ten seconds. */
export function pointsForTenSeconds(design: Design, tally: Tally, confidence?: number): Estimate | undefined {
  const found = ofRatio(tally.sessions, tally.rate, 0, ratio, confidence);
  if (found === undefined) return undefined;
  const rare = rareInMean(rarePoints(design, tally), found.value, 1 / tally.rate.all.value(0));
  return scaled(
    withRare(found, rare, confidence),
    (10 * unitOf(design, 'score')) / unitOf(design, 'runTime'),
  );
}
