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
      .filter(({ player }) => (target.of ?? player.name) === player.name && target.over !== player.name)
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
    const finite = (bound: number): number | null => (Number.isFinite(bound) ? bound : null);
    return {
      measure: target.measure,
      what: describeMeasure(target),
      of,
      unit: measureUnit(target),
      value: estimate === undefined ? null : estimate.value,
      low: estimate === undefined ? null : finite(estimate.low),
      high: estimate === undefined ? null : finite(estimate.high),
      from: finite(target.from),
      to: finite(target.to),
      verdict: estimate === undefined ? 'not yet clear' : verdictOf(estimate, target),
      place: target.place,
    };
  });
}

/** Met where the whole interval lies within the bounds, missed where all of it lies outside. */
export function verdictOf({ low, high }: Estimate, { from, to }: Pick<Target, 'from' | 'to'>): TargetVerdict {
  if (low >= from && high <= to) return 'met';
  return high < from || low > to ? 'missed' : 'not yet clear';
}
