import { z } from 'zod';
import { longestDuration } from '../language/duration.js';
import { mostLevels } from '../language/level-name.js';
import { anyNumber, interval, key, listOf, mapOf, needed, seconds, text, truth, whole } from './values.js';

/** Pieces with how many of each. */
export const counts = mapOf(
  z.union([whole(0, 1000), z.string()], {
    error: 'a whole number from 0 to 1000, or an expression such as 1 + level',
  }),
  'pieces with how many, such as { blossom: 12 }',
);

const spawnCount = z.union([whole(1, 10_000), z.string()], {
  error: 'a whole number from 1 to 10000, or an expression such as 2 + level',
});

export const spawnSchema = z.strictObject({
  piece: needed(text('the name of a piece'), 'The piece that appears.'),
  every: needed(
    interval,
    'Seconds of live time between two of them. Two numbers are a random interval on the grid. An expression is evaluated each time.',
  ),
  first: key(
    z.union([seconds, z.string()], {
      error: `a number of seconds from 0 to ${longestDuration}, or an expression such as 3 - level / 4`,
    }),
    'Seconds of live time until the first one. Default: one interval.',
  ),
  atOnce: key(spawnCount, 'No more appear while this many are present.'),
  total: key(
    spawnCount,
    'How many appear in one level at most. An expression is evaluated each time one is due.',
  ),
});

const levelValue = z.union([anyNumber, z.string()], {
  error: 'a number, or an expression of level such as 10 + 2 * level',
});

export const levelSchema = z.strictObject({
  name: key(text('a text'), 'Shown as `{level.name}`. Default: `Level 1` and so on.'),
  count: key(
    whole(1, mostLevels),
    'Makes this many levels. `{level}` in the name becomes the number of each; formulas use `level`. Default: as many as a list in `values` has items, or one.',
  ),
  like: key(
    text('the name of another level'),
    'Takes all keys of a level above this one, except those written here.',
  ),
  endless: key(
    truth,
    'Whether the last level repeats without end: its number keeps growing, and its formulas with it.',
    false,
  ),
  values: key(
    mapOf(
      z.union([levelValue, z.array(levelValue).min(1, { error: 'at least one value' })], {
        error:
          'a number, an expression of level such as 10 + 2 * level, or a list of them, one for each level',
      }),
      'names with numbers, such as { quota: 10 }',
    ),
    'Values that expressions use as `level.NAME`: numbers, or formulas of `level` and dials; for several levels, a list with one per level. Every level must have every value.',
  ),
  place: key(
    counts,
    'Pieces that are there when the level begins, in file order. An expression, such as `4 + level`, is evaluated at that moment.',
  ),
  spawn: key(
    listOf(spawnSchema, 'a list of spawns, such as [{ piece: blossom, every: 1 }]'),
    'Pieces that appear while the level is played.',
  ),
  course: key(
    listOf(
      text('a piece, or several such as 3 x wasp'),
      'a list of pieces in the order in which they are met, such as [blossom, 2 x wasp, hive]',
    ),
    'Pieces that are met in this order. An event is about the next piece of that name ahead; everything before it then counts as passed. A fresh start of a life returns to the last checkpoint reached, or to the start. `course` is how many are behind the player.',
  ),
});
