import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  mergeParts,
  type Part,
  partOf,
  partText,
  readDesign,
  readPart,
  simulate,
  summarize,
  UsageError,
} from '../../src/index.js';
import { demo } from '../support/designs.js';
import { runs } from '../support/runs.js';

const text = partText(partOf(simulate(demo(), { sessions: 12, seed: 5 }), 12));

describe('a part that is not as it was written', () => {
  test('with any digit changed is refused', () => {
    const digits = [...text.matchAll(/\d/g)].map(({ index }) => index);
    fc.assert(
      fc.property(fc.constantFrom(...digits), fc.integer({ min: 1, max: 9 }), (at, by) => {
        const digit = (Number(text[at]) + by) % 10;
        expect(() => readPart(text.slice(0, at) + digit + text.slice(at + 1), 'part.json')).toThrow(
          UsageError,
        );
      }),
      runs(500),
    );
  });

  test('cut anywhere is refused', () => {
    fc.assert(
      fc.property(fc.nat(text.length - 1), (at) => {
        expect(() => readPart(text.slice(0, at), 'part.json')).toThrow(UsageError);
      }),
      runs(200),
    );
  });

  test.each([
    ['more sessions than there are', { sessions: 1e9 }],
    ['a first session out of all range', { first: 1e15 }],
    ['an end before its last session', { until: 3 }],
    ['fewer in all than it holds', { of: 5 }],
    ['a seed that is none', { seed: 0.5 }],
  ])('%s, its digest made anew, is refused', (_, change) => {
    const part = JSON.parse(text) as Part & { digest: string };
    const { digest: _digest, ...rest } = part;
    expect(() => readPart(partText({ ...rest, ...change }), 'part.json')).toThrow(UsageError);
  });

  test('with tallies of another shape is refused, not a raw error', () => {
    const part = readPart(text, 'part.json');
    const [first, ...others] = part.players;
    for (const spreads of [[], first!.tally.spreads.slice(1)]) {
      const broken = { ...part, players: [{ ...first!, tally: { ...first!.tally, spreads } }, ...others] };
      expect(() => mergeParts(demo(), [{ part: broken, file: 'part.json' }])).toThrow(UsageError);
    }
    const spread = { ...first!.tally.spreads[0]!, sums: [1, 2, 3] };
    const broken = {
      ...part,
      players: [
        { ...first!, tally: { ...first!.tally, spreads: [spread, ...first!.tally.spreads.slice(1)] } },
        ...others,
      ],
    };
    expect(() => readPart(partText(broken as Part), 'part.json')).toThrow(UsageError);
  });
});

test('times are averaged as they are, and rounded only where they are shown', () => {
  const design = readDesign(`
counters: { score: {} }
timers: { bell: { countdown: 2.15 } }
screens: { glade: { live: true }, end: { ending: over } }
transitions: [{ from: glade, to: end, when: bell.ended }]
players: { one: {} }
`);
  const { runSeconds } = summarize(simulate(design, { sessions: 50, seed: 1 })).players.one!;
  expect(runSeconds!.mean).toBe(2.15);
  expect(runSeconds!.p50).toBeCloseTo(2.15, 2);
});
