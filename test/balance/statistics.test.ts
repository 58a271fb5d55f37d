import { quantile } from 'simple-statistics';
import { describe, expect, test } from 'vitest';
import { distributionOf, quantileOf } from '../../src/balance/statistics/distribution.js';
import { ratio, share, studentDeviate } from '../../src/balance/statistics/intervals.js';
import { measureNames } from '../../src/design/measures.js';
import { type DesignError, readDesign, simulate, summarize } from '../../src/index.js';
import { fineness, Histogram } from '../../src/measure/histogram.js';
import { demo, demoText } from '../support/designs.js';
import { clustersOf, spreadOf } from '../support/samples.js';

describe('intervals', () => {
  test("Wilson's interval for sessions of one run each", () => {
    // Wilson's formula by hand: 8 of 10 gives 0.4902 to 0.9433.
    const hits = [1, 1, 1, 1, 1, 1, 1, 1, 0, 0];
    const found = share(
      clustersOf(
        hits,
        hits.map(() => 1),
      ),
    );
    expect(found.value).toBe(0.8);
    // The variance by session divides by 9 instead of 10, which counts as 9 independent trials.
    const z = 1.959963984540054;
    const n = 9;
    const centre = (0.8 + z ** 2 / (2 * n)) / (1 + z ** 2 / n);
    const reach = (z / (1 + z ** 2 / n)) * Math.sqrt(0.16 / n + z ** 2 / (4 * n ** 2));
    expect(found.low).toBeCloseTo(centre - reach, 12);
    expect(found.high).toBeCloseTo(centre + reach, 12);
  });

  test('all or none is no certainty', () => {
    const none = share(clustersOf([0, 0, 0, 0], [1, 1, 1, 1]));
    expect(none.low).toBe(0);
    // z^2 / (n + z^2)
    expect(none.high).toBeCloseTo(3.8414588 / 7.8414588, 6);
    const all = share(clustersOf([2, 2, 2], [2, 2, 2]));
    expect(all.low).toBeLessThan(0.6);
    expect(all.high).toBe(1);
  });

  test('runs that go together within a session widen the interval', () => {
    const together = share(clustersOf([4, 0, 4, 0, 4, 0, 4, 0], Array(8).fill(4)));
    const apart = share(clustersOf([2, 2, 2, 2, 3, 1, 3, 1], Array(8).fill(4)));
    expect(together.value).toBe(apart.value);
    expect(together.high - together.low).toBeGreaterThan(2 * (apart.high - apart.low));
  });

  test('the ratio of two sums has the textbook standard error', () => {
    // Sessions (3 of 4, 1 of 2, 2 of 2): ratio 0.75, residuals 0, -0.5, 0.5.
    const found = ratio(clustersOf([3, 1, 2], [4, 2, 2]));
    const error = Math.sqrt((3 / 2) * 0.5) / 8;
    expect(found.value).toBe(0.75);
    // Student's deviate at as many sessions as weigh the same, 8² / (4² + 2² + 2²), less one.
    expect(found.high - found.value).toBeCloseTo(studentDeviate(0.95, 64 / 24 - 1) * error, 9);
    expect(studentDeviate(0.95, 10)).toBeCloseTo(2.228139, 6);
  });

  test('one session tells nothing about how sessions vary', () => {
    expect(share(clustersOf([1], [2]))).toEqual({ value: 0.5, low: 0, high: 1 });
  });

  test('the interval of a median covers it as often as it says', () => {
    // 300 simulations of 40 sessions; scores 0 to 999 drawn from the library's own draws, whose median is 499.5.
    let covered = 0;
    const text = JSON.stringify({
      counters: { score: {} },
      timers: { gust: { after: [0.1, 100] } },
      screens: { heath: { live: true }, over: { ending: 'over' } },
      rules: [{ when: 'over.entered', screens: 'over', do: [{ cue: 'x' }] }],
      transitions: [{ from: 'heath', to: 'over', when: 'gust.ended' }],
      players: { one: {} },
    });
    const design = readDesign(text);
    for (let seed = 0; seed < 300; seed++) {
      const { runTime } = simulate(design, { sessions: 40, seed }).players[0]!.tally.spreads;
      // In tenths of a second; the spread has milliseconds.
      const { low, high } = quantileOf(runTime, [...runTime], 0.5, 1 / 100);
      if (low <= 500.5 && high >= 500.5) covered++;
    }
    // 95 % of 300 is 285, with a deviation of 3.8.
    expect(covered).toBeGreaterThan(285 - 4 * 3.8);
  });
});

