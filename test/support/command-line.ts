import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll } from 'vitest';

export const main = fileURLToPath(new URL('../../dist/bin/jocus.js', import.meta.url));
const environment = { ...process.env, FORCE_COLOR: '', NO_COLOR: '1' };

/** A folder that is gone after the tests of a file. */
export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'jocus-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

/** Runs the command line as a process of its own. */
export function jocus(words: readonly string[], env: NodeJS.ProcessEnv = {}, node: readonly string[] = []) {
  const { status, signal, stdout, stderr } = spawnSync(process.execPath, [...node, main, ...words], {
    encoding: 'utf8',
    env: { ...environment, ...env },
    maxBuffer: 64 * 1024 * 1024,
  });
  return { status, signal, stdout, stderr };
}

/** The same, to be talked to while it runs. */
export const startJocus = (words: readonly string[], env: NodeJS.ProcessEnv = {}) =>
  spawn(process.execPath, [main, ...words], { env: { ...environment, ...env } });
