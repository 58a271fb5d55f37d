import { stringify } from 'csv-stringify/browser/esm/sync';
import type { Sensitivity } from '../../balance/sensitivity.js';

/** What each dial does, a row for each dial, player and figure: from its least setting to its most. */
export const effectsCsv = ({ effects }: Sensitivity): string =>
  stringify(
    effects.map(({ dial, player, what, unit, points, change, isReal }) => ({
      dial,
      player,
      figure: what,
      unit,
      least: points[0]!.setting,
      most: points.at(-1)!.setting,
      atLeast: points[0]!.value,
      atMost: points.at(-1)!.value,
      change: change.value,
      low: Number.isFinite(change.low) ? change.low : null,
      high: Number.isFinite(change.high) ? change.high : null,
      clear: isReal,
    })),
    { header: true, cast: { boolean: String } },
  );
