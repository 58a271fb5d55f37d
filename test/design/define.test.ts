import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, expectTypeOf, test } from 'vitest';
import { parse, parseDocument } from 'yaml';
import {
  DesignError,
  defineDesign,
  designJsonSchema,
  editDesign,
  GameSession,
  gameOf,
  readDesign,
  recordOf,
  runTests,
  Session,
  tune,
  UsageError,
  writeDesign,
} from '../../src/index.js';
import { compile } from '../support/compile.js';
import { demo, demoText } from '../support/designs.js';
import { root } from '../support/pages.js';

const heath = defineDesign({
  counters: { score: {}, lives: { start: 3, max: 5 } },
  timers: { daylight: { countdown: 45 } },
  pieces: { blossom: { is: 'collectible' }, wasp: { is: 'hazard' } },
  levels: [{ place: { blossom: 2 }, spawn: [{ piece: 'wasp', every: [1, 2] }] }],
  rules: [
    { name: 'gather', when: 'blossom.taken', do: [{ add: { score: 10, daylight: 2 } }] },
    { when: 'wasp.hit', do: [{ pay: { lives: 1 } }, { grace: 1 }] },
  ],
  screens: { heath: { live: true }, dark: { ending: 'lost' } },
  transitions: [{ from: 'heath', to: 'dark', when: 'daylight.ended' }],
  tests: [{ name: 'gathering', do: ['blossom.taken'], expect: { score: 10 } }],
});

