import { type GameForm, levelOf } from './form.js';

/** The course of a level. */
export interface Course {
  /** What stands where; undefined: it is gone. */
  readonly pieces: readonly (string | undefined)[];
  /** How many of them are behind the player. */
  readonly passed: number;
  /** How many are behind it after a fall. */
  readonly checkpoint: number;
}

export function courseOf(form: GameForm, cells: Float64Array): Course {
  const { course, courseLength } = form.cells;
  if (courseLength === 0) return { pieces: [], passed: 0, checkpoint: 0 };
  const places = cells.subarray(course + 2, course + 2 + levelOf(form, cells).course.length);
  return {
    pieces: Array.from(places, (piece) => form.pieces[piece]?.name),
    passed: cells[course]!,
    checkpoint: cells[course + 1]!,
  };
}
