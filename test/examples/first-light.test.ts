import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, Page } from 'playwright-core';
import { build } from 'vite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readDesign, readRecord, replay } from '../../src/index.js';
import { launch, serve } from '../support/browser.js';
import { demoText } from '../support/designs.js';

const root = fileURLToPath(new URL('../../examples/first-light', import.meta.url));
const outDir = mkdtempSync(join(tmpdir(), 'jocus-page-'));
let browser: Browser;

beforeAll(async () => {
  await build({ root, base: './', logLevel: 'warn', build: { outDir, emptyOutDir: true } });
  browser = await launch();
});

afterAll(async () => {
  await browser?.close();
  rmSync(outDir, { recursive: true, force: true });
});

/** A page whose clock is the test's: frames come only when it asks for them. */
async function open(url: string): Promise<{ page: Page; errors: string[] }> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  await page.clock.install({ time: 0 });
  await page.goto(url);
  return { page, errors };
}

const hud = (page: Page, show: string): Promise<string | null> =>
  page.textContent(`.item[data-show="${show}"] b`);
const screen = (page: Page): Promise<string | undefined> => page.evaluate(() => document.body.dataset.screen);
const press = (page: Page, event: string): Promise<void> => page.click(`[data-event="${event}"]`);

describe.each([
  ['with generated code', undefined],
  [
    'under a policy that forbids generated code',
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'",
  ],
])('the first-light page, %s', (name, policy) => {
  let server: Server;
  let url: string;

  beforeAll(async () => {
    ({ server, url } = await serve(outDir, policy));
  });
  afterAll(() => {
    server.close();
  });

  test('plays the demo from the title to a loss and back', async () => {
    const { page, errors } = await open(url);
    expect(await page.textContent('#text')).toBe('Dusk on the Heath. Press start.');
    expect(await screen(page)).toBe('title');

    await press(page, 'input.start');
    await page.clock.runFor(100);
    expect(await screen(page)).toBe('heath');
    expect([await hud(page, 'score'), await hud(page, 'lives'), await hud(page, 'daylight')]).toEqual([
      '000000',
      '●●●○○',
      '0:45',
    ]);

    await press(page, 'blossom.taken');
    await press(page, 'blossom.taken');
    await page.clock.runFor(100);
    expect([await hud(page, 'score'), await hud(page, 'nectar'), await hud(page, 'streak')]).toEqual([
      '000030',
      '2/20',
      '3',
    ]);
    expect(await page.textContent('#text')).toBe('Gorse Bank: 2 of 12 drops');

    // Wasps come with time; each costs a life, the last one the run.
    for (let lives = 2; lives >= 0; lives--) {
      while ((await page.$('[data-event="wasp.hit"]')) === null) await page.clock.runFor(500);
      await page.clock.runFor(1100);
      await press(page, 'wasp.hit');
      await page.clock.runFor(100);
      if (lives > 0) expect(await hud(page, 'lives')).toBe('●'.repeat(lives) + '○'.repeat(5 - lives));
    }
    expect(await screen(page)).toBe('dark');
    expect(await page.textContent('#text')).toBe('Dusk fell. You scored 30.');

    await press(page, 'input.again');
    await page.clock.runFor(100);
    expect([
      await screen(page),
      await hud(page, 'score'),
      await hud(page, 'lives'),
      await hud(page, 'best'),
    ]).toEqual(['heath', '000000', '●●●○○', '000030']);
    // Trying out whether code may be generated is itself reported by a browser that forbids it, and nothing else is.
    expect(
      errors.filter((error) => !/unsafe-eval|Content Security Policy/.test(error)),
      name,
    ).toEqual([]);
    if (policy === undefined) expect(errors).toEqual([]);
    await page.close();
  });

  test('every event has a key, and time ends the day by itself', async () => {
    const { page } = await open(url);
    const key = await page.textContent('[data-event="input.start"] kbd');
    await page.keyboard.press(key!);
    await page.clock.runFor(100);
    expect(await screen(page)).toBe('heath');
    await page.clock.runFor(44_000);
    expect(await hud(page, 'daylight')).toBe('0:01');
    await page.clock.runFor(1500);
    expect(await screen(page)).toBe('dark');
    await page.close();
  });

  test('saves a record that replays to what the page showed', async () => {
    const { page } = await open(`${url}?seed=42`);
    await press(page, 'input.start');
    await page.clock.runFor(3000);
    await press(page, 'blossom.taken');
    await page.clock.runFor(100);
    const [download] = await Promise.all([page.waitForEvent('download'), page.click('#save')]);
    const stream = await download.createReadStream();
    let text = '';
    for await (const part of stream) text += part;
    const session = replay(readDesign(demoText), readRecord(text));
    expect(session.seed).toBe(42);
    expect(String(session.counter('score')).padStart(6, '0')).toBe(await hud(page, 'score'));
    await page.close();
  });
});
