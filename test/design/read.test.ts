import { describe, expect, test } from 'vitest';
import { readDesign, Session } from '../../src/index.js';
import { changed, demo, placesOf, problemsOf } from '../support/designs.js';

describe('a design that can be read', () => {
  test('the demo, group and copied keys written out', () => {
    const design = demo();
    expect(design.title).toBe('Dusk on the Heath');
    const foxglove = design.pieces.find((piece) => piece.name === 'foxglove')!;
    expect(foxglove).toMatchObject({
      role: 'collectible',
      difficulty: 0.6,
      takes: 1200,
      lasts: 4000,
      meets: 'sought',
    });
    expect(foxglove.answersTo).toEqual(['foxglove', 'flower', 'collectible']);
    const wither = design.rules.find((rule) => rule.name === 'wither')!;
    expect(wither.events).toEqual(['blossom.missed', 'foxglove.missed']);
    expect(wither.screens).toEqual(['heath']);
  });

  test('one counter, one piece and one rule are enough to run', () => {
    const text =
      'counters: { score: {} }\npieces: { blossom: { is: collectible } }\nrules: [{ when: blossom.taken, do: [{ add: { score: 10 } }] }]';
    const session = new Session(readDesign(text));
    session.send('blossom.taken');
    expect([session.screen, session.isLive, session.counter('score')]).toEqual(['play', true, 10]);
  });

  test('JSON reads as YAML does', () => {
    const yaml = readDesign('{ counters: { score: { max: 9 } }, timers: { dusk: { countdown: 0.07 } } }');
    const json = readDesign('{"counters":{"score":{"max":9}},"timers":{"dusk":{"countdown":0.07}}}');
    const withoutPlaces = (value: unknown): unknown =>
      JSON.parse(JSON.stringify(value, (key, part) => (key === 'place' ? undefined : part)));
    expect(withoutPlaces(json)).toEqual(withoutPlaces(yaml));
    expect(json.timers[0]!.interval).toMatchObject({ least: 70, most: 70 });
  });

  test('the fingerprint follows meaning, not comments, layout, texts or tests', () => {
    const { fingerprint } = demo();
    expect(readDesign(changed('# Dusk on the Heath:', '# Another comment:')).fingerprint).toBe(fingerprint);
    expect(readDesign(changed('expect: { lives: 5 }', 'expect: { lives: 4 }')).fingerprint).toBe(fingerprint);
    expect(readDesign(changed('grace: 1', 'grace: 2')).fingerprint).not.toBe(fingerprint);
    expect(readDesign(changed('skill: 1.2', 'skill: 1.3')).fingerprint).toBe(fingerprint);
  });
});

const rest =
  'counters: { score: {}, lives: { start: 3 } }\npieces: { blossom: { is: collectible, in: flower }, wasp: { is: hazard } }\n';
const withRule = (rule: string): string => `${rest}rules:\n  - ${rule}`;
const withExpression = (condition: string): string =>
  withRule(`{ when: blossom.taken, if: "${condition}", do: [{ cue: x }] }`);

