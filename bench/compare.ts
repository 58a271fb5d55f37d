import type { Tally } from '../src/players/tally.js';

/** Throws where two tallies differ in any value. */
export function mustBeEqual(what: string, expected: Tally, found: Tally): void {
  const columns: [string, ArrayLike<number>, ArrayLike<number>][] = [
    ['fired', expected.fired, found.fired],
    ['points', expected.points, found.points],
    ['taken', expected.taken, found.taken],
    [
      'shares',
      expected.shares.rows.subarray(0, expected.shares.length * 2),
      found.shares.rows.subarray(0, found.shares.length * 2),
    ],
    ...(['session', 'score', 'duration', 'ending', 'level', 'visited'] as const).map(
      (column): [string, ArrayLike<number>, ArrayLike<number>] => [
        column,
        expected.runs[column].subarray(0, expected.runs.length),
        found.runs[column].subarray(0, found.runs.length),
      ],
    ),
  ];
  for (const [name, a, b] of columns) {
    if (a.length !== b.length) throw new Error(`${what}: ${name} has ${b.length} values, not ${a.length}`);
    for (let index = 0; index < a.length; index++) {
      if (a[index] !== b[index])
        throw new Error(`${what}: ${name}[${index}] is ${b[index]}, not ${a[index]}`);
    }
  }
}