describe('a design written in TypeScript', () => {
  test('is the same as one read from a file', () => {
    expect(runTests(heath)).toMatchObject([{ passed: true }]);
    expect(readDesign(writeDesign(heath)).fingerprint).toBe(heath.fingerprint);
  });

  test('is checked by the compiler name by name', () => {
    const a = { a: {} };
    const [when, t, h] = ['input.go', { t: { after: 1 } }, { h: { is: 'hazard' } }] as const;
    const wrong = [
      // @ts-expect-error a misspelt counter
      () => defineDesign({ counters: a, rules: [{ when, do: [{ add: { b: 1 } }] }] }),
      // @ts-expect-error a screen that does not exist
      () => defineDesign({ screens: a, transitions: [{ from: 'a', to: 'b', wait: 1 }] }),
      // @ts-expect-error a timer that does not exist
      () => defineDesign({ timers: t, rules: [{ when, do: [{ start: 'b' }] }] }),
      // @ts-expect-error a piece that does not exist
      () => defineDesign({ pieces: h, levels: [{ spawn: [{ piece: 'b', every: 1 }] }] }),
      // @ts-expect-error a counter on the HUD that does not exist
      () => defineDesign({ counters: a, hud: [{ show: 'b' }] }),
      // @ts-expect-error a target of a player that does not exist
      () => defineDesign({ players: a, targets: [{ measure: 'score', of: 'b', from: 1 }] }),
      // @ts-expect-error a key that no counter has
      () => defineDesign({ counters: { score: { strat: 1 } } }),
      // @ts-expect-error a key that no timer has
      () => defineDesign({ timers: { day: { countdwn: 3 } } }),
      // @ts-expect-error a key that no piece has
      () => defineDesign({ pieces: { letter: { is: 'collectible', dificulty: 1 } } }),
      // @ts-expect-error a role that does not exist
      () => defineDesign({ pieces: { letter: { is: 'colectible' } } }),
    ];
    for (const define of wrong) expect(define).toThrow(DesignError);
  });

  test('is checked by the compiler event by event', () => {
    const pieces = {
      letter: { is: 'collectible', in: ['post', 'paper'] },
      parcel: { like: 'letter', in: 'heavy' },
      dog: { is: 'foe', health: 3 },
      chest: { is: 'prop', outcomes: { gold: 1, dust: 2 } },
    } as const;
    const timers = { day: { countdown: 3, warn: 1 }, beat: { every: 1 } } as const;
    const screens = { road: { live: true } } as const;
    defineDesign({
      counters: { score: 0 },
      timers,
      pieces,
      screens,
      rules: [
        { when: ['letter.taken', 'paper.taken', 'heavy.missed'], do: [{ add: { score: 1 } }] },
        { when: ['collectible.gone', 'parcel.appeared'], do: [{ add: { score: 1 } }] },
        { when: ['dog.struck', 'dog.beaten', 'chest.gold'], do: [{ emit: 'bag.full' }] },
        { when: ['bag.full', 'day.ended', 'day.warned', 'beat.ticked'], do: [{ cue: 'chime' }] },
        { when: ['road.entered', 'input.whistle'], do: [{ cue: 'bark' }] },
      ],
    });
    const cue = [{ cue: 'chime' }] as const;
    const wrong = [
      // @ts-expect-error a misspelt outcome
      () => defineDesign({ pieces, rules: [{ when: 'letter.tken', do: cue }] }),
      // @ts-expect-error the outcome of another role, though the piece takes its role from another
      () => defineDesign({ pieces, rules: [{ when: 'parcel.beaten', do: cue }] }),
      // @ts-expect-error a piece with outcomes of its own has no other
      () => defineDesign({ pieces, rules: [{ when: 'chest.passed', do: cue }] }),
      // @ts-expect-error a countdown does not tick
      () => defineDesign({ timers, rules: [{ when: 'day.ticked', do: cue }] }),
      // @ts-expect-error no rule emits it
      () => defineDesign({ rules: [{ when: 'bag.full', do: cue }] }),
      () =>
        defineDesign({
          screens,
          pieces,
          // @ts-expect-error a transition that waits for what cannot happen
          transitions: [{ from: 'road', to: 'road', when: 'dog.missed' }],
        }),
    ];
    for (const define of wrong) expect(define).toThrow(DesignError);
  });

  test('compiles whatever design ships, and none with an outcome misspelt', () => {
    const folders = ['demo', 'demo/mechanics', 'demo/starters', 'demo/findings', 'examples/exercises'];
    const program = (design: unknown): string =>
      `import { defineDesign, Session } from 'jocus';\nexport const session = new Session(defineDesign(${JSON.stringify(design)}));\n`;
    const designs = folders.flatMap((folder) =>
      readdirSync(join(root, folder))
        .filter((file) => file.endsWith('.yaml') && !file.includes('marking'))
        .map((file) => parseDocument(readFileSync(join(root, folder, file), 'utf8')))
        // Of the examples of what is found, some are no YAML.
        .filter(({ errors }) => errors.length === 0)
        .map((document): unknown => document.toJS()),
    );
    expect(designs.length).toBeGreaterThan(60);
    const misspelt = parse(demoText.replace('when: blossom.taken', 'when: blossom.tken'));
    const told = compile(
      new Map([
        ...designs.map((design, index): [string, string] => [`right-${index}.ts`, program(design)]),
        ['wrong.ts', program(misspelt)],
      ]),
    );
    const errors = told.split('\n').filter((line) => /error TS/.test(line));
    expect(errors.filter((line) => !line.includes('wrong.ts'))).toEqual([]);
    expect(errors).toHaveLength(1);
    expect(told).toContain('blossom.tken');
  });

  test('gives a session that takes and tells its names alone', () => {
    const session = new Session(
      defineDesign({
        counters: { score: 2, gate: { start: 'shut', words: ['shut', 'open'] }, lit: false },
        timers: { day: { countdown: 3 } },
        pieces: { letter: { is: 'collectible', in: 'post' } },
        screens: { road: { live: true }, home: { ending: 'won' } },
        rules: [{ when: 'post.taken', do: [{ set: { gate: 'open' } }] }],
        transitions: [{ from: 'road', to: 'home', when: 'day.ended' }],
      }),
    );
    const held: { score: number; gate: 'shut' | 'open'; lit: boolean } = session.counters;
    expect(held).toEqual({ score: 2, gate: 'shut', lit: false });
    expectTypeOf(session.screen).toEqualTypeOf<'road' | 'home'>();
    session.send('input.go');
    expect(session.send('letter.appeared')).toBe('handled');
    // @ts-expect-error a misspelt outcome
    expect(session.send('letter.tken')).toBe('ignored');
    // @ts-expect-error a group: the game says which piece it was
    session.send('post.taken');
    // @ts-expect-error a misspelt counter
    expect(() => session.counter('scor')).toThrow(UsageError);
    // @ts-expect-error a misspelt timer
    expect(() => session.timer('dya')).toThrow(UsageError);
  });

  test('is refused by codes that the compiler knows, with what belongs to each', () => {
    const problemsOf = (text: string) => {
      try {
        readDesign(text);
      } catch (error) {
        if (error instanceof DesignError) return error.problems;
      }
      return [];
    };
    const [problem] = problemsOf(
      'rules: [{ when: input.go, do: [{ add: { scor: 1 } }] }]\ncounters: { score: 0 }',
    );
    expect(problem?.code).toBe('unknown-name');
    if (problem?.code === 'unknown-name') expect(problem.details.allowed).toContain('score');
    // @ts-expect-error no problem has this code
    expect(problem?.code === 'unknown-nme').toBe(false);
    const codeOf = (call: () => unknown): string | undefined => {
      try {
        call();
      } catch (error) {
        if (error instanceof UsageError) return error.code;
      }
      return undefined;
    };
    const session = new Session(heath);
    expect([
      codeOf(() => session.advance(Number.NaN)),
      codeOf(() => new GameSession(gameOf(heath)).counter('nectar')),
      codeOf(() => recordOf(new Session(heath, { record: false }))),
      codeOf(() => tune(heath, { sessions: 10, seed: 1 })),
    ]).toEqual(['bad-argument', 'unknown-name', 'wrong-moment', 'nothing-there']);
  });

  test('tells problems by their path', () => {
    const define = (): unknown =>
      defineDesign({
        counters: { score: {} },
        rules: [{ when: 'input.go', if: 'score = 3', do: [{ cue: 'x' }] }],
      });
    expect(define).toThrow(/^rules\[0\]\.if: /);
    const circle: { title?: unknown } = {};
    circle.title = circle;
    expect(() => defineDesign(circle as { title: string })).toThrow(UsageError);
    const hostile = JSON.parse('{ "counters": { "__proto__": {} } }');
    expect(() => defineDesign(hostile)).toThrow(/counters\.__proto__/);
  });
});

