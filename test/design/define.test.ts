import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import {
  DesignError,
  defineDesign,
  designJsonSchema,
  editDesign,
  readDesign,
  runTests,
  UsageError,
  writeDesign,
} from '../../src/index.js';
import { demo, demoText } from '../support/designs.js';

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
    ];
    for (const define of wrong) expect(define).toThrow(DesignError);
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
