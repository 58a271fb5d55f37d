import jstat from 'jstat';
import { describe, expect, test } from 'vitest';
import type { PlayerSummary } from '../../src/balance/summary.js';
import { readDesign, type Simulation, simulate, summarize } from '../../src/index.js';
import { columnOf } from '../support/samples.js';

const logistic = (x: number): number => 1 / (1 + Math.exp(-x));
const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);
const choose = (n: number, k: number): number => {
  let ways = 1;
  for (let i = 0; i < k; i++) ways = (ways * (n - i)) / (i + 1);
  return ways;
};
const binomial = (n: number, p: number): number[] =>
  Array.from({ length: n + 1 }, (_, k) => choose(n, k) * p ** k * (1 - p) ** (n - k));

const sessions = 6000;
const seed = 12;

const played = (design: object, count = sessions): Simulation =>
  simulate(readDesign(JSON.stringify(design)), { sessions: count, seed });
const one = (design: object): PlayerSummary => summarize(played(design)).players.one!;
const column = (design: object, name: Parameters<typeof columnOf>[1]): number[] =>
  columnOf(readDesign(JSON.stringify(design)), name, { sessions, seed });

/** Within four standard errors. */
function near(found: number, expected: number, deviation: number, n = sessions): void {
  expect(Math.abs(found - expected), `${found} and not ${expected}`).toBeLessThan(
    (4 * deviation) / Math.sqrt(n),
  );
}

/** Pearson's test at one in ten thousand; values that are expected fewer than ten times go together. */
function follows(values: readonly number[], chances: ReadonlyMap<number, number>): void {
  const cells: { expected: number; found: number }[] = [];
  let open = { expected: 0, found: 0 };
  for (const [value, chance] of [...chances].sort(([a], [b]) => a - b)) {
    open.expected += chance * values.length;
    open.found += values.filter((each) => each === value).length;
    if (open.expected < 10) continue;
    cells.push(open);
    open = { expected: 0, found: 0 };
  }
  const rest = values.length - sum(cells.map(({ expected }) => expected));
  const left = values.length - sum(cells.map(({ found }) => found));
  if (rest > 1) cells.push({ expected: rest, found: left });
  else cells.at(-1)!.found += left;
  const pearson = sum(cells.map(({ expected, found }) => (found - expected) ** 2 / expected));
  expect(1 - jstat.chisquare.cdf(pearson, cells.length - 1), JSON.stringify(cells)).toBeGreaterThan(1e-4);
}

/** The distribution of what a chain adds up to: each state leads to others with a chance. */
function chain<State>(
  start: State,
  steps: number,
  next: (state: State) => readonly (readonly [State, number])[],
  value: (state: State) => number,
): Map<number, number> {
  let states = new Map([[JSON.stringify(start), 1]]);
  for (let step = 0; step < steps; step++) {
    const after = new Map<string, number>();
    for (const [key, chance] of states)
      for (const [state, part] of next(JSON.parse(key) as State)) {
        const to = JSON.stringify(state);
        after.set(to, (after.get(to) ?? 0) + chance * part);
      }
    states = after;
  }
  const values = new Map<number, number>();
  for (const [key, chance] of states) {
    const at = value(JSON.parse(key) as State);
    values.set(at, (values.get(at) ?? 0) + chance);
  }
  return values;
}
const meanOf = (chances: ReadonlyMap<number, number>): number =>
  sum([...chances].map(([value, p]) => value * p));
const deviationOf = (chances: ReadonlyMap<number, number>): number => {
  const mean = meanOf(chances);
  return Math.sqrt(sum([...chances].map(([value, p]) => (value - mean) ** 2 * p)));
};

/** So many tries at a blossom, one a second, each with the chance logistic(0.5); then the run is over. */
const n = 15;
const p = logistic(0.5);
const tries = (change: object = {}): object => ({
  counters: { score: {} },
  timers: { dusk: { countdown: n + 0.5 } },
  pieces: { blossom: { is: 'collectible', takes: 1 } },
  levels: [{ place: { blossom: 50 } }],
  rules: [{ when: 'blossom.taken', do: [{ add: { score: 1 } }] }],
  screens: { heath: { live: true }, over: { ending: 'over' } },
  transitions: [{ from: 'heath', to: 'over', when: 'dusk.ended' }],
  players: { one: { skill: 0.5 } },
  ...change,
});