describe('writing a design', () => {
  test('keeps the meaning of what was read', () => {
    const again = readDesign(writeDesign(demo()));
    expect(again.fingerprint).toBe(demo().fingerprint);
    expect(again.tests.map(({ name, steps }) => ({ name, steps }))).toEqual(
      demo().tests.map(({ name, steps }) => ({ name, steps })),
    );
  });

  test('edits change one value and leave comments and order alone', () => {
    const text = editDesign(demoText, [
      { path: ['dials', 'petal', 'value'], value: 12 },
      { path: ['levels', 0, 'values', 'quota'], value: 9 },
    ]);
    expect(parse(text).dials.petal.value).toBe(12);
    expect(text.replace('value: 12', 'value: 10').replace('quota: 9', 'quota: 12')).toBe(demoText);
    expect(() => editDesign(demoText, [{ path: ['dials', 'no'], value: 1 }])).toThrow(UsageError);
    expect(() => editDesign('a: [', [])).toThrow(UsageError);
  });
});

describe('the JSON Schema', () => {
  test('that is shipped is current', () => {
    const shipped = JSON.parse(
      readFileSync(new URL('../../schema/design.schema.json', import.meta.url), 'utf8'),
    );
    expect(shipped, 'run npm run schema').toEqual(JSON.parse(JSON.stringify(designJsonSchema())));
    expect(shipped.$schema).toBe('https://json-schema.org/draft/2020-12/schema');
  });
});
