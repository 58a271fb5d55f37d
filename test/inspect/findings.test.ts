import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { check, readDesign } from '../../src/index.js';
import { catalogue } from '../../src/inspect/finding-catalogue.js';

const folder = new URL('../../demo/findings/', import.meta.url);

/** The codes of all findings of a design; a fault is known by its own code. */
const codes = (text: string): string[] =>
  check(readDesign(text)).findings.map(({ code }) => (code === 'endless-chain' ? 'fault' : code));

describe('every finding of the catalogue', () => {
  test.each(Object.keys(catalogue))('%s is found where it is, and not where it only seems to be', (code) => {
    const [has, hasNot] = readFileSync(new URL(`${code}.yaml`, folder), 'utf8').split('---\n');
    expect(codes(has!)).toContain(code);
    expect(codes(hasNot!)).not.toContain(code);
  });

  test('has a current page', () => {
    const { status, stderr } = spawnSync(process.execPath, ['scripts/findings.mjs', '--check'], {
      encoding: 'utf8',
    });
    expect([status, stderr]).toEqual([0, '']);
  });
});
