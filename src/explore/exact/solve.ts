import type { Design, Player } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import type { BackendName } from '../../engine/run/backend.js';
import { meetingOf, peopleDiffer } from '../../players/meeting/meeting.js';
import { playerNamed } from '../../players/player-named.js';
import { neverOver } from '../search/limits.js';
import { Frontier } from './frontier.js';
import { RunSums } from './run-sums.js';
import { type Solved, solvedOf } from './solved.js';
import { type Stretch, Stretches } from './stretches.js';

export interface SolveOptions {
  /** The player's name. */
  readonly player: string;
  /** Runs that it plays; as many as it usually does unless they are given. */
  readonly runs?: number | undefined;
  /** Turns that are gone through at the most: one from each state, for each way that its draws can fall. */
  readonly mostTurns?: number | undefined;
  readonly backend?: BackendName | undefined;
  /** Whether the time allowed is over; what is still going on then is left open. */
  readonly isOver?: (() => boolean) | undefined;
  /** Called now and then with the turns so far. */
  readonly progress?: ((turns: number) => void) | undefined;
}

export const solveDefaults = { mostTurns: 2_000_000 } as const;

/**
 * The sessions of a player worked out instead of sampled: how likely each score, ending, length and level is, to the last digit. Where a
 * player meets pieces by the model, a session is a Markov chain (Kemeny and Snell, "Finite Markov Chains", 1960): from each state the engine
 * itself plays the next turn through every way that its draws can fall, and states that go on alike are one. Each moment is gone through
 * once, in the order of time, so that nothing has to converge. Where there are more states than it may go through, what is still going on
 * is left open, and each figure has a bound from below and one from above.
 *
 * @throws UsageError for a player that the design does not have, or one whose people differ: their skills are no finite number
 * @throws DesignError where a session runs into rules without end or a number past 2^53
 * @example
 * const { score } = solve(design, { player: 'regular' });
 */
export function solve(design: Design, options: SolveOptions): Solved {
  const { mostTurns = solveDefaults.mostTurns, isOver = neverOver, progress } = options;
  const form = formOf(design);
  const player = playerToSolve(design, options);
  const start = startOf(form);
  const stretches = new Stretches(form, meetingOf(form, player), {
    mostTurns,
    isOver,
    progress,
    backend: options.backend,
  });
  const sums = new RunSums(form);
  const starts = new Frontier();
  const { play } = stretches;
  starts.at(0).add(play.row, play.begin(), start, 1);
  const shares = new Map<Stretch, number>();
  let open = 0;
  for (let next = starts.next; next !== undefined; next = starts.next) {
    const { time, moment } = next;
    // It grows meanwhile where a run begins at the very moment at which the one before it does.
    for (const row of moment.waiting) {
      const scores = moment.chances[row]!;
      moment.chances[row] = undefined;
      const begin = moment.table.begin(row);
      const state = moment.table.numbers.slice(begin, moment.table.end(row));
      for (const [score, chance] of scores) {
        const stretch = stretches.from(state, score, time);
        shares.set(stretch, (shares.get(stretch) ?? 0) + chance);
        open += chance * stretch.open;
        for (const next of stretch.starts)
          starts.at(time + next.after).add(next.state, next.state.length, next.score, chance * next.chance);
      }
    }
    starts.pop();
  }
  for (const [stretch, chance] of shares) sums.add(stretch.sums, chance);
  const { states, turns, onlyAdds } = stretches;
  return solvedOf(design, player, sums, open, { states, turns, onlyAdds, start });
}

/** @throws UsageError */
export function playerToSolve(
  design: Design,
  { player: name, runs }: Pick<SolveOptions, 'player' | 'runs'>,
): Player {
  const player = playerNamed(design, name);
  if (peopleDiffer(player))
    throw new UsageError(
      'bad-argument',
      `The people of ${name} differ (${player.spread > 0 ? `spread: ${player.spread}` : `paceSpread: ${player.paceSpread}`}), so their sessions cannot be solved exactly; simulate them, or leave out spread and paceSpread.`,
    );
  return runs === undefined ? player : { ...player, runs };
}

/** The score that a session begins with, where it is summed up beside the states. */
export const startOf = ({ counters, score }: Form): number => {
  const start = score < 0 ? undefined : counters[score]!.start;
  return start?.op === 'constant' ? start.value : 0;
};
