import { describe, expect, test } from 'vitest';
import { changeWithReach, skillWords, winWords, withInterval, withReach } from '../../src/formats/written.js';

describe('figures with their intervals', () => {
  test('have the digits that the interval leaves meaning to', () => {
    expect(withReach(0.5, 0.45, 0.55, 'count')).toBe('0.50 ± 0.05');
    expect(withReach(1080.123, 1067.3, 1092.9, 'points')).toBe('1,080 ± 13');
    expect(withReach(342, 334, 350, 'points')).toBe('342 ± 8');
    expect(withReach(0.72, 0.704, 0.736, 'share')).toBe('72.0 ± 1.6 %');
    expect(withReach(40.31, 39.3, 41.3, 'seconds')).toBe('40.3 ± 1.0 s');
    expect(withReach(5, 5, 5, 'count')).toBe('5');
    // What is left of sums that should come out even is no error of a figure.
    expect(withReach(0.1, 0.1 - 1e-17, 0.1 + 1e-17, 'share')).toBe('10 %');
    expect(withInterval(7, 7 - 1e-9, 7 + 1e-9, 'points')).toBe('7 [7, 7]');
    expect(changeWithReach({ value: 2, low: 2 - 1e-9, high: 2 + 1e-9 }, 'points')).toBe('+2');
  });

  test('show the far end where nearly none or nearly all did', () => {
    expect(withReach(0, 0, 0.0038, 'share')).toBe('≤ 0.38 %');
    expect(withReach(1, 0.9961, 1, 'share')).toBe('≥ 99.61 %');
    expect(withReach(0.0004, 0.0001, 0.0019, 'share')).toBe('≤ 0.19 %');
    expect(withReach(0.9, 0.85, 0.94, 'share')).toBe('90 ± 5 %');
    expect(withReach(1, 0.025, 1, 'share')).toBe('2 – 100 %');
    expect(withReach(0.25, 0, 0.81, 'share')).toBe('0 – 81 %');
  });

  test('show the value alone where nothing is known of its error', () => {
    expect(withReach(12, Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, 'seconds')).toBe('12 s');
    expect(withInterval(12, null, 14, 'seconds')).toBe('12 s [–, 14]');
    const same = { value: 0, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY };
    expect(changeWithReach(same, 'points')).toBe('the same in every session');
  });

  test('say how much is skill, or that it is not known', () => {
    expect(skillWords({ value: 0.731, low: 0.7, high: 0.75 })).toBe(
      'Skill accounts for 73 % [70, 75] of the differences between scores, luck for the rest',
    );
    expect(skillWords({ value: 1, low: 0, high: 1 })).toBe(
      'These sessions do not show whether skill or luck makes scores differ',
    );
  });

  test('say who outscores whom, or that they are tied', () => {
    const chance = { value: 0.927, low: 0.921, high: 0.933 };
    const win = { of: 'veteran', over: 'regular', chance, isLowBest: false };
    expect(winWords({ ...win, isTied: false })).toBe(
      'veteran outscores regular in 92.7 % [92.1, 93.3] of pairings',
    );
    expect(winWords({ ...win, isTied: false, isLowBest: true })).toBe(
      'veteran has the lower score in 7.3 % [6.7, 7.9] of pairings with regular',
    );
    expect(winWords({ ...win, isTied: true })).toBe('veteran and regular always score the same');
  });
});
