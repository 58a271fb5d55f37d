import { describe, expect, test } from 'vitest';
import { type Fit, fitLog, type LogRow, readDesign, simulate } from '../../src/index.js';
import { repeats } from '../support/runs.js';

/** A hall with flowers to gather and snares to dodge, a run of forty seconds. */
const hall = (players: string, more = '') =>
  readDesign(`
counters: { score: 0 }
timers: { day: { countdown: 40, keep: run } }
pieces:
  clover: { is: collectible, difficulty: -0.5, takes: 0.8, lasts: 4${more} }
  thyme: { is: collectible, difficulty: 0.6, takes: 1.2, lasts: 4 }
  snare: { is: hazard, difficulty: -1, lead: [1, 2] }
levels:
  - spawn:
      - { piece: clover, every: [0.5, 1.5], atOnce: 4 }
      - { piece: thyme, every: [1, 3], atOnce: 3 }
      - { piece: snare, every: [4, 6] }
rules:
  - { when: clover.taken, do: [{ add: { score: 1 } }] }
  - { when: thyme.taken, do: [{ add: { score: 2 } }] }
screens: { hall: { live: true }, out: { ending: won } }
transitions:
  - { from: hall, to: out, when: day.ended }
  - { from: out, to: hall, when: input.again, fresh: run }
players: ${players}`);

type Kept = 'tried and end' | 'events alone';

function fitted(
  design: ReturnType<typeof hall>,
  sessions: number,
  seed: number,
  kept: Kept = 'tried and end',
  simulated = 200,
): Fit {
  const rows: LogRow[] = [];
  const add = (player: string, session: number, event: string, at: number, isTried?: boolean): void => {
    rows.push({ player, session, event, at: at / 1000, isTried, file: 'log.csv', line: rows.length + 2 });
  };
  const isWhole = kept === 'tried and end';
  simulate(design, {
    sessions,
    seed,
    onEvent: (player, session, event, at, isTried) =>
      add(player, session, event, at, isWhole ? isTried : undefined),
    onSession: (player, log) => {
      if (isWhole) add(player, log.session, 'end', log.duration);
    },
  });
  return fitLog(design, rows, { sessions: simulated, seed: 99 });
}

const within = (found: { low: number; high: number } | undefined, truth: number): boolean =>
  found !== undefined && found.low <= truth && found.high >= truth;

const habit = ({ habits }: Fit['players'][0], key: string) =>
  habits.find((each) => each.key === key)?.estimate;

