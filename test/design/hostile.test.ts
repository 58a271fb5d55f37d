import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DesignError, readDesign } from '../../src/index.js';
import { demoText, placesOf, problemsOf } from '../support/designs.js';
import { runs } from '../support/runs.js';

describe('hostile files', () => {
  test('aliases that multiply without end', () => {
    const lines = ['a0: &a0 [x, x, x, x, x, x, x, x, x]'];
    for (let level = 1; level < 12; level++)
      lines.push(
        `a${level}: &a${level} [${Array(9)
          .fill(`*a${level - 1}`)
          .join(', ')}]`,
      );
    expect(placesOf(lines.join('\n'))).toEqual(['too-large 1:1']);
  });

  test('an alias to itself', () => {
    expect(placesOf('counters: &a { b: *a }')).toEqual(['too-large 1:1']);
  });

  test('brackets nested ten thousand deep', () => {
    expect(problemsOf(`counters: ${'['.repeat(10_000)}`).length).toBeGreaterThan(0);
    const deep = `rules: [{ if: "${'('.repeat(400)}1${')'.repeat(400)} > 0", do: [{ cue: x }] }]`;
    expect(placesOf(deep)).toEqual([]);
    expect(placesOf(deep.replaceAll('(((', '((((').replaceAll(')))', '))))'))).toEqual([
      'bad-expression 1:16',
    ]);
  });

  test('a file that is too long', () => {
    expect(placesOf(`# ${'x'.repeat(5_000_000)}`)).toEqual(['too-large 1:1']);
  });

  test('names that every object answers to are refused wherever they stand', () => {
    for (const name of ['__proto__', 'constructor', 'toString', 'hasOwnProperty', 'prototype']) {
      expect(placesOf(`pieces: { ${name}: { is: prop } }`), name).toEqual(['forbidden-key 1:11']);
      const event = problemsOf(`rules: [{ when: ${name}.taken, do: [{ cue: x }] }]`);
      expect(
        event.map(({ code }) => code),
        name,
      ).toEqual(['unknown-event']);
    }
    expect(({} as Record<string, unknown>).is).toBeUndefined();
  });

  const characters = fc.constantFrom(
    ...'{}[]:,"\'#&*!|>%@`\n\t -?0e.\u0000\u202e<'.split(''),
    'null',
    '1e999',
    '__proto__',
    '&a',
    '*a',
    '<<: ',
    'like: blossom',
  );
  const edit = fc.record({ at: fc.nat(10_000), cut: fc.integer({ min: 0, max: 30 }), put: characters });
  const edits = fc.array(edit, { minLength: 1, maxLength: 4 });

  /** Reads a text with some passages cut out and others put in: it is understood, or refused with a place in it. */
  function readDamaged(whole: string, changes: readonly { at: number; cut: number; put: string }[]): void {
    const text = changes.reduce((before, { at, cut, put }) => {
      const from = at % (before.length + 1);
      return before.slice(0, from) + put + before.slice(from + cut);
    }, whole);
    try {
      readDesign(text, 'damaged.yaml');
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      for (const { place } of error.problems) {
        expect(place.line).toBeGreaterThan(0);
        expect(place.line).toBeLessThanOrEqual(text.split('\n').length);
      }
    }
  }

  test('a damaged demo is read or refused, with a place, never anything else', () => {
    fc.assert(
      fc.property(edits, (changes) => readDamaged(demoText, changes)),
      runs(200),
    );
  });

  test('and so is any design of the gallery, damaged thousands of times', () => {
    const folder = new URL('../../demo/mechanics/', import.meta.url);
    const gallery = readdirSync(folder).map((file) => readFileSync(new URL(file, folder), 'utf8'));
    fc.assert(fc.property(fc.constantFrom(...gallery), edits, readDamaged), runs(5000));
  }, 300_000);
});
