import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { afterAll, describe, expect, test } from 'vitest';
import { nodeWorkers } from '../../dist/node/workers.js';
import { partOf, partText, simulate, simulateWith, UsageError, type WorkerPool } from '../../src/index.js';
import { playChunk } from '../../src/simulate/worker-pool.js';
import { demo } from '../support/designs.js';

setFlagsFromString('--expose-gc');
const gc = runInNewContext('gc') as () => void;
const folder = mkdtempSync(join(tmpdir(), 'jocus-workers-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const options = { sessions: 60, seed: 3 };
const expected = partText(partOf(simulate(demo(), options), 60));

describe('a worker that ends before its sessions are done', () => {
  test('has its chunk played again, which is told, and the result is the same', async () => {
    let calls = 0;
    const workers: WorkerPool = {
      workers: 2,
      play: async (design, chunk) => {
        if (++calls % 3 === 0) throw new Error('Worker terminated');
        return playChunk(design, chunk);
      },
    };
    const told: string[] = [];
    const found = await simulateWith(workers, demo(), {
      ...options,
      onReplay: (reason, { first }) => told.push(`${first}: ${reason}`),
    });
    expect(partText(partOf(found!, 60))).toBe(expected);
    expect(told.length).toBeGreaterThan(1);
    expect(told[0]).toMatch(/^\d+: Worker terminated$/);
  });

  test('as a real thread that exits: others play on', async () => {
    const worker = fileURLToPath(new URL('../../dist/simulate/simulate-worker.js', import.meta.url));
    const flag = join(folder, 'died');
    const script = join(folder, 'dying-worker.mjs');
    writeFileSync(
      script,
      // Two threads start at once: only the one that makes the file may die.
      `import { writeFileSync } from 'node:fs';
try { writeFileSync(${JSON.stringify(flag)}, '', { flag: 'wx' }); setTimeout(() => process.exit(7), 5); } catch {}
await import(${JSON.stringify(pathToFileURL(worker).href)});
`,
    );
    const workers = nodeWorkers(2, pathToFileURL(script));
    const told: string[] = [];
    try {
      const found = await simulateWith(workers, demo(), {
        ...options,
        onReplay: (reason) => told.push(reason),
      });
      expect(partText(partOf(found!, 60))).toBe(expected);
    } finally {
      await workers.leave();
    }
    expect(told.length).toBe(1);
  });

  test('time and again is an error that says which sessions', async () => {
    const workers: WorkerPool = { workers: 1, play: () => Promise.reject(new Error('out of memory')) };
    const failing = simulateWith(workers, demo(), options);
    await expect(failing).rejects.toThrow(UsageError);
    await expect(failing).rejects.toThrow(
      'Workers ended 3 times while they played sessions 0 to 9 of seed 3: out of memory',
    );
  });

  test('keeps no tallies longer than it must: memory does not grow with the sessions', async () => {
    let alive = 0;
    let most = 0;
    const collected = new FinalizationRegistry(() => alive--);
    const workers: WorkerPool = {
      workers: 1,
      play: async (design, chunk) => {
        const tallies = playChunk(design, { ...chunk, sessions: 1 });
        collected.register(tallies, undefined);
        most = Math.max(most, ++alive);
        // Lets what is no longer held be collected.
        gc();
        await new Promise((resolve) => setTimeout(resolve));
        return tallies;
      },
    };
    await simulateWith(workers, demo(), { sessions: 10_000, seed: 1 });
    expect(most).toBeLessThan(20);
  });
});
