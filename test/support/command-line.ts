import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { MessageChannel, receiveMessageOnPort, Worker } from 'node:worker_threads';
import { afterAll } from 'vitest';

export const main = fileURLToPath(new URL('../../dist/bin/jocus.js', import.meta.url));
/** As the tests are told themselves: a command that runs once is optimised late. */
const late = process.execArgv.filter((word) => word.startsWith('--interrupt-budget'));
const environment = { ...process.env, FORCE_COLOR: '', NO_COLOR: '1' };

/** A folder that is gone after the tests of a file. */
export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'jocus-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

/** Runs the command line as a process of its own. */
export function jocus(words: readonly string[], env: NodeJS.ProcessEnv = {}, node: readonly string[] = []) {
  const { status, signal, stdout, stderr } = spawnSync(process.execPath, [...late, ...node, main, ...words], {
    encoding: 'utf8',
    env: { ...environment, ...env },
    maxBuffer: 64 * 1024 * 1024,
  });
  return { status, signal, stdout, stderr };
}

export interface Ended {
  readonly status: number | null;
  readonly stdout: string;
  readonly stderr: string;
}

let host: Worker | undefined;

/**
 * Runs a command line in a thread that is kept for the next, from the same files as the process: for what a command prints and ends with,
 * where starting it is tested elsewhere. Takes a fraction of the time, since the code is loaded and optimised once.
 */
export function inThread(words: readonly string[]): Ended {
  if (host === undefined) {
    const program = new URL('../../dist/bin/run-command.js', import.meta.url).href;
    host = new Worker(new URL('./command-host.mjs', import.meta.url), { workerData: program });
    host.unref();
  }
  const done = new Int32Array(new SharedArrayBuffer(4));
  const { port1, port2 } = new MessageChannel();
  host.postMessage({ words, done, port: port2 }, [port2]);
  Atomics.wait(done, 0, 0, 170_000);
  const answer: { readonly message: Ended } | undefined = receiveMessageOnPort(port1);
  port1.close();
  if (answer === undefined) throw new Error(`jocus ${words.join(' ')} did not end`);
  return answer.message;
}

/** Resolves once a process has computed for so many seconds: on a busy machine later than by the clock. */
export async function hasComputed({ pid }: ChildProcess, seconds: number): Promise<void> {
  const used = (): number => {
    const [, , , , , , , , , , , user, system] = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /, '')
      .split(' ');
    return (Number(user) + Number(system)) / 100;
  };
  while (used() < seconds) await pause(20);
}

/** Starts it as a process, to be talked to while it runs. */
export const startJocus = (words: readonly string[], env: NodeJS.ProcessEnv = {}) =>
  spawn(process.execPath, [...late, main, ...words], { env: { ...environment, ...env } });
