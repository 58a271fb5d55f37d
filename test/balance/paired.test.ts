import { expect, test } from 'vitest';
import { observe, Pairing } from '../../src/balance/statistics/paired.js';
import { quantitiesOf } from '../../src/balance/statistics/quantities.js';
import { readDesign } from '../../src/index.js';

/** A run of so many seconds, a point for each. */
const evening = (seconds: number) =>
  readDesign(`
counters: { score: 0 }
timers: { day: { countdown: ${seconds}, keep: run }, tick: { every: 1, keep: run } }
rules: [{ when: tick.ticked, do: [{ add: { score: 1 } }] }]
screens: { heath: { live: true }, home: { ending: over } }
transitions: [{ from: heath, to: home, when: day.ended }]
players: { one: { skill: 0 } }`);

function changeOf(what: string, [before, after]: readonly [number, number]) {
  const designs = [evening(before), evening(after)] as const;
  const quantities = quantitiesOf(designs[0]);
  const [one, other] = designs.map(
    (design) => observe(design, quantities, { sessions: 100, seed: 1 }).of.get('one')!,
  );
  return new Pairing(one!, other!, quantities).change(quantities.findIndex(({ name }) => name === what))!;
}

test('what changes by the same in every session is a clear change', () => {
  const { change, isReal } = changeOf('mean length of a run', [5, 6]);
  expect(isReal).toBe(true);
  expect(change.value).toBeCloseTo(1, 12);
  // Three in a hundred sessions may change by nothing, or by twice as much.
  expect(change.low).toBeCloseTo(0.05 ** (1 / 100), 9);
  expect(change.high).toBeCloseTo(2 - 0.05 ** (1 / 100), 9);
});

test('what is the same in every session has no interval, and is no change', () => {
  const { change, isReal } = changeOf('mean length of a run', [5, 5]);
  expect(isReal).toBe(false);
  expect(change).toEqual({ value: 0, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY });
});
