import type { Design } from '../design/model.js';

/** Cells of a score with decimals hold it scaled up. */
export const scoreScale = (design: Design): number =>
  10 ** (design.counters.find((counter) => counter.name === design.score)?.places ?? 0);
