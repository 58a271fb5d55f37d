import { describe, expect, test } from 'vitest';
import { betterChance } from '../../src/balance/statistics/distribution.js';
import { neverSeenBound, shareDifference, wilson } from '../../src/balance/statistics/intervals.js';
import { fitRasch } from '../../src/balance/statistics/rasch.js';
import { spreadOf } from '../support/samples.js';

/** Worked examples as they stand in the literature. */
describe('published worked examples', () => {
  // Newcombe, "Two-sided confidence intervals for the single proportion", 1998, table I, method 3.
  test.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('Wilson: %i of %i', (hits, trials, low, high) => {
    const found = wilson(hits / trials, trials);
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  // The same table, method 5: 0 of 20 is below 0.1684 with a chance of 97.5 %.
  test('Clopper and Pearson: none of 20', () => {
    expect(neverSeenBound(20, 0.975)).toBeCloseTo(0.1684, 4);
  });

  // Newcombe, "Interval estimation for the difference between independent proportions", 1998, table II, method 10.
  test.each([
    [56, 70, 48, 80, 0.0524, 0.3339],
    [9, 10, 3, 10, 0.1705, 0.809],
    [10, 10, 0, 20, 0.6791, 1],
  ])('Newcombe: %i of %i against %i of %i', (a, m, b, n, low, high) => {
    const found = shareDifference(wilson(a / m, m), wilson(b / n, n));
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  // Hanley and McNeil, "The meaning and use of the area under a receiver operating characteristic curve", 1982: ratings from 1 to 5 of 58
  // normal and 51 abnormal images; the area is 0.893, its standard error 0.032.
  test('the chance to be rated higher, half of the ties with it', () => {
    const rated = (counts: readonly number[]) =>
      spreadOf(...counts.flatMap((count, at) => Array.from({ length: count }, () => [at + 1])));
    const { value, low, high } = betterChance(rated([3, 2, 2, 11, 33]), rated([33, 6, 6, 11, 2]))!;
    expect(value).toBeCloseTo(0.893, 3);
    expect((high - low) / (2 * 1.96)).toBeCloseTo(0.032, 2);
  });

  // The section VI of the law school admission test, 1,000 persons, 5 items (Bock and Lieberman 1970). Conditional maximum likelihood
  // gives the difficulties below (Andersen 1972); joint estimates are wider
  // by about 5 / 4 (Wright and Douglas 1977).
  test('Rasch: five items of a test', () => {
    const persons = [20, 85, 237, 357];
    // Of those who answered all, 298, nothing is learnt.
    const right = [924, 709, 553, 763, 870].map((count) => count - 298);
    const { difficulties } = fitRasch(4, 5, withMargins(persons, right), () => 0);
    const expected = [-1.256, 0.475, 1.236, 0.168, -0.623];
    for (const [item, difficulty] of difficulties.entries())
      expect(Math.abs(difficulty!.value * (4 / 5) - expected[item]!)).toBeLessThan(0.08);
  });
});

/**
 * How often each group of persons, who have 1, 2, 3 or 4 answers right, answered each item: any table with these sums, since the
 * estimates depend on nothing else.
 */
function withMargins(persons: readonly number[], right: readonly number[]) {
  const table = persons.map((count, at) => right.map(() => (count * (at + 1)) / 5));
  for (let round = 0; round < 500; round++) {
    right.forEach((wanted, item) => {
      const found = table.reduce((total, row) => total + row[item]!, 0);
      shift(
        table.map((row, at) => ({ row, item, of: persons[at]! })),
        wanted / found,
      );
    });
    table.forEach((row, at) => {
      const wanted = persons[at]! * (at + 1);
      const found = row.reduce((total, cell) => total + cell, 0);
      shift(
        row.map((_, item) => ({ row, item, of: persons[at]! })),
        wanted / found,
      );
    });
  }
  return table.flatMap((row, player) =>
    row.map((successes, piece) => ({ player, piece, successes, failures: persons[player]! - successes })),
  );
}

/** Scales the odds of some cells, whose sum then is nearer to the one wanted. */
function shift(
  cells: readonly { readonly row: number[]; readonly item: number; readonly of: number }[],
  by: number,
): void {
  for (const { row, item, of } of cells) {
    const odds = (row[item]! / (of - row[item]!)) * by;
    row[item] = (of * odds) / (1 + odds);
  }
}