/** A wasp every second, each avoided with the chance logistic(0.5); a run is over at the first hit. */
const wasps = (change: object = {}): object => ({
  counters: { score: {}, lives: { start: 1, min: 0 } },
  pieces: { wasp: { is: 'hazard', lead: 0 } },
  levels: [{ spawn: [{ piece: 'wasp', every: 1 }] }],
  rules: [
    { when: 'wasp.avoided', do: [{ add: { score: 1 } }] },
    { when: 'wasp.hit', do: [{ add: { lives: -1 } }] },
  ],
  screens: { heath: { live: true }, over: { ending: 'lost' } },
  transitions: [{ from: 'heath', to: 'over', if: 'lives == 0' }],
  players: { one: { skill: 0.5, patience: 86_400 } },
  ...change,
});
const geometric = (hit: number): Map<number, number> =>
  new Map(Array.from({ length: 60 }, (_, k) => [k, (1 - hit) ** k * hit]));

describe('what is measured is what the formula says', () => {
  test('1. successes of n tries: binomial', () => {
    const chances = new Map(binomial(n, p).map((chance, k) => [k, chance]));
    follows(column(tries(), 'score'), chances);
    const { score } = one(tries());
    near(score!.mean, n * p, Math.sqrt(n * p * (1 - p)));
    expect(score!.sd).toBeCloseTo(Math.sqrt(n * p * (1 - p)), 0);
  });

  test('2. wasps avoided before the first hit: geometric', () => {
    follows(column(wasps(), 'score'), geometric(1 - p));
  });

  test('3. the longest streak in n tries: the chain of (current, longest)', () => {
    const longest = chain(
      [0, 0],
      n,
      ([row, most]) => [
        [[row! + 1, Math.max(most!, row! + 1)], p],
        [[0, most!], 1 - p],
      ],
      ([, most]) => most!,
    );
    follows(column(tries(), 'streak'), longest);
    near(one(tries()).streak!.mean, meanOf(longest), deviationOf(longest));
  });

  test('4. time to the first point: 1 / p seconds, geometric', () => {
    const first = column(tries(), 'firstPoint').filter((time) => time >= 0);
    follows(
      first.map((time) => time / 1000 - 1),
      new Map(Array.from({ length: n }, (_, k) => [k, ((1 - p) ** k * p) / (1 - (1 - p) ** n)])),
    );
  });

  test('5. time to the first life lost: 1 / (1 - p) seconds', () => {
    const { firstLoss } = one(wasps());
    near(firstLoss!.mean, 1 / (1 - p), Math.sqrt(p) / (1 - p));
  });

  test('6. the longest time without a point in n tries and half a second', () => {
    // Gaps end with a success; the last, from the last success to dusk, has half a second more.
    const gaps = chain(
      [0, 0],
      n,
      ([gap, most]) => [
        [[0, Math.max(most!, gap! + 1)], p],
        [[gap! + 1, most!], 1 - p],
      ],
      ([gap, most]) => Math.max(most!, gap! + 0.5),
    );
    follows(
      column(tries(), 'drySpell').map((time) => time / 1000),
      gaps,
    );
  });

  test('7. a streak that multiplies: the chain of (streak, score)', () => {
    const design = tries({
      counters: { score: {}, streak: { start: 1, min: 1, max: 3 } },
      rules: [
        { when: 'blossom.taken', do: [{ add: { score: 'streak', streak: 1 } }] },
        { when: 'blossom.missed', do: [{ set: { streak: 1 } }] },
      ],
    });
    const scores = chain(
      [1, 0],
      n,
      ([streak, score]) => [
        [[Math.min(3, streak! + 1), score! + streak!], p],
        [[1, score!], 1 - p],
      ],
      ([, score]) => score!,
    );
    follows(column(design, 'score'), scores);
    near(one(design).score!.mean, meanOf(scores), deviationOf(scores));
  });

  test('8. the best of four runs: the fourth power of the distribution', () => {
    const design = tries({
      transitions: [
        { from: 'heath', to: 'over', when: 'dusk.ended' },
        { from: 'over', to: 'heath', when: 'input.again', fresh: 'run' },
      ],
      players: { one: { skill: 0.5, runs: 4 } },
    });
    const scores = column(design, 'score');
    const best = Array.from({ length: sessions }, (_, at) => Math.max(...scores.slice(4 * at, 4 * at + 4)));
    let below = 0;
    const chances = binomial(n, p).map((chance, k): [number, number] => {
      const before = below ** 4;
      below += chance;
      return [k, below ** 4 - before];
    });
    follows(best, new Map(chances));
  });

  test('9. five intervals of 0.1 to 1 seconds: the sum of five uniform ones', () => {
    const design = {
      counters: { score: {} },
      timers: { gust: { every: [0.1, 1] } },
      rules: [{ when: 'gust.ticked', do: [{ add: { score: 1 } }] }],
      screens: { heath: { live: true }, over: { ending: 'over' } },
      transitions: [{ from: 'heath', to: 'over', if: 'score == 5' }],
      players: { one: {} },
    };
    const uniform = Array.from({ length: 10 }, (_, k) => k + 1);
    const times = chain(
      0,
      5,
      (time) => uniform.map((step) => [time + step, 0.1] as const),
      (time) => time,
    );
    follows(
      column(design, 'duration').map((time) => time / 100),
      times,
    );
    // Mean 5 x 0.55, variance 5 x (10^2 - 1) / 12 tenths.
    near(one(design).runSeconds!.mean, 2.75, Math.sqrt((5 * 99) / 12) / 10);
  });

  test('10. how many appear in ten seconds, every 1, 2 or 3 seconds: a renewal count', () => {
    const design = {
      grid: 1,
      counters: { score: {} },
      timers: { dusk: { countdown: 10.5 } },
      pieces: { blossom: { is: 'prop' } },
      levels: [{ spawn: [{ piece: 'blossom', every: [1, 3] }] }],
      rules: [{ when: 'blossom.appeared', do: [{ add: { score: 1 } }] }],
      screens: { heath: { live: true }, over: { ending: 'over' } },
      transitions: [{ from: 'heath', to: 'over', when: 'dusk.ended' }],
      players: { one: {} },
    };
    const counts = chain(
      [0, 0],
      11,
      ([time, count]) =>
        [1, 2, 3].map(
          (step) => [time! + step > 10 ? [99, count!] : [time! + step, count! + 1], 1 / 3] as const,
        ),
      ([, count]) => count!,
    );
    follows(column(design, 'score'), counts);
  });

  test('11. three kinds of outcome, by their weights: 1, 2 and 3 in 6', () => {
    const design = tries({
      counters: { score: {} },
      pieces: { blossom: { is: 'collectible', takes: 1, outcomes: { rich: 1, fair: 2, poor: 3 } } },
      rules: [
        { name: 'rich', when: 'blossom.rich', do: [{ add: { score: 9 } }] },
        { name: 'fair', when: 'blossom.fair', do: [{ add: { score: 3 } }] },
        { name: 'poor', when: 'blossom.poor', do: [{ add: { score: 1 } }] },
      ],
    });
    const { rules } = one(design);
    for (const [index, weight] of [1, 2, 3].entries())
      near(rules[index]!.fired / sessions, (n * weight) / 6, Math.sqrt((n * weight * (6 - weight)) / 36));
    // Points: 9, 6 and 3 of 18.
    near(rules[0]!.share!.value, 0.5, 0.2);
    expect(rules[0]!.share!.low).toBeLessThan(0.5);
    expect(rules[0]!.share!.high).toBeGreaterThan(0.5);
  });

  test('12. a foe that takes three successes at once: p cubed', () => {
    const design = wasps({
      pieces: { wasp: { is: 'hazard', lead: 0, hits: 3 } },
    });
    follows(column(design, 'score'), geometric(1 - p ** 3));
  });

  /** A level is one try; who fails it is out. */
  const ladder = {
    counters: { score: {} },
    pieces: { step: { is: 'collectible', takes: 1 } },
    levels: [{ place: { step: 1 } }, { place: { step: 1 } }, { place: { step: 1 } }],
    screens: { heath: { live: true }, top: { ending: 'won' }, fall: { ending: 'lost' } },
    transitions: [
      { from: 'heath', to: 'top', when: 'step.taken', if: 'level.last' },
      { from: 'heath', to: 'heath', when: 'step.taken', level: 'next', fresh: 'level' },
      { from: 'heath', to: 'fall', when: 'step.missed' },
    ],
    players: { one: { skill: 0.5 } },
  };

  test('13. a ladder of levels: the k-th is reached with p to the k - 1', () => {
    const { levels, endings } = one(ladder);
    for (const { level, reached } of levels) {
      const chance = p ** (level - 1);
      near(reached.value, chance, Math.sqrt(chance * (1 - chance)) + 1e-12);
    }
    near(endings.top!.value, p ** 3, Math.sqrt(p ** 3 * (1 - p ** 3)));
  });

  test('14. of those who come to a level 1 - p fail there, at each', () => {
    for (const { level, fails } of one(ladder).levels)
      near(fails!.value, 1 - p, Math.sqrt(p * (1 - p)), sessions * p ** (level - 1));
  });

  test('15. who beats whom: two geometric scores', () => {
    const design = wasps({
      players: { one: { skill: 0.5, patience: 86_400 }, other: { skill: 1.5, patience: 86_400 } },
    });
    const { wins } = summarize(played(design));
    const [better, worse] = [geometric(1 - logistic(1.5)), geometric(1 - p)];
    let chance = 0;
    for (const [x, px] of better)
      for (const [y, py] of worse) chance += x > y ? px * py : x === y ? (px * py) / 2 : 0;
    expect(wins[0]).toMatchObject({ of: 'other', over: 'one' });
    near(wins[0]!.chance.value, chance, Math.sqrt(1 / 6));
    expect(wins[0]!.chance.low).toBeLessThan(chance);
    expect(wins[0]!.chance.high).toBeGreaterThan(chance);
  });

  test('16. skill and luck: the variance between two binomials, of all', () => {
    const { skill } = summarize(played(tries({ players: { one: { skill: 0.5 }, other: { skill: -0.5 } } })));
    const between = ((n * (p - logistic(-0.5))) / 2) ** 2;
    const within = (n * p * (1 - p) + n * logistic(-0.5) * logistic(0.5)) / 2;
    expect(skill!.value).toBeCloseTo(between / (between + within), 1);
    expect(skill!.low).toBeLessThan(between / (between + within));
    expect(skill!.high).toBeGreaterThan(between / (between + within));
  });

  test('17. two alike: no skill, and each beats the other half the time', () => {
    const { skill, wins } = summarize(played(tries({ players: { one: {}, other: { pace: 1 } } })));
    expect(skill!.low).toBe(0);
    expect(skill!.value).toBeLessThan(0.001);
    expect(wins[0]!.chance.value).toBeCloseTo(0.5, 6);
  });

  test('18. learning: in run r the odds are those of run 1 times r to the power of it', () => {
    const design = readDesign(
      JSON.stringify(
        tries({
          transitions: [
            { from: 'heath', to: 'over', when: 'dusk.ended' },
            { from: 'over', to: 'heath', when: 'input.again', fresh: 'run' },
          ],
          players: { one: { skill: -0.5, runs: 8, learning: 0.7 } },
        }),
      ),
    );
    const scores = columnOf(design, 'score', { sessions: 2000, seed });
    for (const run of [1, 2, 5, 8]) {
      const odds = Math.exp(-0.5) * run ** 0.7;
      const chance = odds / (1 + odds);
      const own = scores.filter((_, at) => at % 8 === run - 1);
      near(sum(own) / own.length, n * chance, Math.sqrt(n * chance * (1 - chance)), own.length);
    }
  });

  test('19. inputs by weight: three times of four', () => {
    const design = tries({
      screens: { menu: {}, heath: { live: true }, help: { ending: 'over' }, over: { ending: 'over' } },
      transitions: [
        { from: 'menu', to: 'heath', when: 'input.start' },
        { from: 'menu', to: 'help', when: 'input.help' },
        { from: 'heath', to: 'over', when: 'dusk.ended' },
      ],
      players: { one: { inputs: { menu: { 'input.start': 3, 'input.help': 1 } } } },
    });
    const [start] = one(design).transitions;
    near(start!.count / sessions, 0.75, Math.sqrt(0.75 * 0.25));
  });

  test('20. a counter at its max for a second after each success: p of the seconds but the first', () => {
    const design = tries({
      counters: { score: {}, warm: { max: 1, min: 0 } },
      rules: [
        { when: 'blossom.taken', do: [{ set: { warm: 1 } }] },
        { when: 'blossom.missed', do: [{ set: { warm: 0 } }] },
      ],
    });
    const held = one(design).bounds.find(({ counter, bound }) => counter === 'warm' && bound === 'max')!;
    // n - 1 whole seconds and half of one, of n and a half.
    near(held.share.value, (p * (n - 0.5)) / (n + 0.5), Math.sqrt((p * (1 - p)) / n));
  });

  test('21. points for ten seconds: ten tries', () => {
    const { pace } = one(tries());
    // A try each second from the first on; the last half second has none.
    near(pace[0]!.points.value, 10 * p, Math.sqrt(10 * p * (1 - p)));
    near(pace[1]!.points.value, (5 * p * 10) / 5.5, (Math.sqrt(5 * p * (1 - p)) * 10) / 5.5);
    expect(pace.map(({ runs }) => runs)).toEqual([1, 1]);
  });

  test("22. three against three: the gambler's ruin", () => {
    const design = tries({
      counters: { score: { start: 3 } },
      timers: {},
      levels: [{ place: { blossom: 1000 } }],
      rules: [
        { when: 'blossom.taken', do: [{ add: { score: 1 } }] },
        { when: 'blossom.missed', do: [{ add: { score: -1 } }] },
      ],
      screens: { heath: { live: true }, rich: { ending: 'won' }, ruin: { ending: 'lost' } },
      transitions: [
        { from: 'heath', to: 'rich', if: 'score == 6' },
        { from: 'heath', to: 'ruin', if: 'score == 0' },
      ],
    });
    const { endings, runSeconds } = one(design);
    const ratio = (1 - p) / p;
    const rich = (1 - ratio ** 3) / (1 - ratio ** 6);
    near(endings.rich!.value, rich, Math.sqrt(rich * (1 - rich)));
    // Steps: (z - N P(rich)) / (q - p), from z = 3 to N = 6.
    const steps = (6 * rich - 3) / (2 * p - 1);
    near(runSeconds!.mean, steps, 6);
  });

  test('23. a rule with a chance of a quarter fires for a quarter', () => {
    const { rules } = one(
      tries({ rules: [{ when: 'blossom.taken', chance: 0.25, do: [{ add: { score: 1 } }] }] }),
    );
    near(rules[0]!.fired / sessions, (n * p) / 4, Math.sqrt(n * (p / 4) * (1 - p / 4)));
  });

  test('24. lives left of five after ten wasps: a binomial cut at zero', () => {
    const design = wasps({
      counters: { score: {}, lives: { start: 5, min: 0 } },
      timers: { dusk: { countdown: 10.5 } },
      transitions: [{ from: 'heath', to: 'over', when: 'dusk.ended' }],
    });
    const chances = new Map<number, number>();
    binomial(10, 1 - p).forEach((chance, hits) => {
      const left = Math.max(0, 5 - hits);
      chances.set(left, (chances.get(left) ?? 0) + chance);
    });
    follows(column(design, 'lives'), chances);
  });

  test('25. a level that begins anew with each miss: one by p tries', () => {
    const design = {
      pieces: { blossom: { is: 'collectible', difficulty: 0 } },
      levels: [{ place: { blossom: 1 } }, { place: { blossom: 1 } }],
      screens: { heath: { live: true }, home: { ending: 'won' } },
      transitions: [
        { from: 'heath', to: 'heath', when: 'blossom.missed', fresh: 'level' },
        { from: 'heath', to: 'home', when: 'blossom.taken', if: 'level.last' },
        { from: 'heath', to: 'heath', when: 'blossom.taken', fresh: 'level', level: 'next' },
      ],
      players: { one: { skill: Math.log(1 / 3), patience: 3600 } },
    };
    const { levels } = one(design);
    const chance = 1 / 4;
    // A geometric number of tries, at each level.
    for (const { tries } of levels) near(tries!.value, 1 / chance, Math.sqrt(1 - chance) / chance);
    expect(levels.map(({ fails }) => fails!.value)).toEqual([0, 0]);
  });

  test('26. two whom luck never parts are tied, and not said to win half the time', () => {
    const design = {
      counters: { score: {} },
      timers: { dusk: { countdown: 5 }, tick: { every: 1 } },
      rules: [{ when: 'tick.ticked', do: [{ add: { score: 1 } }] }],
      screens: { heath: { live: true }, over: { ending: 'over' } },
      transitions: [{ from: 'heath', to: 'over', when: 'dusk.ended' }],
      players: { one: { skill: 0 }, two: { skill: 1 } },
    };
    const { wins, skill } = summarize(played(design, 100));
    expect(wins).toMatchObject([{ of: 'two', over: 'one', isTied: true }]);
    // Three in a hundred sessions may be otherwise.
    expect(wins[0]!.chance.low).toBeCloseTo(0.5 - (1 - 0.05 ** (1 / 100)), 6);
    expect(skill).toBeNull();
  });

  test('27. people who differ: successes are a binomial over a normal skill', () => {
    const spread = 0.9;
    const values = column(tries({ players: { one: { skill: 0.5, spread } } }), 'score');
    const chances = Array(n + 1).fill(0) as number[];
    const step = 0.01;
    for (let z = -8; z <= 8; z += step) {
      const weight = (step * Math.exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI);
      binomial(n, logistic(0.5 + spread * z)).forEach((chance, k) => {
        chances[k]! += weight * chance;
      });
    }
    follows(values, new Map(chances.map((chance, k) => [k, chance])));
    // The same skill without spread does not play like that.
    expect(() =>
      follows(column(tries(), 'score'), new Map(chances.map((chance, k) => [k, chance]))),
    ).toThrow();
  });

  test('28. one who may leave after each loss: runs are geometric, cut off at the most', () => {
    const design = (ending: string) => ({
      counters: { score: {} },
      pieces: { blossom: { is: 'collectible', difficulty: 0, takes: 1 } },
      levels: [{ place: { blossom: 1 } }],
      screens: { heath: { live: true }, over: { ending } },
      transitions: [
        { from: 'heath', to: 'over', if: 'left.blossom == 0' },
        { from: 'over', to: 'heath', when: 'input.again', fresh: 'run' },
      ],
      players: { one: { runs: 5, quits: 0.3 } },
    });
    const { runs } = one(design('lost'));
    const stays = 0.7;
    const chances = [1, 2, 3, 4, 5].map((run) => (run < 5 ? 0.3 : 1) * stays ** (run - 1));
    const mean = sum(chances.map((chance, index) => (index + 1) * chance));
    const square = sum(chances.map((chance, index) => (index + 1) ** 2 * chance));
    near(runs / sessions, mean, Math.sqrt(square - mean ** 2));
    // Who wins stays.
    expect(one(design('won')).runs).toBe(5 * sessions);
  });

  test('29. attempts that vary: a sum of even draws', () => {
    const design = {
      counters: { score: {} },
      pieces: { blossom: { is: 'collectible', takes: 1 } },
      levels: [{ place: { blossom: 2 } }],
      screens: { heath: { live: true }, over: { ending: 'over' } },
      transitions: [{ from: 'heath', to: 'over', if: 'left.blossom == 0' }],
      players: { one: { timing: [0.8, 1.2] } },
    };
    // 0.8, 0.9, ... 1.2 s, each as likely; of two such draws the sums.
    const chances = new Map<number, number>();
    for (let one = 8; one <= 12; one++)
      for (let two = 8; two <= 12; two++)
        chances.set((one + two) * 100, (chances.get((one + two) * 100) ?? 0) + 1 / 25);
    follows(column(design, 'duration'), chances);
  });

  /** So many blossoms, one attempt at each, and the run is over; then another. */
  const picking = (blossoms: number, player: object): object => ({
    counters: { score: {} },
    pieces: { blossom: { is: 'collectible', takes: 1 } },
    levels: [{ place: { blossom: blossoms } }],
    rules: [{ when: 'blossom.taken', do: [{ add: { score: 1 } }] }],
    screens: { heath: { live: true }, over: { ending: 'over' } },
    transitions: [
      { from: 'heath', to: 'over', if: 'left.blossom == 0' },
      { from: 'over', to: 'heath', when: 'input.again', fresh: 'run' },
    ],
    players: { one: player },
  });

  test('30. people who differ in pace: an attempt takes lognormal time', () => {
    const paceSpread = 0.4;
    const tenths = column(picking(1, { paceSpread }), 'duration').map((time) => Math.floor(time / 100));
    const below = (tenth: number): number =>
      jstat.normal.cdf(Math.log((tenth * 100 - 0.5) / 1000) / paceSpread, 0, 1);
    follows(
      tenths,
      new Map(Array.from({ length: 60 }, (_, tenth) => [tenth, below(tenth + 1) - (tenth && below(tenth))])),
    );
  });

  test('31. practice within a run: each attempt has the odds of the first times 1 + n to the power of it', () => {
    const next = ([taken, tried]: [number, number]): [[number, number], number][] => {
      const odds = Math.exp(-1) * (1 + tried) ** 0.8;
      const chance = odds / (1 + odds);
      return [
        [[taken + 1, tried + 1], chance],
        [[taken, tried + 1], 1 - chance],
      ];
    };
    const expected = chain<[number, number]>([0, 0], 12, next, ([taken]) => taken);
    // The second run begins without the practice of the first.
    const scores = column(picking(12, { skill: -1, practice: 0.8, runs: 2 }), 'score');
    for (const run of [0, 1])
      follows(
        scores.filter((_, at) => at % 2 === run),
        expected,
      );
  });

  test('32. practice of pace: run r takes the time of the first divided by r to the power of it', () => {
    const times = column(picking(3, { paceLearning: 0.5, runs: 4 }), 'duration');
    expect(times.slice(0, 4)).toEqual([3000, 3 * 707, 3 * 577, 1500]);
    expect(new Set(times).size).toBe(4);
  });

  test('33. care: from the third success on, slower and surer', () => {
    const player = { skill: -0.5, caution: { if: 'score >= 3', pace: 2, skill: 1.5 } };
    const next = ([taken, tenths]: [number, number]): [[number, number], number][] => {
      const isCareful = taken >= 3;
      const chance = logistic(isCareful ? 1 : -0.5);
      const then = tenths + (isCareful ? 20 : 10);
      return [
        [[taken + 1, then], chance],
        [[taken, then], 1 - chance],
      ];
    };
    follows(
      column(picking(12, player), 'score'),
      chain<[number, number]>([0, 0], 12, next, ([taken]) => taken),
    );
    follows(
      column(picking(12, player), 'duration').map((time) => time / 100),
      chain<[number, number]>([0, 0], 12, next, ([, tenths]) => tenths),
    );
  });
});
