import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  type Design,
  DesignError,
  type Exploration,
  explore,
  type Judgement,
  readDesign,
  replay,
} from '../../src/index.js';
import { explorePlainly, type PlainFindings, smallDesign, smallScoring } from '../support/plain-explorer.js';
import { countedRuns } from '../support/runs.js';

const eventsIn = (steps: readonly string[]): number =>
  steps.reduce((sum, step) => {
    const [, times = '1', what] = /^(?:(\d+) x )?(.*)$/.exec(step)!;
    return what!.startsWith('wait ') ? sum : sum + Number(times);
  }, 0);

/** Everything that has a verdict, by what the plain explorer calls it; what it cannot tell apart is left out. */
function judged({ transitions, parts }: Exploration): [string, Judgement][] {
  const all = [
    ...transitions.map((each): [string, Judgement] => [`${each.from} -> ${each.to}`, each]),
    ...parts.flatMap((each): [string, Judgement][] =>
      each.kind === 'rule'
        ? [[`rule ${each.name}`, each]]
        : each.kind === 'outcome'
          ? [[`event ${each.name}`, each]]
          : [],
    ),
  ];
  return all.filter(([key]) => all.filter(([other]) => other === key).length === 1);
}

/** What the plain explorer finds; undefined where the very first start never comes to an end, for both. */
function plainlyOf(design: Design): PlainFindings | undefined {
  try {
    return explorePlainly(design);
  } catch (error) {
    expect(() => explore(design), String(error)).toThrow(DesignError);
    return undefined;
  }
}

test('small designs, gone through plainly in the slow reading, get the same verdicts, as short witnesses, and the same locks', () => {
  const open: string[] = [];
  let count = 0;
  let told = 0;
  let missed = 0;
  fc.assert(
    fc.property(smallDesign, (text) => {
      const design = readDesign(text);
      const plain = plainlyOf(design);
      if (!plain?.isWhole) return;
      const exploration = explore(design);
      for (const [key, { inAnyOrder: verdict, witness, reason }] of judged(exploration)) {
        const fewest = plain.fewest.get(key);
        count++;
        if (verdict === 'undecided' && !plain.isFaulty) open.push(`${key}: ${reason}\n${text}`);
        if (verdict === 'undecided') continue;
        expect(verdict, key).toBe(fewest === undefined ? 'unreachable' : 'reached');
        if (witness !== undefined) expect(eventsIn(witness.steps), `${key}: ${witness.steps}`).toBe(fewest);
      }
      const names = design.transitions.map(({ from, to }) => `${from} -> ${to}`);
      // The plain explorer tells transitions by their names.
      if (new Set(names).size < names.length || plain.isFaulty) return;
      for (const [claims, truth] of [
        [exploration.traps, plain.locked.out],
        [exploration.lostEndings, plain.locked.back],
      ] as const) {
        for (const { screen, witness } of claims) {
          told++;
          expect([...truth], `${screen}: ${witness.steps}`).toContain(screen);
        }
        if (claims.length === 0 && truth.size > 0) missed++;
      }
    }),
    countedRuns(150, 110),
  );
  // What falls between is little, and nothing where no session ends in a fault but this.
  expect(open.length / count, open.join('\n')).toBeLessThanOrEqual(0.003);
  expect(told).toBeGreaterThan(10);
  // What time alone locks in is not told: the search leaves time out.
  expect(missed / told).toBeLessThan(0.5);
});

test('no session of a small design comes to more points, or fewer, than is said; one that is shown comes to them', () => {
  let shown = 0;
  let told = 0;
  fc.assert(
    fc.property(smallScoring, (text) => {
      const design = readDesign(text);
      const plain = plainlyOf(design);
      if (plain === undefined) return;
      const { score } = explore(design);
      if (score === undefined) return;
      const { lowest, highest } = score;
      for (const [extreme, found, sign] of [
        [highest, plain.points.most, 1],
        [lowest, plain.points.least, -1],
      ] as const) {
        if (extreme === undefined) continue;
        told++;
        expect(sign * extreme.value).toBeGreaterThanOrEqual(sign * found);
        if (extreme.witness === undefined) continue;
        shown++;
        expect(replay(design, extreme.witness.record!).counters.points).toBe(extreme.value);
        if (plain.isWhole) expect(extreme.value).toBe(found);
      }
    }),
    countedRuns(50, 16),
  );
  expect(told).toBeGreaterThan(25);
  expect(shown / told).toBeGreaterThan(0.5);
});
