import { showTrigger } from '../../design/language/trigger.js';
import type { Design, Player } from '../../design/model.js';
import { scoreRange } from '../optimum/extremes.js';
import { neverOver } from '../search/limits.js';
import type { RunSums } from './run-sums.js';

/** A figure lies between these; where both are one, it is that. */
export interface Bounds {
  readonly least: number;
  readonly most: number;
}

/** How something spreads over runs. */
export interface SolvedSpread {
  readonly mean: Bounds;
  /** Null where something is left open. */
  readonly sd: number | null;
  readonly p10: Bounds;
  readonly p25: Bounds;
  readonly p50: Bounds;
  readonly p75: Bounds;
  readonly p90: Bounds;
  /** Every value, lowest first, with its share of runs at the least. */
  readonly values: readonly { readonly value: number; readonly share: number }[];
}

/** The sessions of a player, worked out. Shares are of runs. */
export interface Solved {
  readonly player: string;
  /** The chance that a session was still going on where it was stopped; where it is nothing, all figures are exact. */
  readonly open: number;
  readonly states: number;
  readonly turns: number;
  /** Runs of a session. */
  readonly runs: Bounds;
  /** Null where no run is played, or the design keeps no score. */
  readonly score: SolvedSpread | null;
  readonly seconds: SolvedSpread | null;
  readonly endings: { readonly [screen: string]: Bounds };
  readonly abandoned: Bounds;
  readonly causes: readonly {
    readonly from: string;
    readonly to: string;
    readonly trigger: string;
    readonly index: number;
    readonly share: Bounds;
  }[];
  readonly screens: { readonly [screen: string]: Bounds };
  readonly levels: readonly {
    readonly level: number;
    readonly name: string;
    readonly reached: Bounds;
    /** Of the runs that come to it; null where none does. */
    readonly fails: Bounds | null;
  }[];
  /** Points that a run gains; null where something is left open, or what is written may take points away. */
  readonly gained: number | null;
  /** How often each fires in a run, and the points that it adds; null where something is left open. */
  readonly rules:
    | readonly { readonly name: string; readonly fired: number; readonly points: number }[]
    | null;
}

/** So small a chance is nothing but what adding up rounds off. */
const nothing = 1e-12;

/** What is known of the score beforehand. */
export interface OfScore {
  /** Whether nothing is ever taken off it. */
  readonly onlyAdds: boolean;
  /** As a cell. */
  readonly start: number;
}

export function solvedOf(
  design: Design,
  player: Player,
  sums: RunSums,
  left: number,
  { states, turns, onlyAdds, start }: Pick<Solved, 'states' | 'turns'> & OfScore,
): Solved {
  const open = left < nothing ? 0 : left;
  /** Runs of sessions that are left open, at the most. */
  const more = open * player.runs;
  const of = (part: number, all: number): Bounds => ({
    least: part / (all + more),
    most: (part + more) / (all + more),
  });
  const hasRuns = sums.runs + more > 0;
  const share = (part: number): Bounds => (hasRuns ? of(part, sums.runs) : { least: 0, most: 0 });
  const counter = design.counters.find(({ name }) => name === design.score);
  const unit = 10 ** -(counter?.places ?? 0);
  const range =
    open > 0 && counter !== undefined
      ? scoreRange(design, { mostStates: Number.POSITIVE_INFINITY, isOver: neverOver })
      : undefined;
  const ofScore: Bounds = {
    least: range?.lowest?.value ?? (onlyAdds ? start * unit : Number.NEGATIVE_INFINITY),
    most: range?.highest?.value ?? Number.POSITIVE_INFINITY,
  };
  const levels = design.levels.length;
  return {
    player: player.name,
    open,
    states,
    turns,
    runs: { least: sums.runs, most: sums.runs + more },
    score: counter?.kind === 'number' && hasRuns ? spreadOf(sums.scores, unit, more, ofScore) : null,
    seconds: hasRuns
      ? spreadOf(sums.durations, 1 / 1000, more, { least: 0, most: player.patience / 1000 })
      : null,
    endings: Object.fromEntries(
      design.screens.flatMap(({ name, ending }, screen) =>
        ending === undefined ? [] : [[name, share(sums.endings[screen]!)]],
      ),
    ),
    abandoned: share(sums.endings.at(-1)!),
    causes: design.transitions.flatMap((transition, index) => {
      const part = sums.causes[index]!;
      if (part === 0) return [];
      const { from, to } = transition;
      return [{ from, to, trigger: showTrigger(transition), index, share: share(part) }];
    }),
    screens: Object.fromEntries(
      design.screens.map(({ name }, screen) => [name, share(sums.entered[screen]!)]),
    ),
    levels: Array.from({ length: Math.max(1, Math.min(levels, sums.reached.length)) }, (_, level) => {
      const reached = sums.reached[level]!;
      return {
        level: level + 1,
        name: design.levels[level]?.name ?? '',
        reached: share(reached),
        fails: reached + more === 0 ? null : of(sums.failed[level]!, reached),
      };
    }),
    gained:
      open > 0 || !onlyAdds || !hasRuns
        ? null
        : (sums.points.reduce((sum, each) => sum + each, 0) * unit) / sums.runs,
    rules:
      open > 0 || !hasRuns
        ? null
        : design.rules.map(({ name }, rule) => ({
            name,
            fired: sums.fired[rule]! / sums.runs,
            points: (sums.points[rule]! * unit) / sums.runs,
          })),
  };
}

function spreadOf(
  sums: ReadonlyMap<number, number>,
  unit: number,
  more: number,
  between: Bounds,
): SolvedSpread {
  const values = [...sums].sort(([a], [b]) => a - b);
  const ended = values.reduce((sum, [, chance]) => sum + chance, 0);
  const total = ended + more;
  const sum = values.reduce((sum, [value, chance]) => sum + value * chance, 0) * unit;
  const mean: Bounds =
    more === 0
      ? { least: sum / ended, most: sum / ended }
      : { least: (sum + more * between.least) / total, most: (sum + more * between.most) / total };
  const at = (share: number): Bounds => quantile(values, { at: share * total, unit, more, between });
  const centre = mean.least;
  const variance =
    values.reduce((sum, [value, chance]) => sum + chance * (value * unit - centre) ** 2, 0) / ended;
  return {
    mean,
    sd: more === 0 ? Math.sqrt(variance) : null,
    p10: at(0.1),
    p25: at(0.25),
    p50: at(0.5),
    p75: at(0.75),
    p90: at(0.9),
    values: values.map(([value, chance]) => ({ value: value * unit, share: chance / total })),
  };
}

/** The lowest value that so many runs do not pass, where what is left open lies below all others, or above. */
function quantile(
  values: readonly (readonly [number, number])[],
  { at, unit, more, between }: { at: number; unit: number; more: number; between: Bounds },
): Bounds {
  const find = (below: number): number | undefined => {
    let sum = below;
    for (const [value, chance] of values) {
      sum += chance;
      if (sum >= at * (1 - nothing)) return value * unit;
    }
    return undefined;
  };
  const isBelow = more >= at && more > 0;
  return { least: isBelow ? between.least : find(more)!, most: find(0) ?? between.most };
}
