import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { check, DesignError, readDesign, simulate } from '../../src/index.js';
import { demo } from '../support/designs.js';
import { countedRuns } from '../support/runs.js';

const berries = (rule: string, more = ''): string =>
  `counters: { score: { start: 0, min: 0 }, combo: { start: 2 } }
pieces: { berry: { is: collectible } }
levels: [{ place: { berry: 3 } }]
timers: { dusk: { countdown: 60 } }
rules:
  - { name: eat, when: berry.taken, do: [${rule}, { add: { combo: -1 } }] }
screens: { glade: { live: true }, end: { ending: won, text: "{score}" } }
transitions:
  - { from: glade, to: end, if: left.berry == 0 }
  - { from: end, to: glade, when: input.again, fresh: run }
${more}`;

describe('a fault that a session meets', () => {
  test.each([
    ['in a counter that nothing reads', '{ add: { score: 100 / combo } }'],
    ['in the remainder of a division', '{ add: { score: 100 % combo } }'],
    ['in the seconds of a timer that nothing hears', '{ add: { dusk: 6 / combo } }'],
    ['in a number that grows without end', '{ set: { score: 1000000 * score + 1000000 } }'],
  ])('%s is an error with its witness', (_, rule) => {
    const { findings, passed } = check(readDesign(berries(rule)));
    const [error] = findings.filter(({ severity }) => severity === 'error');
    expect(error, JSON.stringify(findings.map(({ code }) => code))).toMatchObject({ place: { line: 6 } });
    expect(error!.witness!.join()).toContain('berry.taken');
    expect(passed).toBe(false);
  });

  test('is none where the divisor is never zero', () => {
    for (const rule of ['{ add: { score: 100 / (2 + combo * combo) } }', '{ add: { score: 100 / 4 } }']) {
      const { findings } = check(readDesign(berries(rule)));
      expect(findings.filter(({ severity }) => severity === 'error')).toEqual([]);
    }
    expect(check(demo()).exploration.faults).toEqual([]);
  });

  const effects = [
    { add: { a: 1 } },
    { add: { b: -1 } },
    { set: { b: 'a % 3' } },
    { add: { score: '12 / b' } },
    { add: { score: '7 % (a - b)' } },
    { set: { score: '100000 * score + a' } },
    { add: { dusk: '3 / (a - 1)' } },
    { emit: 'own.again' },
  ];
  const design = fc
    .record({
      rules: fc.array(
        fc.record({
          when: fc.constantFrom('red.taken', 'red.missed', 'own.again', 'bell.ticked', 'over.entered'),
          do: fc.array(fc.constantFrom(...effects), { minLength: 1, maxLength: 3 }),
        }),
        { minLength: 1, maxLength: 4 },
      ),
      ends: fc.constantFrom('left.red == 0', 'a >= 4', 'b < 0', 'score > 20'),
      next: fc.constantFrom({}, { level: 'next' }, { level: 'first' }),
      a: fc.integer({ min: 0, max: 2 }),
      b: fc.integer({ min: 0, max: 3 }),
    })
    .map(({ rules, ends, next, a, b }) =>
      JSON.stringify({
        counters: { score: {}, a: { start: a }, b: { start: b } },
        timers: { bell: { every: 2 }, dusk: { countdown: 20 } },
        pieces: { red: { is: 'collectible' } },
        levels: [{ place: { red: 4 } }, { place: { red: 2 }, spawn: [{ piece: 'red', every: 1, total: 5 }] }],
        rules: [
          ...rules.map((rule, index) => ({ name: `rule ${index}`, ...rule })),
          { when: 'input.tell', do: [{ emit: 'own.again' }] },
        ],
        screens: { play: { live: true }, over: { ending: 'won' } },
        transitions: [
          { from: 'play', to: 'over', if: ends },
          { from: 'play', to: 'over', when: 'dusk.ended' },
          { from: 'over', to: 'play', when: 'input.go', fresh: 'run', ...next },
        ],
      }),
    );

  test('no design passes its check and ends in one when it is simulated', () => {
    let faulty = 0;
    let sound = 0;
    fc.assert(
      fc.property(design, (text) => {
        const read = readDesign(text);
        const { passed, exploration } = check(read, { mostStates: 3_000 });
        let told = '';
        try {
          simulate(read, { sessions: 20, seed: 7 });
        } catch (error) {
          if (!(error instanceof DesignError)) throw error;
          told = error.problems[0]!.code;
        }
        if (told === '') sound++;
        else faulty++;
        if (told !== '') expect(passed, `${told}\n${text}`).toBe(false);
        if (told !== '') expect(exploration.faults.map(({ problem }) => problem.code)).toContain(told);
      }),
      countedRuns(60, 10),
    );
    // Both kinds are tried.
    expect(Math.min(faulty, sound)).toBeGreaterThan(3);
  });
});
