import type { Estimate } from './statistics/intervals.js';

/** How a level stands to the one before it. */
export type Climb = 'gentle' | 'drops' | 'jumps';

/** A level that more than this larger a share of runs fail at than at the one before jumps. */
const gentlest = 0.25;

/**
 * Whether levels climb gently: each is somewhat harder than the one before. Said to drop or to jump only where the intervals leave no
 * other reading.
 *
 * @param fails the share of runs that fail at each level, of those that reach it; undefined: none did
 * @returns for each level, undefined where nothing is sure
 */
export const climbs = (fails: readonly (Estimate | undefined)[]): (Climb | undefined)[] =>
  fails.map((fail, level) => {
    const before = fails[level - 1];
    if (before === undefined || fail === undefined) return undefined;
    if (fail.high < before.low) return 'drops';
    if (fail.low > before.high + gentlest) return 'jumps';
    return fail.low >= before.low && fail.high <= before.high + gentlest ? 'gentle' : undefined;
  });
