import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import type { Browser, Page } from 'playwright-core';
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest';
import { serveWorkbench, type Workbench } from '../../dist/node/workbench-server.js';
import { launch } from './browser.js';

export let browser: Browser;
export let file: string;
export let workbench: Workbench;
export let page: Page;
/** What the page said on its console as errors, or threw. */
export let errors: string[];
let folder: string;

/** Gives each test of a file a design in a folder of its own and, once it is opened, the workbench on it. */
export function withWorkbenchPage(): void {
  beforeAll(async () => {
    browser = await launch();
  });
  afterAll(() => browser?.close());
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'jocus-workbench-'));
    file = join(folder, 'heath.yaml');
  });
  afterEach(async () => {
    await page?.context().close();
    await workbench?.close();
    rmSync(folder, { recursive: true, force: true });
  });
}

export async function open(text: string): Promise<void> {
  writeFileSync(file, text);
  workbench = await serveWorkbench(file, { port: 0 });
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    // Dialogs open and close at once, so that nothing is clicked through one that is fading.
    reducedMotion: 'reduce',
  });
  page = await context.newPage();
  page.setDefaultTimeout(60_000);
  errors = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  await page.goto(workbench.address);
  await page.waitForSelector('.design');
}
/**
 * What keeps somebody out of a page, or of a part of it: in the light colours by every rule, in the dark ones by contrast, which is all
 * that they change.
 */
export async function barriers(
  of: Page,
  part: { include?: string; exclude?: string } = {},
): Promise<string[]> {
  const found: string[] = [];
  for (const colorScheme of ['light', 'dark'] as const) {
    await of.emulateMedia({ colorScheme });
    // Colours change by and by.
    await of.waitForTimeout(500);
    // Without frames, all is looked at in the page itself.
    const axe = new AxeBuilder({ page: of }).setLegacyMode().options({
      resultTypes: ['violations'],
      ...(colorScheme === 'dark' ? { runOnly: ['color-contrast'] } : {}),
    });
    if (part.include !== undefined) axe.include(part.include);
    if (part.exclude !== undefined) axe.exclude(part.exclude);
    const { violations } = await axe.analyze();
    for (const { id, impact, nodes } of violations)
      if (impact === 'serious' || impact === 'critical')
        found.push(`${colorScheme} ${id}: ${nodes.map(({ html }) => html).join(' ')}`);
  }
  await of.emulateMedia({ colorScheme: 'light' });
  return found;
}

export const word = (path: string) => page.getByLabel(path, { exact: true });
export const status = (text: string | RegExp) =>
  page.locator('.status').filter({ hasText: text }).first().waitFor({ timeout: 60_000 });
export const saved = async (isSo: (text: string) => boolean): Promise<string> => {
  await expect.poll(() => isSo(readFileSync(file, 'utf8')), { timeout: 45_000 }).toBe(true);
  return readFileSync(file, 'utf8');
};
export const button = (name: string) => page.getByRole('button', { name, exact: true });
