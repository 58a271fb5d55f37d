import { describe, expect, test } from 'vitest';
import { check, readDesign } from '../../src/index.js';

const told = (code: string, text: string): string[] =>
  check(readDesign(text)).findings.flatMap((found) =>
    found.code === code ? [[found.message, ...(found.witness ?? [])].join(' | ')] : [],
  );

describe('what is paid for', () => {
  const bank = (
    effects: string,
    asked = 'pile > 0',
    more = '',
  ) => `counters: { score: {}, pile: { min: 0, max: 6 }, cold: { min: 0, max: 4 } }
pieces: { twig: { is: collectible, lasts: 8 } }
levels: [{ spawn: [{ piece: twig, every: 2, atOnce: 3 }] }]
rules:
  - { when: twig.taken, do: [{ add: { pile: 1 } }] }
  - { name: stack, when: input.stack, if: ${asked}, do: [${effects}] }
${more}
screens: { wood: { live: true }, home: { ending: over, text: "{score}" } }
transitions:
  - { from: wood, to: home, when: input.leave }
  - { from: home, to: wood, when: input.again, fresh: run }
`;

  test('again though nothing new was brought is told, with the session', () => {
    expect(told('paid-again', bank('{ add: { score: 5 * pile } }'))).toEqual([
      '"stack" adds to score for pile and leaves pile as it is, so the same is paid for again. | twig.taken | 2 x input.stack',
    ]);
  });

  test.each([
    ['what is put back', '{ add: { score: 5 * pile } }, { set: { pile: 0 } }', 'pile > 0', ''],
    [
      'what another rule puts back',
      '{ add: { score: 5 * pile } }, { emit: shed.full }',
      'pile > 0',
      '  - { when: shed.full, do: [{ set: { pile: 0 } }] }',
    ],
    ['what is taken piece by piece', '{ add: { score: 5 * pile } }, { add: { pile: -1 } }', 'pile > 0', ''],
    ['what only has to be large enough', '{ add: { score: 5 * pile } }', 'pile >= 3', ''],
    ['a price for each', '{ add: { score: 5 } }', 'pile > 0', ''],
  ])('%s is not', (_, effects, asked, more) => {
    expect(told('paid-again', bank(effects, asked, more))).toEqual([]);
  });

  test('with more than is asked for is told where less was there', () => {
    const bake = (asks: number) => bank('{ add: { pile: -4, score: 10 } }', `pile >= ${asks}`);
    expect(told('unpaid', bake(2))).toEqual([
      'The rule "stack" takes 4 from pile when only 2 are left, and gives score all the same. | 2 x twig.taken | input.stack',
    ]);
    expect(told('unpaid', bake(4))).toEqual([]);
  });

  test('by what the run is lost for, when something is found, is told', () => {
    const barge = (effect: string) => `counters: { score: {}, coal: { start: 8, min: 0, max: 8 } }
timers: { boiler: { every: 4 } }
pieces: { barge: { is: collectible, lasts: 8 } }
levels: [{ spawn: [{ piece: barge, every: 3, atOnce: 1 }] }]
rules:
  - { when: boiler.ticked, do: [{ add: { coal: -1 } }, { add: { score: 1 } }] }
  - { when: barge.taken, do: [{ add: { coal: ${effect} } }] }
screens: { river: { live: true }, adrift: { ending: lost, text: "{score}" } }
transitions:
  - { from: river, to: adrift, if: coal == 0 }
  - { from: adrift, to: river, when: input.again, fresh: run }
`;
    expect(told('success-costs', barge('-3'))).toHaveLength(1);
    expect(told('success-costs', barge('3'))).toEqual([]);
  });
});

test('a formula that makes later levels easier is told, of what is hard to meet and of how often it comes', () => {
  const pond = (
    difficulty: string,
    every: string,
    count = 3,
  ) => `counters: { score: {}, lives: { start: 3, min: 0 } }
pieces: { reed: { is: collectible }, pike: { is: hazard, difficulty: "${difficulty}" } }
levels:
  count: ${count}
  spawn: [{ piece: reed, every: "1 + level" }, { piece: pike, every: "${every}" }]
rules:
  - { when: reed.taken, do: [{ add: { score: 1 } }] }
  - { when: pike.hit, do: [{ add: { lives: -1 } }, { grace: 1 }] }
`;
  const easier = (...of: Parameters<typeof pond>) => told('easier-by-level', pond(...of));
  expect(easier('0.7 - 0.1 * level', '8 - level')).toEqual([
    'pike gets easier with each level: its difficulty falls from 0.6 to 0.4 on level 3.',
  ]);
  expect(easier('0.1 * level', '4 + level')).toEqual([
    'pike gets rarer with each level: one comes every 5 s at first, every 7 s on level 3.',
  ]);
  for (const [difficulty, every, count] of [
    ['0.1 * level', '8 - level'],
    // A breather before it goes on is a way to shape levels.
    ['level == 2 ? -1 : 0.1 * level', '8 - level'],
    ['0.7 - 0.1 * level', '4 + level', 1],
  ] as const)
    expect(easier(difficulty, every, count)).toEqual([]);
});
