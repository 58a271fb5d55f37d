import jstat from 'jstat';
import { describe, expect, test } from 'vitest';
import { exponential, normalDeviate, successChance, threshold } from '../../src/players/meeting/chance.js';

describe('the chance of success', () => {
  test('is the logistic function of skill less difficulty', () => {
    expect(successChance(0, 0)).toBe(0.5);
    expect(successChance(1.2, -0.5) + successChance(-0.5, 1.2)).toBeCloseTo(1, 15);
    for (let gap = -40; gap <= 40; gap += 0.37) {
      const expected = 1 / (1 + Math.exp(-gap));
      expect(Math.abs(successChance(gap, 0) - expected) / expected).toBeLessThan(1e-14);
    }
  });

  test('e to a power is right to the last digits', () => {
    expect(exponential(0)).toBe(1);
    expect(exponential(1)).toBeCloseTo(Math.E, 14);
    for (let x = -40; x <= 40; x += 0.01) {
      expect(Math.abs(exponential(x) / Math.exp(x) - 1)).toBeLessThan(5e-15);
    }
  });

  test('as a threshold is whole and never a certainty', () => {
    expect(threshold(0.5)).toBe(2 ** 31);
    expect([threshold(1e-30), threshold(1 - 1e-16)]).toEqual([1, 2 ** 32 - 1]);
  });
});

test('a normal deviate is the quantile of the draw, in the middle and in both tails', () => {
  for (const drawn of [
    0,
    1,
    100,
    2 ** 20,
    2 ** 28,
    2 ** 31 - 1,
    2 ** 31,
    3 * 2 ** 30,
    2 ** 32 - 5,
    2 ** 32 - 1,
  ]) {
    const chance = (drawn + 0.5) / 2 ** 32;
    // Back through the error function of another library, whose own error is below one in 10^7.
    const back = jstat.normal.cdf(normalDeviate(drawn), 0, 1);
    expect(Math.abs(back - chance)).toBeLessThan(1e-7);
    expect(normalDeviate(drawn)).toBe(-normalDeviate(2 ** 32 - 1 - drawn));
  }
  // Known values: the quartiles, and what 2^-33 leaves below.
  expect(normalDeviate(2 ** 30)).toBeCloseTo(-0.6744897, 6);
  expect(normalDeviate(0)).toBeCloseTo(-6.337957754553789, 12);
});
