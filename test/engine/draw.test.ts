import { describe, expect, test } from 'vitest';
import { choose, draw, placeKey, sessionKey } from '../../src/engine/run/draw.js';

const place = placeKey('spawn Gorse Bank blossom 1');

/** Pearson's statistic of draws in `cells` equal parts; its mean is cells - 1, its deviation sqrt(2 (cells - 1)). */
function pearson(count: number, cells: number, drawn: (index: number) => number): number {
  const counts = new Array<number>(cells).fill(0);
  for (let index = 0; index < count; index++) counts[choose(drawn(index), cells)]!++;
  return counts.reduce((sum, found) => sum + (found - count / cells) ** 2 / (count / cells), 0);
}

const limit = (cells: number): number => cells - 1 + 5 * Math.sqrt(2 * (cells - 1));

describe('keyed draws', () => {
  test('are the same on every machine', () => {
    const key = sessionKey(1, 0);
    expect([0, 1, 2].map((asked) => draw(key, place, asked))).toEqual([3401470939, 2480081802, 1301165651]);
    expect(draw(sessionKey(2 ** 53 - 1, 12_345), placeKey('outcome wasp'), 999)).toBe(
      draw(sessionKey(2 ** 53 - 1, 12_345), placeKey('outcome wasp'), 999),
    );
  });

  test('are even over how often one place asks', () => {
    const key = sessionKey(5, 9);
    expect(pearson(200_000, 256, (asked) => draw(key, place, asked))).toBeLessThan(limit(256));
  });

  test('are even over sessions and over seeds', () => {
    expect(pearson(200_000, 256, (session) => draw(sessionKey(1, session), place, 0))).toBeLessThan(
      limit(256),
    );
    expect(pearson(200_000, 256, (seed) => draw(sessionKey(seed, 0), place, 0))).toBeLessThan(limit(256));
    expect(pearson(200_000, 256, (seed) => draw(sessionKey(seed * 2 ** 32, 0), place, 3))).toBeLessThan(
      limit(256),
    );
  });

  test('of neighbours do not go together', () => {
    const pairs: [string, (index: number) => [number, number]][] = [
      ['askings', (i) => [draw(sessionKey(1, 0), place, i), draw(sessionKey(1, 0), place, i + 1)]],
      ['sessions', (i) => [draw(sessionKey(1, i), place, 0), draw(sessionKey(1, i + 1), place, 0)]],
      [
        'places',
        (i) => [
          draw(sessionKey(1, i), placeKey('outcome wasp'), 0),
          draw(sessionKey(1, i), placeKey('outcome wasq'), 0),
        ],
      ],
      ['seeds', (i) => [draw(sessionKey(i, 0), place, 0), draw(sessionKey(i + 1, 0), place, 0)]],
    ];
    for (const [what, pair] of pairs) {
      const joint = pearson(100_000, 256, (index) => {
        const [a, b] = pair(index);
        return ((a >>> 28) * 16 + (b >>> 28)) * 2 ** 24;
      });
      expect(joint, what).toBeLessThan(limit(256));
    }
  });

  test('choose from a list evenly, ends included', () => {
    expect([0, 2 ** 32 - 1].map((drawn) => choose(drawn, 11))).toEqual([0, 10]);
    expect(choose(2 ** 31, 2)).toBe(1);
  });
});
