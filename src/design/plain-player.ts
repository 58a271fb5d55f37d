import type { Player } from './model.js';

/** A player that does nothing out of the usual: what holds for each key that is left out. */
export const plainPlayer: Omit<Player, 'name' | 'place'> = {
  skill: 0,
  pace: 1,
  runs: 1,
  patience: 600_000,
  learning: 0,
  paceLearning: 0,
  practice: 0,
  spread: 0,
  paceSpread: 0,
  caution: undefined,
  quits: 0,
  timing: { least: 1, most: 1, grid: 100 },
  thinks: 1000,
  style: new Map(),
  acts: [],
  inputs: new Map(),
};
