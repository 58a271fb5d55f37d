import { describe, expect, test } from 'vitest';
import { parse, stringify } from 'yaml';
import { readDesign, runTests } from '../../src/index.js';
import { changed, demo, demoText } from '../support/designs.js';

describe('the tests of a design', () => {
  test.each(['printed', 'interpreted'] as const)('pass for the demo on %s', (backend) => {
    const results = runTests(demo(), backend);
    expect(results).toHaveLength(12);
    expect(results.filter((result) => !result.passed)).toEqual([]);
  });

  const rules = parse(demoText).rules as { name: string }[];
  test.each(rules.map(({ name }) => name))('one fails when the rule "%s" is removed', (name) => {
    const design = parse(demoText);
    design.rules = rules.filter((rule) => rule.name !== name);
    design.targets = [];
    expect(runTests(readDesign(stringify(design))).some((result) => !result.passed)).toBe(true);
  });

  const fresh = [...demoText.matchAll(/fresh: \w+/g)].length;
  test('one fails when the first way into play no longer starts afresh', () => {
    expect(fresh).toBe(4);
    const text = changed(
      '{ from: dark,      to: heath,     when: input.again, fresh: run }',
      '{ from: dark, to: heath, when: input.again }',
    );
    const failed = runTests(readDesign(text)).filter((result) => !result.passed);
    expect(failed.map(({ name }) => name)).toEqual(['starting again puts everything back']);
  });

  test('say what was expected, what was found, and which rule wrote it last', () => {
    const [result] = runTests(readDesign(changed('score: 10, nectar: 1 } }', 'score: 11, nectar: 1 } }')));
    expect(result!.misses).toEqual([{ what: 'score', expected: 11, found: 10, writtenBy: 'gather' }]);
    expect(result!.place.line).toBe(
      demoText.split('\n').findIndex((line) => line.includes('a second blossom')) + 1,
    );
  });

  test('a counter that a fresh start put back names the transition', () => {
    const text = changed(
      'expect: { score: 0, lives: 3, streak: 1, nectar: 0',
      'expect: { score: 5, lives: 3, streak: 1, nectar: 0',
    );
    const miss = runTests(readDesign(text)).flatMap(({ misses }) => misses)[0]!;
    expect(miss.writtenBy).toBe('fresh: run of dark -> heath');
  });

  test('a fault is told, not thrown', () => {
    const text =
      '{ counters: { a: { start: 3 } }, rules: [{ when: input.go, do: [{ set: { a: a / 0 } }] }], tests: [{ name: divide, do: [input.go], expect: { a: 3 } }] }';
    const [result] = runTests(readDesign(text));
    expect(result).toMatchObject({ passed: false, misses: [] });
    expect(result!.fault).toContain('Infinity');
  });

  test('given sets the scene on the live screen, spawns run only when asked for', () => {
    const text = (more: string): string =>
      `{ counters: { lives: { start: 3 } }, pieces: { wasp: { is: hazard } }, levels: [{}, { place: { wasp: 2 }, spawn: [{ piece: wasp, every: 1 }] }], rules: [{ when: wasp.hit, do: [{ add: { lives: -1 } }] }], screens: { title: {}, heath: { live: true } }, tests: [{ name: x, given: { level: 2, lives: 1 }, ${more} }] }`;
    expect(
      runTests(
        readDesign(text('do: [wait 3, wasp.hit], expect: { screen: heath, level: 2, lives: 0, wasp: 1 }')),
      ),
    ).toMatchObject([{ misses: [], passed: true }]);
    expect(runTests(readDesign(text('spawns: true, do: [wait 3], expect: { wasp: 5 }')))).toMatchObject([
      { misses: [], passed: true },
    ]);
  });
});
