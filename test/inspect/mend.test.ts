import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { changeDesign } from '../../src/design/text/change.js';
import { check, readDesign } from '../../src/index.js';
import { mendOf } from '../../src/inspect/mend.js';
import { changed } from '../support/designs.js';

const folder = new URL('../../demo/findings/', import.meta.url);

describe('what a finding advises, done', () => {
  test.each([
    'counter-unshown',
    'counter-unread',
    'countdown-unshown',
    'nothing-on-the-hud',
    'no-way-back',
    'residue',
  ])('%s is gone', (code) => {
    expect(readdirSync(folder)).toContain(`${code}.yaml`);
    const [text] = readFileSync(new URL(`${code}.yaml`, folder), 'utf8').split(/^---\n/m) as [string];
    const design = readDesign(text);
    const found = check(design).findings.filter((each) => each.code === code);
    expect(found.length).toBeGreaterThan(0);
    let mended = text;
    for (const each of found) mended = changeDesign(mended, mendOf(design, each)!);
    expect(check(readDesign(mended)).findings.map((each) => each.code)).not.toContain(code);
    // What stood there stands there still.
    for (const line of text.split('\n').filter((each) => each.startsWith('#')))
      expect(mended).toContain(line);
  });

  test('a restart of the demo that forgets to put things back is as the demo was', () => {
    const text = changed(/(from: dark, +to: heath, +when: input\.again), fresh: run/, '$1');
    const design = readDesign(text);
    const [residue] = check(design).findings.filter(({ code }) => code === 'residue');
    const mended = changeDesign(text, mendOf(design, residue!)!);
    expect(check(readDesign(mended)).findings).toEqual([]);
  });

  test('what somebody has to think about has no such change', () => {
    const design = readDesign('counters: { score: {} }\npieces: { berry: { is: collectible } }');
    const [first] = check(design).findings.filter(({ code }) => code === 'piece-unheard');
    expect(mendOf(design, first!)).toBeUndefined();
  });
});
