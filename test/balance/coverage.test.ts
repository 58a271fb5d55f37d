import { describe, expect, test } from 'vitest';
import { readDesign, simulate, summarize } from '../../src/index.js';
import { type Covered, coverageOf, coverageOfChanges } from '../support/coverage.js';
import { type HardDesign, hardDesigns } from '../support/hard-designs.js';
import { runs } from '../support/runs.js';

const usual = 40;
const { numRuns: times } = runs(usual);
/** Simulations that the table in the docs is made from. */
const whole = 1000;

/** An interval of 95 % is to hold the truth so often at the least, and what holds it more often than that is called conservative. */
const [least, most] = [0.93, 0.97];

/** The smallest share that so many simulations may show of intervals that hold the truth as often as they should. */
const leastSeen = (told: number): number =>
  times >= whole ? least : least - 5 * Math.sqrt((least * (1 - least)) / told);

const shareOf = ({ held, told }: Covered): number => held / told;
const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

const rows: string[] = [];

function rowOf({ name, sessions }: HardDesign, found: readonly Covered[]): string {
  const sorted = [...found].sort((a, b) => shareOf(a) - shareOf(b));
  const middle = shareOf(sorted[Math.floor(sorted.length / 2)]!);
  const conservative = sorted.filter((each) => shareOf(each) > most).length;
  return `| ${name} | ${sessions} | ${found.length} | ${percent(shareOf(sorted[0]!))}: ${sorted[0]!.figure} | ${percent(middle)} | ${conservative} |`;
}

describe('every interval holds the true value as often as it says', () => {
  for (const design of hardDesigns) {
    test(`on ${design.name}`, () => {
      const all = [...coverageOf(design, times), ...coverageOfChanges(design, times)];
      // What hardly any simulation tells says nothing of how often it holds.
      const found = all.filter(({ told }) => told >= times / 4);
      expect(found.length).toBeGreaterThan(10);
      rows.push(rowOf(design, found));
      const short = found.filter((each) => shareOf(each) < leastSeen(each.told));
      expect(short).toEqual([]);
    });
  }

  test.runIf(times === whole)('and the table in the docs says how often', async () => {
    const table = [
      '# How often the intervals hold',
      '',
      `Each design was simulated ${whole} times, with another seed each time, and each interval that Jocus reports was compared with the true value: that of`,
      'all these simulations together. An interval of 95 % should hold it in 950 of them. *Conservative* are those that do in more than 970: where scores',
      'tie, no interval can do otherwise. `npm run soak` makes this table again.',
      '',
      '| design | sessions | intervals | holds least often | middle | conservative |',
      '| --- | ---: | ---: | --- | ---: | ---: |',
      ...rows,
      '',
    ].join('\n');
    await expect(table).toMatchFileSnapshot('../../docs/coverage.md');
  });
});

test('of a handful of sessions, each interval holds its value and is made of numbers, or is not told', () => {
  const wrong: string[] = [];
  const look = (value: unknown, path: string): void => {
    if (Number.isNaN(value)) wrong.push(path);
    if (typeof value !== 'object' || value === null) return;
    const { value: found, low, high } = value as Readonly<Record<string, unknown>>;
    if (typeof found === 'number' && typeof low === 'number' && typeof high === 'number')
      if (found < low - 1e-9 || found > high + 1e-9) wrong.push(`${path}: ${found} in ${low} to ${high}`);
    for (const [key, part] of Object.entries(value)) look(part, `${path}.${key}`);
  };
  for (const { text, name } of hardDesigns)
    for (const sessions of [1, 2, 3, 5])
      look(summarize(simulate(readDesign(text), { sessions, seed: 7 })), `${name}, ${sessions}`);
  expect(wrong).toEqual([]);
});
