import type { Design, Target } from '../design/model.js';
import type { Place } from '../design/problem.js';
import type { RunRows, Tally } from '../players/tally.js';
import type { Simulation } from '../simulate/simulate.js';
import { quantile } from './distribution.js';
import { clustersOf, type Estimate, ratio, share } from './intervals.js';
import { scoreScale } from './score.js';

export type TargetVerdict = 'met' | 'missed' | 'not yet clear';

export interface TargetResult {
  readonly measure: Target['measure'];
  /** What is measured, in words, such as "median score". */
  readonly what: string;
  readonly of: string;
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

/** Judges each target of the design for each player it is about, among those that were simulated. */
export function judgeTargets({ design, players }: Simulation): TargetResult[] {
  return design.targets.flatMap((target) =>
    players
      .filter(({ player }) => target.of === undefined || player.name === target.of)
      .map(({ player, tally }) => judge(design, target, player.name, tally)),
  );
}

function judge(design: Design, target: Target, of: string, tally: Tally): TargetResult {
  const estimate = measure(design, target, tally);
  const finite = (bound: number): number | null => (Number.isFinite(bound) ? bound : null);
  const common = {
    measure: target.measure,
    what: describeMeasure(target),
    of,
    from: finite(target.from),
    to: finite(target.to),
    place: target.place,
  };
  if (estimate === undefined)
    return { ...common, value: null, low: null, high: null, verdict: 'not yet clear' };
  const { value, low, high } = estimate;
  return { ...common, value, low: finite(low), high: finite(high), verdict: verdictOf(estimate, target) };
}

/** Met where the whole interval lies within the bounds, missed where all of it lies outside. */
function verdictOf({ low, high }: Estimate, { from, to }: Target): TargetVerdict {
  if (low >= from && high <= to) return 'met';
  return high < from || low > to ? 'missed' : 'not yet clear';
}

function describeMeasure(target: Target): string {
  switch (target.measure) {
    case 'score':
      return `${target.stat} score`;
    case 'reach':
      return `runs that reach ${target.screen}`;
    case 'ending':
      return `runs that end on ${target.screen}`;
    case 'share':
      return `points from "${target.rule}"`;
  }
}

function measure(design: Design, target: Target, tally: Tally): Estimate | undefined {
  const { runs } = tally;
  const screen = design.screens.findIndex((each) => each.name === target.screen);
  if (target.measure === 'share') return measureShare(design, target, tally);
  if (runs.length === 0) return undefined;
  switch (target.measure) {
    case 'reach':
      return share(runClusters(runs, (row) => (runs.hasVisited(row, screen) ? 1 : 0)));
    case 'ending':
      return share(runClusters(runs, (row) => (runs.ending[row] === screen ? 1 : 0)));
    case 'score': {
      if (design.score === undefined) return undefined;
      const scale = scoreScale(design);
      if (target.stat === 'mean') return ratio(runClusters(runs, (row) => runs.score[row]! / scale));
      const at = { p10: 0.1, median: 0.5, p90: 0.9 }[target.stat];
      return quantile(
        Array.from(runs.score.subarray(0, runs.length), (score) => score / scale),
        [...runs.session.subarray(0, runs.length)],
        at,
      );
    }
  }
}

function measureShare(design: Design, target: Target, { shares }: Tally): Estimate | undefined {
  const column = shares.rules.indexOf(design.rules.findIndex((rule) => rule.name === target.rule));
  const width = shares.rules.length + 1;
  const ofRule = Array.from({ length: shares.length }, (_, row) => shares.rows[row * width + column]!);
  const all = Array.from({ length: shares.length }, (_, row) => shares.rows[(row + 1) * width - 1]!);
  if (all.every((points) => points === 0)) return undefined;
  return ratio(clustersOf(ofRule, all));
}

/** Something counted for each run, added up by session. */
function runClusters(runs: RunRows, count: (row: number) => number) {
  const hits: number[] = [];
  const all: number[] = [];
  for (let row = 0; row < runs.length; row++) {
    if (row === 0 || runs.session[row] !== runs.session[row - 1]) {
      hits.push(0);
      all.push(0);
    }
    hits[hits.length - 1]! += count(row);
    all[all.length - 1]!++;
  }
  return clustersOf(hits, all);
}
