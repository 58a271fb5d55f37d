import { describe, expect, test } from 'vitest';
import { exponential, successChance, threshold } from '../../src/players/meeting/chance.js';

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
