/** Levels of one design. */
export const mostLevels = 1000;

/**
 * The name of one of the levels that an entry gives: its own name with the level's number in it; else, of several, with which of them it is.
 *
 * @param nth which of the `count` levels of its entry it is, from 0
 * @param number the number of the level in the design, from 1
 * @example
 * levelName('Meadow', 4, 1, 3) // => 'Meadow 2'
 * levelName('Meadow {level}', 4, 1, 3) // => 'Meadow 4'
 */
export function levelName(written: string | undefined, number: number, nth: number, count: number): string {
  const name = written ?? 'Level {level}';
  if (name.includes('{level}')) return name.replaceAll('{level}', String(number));
  return count === 1 ? name : `${name} ${nth + 1}`;
}
