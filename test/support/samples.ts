import type { Clusters } from '../../src/balance/statistics/intervals.js';
import { type Design, type SimulateOptions, simulate } from '../../src/index.js';
import { fineness, Histogram } from '../../src/measure/histogram.js';
import { runColumns, runWidth } from '../../src/measure/session-log.js';

/** Sums over sessions of what was counted in each, and of what it was counted out of. */
export function clustersOf(hits: readonly number[], all: readonly number[]): Clusters {
  const sum = (of: (session: number) => number): number => hits.reduce((total, _, at) => total + of(at), 0);
  return {
    sessions: hits.length,
    hits: sum((at) => hits[at]!),
    all: sum((at) => all[at]!),
    hitsSquared: sum((at) => hits[at]! ** 2),
    allSquared: sum((at) => all[at]! ** 2),
    product: sum((at) => hits[at]! * all[at]!),
  };
}

/** A spread of values, those of one session in one list. */
export function spreadOf(...sessions: readonly (readonly number[])[]): Histogram {
  const spread = new Histogram(fineness.values);
  for (const values of sessions) spread.add(Float64Array.from(values), values.length);
  return spread;
}

/** One column of all runs, in the order in which they were played. */
export function columnOf(
  design: Design,
  column: keyof typeof runColumns,
  options: SimulateOptions,
): number[] {
  const found: number[] = [];
  simulate(design, {
    ...options,
    onSession: (_, { runs, columns }) => {
      for (let run = 0; run < runs; run++) found.push(columns[run * runWidth + runColumns[column]]!);
    },
  });
  return found;
}
