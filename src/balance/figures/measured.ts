import { type Measure, measureForm, type Unit } from '../../design/measures.js';
import type { Design, Target } from '../../design/model.js';
import { boundsOf } from '../../measure/session-log.js';
import type { SpreadName, Tally } from '../../measure/tally.js';
import { quantileOf } from '../statistics/distribution.js';
import { type Estimate, share } from '../statistics/intervals.js';
import { outscores, skillShare } from '../statistics/skill.js';
import { failing, ofRatio, type Played, runShare, unitOf } from './estimates.js';
import { meanOfRuns, pointsForTenSeconds, pointsShare } from './points.js';

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

/**
 * A measure of one player with its interval by session; undefined where nothing was played that could be measured.
 *
 * @param others all players that were simulated, for measures that compare them
 */
export function measure(
  design: Design,
  asked: Measured,
  played: Played,
  others: readonly Played[],
  confidence?: number,
): Estimate | undefined {
  const { tally } = played;
  const spread = spreadOf[asked.measure];
  if (spread !== undefined) {
    const found = tally.spreads[spread];
    if (found.runs === 0) return undefined;
    if (asked.stat === 'mean') return meanOfRuns(design, played, spread, confidence);
    return quantileOf(found, [...found], statistics[asked.stat], unitOf(design, spread), confidence);
  }
  switch (asked.measure) {
    case 'pace':
      return pointsForTenSeconds(design, tally, confidence);
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
      return pointsShare(design, tally, rule, confidence);
    }
    case 'atBound':
      return atBound(design, tally, asked, confidence);
    case 'wins': {
      const other = others.find(({ player }) => player.name === asked.over);
      return other && outscores(tally.scores, other.tally.scores, tally.sessions, confidence);
    }
    case 'skill':
      return skillShare(
        others.map((each) => each.tally.scores),
        tally.sessions,
        confidence,
      );
    default:
      return undefined;
  }
}

const levelIndex = (tally: Tally, { level }: Measured): number =>
  Math.min(level!, tally.reached.hits.length) - 1;

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