describe('distributions', () => {
  test('of a few numbers', () => {
    expect(distributionOf(spreadOf([3], [1], [2], [4]), 1)).toMatchObject({
      runs: 4,
      sessions: 4,
      mean: 2.5,
      sd: Math.sqrt(5 / 3),
      p10: 1.3,
      p25: 1.75,
      p50: 2.5,
      p75: 3.25,
      p90: 3.7,
      min: 1,
      max: 4,
    });
    expect(distributionOf(spreadOf([7]), 1)).toMatchObject({ mean: 7, sd: 0, p10: 7, p90: 7 });
    expect(distributionOf(spreadOf(), 1)).toBeUndefined();
  });

  test('quantiles are those of simple-statistics, and all is counted by session', () => {
    const values = Array.from({ length: 90 }, (_, at) => (at * 37) % 53);
    const spread = spreadOf(...Array.from({ length: 30 }, (_, at) => values.slice(3 * at, 3 * at + 3)));
    const steps = [...spread];
    for (const at of [0.1, 0.25, 0.5, 0.9])
      expect(quantileOf(spread, steps, at, 1).value).toBeCloseTo(quantile(values, at), 12);
    // Up to the median: runs by session, their squares and products, counted one by one.
    const middle = quantile(values, 0.5);
    const below = Array.from(
      { length: 30 },
      (_, at) => values.slice(3 * at, 3 * at + 3).filter((value) => value <= middle).length,
    );
    const upTo = steps.filter(({ value }) => value <= middle);
    const sum = (of: 'count' | 'weighted' | 'pairs'): number =>
      upTo.reduce((total, step) => total + step[of], 0);
    const { hits, product, hitsSquared } = clustersOf(
      below,
      below.map(() => 3),
    );
    expect([sum('count'), sum('weighted'), sum('pairs')]).toEqual([hits, product, hitsSquared]);
  });

  test('large and negative values keep their place, to one part in 16,384', () => {
    const values = [-1e12, -20_000, -5, 0, 16_383, 16_384, 16_385, 1e6 + 1, 1e9 + 7, 2 ** 52];
    const spread = spreadOf(...values.map((value) => [value]));
    const found = [...spread].map(({ value }) => value);
    expect(found).toEqual([...found].sort((a, b) => a - b));
    const total = [...spread].reduce((sum, { count }) => sum + count, 0);
    expect(total).toBe(values.length);
    for (const value of values) {
      const nearest = Math.min(...found.map((each) => Math.abs(each - value)));
      expect(nearest, String(value)).toBeLessThanOrEqual(Math.abs(value) / 16_384);
    }
    expect(spread.moments.sum).toBe(values.reduce((sum, value) => sum + value, 0));
  });

  test('is the same merged from parts in any order, and through plain data', () => {
    const sessions = Array.from({ length: 40 }, (_, at) => [at * 1000, (at * at) % 97, -at]);
    const whole = spreadOf(...sessions).toData();
    const parts = [sessions.slice(30), sessions.slice(0, 11), sessions.slice(11, 30)].map((part) =>
      spreadOf(...part),
    );
    const merged = spreadOf();
    for (const part of parts)
      merged.merge(Histogram.fromData(JSON.parse(JSON.stringify(part.toData())), fineness.values));
    expect(merged.toData()).toEqual(whole);
  });
});

