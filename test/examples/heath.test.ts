import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, Page } from 'playwright-core';
import { build } from 'vite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  type FieldScene,
  fieldWorld,
  gameOf,
  readDesign,
  readRecord,
  replay,
  Stage,
} from '../../src/index.js';
import { launch, serve } from '../support/browser.js';
import { demo, demoText } from '../support/designs.js';

const root = fileURLToPath(new URL('../../examples/heath', import.meta.url));
const outDir = mkdtempSync(join(tmpdir(), 'jocus-heath-'));
const policy = "default-src 'self'; style-src 'self' 'unsafe-inline'";
const seed = 3;
let browser: Browser;
let server: Server;
let url: string;

beforeAll(async () => {
  await build({ root, base: './', logLevel: 'warn', build: { outDir, emptyOutDir: true } });
  browser = await launch();
  ({ server, url } = await serve(outDir, policy));
});
afterAll(async () => {
  await browser?.close();
  server?.close();
  rmSync(outDir, { recursive: true, force: true });
});

const hud = (page: Page, show: string): Promise<string | null> => page.textContent(`[data-show="${show}"] b`);
const screen = (page: Page): Promise<string | undefined> => page.evaluate(() => document.body.dataset.screen);

describe('the playable heath, under a policy that forbids code from text', () => {
  test('a bee flown by the keys takes a blossom, and the saved record replays to what was seen', async () => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
    await page.clock.install({ time: 0 });
    await page.goto(`${url}?seed=${seed}`);
    // From here on time passes only when the test says so, however slow the machine is.
    await page.clock.pauseAt(60_000);
    await page.clock.runFor(100);
    expect([await screen(page), await page.textContent('#text')]).toEqual([
      'title',
      'Dusk on the Heath. Press start.',
    ]);
    await page.keyboard.press('Enter');
    await page.clock.runFor(50);
    expect([await screen(page), await hud(page, 'score'), await hud(page, 'lives')]).toEqual([
      'heath',
      '000000',
      '●●●○○',
    ]);

    // Where the blossoms stand follows from the seed, so a second field knows it.
    const session = gameOf(demo()).start({ seed });
    const stage = new Stage(fieldWorld, session);
    session.send('input.start');
    const { player, bodies } = stage.scene as FieldScene;
    const { x, y } = bodies[0]!;
    for (const [distance, less, more] of [
      [x - player.x, 'ArrowLeft', 'ArrowRight'],
      [y - player.y, 'ArrowUp', 'ArrowDown'],
    ] as const) {
      const key = distance < 0 ? less : more;
      await page.keyboard.down(key);
      await page.clock.runFor(Math.round(Math.abs(distance) / 0.28));
      await page.keyboard.up(key);
    }
    await page.clock.runFor(100);
    expect([await hud(page, 'score'), await hud(page, 'nectar')]).toEqual(['000010', '1/20']);
    expect(await page.getAttribute('[data-show="lives"]', 'aria-label')).toBe('Lives: 3 of 5');
    expect(await page.textContent('#text')).toBe('Gorse Bank: 1 of 12 drops');

    const [saved] = await Promise.all([page.waitForEvent('download'), page.click('#save')]);
    const record = readRecord(readFileSync((await saved.path())!, 'utf8'));
    expect(replay(readDesign(demoText), record).counter('score')).toBe(10);

    // Nobody flies on: the day ends by itself, and the game takes a press to begin again. A frame of a tenth of a second is the longest
    // that the game plays whole.
    for (let frame = 0; frame < 600; frame++) await page.clock.fastForward(100);
    expect(await screen(page)).toBe('dark');
    await page.click('[data-event="input.again"]');
    await page.clock.runFor(50);
    expect([await screen(page), await hud(page, 'score')]).toEqual(['heath', '000000']);
    expect(errors).toEqual([]);
  });
});
