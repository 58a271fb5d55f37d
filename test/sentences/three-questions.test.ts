import { describe, expect, test } from 'vitest';
import { check, readDesign, simulate, summarize, UsageError } from '../../src/index.js';
import { type Answers, designFrom, endsWhen } from '../../src/sentences/three-questions.js';

const all: Answers[] = endsWhen.flatMap((ends) =>
  ['', 'owl'].map((hurts): Answers => ({ take: 'acorn', hurts, ends })),
);

describe('three answers', () => {
  test.each(all.filter(({ hurts, ends }) => hurts !== '' || ends !== 'lives'))(
    'take $take, hurts "$hurts", over by $ends: a game without findings that its players end',
    (answers) => {
      const design = readDesign(designFrom(answers));
      const { findings, passed, exploration } = check(design);
      const open = findings.filter(({ accepted }) => accepted === undefined);
      expect(open.map(({ message }) => message)).toEqual([]);
      expect(passed).toBe(true);
      expect(exploration.transitions.every(({ verdict }) => verdict === 'reached')).toBe(true);
      const { players } = summarize(simulate(design, { sessions: 100, seed: 1 }));
      for (const { score, endings } of Object.values(players)) {
        expect(score!.p50).toBeGreaterThan(0);
        expect(Object.values(endings).reduce((sum, share) => sum + share.value, 0)).toBeCloseTo(1);
      }
    },
  );

  test.each([
    [{ take: 'score', hurts: '', ends: 'time' }, 'has a score already'],
    [{ take: 'owl', hurts: 'owl', ends: 'time' }, 'cannot both be called owl'],
    [{ take: 'two words', hurts: '', ends: 'all' }, 'is no name'],
    [{ take: '', hurts: '', ends: 'all' }, 'is no name'],
    [{ take: 'acorn', hurts: '', ends: 'lives' }, 'Something must hurt'],
  ] as [Answers, string][])('that cannot be a game say so: %j', (answers, message) => {
    expect(() => designFrom(answers)).toThrow(UsageError);
    expect(() => designFrom(answers)).toThrow(message);
  });
});
