import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import type { Browser } from 'playwright-core';
import { build } from 'vite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  DesignError,
  mergeParts,
  partOf,
  partText,
  readDesign,
  readPart,
  type Simulation,
  shardOf,
  simulate,
  simulateWith,
  summarize,
  UsageError,
} from '../../src/index.js';
import { nodeWorkers } from '../../src/node/workers.js';
import { launch, serve } from '../support/browser.js';
import { demo, demoText } from '../support/designs.js';
import { designText } from '../support/generated-designs.js';
import { runs } from '../support/runs.js';

const sessions = 120;
const seed = 5;
const data = ({ players }: Simulation): string => JSON.stringify(players.map(({ tally }) => tally.toData()));
const script = new URL('../../dist/simulate/simulate-worker.js', import.meta.url);

describe('the same sessions, whoever plays them', () => {
  const design = demo();
  const whole = simulate(design, { sessions, seed });

  test.each([1, 2, 3])('%i worker threads', async (many) => {
    const workers = nodeWorkers(many, script);
    const told: number[] = [];
    const simulation = await simulateWith(workers, design, {
      sessions,
      seed,
      progress: (done) => told.push(done),
    });
    await workers.leave();
    expect(data(simulation!)).toBe(data(whole));
    expect(summarize(simulation!)).toEqual(summarize(whole));
    expect(told.at(-1)).toBe(sessions * design.players.length);
  });

  test('what a worker runs into is told as if it had been here', async () => {
    const faulty = readDesign(
      '{ counters: { a: {} }, rules: [{ if: a >= 0, do: [{ emit: own.x }] }, { when: own.x, do: [{ emit: own.x }] }] }',
    );
    const workers = nodeWorkers(1, script);
    await expect(simulateWith(workers, faulty, { sessions: 1, seed })).rejects.toThrow(DesignError);
    await expect(simulateWith(workers, design, { sessions: 1, seed, players: ['nobody'] })).rejects.toThrow(
      UsageError,
    );
    await workers.leave();
  });

  test('an abort keeps the sessions that follow on each other', async () => {
    const signal = { aborted: false };
    let played = 0;
    const simulation = await simulateWith(
      {
        workers: 1,
        play: async (of, chunk) => {
          played += chunk.sessions;
          signal.aborted = played >= 50;
          return simulate(of, chunk).players.map(({ tally }) => tally.toData());
        },
      },
      design,
      { sessions, seed, signal },
    );
    expect(simulation!.sessions).toBe(played);
    expect(played).toBeLessThan(sessions);
    expect(data(simulation!)).toBe(data(simulate(design, { sessions: played, seed })));
  });

  test('parts of any design, through JSON, merged in any order', () => {
    fc.assert(
      fc.property(designText, fc.shuffledSubarray([1, 2, 3], { minLength: 3 }), (text, order) => {
        const any = readDesign(text);
        const play = (first: number, count: number): Simulation =>
          simulate(any, { sessions: count, seed, first });
        let all: Simulation;
        try {
          all = play(0, 7);
        } catch (error) {
          if (error instanceof DesignError) return;
          throw error;
        }
        const parts = order.map((shard) => {
          const { first, sessions: count } = shardOf(7, shard, 3);
          const file = `part${shard}.json`;
          return { part: readPart(partText(partOf(play(first, count), 7)), file), file };
        });
        expect(data(mergeParts(any, parts))).toBe(data(all));
      }),
      runs(40),
    );
  });

  test('parts that do not go together say why', () => {
    const part = (first: number, count: number, of = design, which = seed) => ({
      part: partOf(simulate(of, { sessions: count, seed: which, first }), 10),
      file: `from${first}.json`,
    });
    const other = readDesign(demoText.replace('add: { lives: -1 }', 'add: { lives: -2 }'));
    expect(() => mergeParts(design, [part(0, 4), part(5, 5)])).toThrow('Sessions 4 to 4 of 10');
    expect(() => mergeParts(design, [part(0, 4), part(3, 7)])).toThrow('another part holds already');
    expect(() => mergeParts(design, [part(0, 4), part(4, 6, other)])).toThrow('another state of the design');
    expect(() => mergeParts(design, [part(0, 4), part(4, 6, design, 9)])).toThrow('with seed 9');
    expect(() => mergeParts(design, [])).toThrow('no parts');
    expect(() => readPart('{', 'x.json')).toThrow('x.json is no JSON');
    expect(() => readPart('{"jocus":"part of a simulation"}', 'x.json')).toThrow('no part of a simulation');
    const broken = part(0, 10);
    const cut = {
      ...broken.part,
      players: broken.part.players.map((each) => ({ ...each, tally: { ...each.tally, columns: [] } })),
    };
    expect(() => mergeParts(design, [{ part: cut, file: 'cut.json' }])).toThrow(
      'cut.json has not the columns',
    );
  });
});

describe('in Chromium', () => {
  const folder = mkdtempSync(join(tmpdir(), 'jocus-workers-'));
  const dist = fileURLToPath(new URL('../../dist', import.meta.url));
  let browser: Browser;
  const servers: Server[] = [];

  beforeAll(async () => {
    mkdirSync(join(folder, 'page'));
    writeFileSync(
      join(folder, 'page', 'index.html'),
      '<!doctype html><script type="module" src="./main.js"></script>',
    );
    writeFileSync(
      join(folder, 'page', 'main.js'),
      `import { readDesign, simulateWith, summarize } from '${dist}/index.js';
import { browserWorkers } from '${dist}/browser/workers.js';
import script from '${dist}/simulate/simulate-worker.js?worker&url';
window.play = async (text, options) => {
  const workers = browserWorkers(script, 2);
  const simulation = await simulateWith(workers, readDesign(text), options);
  await workers.leave();
  return JSON.stringify(summarize(simulation));
};`,
    );
    await build({
      root: join(folder, 'page'),
      base: './',
      logLevel: 'error',
      build: { outDir: join(folder, 'out'), emptyOutDir: true },
    });
    browser = await launch();
  });
  afterAll(async () => {
    await browser?.close();
    for (const server of servers) server.close();
    rmSync(folder, { recursive: true, force: true });
  });

  // The second policy forbids code that is made of text, so that tables are walked.
  test.each([undefined, "default-src 'self'"])(
    'two web workers, policy %s: the same, to the last digit',
    async (policy) => {
      const { url, server } = await serve(join(folder, 'out'), policy);
      servers.push(server);
      const page = await browser.newPage();
      await page.goto(url);
      await page.waitForFunction(() => 'play' in window);
      const found = await page.evaluate(
        ([text, options]) =>
          (window as unknown as { play(...of: unknown[]): Promise<string> }).play(text, options),
        [demoText, { sessions: 60, seed }] as const,
      );
      const here = summarize(simulate(readDesign(demoText), { sessions: 60, seed }));
      expect(JSON.parse(found)).toEqual(JSON.parse(JSON.stringify(here)));
      await page.close();
    },
  );
});
