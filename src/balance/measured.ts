import { type Measure, measureForm, type Unit } from '../design/measures.js';
import type { Design, Player, Target } from '../design/model.js';
import { boundsOf } from '../measure/session-log.js';
import type { RatioSums, RunShares } from '../measure/shares.js';
import type { SpreadName, Tally } from '../measure/tally.js';
import { betterChance, meanOf, quantileOf } from './statistics/distribution.js';
import { type Clusters, type Estimate, ratio, share } from './statistics/intervals.js';
import { skillShare } from './statistics/skill.js';

/** What was simulated of one player. */
export interface Played {
  readonly player: Player;
  readonly tally: Tally;
}

/** What is measured, as a target names it. */
export type Measured = Pick<
  Target,
  'measure' | 'stat' | 'screen' | 'level' | 'rule' | 'counter' | 'bound' | 'over'
>;

const statistics = { p10: 0.1, p25: 0.25, median: 0.5, p75: 0.75, p90: 0.9 } as const;

/** The spread that a measure of runs is taken from. */
const spreadOf: { readonly [Name in Measure]?: SpreadName } = {
  score: 'score',
  length: 'runTime',
  session: 'sessionTime',
  lives: 'lives',
  firstPoint: 'firstPoint',
  firstLoss: 'firstLoss',
  drySpell: 'drySpell',
  streak: 'streak',
};

/** What a step of a spread is worth: spreads count in the smallest step of a counter, or in milliseconds. */
export function unitOf(design: Design, spread: SpreadName): number {
  const counter = spread === 'score' ? design.score : spread === 'lives' ? design.lives : undefined;
  if (counter !== undefined)
    return 10 ** -(design.counters.find(({ name }) => name === counter)?.places ?? 0);
  return spread === 'streak' ? 1 : 1 / 1000;
}

/**
 * A measure of one player with its interval by session; undefined where nothing was played that could be measured.
 *
 * @param others all players that were simulated, for measures that compare them
 */
export function measure(
  design: Design,
  asked: Measured,
  { tally }: Played,
  others: readonly Played[],
  confidence?: number,
): Estimate | undefined {
  const spread = spreadOf[asked.measure];
  if (spread !== undefined) {
    const found = tally.spreads[spread];
    if (found.runs === 0) return undefined;
    const unit = unitOf(design, spread);
    return asked.stat === 'mean'
      ? meanOf(found, unit, confidence)
      : quantileOf(found, [...found], statistics[asked.stat], unit, confidence);
  }
  switch (asked.measure) {
    case 'pace':
      return perTenSeconds(design, tally, confidence);
    case 'reach': {
      if (asked.screen === undefined)
        return runShare(tally, tally.reached, levelIndex(tally, asked), confidence);
      const screen = design.screens.findIndex(({ name }) => name === asked.screen);
      return runShare(tally, tally.visits, screen, confidence);
    }
    case 'ending': {
      const screen = design.screens.findIndex(({ name }) => name === asked.screen);
      return runShare(tally, tally.endings, screen, confidence);
    }
    case 'abandoned':
      return runShare(tally, tally.endings, design.screens.length, confidence);
    case 'fail':
      return failing(tally, levelIndex(tally, asked), confidence);
    case 'share': {
      const rule = design.rules.findIndex(({ name }) => name === asked.rule);
      return ofRatio(tally.sessions, tally.gains, rule, share, confidence);
    }
    case 'atBound':
      return atBound(design, tally, asked, confidence);
    case 'wins': {
      const other = others.find(({ player }) => player.name === asked.over);
      return other && betterChance(tally.spreads.score, other.tally.spreads.score, confidence);
    }
    case 'skill':
      return skillShare(
        others.map((each) => each.tally.spreads.score),
        confidence,
      );
    default:
      return undefined;
  }
}

const levelIndex = (tally: Tally, { level }: Measured): number =>
  Math.min(level!, tally.reached.hits.length) - 1;

/** A share of all runs. */
export function runShare(
  tally: Tally,
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

/** The share of runs that end at a level without a win, of those that come to it. */
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
export function ofRatio(
  sessions: number,
  sums: RatioSums,
  index: number,
  estimate: (clusters: Clusters, confidence?: number) => Estimate,
  confidence?: number,
): Estimate | undefined {
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

/** The points of all runs by how long they lasted together, in points for ten seconds. */
function perTenSeconds(design: Design, tally: Tally, confidence?: number): Estimate | undefined {
  const found = ofRatio(tally.sessions, tally.rate, 0, ratio, confidence);
  const scale = (10 * unitOf(design, 'score')) / unitOf(design, 'runTime');
  return found && { value: found.value * scale, low: found.low * scale, high: found.high * scale };
}

function atBound(design: Design, tally: Tally, asked: Measured, confidence?: number): Estimate | undefined {
  const index = boundIndex(design, asked.counter!, asked.bound);
  return index < 0 ? undefined : ofRatio(tally.sessions, tally.held, index, share, confidence);
}

/** Where the time at a counter's bound stands in the tally; -1: it has no such bound. */
function boundIndex(design: Design, counter: string, bound: 'min' | 'max'): number {
  const at = design.counters.findIndex(({ name }) => name === counter);
  const { places, [bound]: value } = design.counters[at]!;
  return typeof value === 'object'
    ? -1
    : boundsOf(design).findIndex(
        (each) => each.counter === at && each.value === Math.round(value * 10 ** places),
      );
}

/** What is measured, in words, such as "median score". */
export function describeMeasure(asked: Measured): string {
  const { stat, screen, level, rule, counter, bound, over } = asked;
  switch (asked.measure) {
    case 'score':
      return `${stat} score`;
    case 'length':
      return `${stat} length of a run`;
    case 'session':
      return `${stat} length of a session`;
    case 'lives':
      return `${stat} lives left`;
    case 'firstPoint':
      return `${stat} time to the first point`;
    case 'firstLoss':
      return `${stat} time to the first life lost`;
    case 'drySpell':
      return `${stat} longest time without a point`;
    case 'streak':
      return `${stat} longest streak`;
    case 'pace':
      return 'points for ten seconds';
    case 'reach':
      return `runs that reach ${screen ?? `level ${level}`}`;
    case 'ending':
      return `runs that end on ${screen}`;
    case 'abandoned':
      return 'runs left before an ending';
    case 'fail':
      return `runs that fail at level ${level}`;
    case 'share':
      return `points from "${rule}"`;
    case 'atBound':
      return `play with ${counter} at its ${bound}`;
    case 'wins':
      return `chance to score more than ${over}`;
    case 'skill':
      return 'share of skill in the scores';
  }
}

/** How the values of a measure are written. */
export const measureUnit = (asked: Measured): Unit => measureForm(asked.measure).unit;