describe('every problem has its code and its place', () => {
  test.each([
    ['an empty file', '▸', 'empty-file'],
    ['only a comment', '▸# nothing\n', 'empty-file'],
    ['no YAML', 'a: [1▸', 'not-yaml'],
    ['a list instead of a design', '▸- 1', 'wrong-type'],
    ['a number instead of a design', '▸7', 'wrong-type'],
    ['an unknown section', '▸conters: {}', 'unknown-key'],
    ['an unknown key', 'counters:\n  score: { ▸strat: 3 }', 'unknown-key'],
    ['a duplicate key', 'counters:\n  score: {}\n  ▸score: {}', 'duplicate-key'],
    ['a start that is no number', 'counters: { score: { start: ▸many } }', 'unknown-name'],
    ['a wrong type', 'counters: { score: { max: ▸true } }', 'wrong-type'],
    ['a bound that reads a counter below', 'counters: { score: { max: ▸many }, many: 3 }', 'start-order'],
    [
      'a step past the range of its dial',
      'dials: { petal: { value: 1, from: 0, to: 2, step: ▸5 } }',
      'out-of-range',
    ],
    ['more levels than there may be', 'levels: [{ count: 600 }, ▸{ count: 600 }]', 'out-of-range'],
    ['a list of values that is too long', 'levels: { count: 2, values: { goal: ▸[1, 2, 3] } }', 'wrong-type'],
    ['a skill that reads the level', 'players: { one: { skill: ▸level / 2 } }', 'unknown-name'],
    [
      'a wait that reads how far the player is',
      'transitions: [{ from: play, to: play, wait: ▸course }]',
      'unknown-name',
    ],
    ['an interval without length', 'timers: { drip: { every: ▸[0, 0] } }', 'out-of-range'],
    [
      'a range of what has no numbers',
      'tests: [{ name: a, expect: { screen: ▸{ atLeast: 1 } } }]',
      'wrong-type',
    ],
    [
      'a range that is backwards',
      'tests: [{ name: a, expect: { level: ▸{ atLeast: 3, atMost: 1 } } }]',
      'bad-order',
    ],
    ['a HUD that is a number', 'tests: [{ name: a, expect: { hud: ▸3 } }]', 'wrong-type'],
    [
      'a timer that may never be so',
      'timers: { dusk: { countdown: 3 } }\ntests: [{ name: a, never: { dusk: ▸0 } }]',
      'wrong-type',
    ],
    [
      'one that was met, and is gone',
      'pieces: { bud: { is: collectible } }\nrules: [{ when: bud.taken, do: [{ clear: ▸{ bud: met } }] }]',
      'nobody-met',
    ],
    [
      'one that nobody met',
      'pieces: { bud: { is: collectible, ends: [] } }\nrules: [{ when: [bud.taken, input.go], do: [{ become: ▸{ bud: { bud: met } } }] }]',
      'nobody-met',
    ],
    [
      'an outcome tried for that is none',
      'pieces: { toad: { is: foe, success: ▸below, outcomes: { above: 1 } } }',
      'unknown-name',
    ],
    [
      'a choice without quotes',
      'rules: [{ when: input.go, if: ▸level > 3 ? true : false }]',
      'unquoted-colon',
    ],
    ['a title with a colon', 'title: ▸Dusk: a game', 'unquoted-colon'],
    ['a kind of piece that is none', 'pieces: { bubble: { is: ▸treasure } }', 'not-a-role'],
    [
      'a word that is none of its words',
      'counters: { who: { words: [bee, wasp], start: ▸fly } }',
      'unknown-name',
    ],
    [
      'a flag that is added to',
      `counters: { on: { start: false } }\nrules: [{ when: input.go, do: [{ add: { on: ▸1 } }] }]`,
      'not-a-number',
    ],
    ['a start that reads what comes after it', 'counters: { a: { start: ▸b }, b: {} }', 'start-order'],
    [
      'a pay that is not the first',
      withRule('{ when: blossom.taken, do: [{ cue: x }, ▸{ pay: { lives: 1 } }] }'),
      'pay-first',
    ],
    [
      "an event of somebody else's",
      withRule('{ when: blossom.taken, do: [{ emit: ▸blossom.hit }] }'),
      'not-your-event',
    ],
    ['a fraction for a counter', 'counters: { score: { start: ▸1.5 } }', 'wrong-type'],
    ['an endless number', 'counters: { score: { start: ▸.inf } }', 'wrong-type'],
    ['an enormous number', 'counters: { score: { max: ▸1e300 } }', 'wrong-type'],
    ['no number', 'counters: { score: { max: ▸.nan } }', 'wrong-type'],
    ['a start outside its bounds', 'counters: { score: { start: ▸7, max: 5 } }', 'out-of-range'],
    ['bounds the wrong way round', 'counters: { ▸score: { min: 7, max: 5 } }', 'bad-order'],
    ['a name with a space', 'counters: { ▸"my score": {} }', 'bad-name'],
    ['a name with markup', 'counters: { ▸"<b>": {} }', 'bad-name'],
    ['a word of the language as a name', 'counters: { ▸level: {} }', 'reserved-name'],
    ['__proto__ as a name', 'counters: { ▸__proto__: {} }', 'forbidden-key'],
    ['constructor as a name', 'counters: { ▸constructor: {} }', 'forbidden-key'],
    ['two things of one name', 'counters: { dusk: {} }\ntimers: { ▸dusk: { countdown: 3 } }', 'name-clash'],
    [
      'a level named like a screen',
      'screens: { ▸heath: { live: true } }\nlevels: [{ name: heath }]',
      'name-clash',
    ],
    [
      'a group named like a counter',
      'counters: { flower: {} }\npieces: { blossom: { is: prop, in: [▸flower] } }',
      'name-clash',
    ],
    ['a piece without a role', 'pieces: { ▸blossom: {} }', 'missing-role'],
    ['a circle of likes', 'pieces: { a: { like: ▸b }, b: { like: c }, c: { like: a } }', 'like-cycle'],
    ['a like of nothing', 'pieces: { a: { is: prop, like: ▸z } }', 'unknown-name'],
    ['a timer of no kind', 'timers: { ▸dusk: {} }', 'needs-one-of'],
    ['a timer of two kinds', 'timers: { ▸dusk: { every: 2, after: 3 } }', 'either-or'],
    ['half a millisecond', 'timers: { dusk: { countdown: ▸1.0005 } }', 'not-milliseconds'],
    [
      'no time at all between spawns',
      'pieces: { a: { is: prop } }\nlevels: [{ spawn: [{ piece: a, every: ▸0 }] }]',
      'wrong-type',
    ],
    ['a range off the grid', 'timers: { dusk: { every: ▸[1, 1.25] } }', 'off-grid'],
    ['a range backwards', 'timers: { dusk: { every: ▸[2, 1] } }', 'bad-order'],
    ['an empty list of levels', 'levels: ▸[]', 'empty-list'],
    ['an empty map of screens', 'screens: ▸{}', 'empty-list'],
    ['a spawn of nothing', 'levels: [{ spawn: [{ piece: ▸blossom, every: 1 }] }]', 'unknown-name'],
    ['a misspelt event', withRule('{ when: ▸blosom.taken, do: [{ cue: x }] }'), 'unknown-event'],
    ['an outcome of another role', withRule('{ when: ▸wasp.taken, do: [{ cue: x }] }'), 'unknown-event'],
    ['a misspelt counter', withRule('{ when: blossom.taken, do: [{ add: { ▸scor: 1 } }] }'), 'unknown-name'],
    ['a rule about nothing', withRule('▸{ do: [{ cue: x }] }'), 'needs-one-of'],
    ['an effect that is none', withRule('{ when: blossom.taken, do: [▸{}] }'), 'needs-one-of'],
    ['an effect that is two', withRule('{ when: blossom.taken, do: [▸{ grace: 1, cue: x }] }'), 'either-or'],
    [
      'a rule that only watches a timer',
      `timers: { dusk: { countdown: 3 } }\nrules:\n  - { if: ▸timer.dusk < 2, do: [{ cue: x }] }`,
      'watches-a-timer',
    ],
    [
      'a payment that only a timer decides',
      `counters: { score: {} }\ntimers: { dusk: { countdown: 3 } }\nrules:\n  - { if: score > 2, do: [{ pay: { score: ▸timer.dusk } }] }`,
      'watches-a-timer',
    ],
    [
      'a timer on a screen that is not there',
      'timers: { dusk: { countdown: 3, screens: ▸moor } }\nscreens: { heath: { live: true } }',
      'unknown-name',
    ],
    [
      'a course of more pieces than anyone would meet',
      'pieces: { wasp: { is: hazard } }\nlevels: [{ course: ▸[999999999 x wasp] }]',
      'out-of-range',
    ],
    [
      'a computed interval of something else',
      'timers: { beat: { every: ▸scor / 2 } }\ncounters: { score: {} }',
      'unknown-name',
    ],
    [
      'a comma in braces',
      withRule('{ when: blossom.taken, do: [{ set: { score: max(score, ▸3) } }] }'),
      'split-by-comma',
    ],
    ['a leading !', withRule('{ when: blossom.taken, if: ▸!lives, do: [{ cue: x }] }'), 'taken-by-yaml'],
    ['a live ending', 'screens: { ▸heath: { live: true, ending: won } }', 'either-or'],
    [
      'a transition to nowhere',
      'screens: { a: {}, b: {} }\ntransitions: [{ from: a, to: ▸c, wait: 1 }]',
      'unknown-name',
    ],
    [
      'a transition that nothing sets off',
      'screens: { a: {}, b: {} }\ntransitions: [▸{ from: a, to: b }]',
      'needs-one-of',
    ],
    ['icons without end', 'counters: { score: {} }\nhud: [{ show: score, as: ▸icons }]', 'icons-without-max'],
    ['a test that expects nothing', `${rest}tests: [▸{ name: x, do: [blossom.taken] }]`, 'missing-key'],
    ['a step that is none', `${rest}tests: [{ name: x, do: [▸jump up], expect: { score: 1 } }]`, 'bad-step'],
    [
      'a million repeats',
      `${rest}tests: [{ name: x, do: [▸999999 x blossom.taken], expect: { score: 1 } }]`,
      'out-of-range',
    ],
    ['a target of nobody', `${rest}targets: [{ measure: score, of: ▸nobody, from: 1 }]`, 'unknown-name'],
    ['a target without a bound', `${rest}targets: [▸{ measure: score }]`, 'needs-one-of'],
    [
      'an outcome that is none of the piece',
      'pieces: { wasp: { is: hazard, ends: [▸taken] } }',
      'unknown-name',
    ],
    [
      'own outcomes tried again',
      'pieces: { ▸toad: { is: foe, outcomes: { above: 1 }, again: true } }',
      'either-or',
    ],
    ['no outcomes at all', 'pieces: { toad: { is: foe, outcomes: ▸{} } }', 'empty-list'],
    ['an outcome called gone', 'pieces: { toad: { is: foe, outcomes: { ▸gone: 1 } } }', 'reserved-name'],
    ['a need that is no condition', 'pieces: { toad: { is: foe, needs: ▸3 } }', 'wrong-type'],
    [
      'a best list of a flag',
      'counters: { on: { start: true } }\nlists: { top: { of: ▸on, when: input.go } }',
      'not-a-number',
    ],
    ['a best list of nothing', 'lists: { top: { of: ▸gold, when: input.go } }', 'unknown-name'],
    [
      'a best list called like a counter',
      'counters: { top: {} }\nlists: { ▸top: { of: top, when: input.go } }',
      'name-clash',
    ],
    ['an expression cut short', withExpression('lives >▸'), 'bad-expression'],
    ['an assignment', withExpression('▸lives = 3'), 'bad-expression'],
    ['a call out of the language', withExpression("▸alert('x') == 1"), 'bad-expression'],
    ['a property of an object', withExpression('▸score.constructor == 1'), 'bad-expression'],
    ['a computed property', withExpression("▸present['blossom'] == 1"), 'bad-expression'],
    ['a function', withExpression('▸(() => true)()'), 'bad-expression'],
    ['two expressions', withExpression('true▸; true'), 'bad-expression'],
    ['a number where a condition is needed', withExpression('▸lives'), 'wrong-value-type'],
    ['a comparison of a comparison', withExpression('▸0 < lives < 3'), 'wrong-value-type'],
    ['an unknown name inside', withExpression('score > 3 and ▸livs == 0'), 'unknown-name'],
    ['a piece for a number', withExpression('▸blossom > 3'), 'bad-expression'],
    ['a level value that no level gives', withExpression('level.▸quota > 3'), 'unknown-name'],
  ])('%s', (_, marked, code) => {
    const text = marked.replace('▸', '');
    const before = marked.slice(0, marked.indexOf('▸')).split('\n');
    expect(placesOf(text)).toEqual([`${code} ${before.length}:${before.at(-1)!.length + 1}`]);
  });

  test('all problems of a file are told in one go', () => {
    const text = changed('when: blossom.taken', 'when: blosom.taken')
      .replace('lives: -1', 'livs: -1')
      .replace('to: dark,      if', 'to: drak,      if');
    expect(problemsOf(text).map(({ code }) => code)).toEqual([
      'unknown-event',
      'unknown-name',
      'unknown-name',
    ]);
  });

  test('what was meant is suggested where it is near', () => {
    const [first] = problemsOf(withRule('{ when: blosom.taken, do: [{ cue: x }] }'));
    expect(first!.details).toMatchObject({ event: 'blosom.taken' });
    expect(() => readDesign(withRule('{ when: blosom.taken, do: [{ cue: x }] }'))).toThrow(
      /Did you mean blossom\.taken\?/,
    );
  });

  test('a level value that some levels lack names them', () => {
    const text = `${rest}levels: [{ name: Low, values: { quota: 3 } }, { name: High }]\nrules: [{ if: score >= level.quota, do: [{ cue: x }] }]`;
    expect(problemsOf(text)).toMatchObject([{ code: 'missing-level-value', details: { levels: ['High'] } }]);
  });
});
