import type { Design } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Tally } from '../../measure/tally.js';
import type { Simulation } from '../../simulate/simulate.js';
import type { Played } from '../figures/estimates.js';
import { describeMeasure, type Measured, measure, measureUnit } from '../figures/measured.js';
import { judgeTargets } from '../targets.js';
import { confidenceOfEach, type Estimate } from './intervals.js';

/** Sessions at the first look. */
const firstLook = 1000;

export interface Precise {
  readonly simulation: Simulation;
  /** How often it was looked whether that is enough, of all planned looks. */
  readonly looks: { readonly taken: number; readonly planned: number };
  readonly widest: WatchedFigure | undefined;
  readonly isReached: boolean;
}

/** A headline figure or target, and how far it is known. */
export interface WatchedFigure {
  readonly what: string;
  readonly of: string;
  /** Half the width of its interval: of a share as it is, of all else by its value. */
  readonly reach: number;
}

/** Sessions in all at each look: doubled each time, up to the most. */
export function plannedLooks(most: number): number[] {
  const looks: number[] = [];
  for (let sessions = firstLook; sessions < most; sessions *= 2) looks.push(sessions);
  return [...looks, most];
}

/**
 * Adds sessions until every target and headline figure is known as closely as asked. All looks are planned before the first session
 * and share the 5 % of error among them (Bonferroni), so that stopping at a lucky look is paid for.
 *
 * @param precision half the width of an interval, by the value; of a share, as it is. 0.02 is 2 %
 * @param most sessions of each player, at the most
 * @param play plays some sessions more, from one on; fewer where it was stopped
 */
export async function simulateUntil(
  precision: number,
  most: number,
  play: (first: number, sessions: number) => Promise<Simulation | undefined>,
  told: (sessions: number, widest: WatchedFigure | undefined) => void = () => {},
): Promise<Precise | undefined> {
  const looks = plannedLooks(most);
  let whole: Simulation | undefined;
  for (const [taken, sessions] of looks.entries()) {
    const first = whole === undefined ? 0 : whole.sessions;
    const more = await play(first, sessions - first);
    if (more !== undefined) whole = whole === undefined ? more : joined(whole, more);
    if (whole === undefined) return undefined;
    const widest = widestOf(whole, looks.length);
    told(whole.sessions, widest);
    const isReached = widest === undefined || widest.reach <= precision;
    const isStopped = whole.sessions < sessions;
    if (isReached || isStopped || taken === looks.length - 1)
      return { simulation: whole, looks: { taken: taken + 1, planned: looks.length }, widest, isReached };
  }
  return undefined;
}

/** Two simulations of which one goes on where the other ends. */
export function joined(one: Simulation, other: Simulation): Simulation {
  const form = formOf(one.design);
  return {
    ...one,
    sessions: one.sessions + other.sessions,
    players: one.players.map(({ player, tally }, index) => {
      const both = new Tally(form);
      both.merge(tally);
      both.merge(other.players[index]!.tally);
      return { player, tally: both };
    }),
  };
}

const headline = (measure: Measured['measure'], screen?: string): Measured => ({
  measure,
  stat: 'median',
  screen,
  level: undefined,
  rule: undefined,
  counter: undefined,
  bound: 'max',
  over: undefined,
});

/** The figures that a simulation reports first: median score and length, and how runs end. */
const headlines = ({ screens }: Design): Measured[] => [
  headline('score'),
  headline('length'),
  ...screens.flatMap(({ name, ending }) => (ending === undefined ? [] : [headline('ending', name)])),
];

function widestOf({ design, players }: Simulation, looks: number): WatchedFigure | undefined {
  const figures = players.flatMap((played: Played) =>
    headlines(design).flatMap((asked): WatchedFigure[] => {
      const estimate = measure(design, asked, played, players, confidenceOfEach(looks));
      if (estimate === undefined) return [];
      return [figure(describeMeasure(asked), played.player.name, estimate, measureUnit(asked) === 'share')];
    }),
  );
  const targets = judgeTargets({ design, players }, looks).flatMap(({ what, of, value, low, high, unit }) =>
    value === null || low === null || high === null
      ? []
      : [figure(what, of, { value, low, high }, unit === 'share')],
  );
  return [...figures, ...targets].reduce<WatchedFigure | undefined>(
    (widest, each) => (widest === undefined || each.reach > widest.reach ? each : widest),
    undefined,
  );
}

function figure(what: string, of: string, { value, low, high }: Estimate, isShare: boolean): WatchedFigure {
  const half = (high - low) / 2;
  return {
    what,
    of,
    reach: isShare || half === 0 ? half : half / Math.max(Math.abs(value), Number.MIN_VALUE),
  };
}
