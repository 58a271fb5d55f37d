import { describe, expect, test } from 'vitest';
import { readDesign, tune } from '../../src/index.js';

/** A minute of seeds, worth what dials say, at a difficulty that a dial says. */
const heath = (targets: string) =>
  readDesign(`
dials:
  worth: { value: 4, from: 0, to: 100 }
  bonus: { value: 3, from: 0, to: 100 }
  hard: { value: 0.25, from: -2, to: 2 }
counters: { score: 0 }
timers: { day: { countdown: 60, keep: run } }
pieces: { seed: { is: collectible, difficulty: hard, takes: 1, lasts: 4 }, egg: { is: collectible, difficulty: 0, takes: 1, lasts: 4 } }
levels: [{ spawn: [{ piece: seed, every: 2, atOnce: 3 }, { piece: egg, every: 10 }] }]
rules:
  - { name: seed, when: seed.taken, do: [{ add: { score: worth } }] }
  - { name: egg, when: egg.taken, do: [{ add: { score: bonus } }] }
screens: { heath: { live: true }, home: { ending: over } }
transitions: [{ from: heath, to: home, when: day.ended }]
players: { one: { skill: 0 } }
targets:
${targets}`);

const call = { sessions: 150, seed: 1 };

describe('tune', () => {
  test('turns no more dials than it takes, to round numbers, and says so in full', () => {
    const found = tune(heath('  - { measure: score, stat: mean, from: 400, to: 520 }'), call);
    expect(found.isMet).toBe(true);
    const turned = Object.keys(found.settings).filter((name) => found.settings[name] !== found.before[name]);
    expect(turned).toHaveLength(1);
    const value = found.settings[turned[0]!]!;
    // One digit, or two that end with a five.
    expect(value / 10 ** Math.floor(Math.log10(value))).toSatisfy((digits: number) => (digits * 2) % 1 === 0);
    expect(found.conflicts).toEqual([]);
    expect(found.unmet).toEqual([]);
  });

  test('leaves alone what is met as it stands', () => {
    const found = tune(heath('  - { measure: score, stat: mean, from: 10, to: 900 }'), call);
    expect(found.settings).toEqual(found.before);
  });

  test('offers settings that are as good and far from each other', () => {
    const { choices, tried } = tune(heath('  - { measure: score, stat: mean, from: 300, to: 900 }'), call);
    expect(choices).toHaveLength(3);
    expect(new Set(choices.map(({ miss }) => miss))).toEqual(new Set([0]));
    const apart = (one: (typeof choices)[0], other: (typeof choices)[0]): number =>
      Object.entries({ worth: 100, bonus: 100, hard: 4 }).reduce(
        (sum, [name, range]) => sum + Math.abs(one.settings[name]! - other.settings[name]!) / range,
        0,
      );
    const [first, second] = choices as [(typeof choices)[0], (typeof choices)[0]];
    const good = tried.filter(({ miss }) => miss === 0);
    expect(apart(first, second)).toBe(Math.max(...good.map((each) => apart(first, each))));
  });

  test('names targets that contradict each other, and those that nothing meets', () => {
    const both = tune(
      heath(`  - { measure: share, rule: egg, atLeast: 0.6 }
  - { measure: share, rule: seed, atLeast: 0.6 }`),
      call,
    );
    expect(both.isMet).toBe(false);
    expect(both.conflicts).toMatchObject([
      { one: 'points from "egg" of one', other: 'points from "seed" of one' },
    ]);
    // The two shares make one, and 0.2 of it is wanted twice.
    expect(both.conflicts[0]!.by).toBeGreaterThan(0.19);
    expect(both.unmet).toEqual([]);
    const none = tune(heath('  - { measure: length, of: one, atLeast: 100 }'), call);
    expect(none.unmet).toEqual(['median length of a run of one']);
  });
});