describe('fit', () => {
  test('covers the difficulties, though all players meet the same in sessions of the same number', () => {
    const design = hall(
      '{ one: { skill: -0.5, runs: 2 }, two: { skill: 0.3, runs: 2 }, three: { skill: 1, runs: 2 } }',
    );
    const truths = { clover: -0.5, thyme: 0.6, snare: -1 };
    const held = Array.from(repeats(40, 8), (_, seed) =>
      fitted(design, 30, seed, 'tried and end', 5),
    ).flatMap(({ pieces }) =>
      pieces.map(({ name, estimate }) => within(estimate, truths[name as keyof typeof truths])),
    );
    expect(held).toHaveLength(3 * repeats(40, 8).length);
    // Without regard for the sessions it is 82 %.
    expect(held.filter(Boolean).length / held.length).toBeGreaterThan(0.89);
  });

  test('finds what skill grows by from run to run', () => {
    const design = hall('{ one: { skill: 0.4, learning: 0.5, runs: 4 } }');
    const found = Array.from(
      repeats(30, 6),
      (_, seed) => fitted(design, 30, seed, 'tried and end', 5).players[0]!,
    );
    const learning = found.map((player) => habit(player, 'learning')!);
    expect(learning.reduce((sum, { value }) => sum + value, 0) / found.length).toBeCloseTo(0.5, 1);
    const share = (of: readonly unknown[]): number => of.length / found.length;
    expect(share(learning.filter((each) => within(each, 0.5)))).toBeGreaterThanOrEqual(25 / 30);
    expect(share(learning.filter((each) => within(each, 0)))).toBeLessThanOrEqual(3 / 30);
    expect(share(found.filter(({ estimate }) => within(estimate, 0.4)))).toBeGreaterThanOrEqual(25 / 30);
  });

  test('finds how people differ, that they leave after losses, what practice and care add', () => {
    const design = readDesign(`
counters: { score: 0, lives: { start: 2, min: 0 } }
timers: { day: { countdown: 30, keep: run } }
pieces:
  clover: { is: collectible, difficulty: -0.5, takes: 1 }
  thyme: { is: collectible, difficulty: 0.6, takes: 1 }
  snare: { is: hazard, difficulty: -1, lead: [1, 2] }
levels: [{ spawn: [{ piece: clover, every: 1 }, { piece: thyme, every: 2 }, { piece: snare, every: [4, 6] }] }]
rules:
  - { when: clover.taken, do: [{ add: { score: 1 } }] }
  - { when: snare.hit, do: [{ add: { lives: -1 } }] }
screens: { hall: { live: true }, out: { ending: won }, lost: { ending: lost } }
transitions:
  - { from: hall, to: lost, if: lives == 0 }
  - { from: hall, to: out, when: day.ended }
  - { from: [out, lost], to: hall, when: input.again, fresh: run }
players:
  many: { skill: 0.3, runs: 3, spread: 0.8, quits: 0.4, practice: 0.3, caution: { if: lives == 1, skill: 0.9 } }
  same: { skill: 0.5, runs: 3 }
`);
    const found = Array.from(repeats(12, 4), (_, seed) => fitted(design, 40, seed, 'tried and end', 20));
    const truths = { spread: 0.8, quits: 0.4, practice: 0.3, caution: 0.9, learning: 0 };
    const all = Object.entries(truths).flatMap(([key, truth]) => {
      const own = found.map(({ players }) => habit(players[0]!, key)!);
      const mean = own.reduce((sum, { value }) => sum + value, 0) / own.length;
      expect(Math.abs(mean - truth), `${key} ${mean}`).toBeLessThan(0.12);
      return own.map((each) => within(each, truth));
    });
    expect(all.filter(Boolean).length / all.length).toBeGreaterThan(0.85);
    const skills = found.map(({ players }) => within(players[0]!.estimate, 0.3));
    expect(skills.filter(Boolean).length / found.length).toBeGreaterThanOrEqual(10 / 12);
    for (const { players } of found) {
      expect(habit(players[0]!, 'spread')!.low).toBeGreaterThan(0.3);
      expect(habit(players[1]!, 'spread')!.high).toBeLessThan(0.5);
      // Nobody asked for it.
      expect(habit(players[1]!, 'practice')).toBeUndefined();
    }
    const alike = found.filter(({ players }) => habit(players[1]!, 'spread')!.low === 0);
    expect(alike.length / found.length).toBeGreaterThan(9 / 12);
    expect(found.every(({ players }) => within(habit(players[1]!, 'quits'), 0))).toBe(true);
  });

  test('finds pace and how it varies where the log tells when an attempt began, and not where it does not', () => {
    const design = (level: string) =>
      readDesign(`
grid: 0.001
counters: { score: 0 }
timers: { day: { countdown: 60, keep: run } }
pieces: { clover: { is: collectible, takes: 0.8 }, thyme: { is: collectible, difficulty: 1, takes: 1.2 } }
levels: [${level}]
screens: { hall: { live: true }, out: { ending: won } }
transitions: [{ from: hall, to: out, when: day.ended }, { from: out, to: hall, when: input.again, fresh: run }]
players: { many: { pace: 1.3, runs: 3, paceSpread: 0.25, paceLearning: 0.3, timing: [0.8, 1.4] }, same: { pace: 0.7 } }
`);
    const placed = design('{ place: { clover: 150, thyme: 50 } }');
    const found = Array.from(repeats(20, 4), (_, seed) => fitted(placed, 25, seed, 'tried and end', 5));
    // A pace of 1.3 and times around 1.1.
    const truths = { pace: 1.43, paceSpread: 0.25, paceLearning: 0.3, timing: 0.3 / 1.1 };
    for (const [key, truth] of Object.entries(truths)) {
      const own = found.map(({ players }) => habit(players[0]!, key)!);
      expect(own.filter((each) => within(each, truth)).length / own.length, key).toBeGreaterThanOrEqual(
        16 / 20,
      );
      expect(Math.max(...own.map(({ low, high }) => high - low)), key).toBeLessThan(0.6);
    }
    for (const { players } of found) {
      expect(habit(players[1]!, 'pace')!.value).toBeCloseTo(0.7, 3);
      expect(habit(players[1]!, 'paceSpread')!.high).toBeLessThan(0.001);
      expect(habit(players[1]!, 'timing')!.high).toBeLessThan(0.001);
    }
    const [player] = fitted(design('{ spawn: [{ piece: clover, every: [0.5, 2] }] }'), 25, 3).players;
    expect(habit(player!, 'pace')).toBeUndefined();
  });

  test('does not hold the seconds of a run that was left against the simulation', () => {
    // Half of the last runs are left: their length is the player's patience.
    const design = hall('{ one: { skill: 0.4, runs: 5, patience: 100 } }');
    const { likeness } = fitted(design, 40, 3);
    expect(likeness.map(({ verdict }) => verdict)).not.toContain('differs');
    expect(likeness.map(({ what }) => what)).toContain('median length of a run');
  });

  test('says not yet clear, and not alike, of five sessions', () => {
    const { likeness } = fitted(hall('{ one: { skill: 0.4 } }'), 5, 1);
    expect(likeness.map(({ verdict }) => verdict)).not.toContain('alike');
  });

  test('says when a log does not tell which misses were tried: skills are too low then', () => {
    const design = hall('{ one: { skill: 1, runs: 2 } }');
    const [told, untold] = [fitted(design, 40, 1), fitted(design, 40, 1, 'events alone')];
    expect([told.tellsTries, untold.tellsTries]).toEqual([true, false]);
    expect(within(told.players[0]!.estimate, 1)).toBe(true);
    expect(untold.players[0]!.estimate!.high).toBeLessThan(1);
  });

  test('leaves out a piece that may be tried again: its failures are no events', () => {
    const design = hall('{ one: { skill: 0.4, runs: 2 } }', ', again: true');
    const found = fitted(design, 60, 2);
    expect(found.leftOut).toEqual(['clover']);
    expect(within(found.players[0]!.estimate, 0.4)).toBe(true);
  });
});
