import type { Design, Target } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import type { Simulation } from '../simulate/simulate.js';
import type { Played } from './figures/estimates.js';
import { describeMeasure, measure, measureUnit } from './figures/measured.js';
import { confidenceOfEach, type Estimate } from './statistics/intervals.js';

export type TargetVerdict = 'met' | 'missed' | 'not yet clear';

export interface TargetResult {
  readonly measure: Target['measure'];
  /** What is measured, in words, such as "median score". */
  readonly what: string;
  /** The player; "all players" where a measure compares them. */
  readonly of: string;
  readonly unit: ReturnType<typeof measureUnit>;
  /** null where there was nothing to measure. */
  readonly value: number | null;
  readonly low: number | null;
  readonly high: number | null;
  /** The design's bounds; null: none on that side. */
  readonly from: number | null;
  readonly to: number | null;
  readonly verdict: TargetVerdict;
  readonly place: Place;
}

/** A target for one of the players that it is about. */
interface Question {
  readonly target: Target;
  readonly played: Played;
  readonly of: string;
}

function questionsOf(design: Design, players: readonly Played[]): Question[] {
  return design.targets.flatMap((target): Question[] => {
    const [first] = players;
    if (target.measure === 'skill')
      return first === undefined ? [] : [{ target, played: first, of: 'all players' }];
    return players
      .filter(({ player }) => isAbout(target, player.name))
      .map((played) => ({ target, played, of: played.player.name }));
  });
}

/**
 * Judges each target of the design for each player it is about, among those that were simulated. The intervals hold all at once in 95
 * of 100 simulations: each is as wide as its share of the 5 % asks for (Bonferroni; Dunn, "Multiple comparisons among
 * means", 1961), so that many targets do not make a false verdict more likely.
 *
 * @param looks how often these targets are judged in one simulation that goes on until it is precise
 */
export function judgeTargets(
  { design, players }: Pick<Simulation, 'design' | 'players'>,
  looks = 1,
): TargetResult[] {
  const questions = questionsOf(design, players);
  const confidence = confidenceOfEach(questions.length * looks);
  return questions.map(({ target, played, of }) => {
    const estimate = measure(design, target, played, players, confidence);
    const verdict = estimate === undefined ? 'not yet clear' : verdictOf(estimate, target);
    return targetResult(target, of, estimate ?? nothingFound, verdict);
  });
}

/** Whether a target is about a player. */
export const isAbout = (target: Target, player: string): boolean =>
  (target.of ?? player) === player && target.over !== player;

/** In the place of what was found, where there was nothing to measure. */
const nothingFound = { value: null, low: Number.NaN, high: Number.NaN };

/** @param found the value, null where it is not known, and what it lies between */
export function targetResult(
  target: Target,
  of: string,
  { value, low, high }: { readonly value: number | null; readonly low: number; readonly high: number },
  verdict: TargetVerdict,
): TargetResult {
  const finite = (bound: number): number | null => (Number.isFinite(bound) ? bound : null);
  return {
    measure: target.measure,
    what: describeMeasure(target),
    of,
    unit: measureUnit(target),
    value,
    low: finite(low),
    high: finite(high),
    from: finite(target.from),
    to: finite(target.to),
    verdict,
    place: target.place,
  };
}

/** Met where the whole interval lies within the bounds, missed where all of it lies outside. */
function verdictOf({ low, high }: Estimate, { from, to }: Pick<Target, 'from' | 'to'>): TargetVerdict {
  if (low >= from && high <= to) return 'met';
  return high < from || low > to ? 'missed' : 'not yet clear';
}