describe('the summary of a simulation', () => {
  test('adds up', () => {
    const { players } = summarize(simulate(demo(), { sessions: 400, seed: 6 }));
    for (const player of Object.values(players)) {
      expect(
        Object.values(player.endings).reduce((sum, { value }) => sum + value, player.abandoned.value),
      ).toBeCloseTo(1, 12);
      const reached = player.levels.map((level) => level.reached.value);
      expect(reached[0]).toBe(1);
      expect(reached).toEqual([...reached].sort((a, b) => b - a));
      const causes = player.causes.reduce((sum, { share }) => sum + share.value, player.abandoned.value);
      expect(causes).toBeCloseTo(1, 12);
      const points = player.rules.reduce((sum, rule) => sum + rule.points, 0);
      expect(points).toBeCloseTo(player.score!.mean * player.runs, 4);
      const [score] = [player.score!];
      expect(
        score.min <= score.p10 && score.p10 <= score.p50 && score.p50 <= score.p90 && score.p90 <= score.max,
      ).toBe(true);
      const toDark = player.transitions
        .filter(({ to }) => to === 'dark')
        .reduce((sum, { count }) => sum + count, 0);
      expect(toDark).toBe(Math.round(player.endings.dark!.value * player.runs));
    }
  });

  test('judges targets with an interval: met, missed, or not yet clear', () => {
    const verdict = (bounds: string, sessions = 400): string => {
      const text = demoText.replace(
        /targets:[\s\S]*/,
        `targets: [{ measure: ending, screen: nightfall, of: veteran, ${bounds} }]`,
      );
      return summarize(simulate(readDesign(text), { sessions, seed: 1 })).targets[0]!.verdict;
    };
    expect(verdict('atLeast: 0.5')).toBe('met');
    expect(verdict('atMost: 0.5')).toBe('missed');
    expect(verdict('from: 0.845, to: 0.846')).toBe('not yet clear');
    expect(verdict('atLeast: 0.8', 5)).toBe('not yet clear');
  });

  test('a score with decimals is judged in its own units', () => {
    const text =
      '{ counters: { score: { places: 2 } }, pieces: { blossom: { is: collectible, difficulty: -20 } }, levels: [{ place: { blossom: 3 } }], rules: [{ when: blossom.taken, do: [{ add: { score: 0.25 } }] }], players: { one: {} }, targets: [{ measure: score, from: 0.7, to: 0.8 }, { measure: score, stat: mean, from: 0.7, to: 0.8 }] }';
    const { targets, players } = summarize(simulate(readDesign(text), { sessions: 100, seed: 1 }));
    expect(players.one!.score!.mean).toBe(0.75);
    expect(targets).toMatchObject([
      { value: 0.75, verdict: 'met' },
      { value: 0.75, verdict: 'met' },
    ]);
  });

  test('everything that can be measured can be a target', () => {
    const keys: { readonly [measure: string]: object } = {
      reach: { level: 2 },
      ending: { screen: 'dark' },
      fail: { level: 2 },
      share: { rule: 'gather' },
      atBound: { counter: 'streak' },
      wins: { over: 'newcomer' },
    };
    const targets = measureNames.map((measure) => ({
      measure,
      ...keys[measure],
      of: measure === 'skill' ? undefined : 'veteran',
      from: 0,
    }));
    const text = demoText.replace(/targets:[\s\S]*/, `targets: ${JSON.stringify(targets)}`);
    const { targets: found } = summarize(simulate(readDesign(text), { sessions: 200, seed: 1 }));
    expect(found.map(({ measure }) => measure)).toEqual(measureNames);
    for (const { measure, what, unit, value, low, high, verdict } of found) {
      expect(low, measure).toBeLessThanOrEqual(value!);
      expect(high, measure).toBeGreaterThanOrEqual(value!);
      expect(what.length, measure).toBeGreaterThan(4);
      if (unit === 'share') expect(value, measure).toBeLessThanOrEqual(1);
      expect(verdict, measure).toBe('met');
    }
    const of = Object.fromEntries(found.map((target) => [target.measure, target]));
    expect(of.wins!.value).toBeGreaterThan(0.95);
    expect(of.skill!.of).toBe('all players');
    expect(of.firstPoint!.value).toBeLessThan(of.firstLoss!.value!);
    expect(of.length!.value).toBeLessThan(of.session!.value!);
  });

  test.each([
    ['{ measure: fail, from: 0 }', 'missing-key'],
    ['{ measure: reach, from: 0 }', 'needs-one-of'],
    ['{ measure: reach, screen: heath, level: 2, from: 0 }', 'either-or'],
    ['{ measure: fail, level: 4, from: 0 }', 'out-of-range'],
    ['{ measure: atBound, counter: glow, from: 0 }', 'unknown-name'],
    ['{ measure: wins, over: nobody, from: 0 }', 'unknown-name'],
    ['{ measure: pace, stat: mean, from: 0 }', 'unknown-key'],
    ['{ measure: luck, from: 0 }', 'wrong-type'],
  ])('%s is told', (target, code) => {
    try {
      readDesign(demoText.replace(/targets:[\s\S]*/, `targets: [${target}]`));
      expect.unreachable();
    } catch (error) {
      expect((error as DesignError).problems.map((problem) => problem.code)).toContain(code);
    }
  });

  test('more targets at once make each interval wider', () => {
    const widths = [1, 12].map((count) => {
      const targets = Array.from({ length: count }, () => '{ measure: score, of: regular, from: 0 }').join(
        ', ',
      );
      const design = readDesign(demoText.replace(/targets:[\s\S]*/, `targets: [${targets}]`));
      const [first] = summarize(simulate(design, { sessions: 200, seed: 1 })).targets;
      return first!.high! - first!.low!;
    });
    expect(widths[1]).toBeGreaterThan(1.3 * widths[0]!);
  });

  test('every measure is measured', () => {
    const { targets } = summarize(simulate(demo(), { sessions: 300, seed: 1 }));
    expect(targets.map(({ measure }) => measure)).toEqual(['score', 'reach', 'ending', 'share']);
    for (const { value, low, high } of targets) {
      expect(low).toBeLessThanOrEqual(value!);
      expect(high).toBeGreaterThanOrEqual(value!);
      expect(high! - low!).toBeGreaterThan(0);
    }
  });
});
