import type { Design, Player } from '../../design/model.js';
import type { RatioSums, RunShares } from '../../measure/shares.js';
import type { SpreadName, Tally } from '../../measure/tally.js';
import { type Clusters, type Estimate, share } from '../statistics/intervals.js';

/** What was simulated of one player. */
export interface Played {
  readonly player: Player;
  readonly tally: Tally;
}

/** What a step of a spread is worth: spreads count in the smallest step of a counter, or in milliseconds. */
export function unitOf(design: Design, spread: SpreadName): number {
  const counter = spread === 'score' ? design.score : spread === 'lives' ? design.lives : undefined;
  if (counter !== undefined)
    return 10 ** -(design.counters.find(({ name }) => name === counter)?.places ?? 0);
  return spread === 'streak' ? 1 : 1 / 1000;
}

/** A share of all runs. */
export function runShare(
  tally: Pick<Tally, 'runs' | 'sessions' | 'runsSquared'>,
  { hits, squares, products }: RunShares,
  index: number,
  confidence?: number,
): Estimate | undefined {
  if (tally.runs === 0) return undefined;
  const clusters = {
    sessions: tally.sessions,
    hits: hits[index]!,
    all: tally.runs,
    hitsSquared: squares[index]!,
    allSquared: tally.runsSquared,
    product: products[index]!,
  };
  return share(clusters, confidence);
}

/** The share of runs that end at a level without a win, of those that reach it. */
export function failing(tally: Tally, level: number, confidence?: number): Estimate | undefined {
  const { reached, failed, failedReached, sessions } = tally;
  if (reached.hits[level] === 0) return undefined;
  const clusters = {
    sessions,
    hits: failed.hits[level]!,
    all: reached.hits[level]!,
    hitsSquared: failed.squares[level]!,
    allSquared: reached.squares[level]!,
    product: failedReached[level]!,
  };
  return share(clusters, confidence);
}

/** A ratio of sums over sessions; undefined where there is nothing that it could be a part of. */
export function ofRatio<Found>(
  sessions: number,
  sums: RatioSums,
  index: number,
  estimate: (clusters: Clusters, confidence?: number) => Found,
  confidence?: number,
): Found | undefined {
  const all = sums.all.value(index);
  if (all === 0) return undefined;
  const clusters = {
    sessions,
    hits: sums.hits.value(index),
    all,
    hitsSquared: sums.hitsSquared.value(index),
    allSquared: sums.allSquared.value(index),
    product: sums.products.value(index),
  };
  return estimate(clusters, confidence);
}

/** An estimate in another unit. */
export const scaled = ({ value, low, high }: Estimate, worth: number): Estimate => ({
  value: value * worth,
  low: low * worth,
  high: high * worth,
});
