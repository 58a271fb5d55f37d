import type { Player } from '../../design/model.js';
import type { Estimate } from '../statistics/intervals.js';
import { wilson } from '../statistics/intervals.js';
import type { FittedHabit } from './fitted.js';
import { fitPace, isTold } from './paces.js';
import type { Attempt, Replayed } from './replayed.js';

/** What skill may depend on beside the player, each with a slope of its own. */
const slopeKeys = ['learning', 'practice', 'caution'] as const;

/** Practice within a run and care are asked for only where the design's player has them: each makes all others less sure. */
export const covariatesOf = ({ run, nth, isCareful }: Attempt, player: Player | undefined): number[] => [
  run,
  player !== undefined && player.practice > 0 ? nth : 0,
  isCareful ? 1 : 0,
];

/** What the design says about a habit, as it is reported. */
const inDesign: { readonly [Key in FittedHabit['key']]: (player: Player) => number } = {
  learning: ({ learning }) => learning,
  practice: ({ practice }) => practice,
  caution: ({ caution }) => caution?.skill ?? 0,
  spread: ({ spread }) => spread,
  pace: ({ pace, timing }) => (pace * (timing.least + timing.most)) / 2,
  paceLearning: ({ paceLearning }) => paceLearning,
  paceSpread: ({ paceSpread }) => paceSpread,
  timing: ({ timing }) => (timing.most - timing.least) / (timing.most + timing.least),
  quits: ({ quits }) => quits,
};

/** Everything but skill that the log shows of a player. */
export function habitsOf(
  player: Player | undefined,
  { attempts, timed, lost, left }: Replayed,
  fitted: { readonly slopes: readonly (Estimate | undefined)[]; readonly spread: Estimate | undefined },
): FittedHabit[] {
  const sessions = new Set(attempts.map(({ session }) => session)).size;
  const timedSessions = new Set(timed.map(({ session }) => session)).size;
  const pace = fitPace(timed);
  const told = (
    key: FittedHabit['key'],
    estimate: Estimate | undefined,
    of: number,
    unit: FittedHabit['unit'],
  ): FittedHabit[] =>
    estimate === undefined ? [] : [{ key, estimate, design: player && inDesign[key](player), of, unit }];
  return [
    ...slopeKeys.flatMap((key, index) => told(key, fitted.slopes[index], attempts.length, 'attempts')),
    ...told('spread', fitted.spread, sessions, 'sessions'),
    ...told('pace', pace?.pace, timed.length, 'attempts'),
    ...told('paceLearning', pace?.paceLearning, timed.length, 'attempts'),
    ...told('paceSpread', pace?.paceSpread, timedSessions, 'sessions'),
    ...told('timing', pace?.timing, timed.length, 'attempts'),
    ...told('quits', lost === 0 ? undefined : wilson(left / lost, lost), lost, 'lost runs'),
  ];
}

/** A player with the habits that were found, where these are clear. */
export function withHabits(player: Player, habits: readonly FittedHabit[]): Player {
  const found = (key: FittedHabit['key']): Estimate | undefined =>
    habits.find((habit) => habit.key === key)?.estimate;
  const of = (key: FittedHabit['key']): number | undefined => found(key)?.value;
  const ifTold = (key: FittedHabit['key'], otherwise: number): number => {
    const estimate = found(key);
    if (estimate === undefined) return otherwise;
    return isTold(estimate) ? estimate.value : 0;
  };
  /** The design's value where the log does not speak against it. */
  const unlessOff = (key: FittedHabit['key'], design: number): number => {
    const estimate = found(key);
    if (estimate === undefined || (design >= estimate.low && design <= estimate.high)) return design;
    return estimate.value;
  };
  const width = of('timing');
  const { caution, timing } = player;
  return {
    ...player,
    learning: of('learning') ?? 0,
    practice: of('practice') ?? player.practice,
    caution: caution && { ...caution, skill: of('caution') ?? caution.skill },
    spread: ifTold('spread', player.spread),
    pace: of('pace') ?? player.pace,
    paceLearning: ifTold('paceLearning', player.paceLearning),
    paceSpread: ifTold('paceSpread', player.paceSpread),
    // Beside the pace that was found, times lie evenly around the usual one.
    timing:
      width === undefined
        ? timing
        : { ...timing, least: Math.max(0.1, 1 - width), most: Math.min(10, 1 + width) },
    quits: unlessOff('quits', player.quits),
  };
}
