import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { parse, stringify } from 'yaml';
import { check, DesignError, readDesign, runTests, simulate } from '../../src/index.js';

const folder = new URL('../../demo/mechanics/', import.meta.url);
const files = readdirSync(folder).filter((file) => file.endsWith('.yaml'));

/** Whether a test of the design fails, or the design can no longer be read, without one entry of a section. */
function isMissed(text: string, section: 'rules' | 'transitions', index: number): boolean {
  const design = parse(text);
  design[section].splice(index, 1);
  try {
    return runTests(readDesign(stringify(design))).some((result) => !result.passed);
  } catch (error) {
    if (error instanceof DesignError) return true;
    throw error;
  }
}

describe('the gallery of mechanics', () => {
  test('has a design for each of some thirty mechanics, and a current page', () => {
    expect(files.length).toBeGreaterThanOrEqual(30);
    const { status, stderr } = spawnSync(process.execPath, ['scripts/mechanics.mjs', '--check'], {
      encoding: 'utf8',
    });
    expect(stderr).toBe('');
    expect(status).toBe(0);
  });

  test('the reference says of every key of the schema what it is, and is current', () => {
    const { status, stderr } = spawnSync(process.execPath, ['scripts/reference.mjs', '--check'], {
      encoding: 'utf8',
    });
    expect([status, stderr]).toEqual([0, '']);
  });

  describe.each(files)('%s', (file) => {
    const text = readFileSync(new URL(file, folder), 'utf8');
    const design = readDesign(text, file);

    test('passes its check and its tests on both backends', () => {
      const { passed, findings, exploration } = check(design);
      for (const { verdict } of [...exploration.transitions, ...exploration.parts])
        expect(verdict).toBe('reached');
      expect(findings.filter(({ severity }) => severity !== 'hint')).toEqual([]);
      expect(passed).toBe(true);
      expect(runTests(design, 'interpreted').every((result) => result.passed)).toBe(true);
    });

    test('fails a test when any rule or transition is taken out', () => {
      for (const section of ['rules', 'transitions'] as const) {
        const { length } = parse(text)[section] ?? [];
        for (let index = 0; index < length; index++) {
          expect(isMissed(text, section, index), `${section} ${index}`).toBe(true);
        }
      }
    });

    test('can be simulated', () => {
      const players = simulate(design, { sessions: 5, seed: 1 }).players;
      expect(players.every(({ tally }) => tally.sessions === 5)).toBe(true);
    });
  });
});
