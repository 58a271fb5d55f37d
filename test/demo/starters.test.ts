import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, test } from 'vitest';
import { check, readDesign, simulate, summarize } from '../../src/index.js';

const folder = fileURLToPath(new URL('../../demo/starters/', import.meta.url));
const names = readdirSync(folder).map((file) => file.replace(/\.yaml$/, ''));
const bin = fileURLToPath(new URL('../../dist/bin/jocus.js', import.meta.url));
const scratch = mkdtempSync(join(tmpdir(), 'jocus-starters-'));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));

describe('a starter', () => {
  test.each(names)('%s has no findings, passes its tests, and meets its targets', (name) => {
    const text = readFileSync(join(folder, `${name}.yaml`), 'utf8');
    // The page that offers it says what its first line says.
    expect(text).toMatch(/^# [A-Z][\w ]+: \S.*\.\n/);
    const design = readDesign(text, `${name}.yaml`);
    const { findings, passed, exploration } = check(design);
    expect(findings.map(({ message }) => message)).toEqual([]);
    expect(passed).toBe(true);
    expect(exploration.transitions.every(({ verdict }) => verdict === 'reached')).toBe(true);
    expect(design.tests.length).toBeGreaterThan(2);
    const { targets } = summarize(simulate(design, { sessions: 2000, seed: 1 }));
    expect(targets.length).toBeGreaterThan(2);
    expect(targets.map(({ what, of, verdict }) => `${what} of ${of}: ${verdict}`)).toEqual(
      targets.map(({ what, of }) => `${what} of ${of}: met`),
    );
  });

  test('is written by jocus new --like, and never over another file', () => {
    const file = join(scratch, 'pool.yaml');
    const call = [bin, 'new', file, '--like', 'low-tide'];
    expect(execFileSync(process.execPath, call, { encoding: 'utf8' })).toContain('Next: jocus check');
    expect(readFileSync(file, 'utf8')).toBe(readFileSync(join(folder, 'low-tide.yaml'), 'utf8'));
    const again = spawnSync(process.execPath, call, { encoding: 'utf8' });
    expect(again.status).toBe(2);
    expect(again.stderr).toContain('pool.yaml');
    const unknown = spawnSync(process.execPath, [bin, 'new', join(scratch, 'x.yaml'), '--like', 'tetra'], {
      encoding: 'utf8',
    });
    expect(unknown.status).toBe(2);
    for (const name of ['dusk-on-the-heath', ...names]) expect(unknown.stderr).toContain(name);
  });
});
