import { expect, test } from 'vitest';
import { readDesign, simulate, summarize } from '../../src/index.js';

const targetOf = (text: string, sessions: number, seed: number) =>
  summarize(simulate(readDesign(text), { sessions, seed })).targets[0]!;

test('a level that few runs come to is judged by these few: it is not said to be met for want of failures', () => {
  // One run in 68 comes to the second level, and three in ten of these fail there.
  const text = `
pieces:
  door: { is: collectible, difficulty: 4.2 }
  trap: { is: collectible, difficulty: 0.8473 }
levels: [{ place: { door: 1 } }, { place: { trap: 1 } }]
screens: { hall: { live: true }, out: { ending: won }, caught: { ending: lost } }
transitions:
  - { from: hall, to: hall, when: door.taken, fresh: level, level: next }
  - { from: hall, to: caught, when: [door.missed, trap.taken] }
  - { from: hall, to: out, when: trap.missed }
players: { one: { skill: 0 } }
targets: [{ measure: fail, level: 2, of: one, atMost: 0.2 }]`;
  const found = Array.from({ length: 150 }, (_, seed) => targetOf(text, 300, seed)).filter(
    ({ value }) => value !== null,
  );
  const covered = found.filter(({ low, high }) => low! <= 0.3 && high! >= 0.3).length;
  expect(found.length).toBeGreaterThan(140);
  expect(covered / found.length).toBeGreaterThan(0.93);
  // The truth lies past the bound: to call it met would be wrong.
  expect(found.filter(({ verdict }) => verdict === 'met')).toEqual([]);
});

test('the pace is all points by all time, however much runs differ in length', () => {
  const text = `
counters: { score: 0 }
timers: { tick: { every: 1, keep: run } }
pieces: { end: { is: collectible, difficulty: 2.2, takes: 2.5, again: true } }
levels: [{ place: { end: 1 } }]
rules:
  - { when: tick.ticked, do: [{ add: { score: 1 } }] }
  - { when: end.taken, do: [{ add: { score: 5 } }] }
screens: { hall: { live: true }, caught: { ending: lost } }
transitions: [{ from: hall, to: caught, when: end.taken }]
players: { one: { skill: 0 } }
targets: [{ measure: pace, of: one, from: 0 }]`;
  // n tries of 2.5 s with the chance p of success are 1 / p on average; a point for each whole second, and five.
  const chance = 1 / (1 + Math.exp(2.2));
  let points = 5;
  for (let tries = 1; tries < 2000; tries++)
    points += chance * (1 - chance) ** (tries - 1) * Math.floor(2.5 * tries);
  const truth = (10 * points * chance) / 2.5;
  const covered = Array.from({ length: 200 }, (_, seed) => targetOf(text, 100, seed)).filter(
    ({ low, high }) => low! <= truth && high! >= truth,
  ).length;
  expect(covered / 200).toBeGreaterThan(0.9);
});
