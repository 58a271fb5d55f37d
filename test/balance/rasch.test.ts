import { expect, test } from 'vitest';
import { fitRasch } from '../../src/balance/statistics/rasch.js';

const attempt = (player: number, piece: number, successes: number, failures: number) => ({
  player,
  piece,
  successes,
  failures,
});
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

test('players who met no piece in common are each placed by the pieces that they met', () => {
  const one = [attempt(0, 0, 6, 4), attempt(0, 1, 3, 7), attempt(1, 0, 8, 2), attempt(1, 1, 5, 5)];
  const other = one.map((each) => ({ ...each, player: each.player + 2, piece: each.piece + 2 }));
  const anchors = [0, 0, 3, 3];
  const { skills, difficulties } = fitRasch(4, 4, [...one, ...other], (pieces) =>
    mean(pieces.map((piece) => anchors[piece]!)),
  );
  expect(skills[2]!.value - skills[0]!.value).toBeCloseTo(3, 9);
  expect(mean([difficulties[0]!.value, difficulties[1]!.value])).toBeCloseTo(0, 9);
  expect(mean([difficulties[2]!.value, difficulties[3]!.value])).toBeCloseTo(3, 9);
});

test('where nothing bounds a group against another, each has its own estimates, and none runs away', () => {
  // The first two always succeed at the third and fourth pieces, which bounds nothing between the groups.
  const attempts = [
    attempt(0, 0, 5, 5),
    attempt(1, 0, 6, 4),
    attempt(2, 1, 5, 5),
    attempt(3, 1, 3, 7),
    attempt(0, 1, 4, 0),
    attempt(1, 1, 4, 0),
  ];
  const { skills } = fitRasch(4, 2, attempts, () => 0);
  for (const skill of skills) expect(Math.abs(skill!.value)).toBeLessThan(3);
});

test('attempts that all ended alike have no estimate', () => {
  const { skills, difficulties } = fitRasch(2, 2, [attempt(0, 0, 9, 0), attempt(1, 1, 0, 9)], () => 0);
  expect([...skills, ...difficulties]).toEqual([undefined, undefined, undefined, undefined]);
});
