import { judgeSolved } from '../../../balance/solved-targets.js';
import type { Design } from '../../../design/model.js';
import { UsageError } from '../../../design/problems/problem.js';
import { bestPlay } from '../../../explore/exact/best-play.js';
import { slopes } from '../../../explore/exact/slopes.js';
import { solve } from '../../../explore/exact/solve.js';
import type { Solved } from '../../../explore/exact/solved.js';
import { drawnIntervals } from '../../../explore/search/drawn-intervals.js';
import { targetsToJunit } from '../../../formats/junit.js';
import { number } from '../../../formats/written.js';
import { peopleDiffer } from '../../../players/meeting/meeting.js';
import { choosePlayers } from '../../../simulate/simulate.js';
import type { Interruption } from '../../interruption.js';
import { type ExitCode, json } from '../../outcome.js';
import { withProgress } from '../../progress.js';
import { type SolvedPlayer, showSolved } from '../../show/show-solved.js';
import { plain, type Terminal } from '../../terminal.js';
import type { SimulateCall } from './simulate-call.js';
import { judgement } from './simulate-outcome.js';

/** Works sessions out instead of sampling them. */
export function exactCommand(
  terminal: Terminal,
  design: Design,
  call: SimulateCall,
  interruption: Interruption,
): ExitCode {
  const sampled = [call.sessions, call.seed, call.precision, call.workers, call.shard, call.out, call.resume];
  const rows = [call.saveRuns, call.saveSessions, call.saveEvents, call.world, call.queue];
  if ([...sampled, ...rows].some((each) => each !== undefined))
    throw new UsageError(
      'bad-argument',
      '--exact works sessions out and samples none; it goes with --player, --turns, --seconds and --format only.',
    );
  const isOver = (): boolean => interruption.aborted;
  const limits = { mostTurns: call.turns, isOver };
  const chosen = choosePlayers(design, call.player);
  const players = withProgress(terminal, 'players', chosen.length, (advance) =>
    chosen.map(({ player: { name, runs } }, index): SolvedPlayer => {
      advance(index, plain(name));
      const solved = solve(design, { ...limits, player: name });
      mustTell(design, solved);
      const best = bestOf(design, name, limits, runs === 1 ? solved : undefined);
      return { solved, best, slopes: slopes(design, solved, limits) };
    }),
  );
  const targets = judgeSolved(
    design,
    players.map(({ solved }) => solved),
  );
  if (call.format === 'json')
    terminal.out(
      json({
        design: design.title,
        players: Object.fromEntries(
          players.map(({ solved: { player, ...solved }, best, slopes }) => [
            player,
            { ...solved, best: best === undefined ? null : { ...best.play, own: best.own }, slopes },
          ]),
        ),
        targets,
      }),
    );
  else if (call.format === 'junit') terminal.out(targetsToJunit(design.title, targets));
  else terminal.out(showSolved(terminal, design, players, targets));
  return interruption.exitCode(judgement({ targets }));
}

/** Turns that may be spent on each player to find out that sampling is not needed: less than most precisions take. */
const turnsInstead = 100_000;

/** Solves sessions exactly where that is quick, and shows all that was asked for; undefined: they are to be sampled. */
export function exactInstead(terminal: Terminal, design: Design, call: SimulateCall): ExitCode | undefined {
  const players: Solved[] = [];
  for (const { player } of choosePlayers(design, call.player)) {
    if (peopleDiffer(player)) return undefined;
    const solved = solve(design, { player: player.name, mostTurns: turnsInstead });
    if (solved.open > 0) return undefined;
    players.push(solved);
  }
  const targets = judgeSolved(design, players);
  if (targets.some(({ value }) => value === null)) return undefined;
  const shown = players.map((solved) => ({ solved, best: undefined, slopes: [] }));
  terminal.out(showSolved(terminal, design, shown, targets));
  terminal.out(
    '\nThis design is small enough to be solved exactly, which is faster than sampling to this precision.\n',
  );
  return judgement({ targets });
}

/** Where more is open than this, bounds say next to nothing. */
const mostOpen = 0.5;

/** @throws UsageError where nearly nothing could be worked out */
function mustTell(design: Design, { open, turns, player }: Solved): void {
  if (open <= mostOpen) return;
  const [first, ...others] = drawnIntervals(design);
  const multiplies =
    first === undefined
      ? ''
      : ` What multiplies its states is time drawn at random: ${[first, ...others.slice(0, 2)].join(', ')}; a fixed time, or a coarser grid, makes them fewer.`;
  throw new UsageError(
    'bad-argument',
    `This design has too many states to be solved exactly: ${Math.round(open * 100)} % of the sessions of ${plain(player)} were still running after ${number(turns)} turns (--turns).${multiplies} Simulate it without --exact.`,
  );
}

type Limits = { readonly mostTurns: number | undefined; readonly isOver: () => boolean };

/** @param known one run as the player plays it, where that was worked out already */
function bestOf(
  design: Design,
  player: string,
  limits: Limits,
  known: Solved | undefined,
): SolvedPlayer['best'] {
  const play = bestPlay(design, { ...limits, player });
  if (play === undefined) return undefined;
  const own = known ?? solve(design, { ...limits, player, runs: 1 });
  return own.open > 0 || own.score === null ? undefined : { play, own: own.score.mean.least };
}
