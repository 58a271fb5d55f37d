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
    // Where play is over then, nobody is paid twice.
    const last = bank('{ add: { score: 5 * pile } }').replace('when: input.leave', 'when: input.stack');
    expect(told('paid-again', last)).toEqual([]);
  });

  test.each([
    ['what is put back', '{ add: { score: 5 * pile } }, { set: { pile: 0 } }', 'pile > 0', ''],
    [
      'what another rule puts back',
      '{ add: { score: 5 * pile } }, { emit: shed.full }',
      'pile > 0',
      '  - { when: shed.full, do: [{ set: { pile: 0 } }] }',
    ],
    [
      'what each of them adds to',
      '{ add: { score: 5 * pile } }',
      'pile > 0',
      '  - { when: input.stack, do: [{ add: { pile: 1 } }] }',
    ],
    ['what is taken piece by piece', '{ add: { score: 5 * pile } }, { add: { pile: -1 } }', 'pile > 0', ''],
  ])('%s is not', (_, effects, asked, more) => {
    expect(told('paid-again', bank(effects, asked, more))).toEqual([]);
  });

  test('for a price that is asked of a press and not taken is told, unless it takes something else', () => {
    const shop = (effects: string, asked: string) => told('paid-again', bank(effects, asked));
    expect(shop('{ add: { score: 10 } }', 'pile >= 3')).toEqual([
      '"stack" asks for pile >= 3 and leaves pile as it is, so it adds to score again at once. | 3 x twig.taken | 2 x input.stack',
    ]);
    expect(shop('{ pay: { pile: 3 } }, { add: { score: 10 } }', 'pile >= 3')).toEqual([]);
    expect(shop('{ add: { score: 10, cold: -1 } }', 'pile >= 3')).toEqual([]);
    expect(shop('{ set: { cold: 2 } }', 'pile >= 3')).toEqual([]);
    // Nothing has to be there for it.
    expect(shop('{ add: { score: 10 } }', 'pile < 3')).toEqual([]);
  });

  test('with more than is asked for is told where less was there', () => {
    const bake = (asks: number) => bank('{ add: { pile: -4, score: 10 } }', `pile >= ${asks}`);
    expect(told('unpaid', bake(2))).toEqual([
      '"stack" takes 4 from pile when only 2 are left, and gives score all the same. | 2 x twig.taken | input.stack',
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
  // A level of its own has a time of its own.
  const own = pond('0', '4 + level').replace(/count: 3\n {2}(spawn: .*)\n/, '- { $1 }\n  - { $1 }\n');
  expect(told('easier-by-level', own)).toHaveLength(1);
  expect(told('easier-by-level', own.replace(/"4 \+ level"([^"]*)$/, '4$1'))).toEqual([]);
});

test('what is bought and makes something harder is told, by whatever it is paid', () => {
  const hedge = (
    difficulty: string,
    effects: string,
  ) => `counters: { score: {}, beetles: { min: 0 }, toads: { min: 0, max: 6 } }
pieces: { beetle: { is: collectible }, slug: { is: foe, difficulty: "${difficulty}" } }
levels: [{ spawn: [{ piece: slug, every: 4 }, { piece: beetle, every: 3 }] }]
rules:
  - { when: beetle.taken, do: [{ add: { beetles: 1 } }] }
  - { when: slug.beaten, do: [{ add: { score: 1 } }] }
  - { name: buy, when: input.toad, if: beetles >= 5, do: [${effects}] }
`;
  const paid = '{ pay: { beetles: 5 } }, { add: { toads: 1 } }';
  const harder = ['slug gets harder with toads, which "buy" gives for a price.'];
  expect(told('bought-harder', hedge('0.5 + 0.3 * toads', paid))).toEqual(harder);
  expect(told('bought-harder', hedge('toads > 0 ? 1 : 0', '{ add: { beetles: -5, toads: 1 } }'))).toEqual(
    harder,
  );
  expect(told('bought-harder', hedge('0.5 - 0.3 * toads', paid))).toEqual([]);
  // What comes for nothing is no purchase.
  expect(told('bought-harder', hedge('0.5 + 0.3 * toads', '{ add: { toads: 1 } }'))).toEqual([]);
});

describe('rules that set a counter in steps', () => {
  const nest = (
    rules: string,
    start = 3,
  ) => `counters: { score: {}, turns: { min: 0, max: 30 }, stars: { start: ${start}, min: 0, max: 3 } }
pieces: { egg: { is: prop, meets: sought, outcomes: { turned: 1 }, ends: [] } }
levels: [{ place: { egg: 1 } }]
rules:
  - { when: egg.turned, do: [{ add: { turns: 1, score: stars } }] }
${rules}
`;
  const step = (name: string, asked: string, stars: number, when = '') =>
    `  - { name: ${name}, ${when}if: ${asked}, do: [{ set: { stars: ${stars} } }] }\n`;

  test('are told where one goes back', () => {
    const order = (...steps: string[]) => told('steps-out-of-order', nest(steps.join('')));
    expect(order(step('two', 'turns > 18', 2), step('one', 'turns > 12', 1))).toEqual([
      'As turns rises, "one" sets stars to 1, and then "two" to 2: it goes one way and back.',
    ]);
    expect(order(step('two', 'turns > 12', 2), step('one', 'turns > 18', 1))).toEqual([]);
    // The step that goes back is told, not the one after it.
    expect(
      order(step('none', 'turns > 22', 0), step('two', 'turns > 14', 2), step('one', 'turns > 9', 1)),
    ).toEqual(['As turns rises, "one" sets stars to 1, and then "two" to 2: it goes one way and back.']);
    // One more way up is no step of the same.
    expect(order(step('two', 'turns > 18', 2), step('one', 'score > 12', 1))).toEqual([]);
  });

  test('are told where one that hears the same stands below the one further on', () => {
    const heard = (...steps: string[]) => told('steps-out-of-order', nest(steps.join(''), 0));
    const [some, many] = [
      step('some', 'turns >= 5', 1, 'when: egg.turned, '),
      step('many', 'turns >= 9', 2, 'when: egg.turned, '),
    ];
    expect(heard(many, some)).toEqual([
      '"many" sets stars to 2, and "some", which holds then too, sets it to 1 after it.',
    ]);
    expect(heard(some, many)).toEqual([]);
  });

  test('that hold from the start are told, if they write anything', () => {
    const atOnce = (rule: string) => told('fires-at-once', nest(rule));
    expect(atOnce(step('two', 'turns < 12', 2))).toEqual([
      '"two" fires as soon as a run begins: turns < 12 holds from the start.',
    ]);
    expect(atOnce(step('two', 'turns > 12', 2))).toEqual([]);
    expect(atOnce('  - { if: turns < 12, do: [{ cue: hum }] }')).toEqual([]);
    expect(atOnce('  - { if: left.egg > 0, do: [{ set: { stars: 2 } }] }')).toEqual([]);
  });
});

test('a best of any counter, noted at endings alone, is told where it begins again with each run', () => {
  const nest = (keep: string, rule = '') => `score: points
counters: { points: {}, turns: { min: 0, max: 30 }, fewest: { start: 99${keep} } }
pieces: { egg: { is: collectible } }
levels: [{ place: { egg: 3 } }]
rules:
  - { when: egg.taken, do: [{ add: { points: 1, turns: 1 } }] }
${rule}
screens: { tree: { live: true }, hatched: { ending: won, text: "{fewest}" } }
transitions:
  - { from: tree, to: hatched, if: points == 3, do: [{ set: { fewest: "min(fewest, turns)" } }] }
  - { from: hatched, to: tree, when: input.again, fresh: run }
`;
  expect(told('best-of-one-run', nest(''))).toHaveLength(1);
  expect(told('best-of-one-run', nest(', keep: forever'))).toEqual([]);
  // What play notes as it goes on is the best of a run.
  expect(
    told(
      'best-of-one-run',
      nest('', '  - { when: input.note, do: [{ set: { fewest: "min(fewest, turns)" } }] }'),
    ),
  ).toEqual([]);
});
