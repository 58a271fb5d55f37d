import type { Design } from '../design/model.js';
import type { Tally } from '../players/tally.js';
import type { Simulation } from '../simulate/simulate.js';
import { type Distribution, distributionOf } from './distribution.js';
import { scoreScale } from './score.js';
import { judgeTargets, type TargetResult } from './targets.js';

export interface PlayerSummary {
  readonly sessions: number;
  readonly runs: number;
  /** The score at the end of a run; null where the design keeps none or no run was played. */
  readonly score: Distribution | null;
  /** Seconds of session time from the start of a run to its end. */
  readonly runSeconds: Distribution | null;
  /** Share of runs that ended on each ending screen. */
  readonly endings: { readonly [screen: string]: number };
  /** Share of runs that the player left before an ending. */
  readonly abandoned: number;
  /** Share of runs that reached each level, by its number. */
  readonly levels: { readonly [level: string]: number };
  readonly transitions: readonly {
    readonly from: string;
    readonly to: string;
    readonly index: number;
    readonly count: number;
  }[];
  readonly rules: readonly {
    readonly name: string;
    readonly when: readonly string[];
    readonly index: number;
    readonly fired: number;
    readonly points: number;
  }[];
}

export interface SimulationSummary {
  readonly design: string;
  readonly seed: number;
  readonly players: { readonly [name: string]: PlayerSummary };
  readonly targets: readonly TargetResult[];
}

/** What a simulation says, as plain data. */
export function summarize(simulation: Simulation): SimulationSummary {
  const { design, seed, players } = simulation;
  return {
    design: design.title,
    seed,
    players: Object.fromEntries(
      players.map(({ player, tally }) => [player.name, summarizePlayer(design, tally)]),
    ),
    targets: judgeTargets(simulation),
  };
}

/** The levels of the list, and past it as far as any run came. */
function levelsReached(design: Design, { runs }: Tally): number[] {
  let count = design.levels.length;
  for (let row = 0; row < runs.length; row++) count = Math.max(count, runs.level[row]! + 1);
  return Array.from({ length: count }, (_, level) => level);
}

function summarizePlayer(design: Design, tally: Tally): PlayerSummary {
  const { runs } = tally;
  const scale = scoreScale(design);
  const rows = Array.from({ length: runs.length }, (_, row) => row);
  const shareOf = (holds: (row: number) => boolean): number =>
    rows.filter(holds).length / Math.max(1, runs.length);
  const scores = design.score === undefined ? [] : rows.map((row) => runs.score[row]! / scale);
  return {
    sessions: tally.sessions,
    runs: runs.length,
    score: distributionOf(scores) ?? null,
    runSeconds: distributionOf(rows.map((row) => runs.duration[row]! / 1000)) ?? null,
    endings: Object.fromEntries(
      design.screens.flatMap((screen, index) =>
        screen.ending === undefined ? [] : [[screen.name, shareOf((row) => runs.ending[row] === index)]],
      ),
    ),
    abandoned: shareOf((row) => runs.ending[row] === -1),
    levels: Object.fromEntries(
      levelsReached(design, tally).map((level) => [
        String(level + 1),
        shareOf((row) => runs.level[row]! >= level),
      ]),
    ),
    transitions: design.transitions.map(({ from, to, index }, at) => ({
      from,
      to,
      index,
      count: tally.taken[at]!,
    })),
    rules: design.rules.map(({ name, heard }, index) => ({
      name,
      when: heard,
      index,
      fired: tally.fired[index]!,
      points: tally.points[index]! / scale,
    })),
  };
}
