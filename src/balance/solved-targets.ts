import type { Design, Target } from '../design/model.js';
import type { Bounds, Solved, SolvedSpread } from '../explore/exact/solved.js';
import { isAbout, type TargetResult, targetResult } from './targets.js';

const statistics = { mean: 'mean', p10: 'p10', p25: 'p25', median: 'p50', p75: 'p75', p90: 'p90' } as const;

/**
 * Judges the targets by what was worked out. Met or missed is certain where it is said; what no exact figure is kept of, or what is left
 * open, is not yet clear.
 */
export function judgeSolved(design: Design, players: readonly Solved[]): TargetResult[] {
  return design.targets.flatMap((target) =>
    target.measure === 'skill'
      ? []
      : players
          .filter(({ player }) => isAbout(target, player))
          .map((solved) => resultOf(target, solved, players)),
  );
}

function resultOf(target: Target, solved: Solved, players: readonly Solved[]): TargetResult {
  const found = boundsOf(target, solved, players);
  const { least, most } = found ?? { least: Number.NaN, most: Number.NaN };
  const value = least === most ? least : null;
  return targetResult(target, solved.player, { value, low: least, high: most }, verdictOf(target, found));
}

function verdictOf({ from, to }: Target, found: Bounds | undefined): TargetResult['verdict'] {
  if (found === undefined) return 'not yet clear';
  if (found.least >= from - slack && found.most <= to + slack) return 'met';
  return found.most < from || found.least > to ? 'missed' : 'not yet clear';
}

/** What adding up rounds off. */
const slack = 1e-9;

/** Undefined for what is not worked out. */
function boundsOf(target: Target, solved: Solved, players: readonly Solved[]): Bounds | undefined {
  const of = (spread: SolvedSpread | null): Bounds | undefined => spread?.[statistics[target.stat]];
  switch (target.measure) {
    case 'score':
      return of(solved.score);
    case 'length':
      return of(solved.seconds);
    case 'reach':
      return target.screen === undefined
        ? solved.levels[Math.min(target.level!, solved.levels.length) - 1]?.reached
        : solved.screens[target.screen];
    case 'ending':
      return solved.endings[target.screen!];
    case 'abandoned':
      return solved.abandoned;
    case 'fail':
      return solved.levels[Math.min(target.level!, solved.levels.length) - 1]?.fails ?? undefined;
    case 'share':
      return shareOf(target.rule!, solved);
    case 'pace':
      return paceOf(solved);
    case 'wins':
      return winsOver(
        solved,
        players.find(({ player }) => player === target.over),
      );
    default:
      return undefined;
  }
}

const exactly = (value: number): Bounds => ({ least: value, most: value });

function shareOf(name: string, { rules, gained }: Solved): Bounds | undefined {
  const rule = rules?.find((each) => each.name === name);
  return rule === undefined || gained === null || gained === 0 ? undefined : exactly(rule.points / gained);
}

/** Points for ten seconds. */
function paceOf({ score, seconds, open }: Solved): Bounds | undefined {
  if (open > 0 || score === null || seconds === null || seconds.mean.least === 0) return undefined;
  return exactly((10 * score.mean.least) / seconds.mean.least);
}

/** The chance that a run of one player scores more than one of another, half of the ties with it. */
function winsOver(one: Solved, other: Solved | undefined): Bounds | undefined {
  if (other === undefined || one.open + other.open > 0 || one.score === null || other.score === null)
    return undefined;
  let [sum, below, at] = [0, 0, 0];
  const others = other.score.values;
  for (const { value, share } of one.score.values) {
    while (at < others.length && others[at]!.value < value) below += others[at++]!.share;
    const tie = others[at]?.value === value ? others[at]!.share : 0;
    sum += share * (below + tie / 2);
  }
  return exactly(sum);
}
