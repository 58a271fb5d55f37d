import { readFileSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, Download, Locator, Page } from 'playwright-core';
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from 'vitest';
import { readDesign } from '../../src/index.js';
import { launch, serve } from '../support/browser.js';
import { demoText } from '../support/designs.js';
import { barriers } from '../support/workbench-page.js';

const folder = fileURLToPath(new URL('../../dist/workbench', import.meta.url));
let browser: Browser;
let server: Server;
let url: string;
let page: Page;
let errors: string[];

beforeAll(async () => {
  browser = await launch();
  // Any host that serves files, with a policy that most would call strict.
  ({ server, url } = await serve(
    folder,
    "default-src 'none'; script-src 'self'; worker-src 'self'; connect-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:",
  ));
});
afterAll(async () => {
  await browser?.close();
  server?.close();
});
beforeEach(async () => {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // Dialogs open and close at once, so that nothing is clicked through one that is fading.
    reducedMotion: 'reduce',
  });
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  page = await context.newPage();
  page.setDefaultTimeout(60_000);
  errors = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  await page.goto(url);
});
afterEach(async () => {
  await page.context().close();
});

const menu = async (item: string): Promise<void> => {
  await page.getByRole('button', { name: 'Menu' }).click();
  await page.getByRole('menuitem', { name: item }).click();
};
const status = (text: string | RegExp) =>
  page.locator('.status').filter({ hasText: text }).first().waitFor({ timeout: 60_000 });
/** Whether something appears soon. */
const isSeen = (of: Locator): Promise<boolean> =>
  of.waitFor({ timeout: 5000 }).then(
    () => true,
    () => false,
  );
const textOf = async (download: Download): Promise<string> => readFileSync(await download.path(), 'utf8');
const button = (name: string): Locator => page.getByRole('button', { name, exact: true });
const addThing = async (name: string, kind?: string): Promise<void> => {
  await button('Add a thing').click();
  await page.getByLabel('What is it called?').fill(name);
  if (kind !== undefined) await page.getByText(kind).click();
  await button('Add it').click();
};
const starter = (title: string) => page.locator('.starters').getByText(title, { exact: true }).click();

test('with no server, a starter is opened, changed, found again after a reload, and saved as a file', async () => {
  await starter('Moth at the Mill');
  await status(/Passed.*3 of 3 targets met.*no findings/);
  await page.getByLabel('counters lives start').fill('2');
  await page.getByLabel('counters lives start').press('Enter');
  await page.locator('.saving.saved').waitFor();
  await status('Falls short');
  await page.reload();
  await expect.poll(() => page.getByLabel('counters lives start').inputValue()).toBe('2');
  const [download] = await Promise.all([page.waitForEvent('download'), menu('Save as a file')]);
  expect(download.suggestedFilename()).toBe('moth-at-the-mill.yaml');
  expect(readDesign(await textOf(download)).counters[1]).toMatchObject({ name: 'lives' });
  // It stands among the designs that are kept, and an earlier version is found.
  await menu('Versions');
  const earlier = page.getByRole('dialog').getByRole('button', { name: /\d/ });
  await earlier.last().click();
  await menu('All designs');
  await page.getByRole('button', { name: 'Moth at the Mill', exact: true }).click();
  await page.locator('.sentence').first().waitFor();
  expect(errors).toEqual([]);
});

test('three questions make a game that passes and is played', async () => {
  await page.getByRole('button', { name: 'Answer three questions' }).click();
  await page.getByLabel('What do you take?').fill('acorn');
  await page.getByLabel('What hurts?').fill('acorn');
  await page.getByRole('button', { name: 'Make it' }).click();
  await page.getByText('cannot both be called acorn').waitFor();
  await page.getByLabel('What hurts?').fill('owl');
  await page.getByText('When no lives are left').click();
  await page.getByRole('button', { name: 'Make it' }).click();
  await status(/Passed.*2 of 2 tests passed.*no findings/);
  await page.getByRole('button', { name: 'input.start', exact: true }).click();
  await page.locator('[data-screen="field"]').waitFor();
  await page.getByRole('button', { name: '▶ Fly it' }).click();
  await page.locator('.screen.flown').waitFor();
  expect(errors).toEqual([]);
});

test('the ten steps of docs/workbench.md lead to a game that passes, is flown, and is balanced', async () => {
  const more = async (sentence: RegExp, item: string): Promise<void> => {
    await page.getByRole('button', { name: sentence }).click();
    await page.getByRole('menuitem', { name: item, exact: true }).click();
  };
  const write = async (path: string, value: string): Promise<void> => {
    await page.getByLabel(path, { exact: true }).fill(value);
    await page.getByLabel(path, { exact: true }).press('Enter');
  };
  const add = async (label: string, name?: string): Promise<void> => {
    await button(label).click();
    if (name === undefined) return;
    await page.getByLabel('Its name').fill(name);
    await button('Add').click();
  };
  const after = (counter: string) =>
    page
      .locator('table.counters tr', { has: page.getByRole('rowheader', { name: counter, exact: true }) })
      .locator('td')
      .last();
  await button('Begin with nothing').click();
  // 1 to 4: a thing, touched once, read, and kept.
  await addThing('acorn');
  await button('acorn.taken').click();
  await expect.poll(() => after('score').textContent()).toBe('10');
  // What is kept is what the game does now, however soon it is.
  await write('rules 0 do 0 add score', '25');
  await button('Keep as a test').click();
  await status(/1 of 1 test passed/);
  await expect.poll(() => after('score').textContent()).toBe('25');
  // 5: what hurts, and one touch that counts once.
  await addThing('thorn', 'Something that hurts');
  await more(/^Say more: When thorn\.hit/, 'protect the player');
  await more(/^Say more: Level 1 starts with/, 'a thorn appears again and again');
  // 6: a flow.
  await add('Add a screen', 'wood');
  await add('Add a screen', 'game over');
  await add('Add a transition');
  await page.getByLabel('transitions 0 if', { exact: true }).waitFor();
  await add('Add a transition');
  await page.getByLabel('transitions 1 when', { exact: true }).waitFor();
  await status(/Passed.*2 of 2 transitions reached.*1 of 1 test passed/);
  // 7: the flow, and how it ends.
  await page.locator('.view-tabs').getByText('Flow', { exact: true }).click();
  await page.getByRole('button', { name: /^wood → gameOver, if lives == 0: reached/ }).click();
  await page.getByRole('button', { name: '▶ Watch it happen' }).click();
  await page.locator('.film [data-screen="gameOver"]').waitFor({ timeout: 60_000 });
  await button('Close the film').click();
  // 8 and 9: flown, and more of it.
  await page.getByRole('button', { name: '▶ Fly it' }).click();
  await page.locator('.screen.flown').waitFor();
  await page.getByRole('button', { name: /Hold time/ }).click();
  await page.locator('.view-tabs').getByText('Levels', { exact: true }).click();
  await write('Level 1, acorn', '5');
  // 10: a dial moves the figures.
  await add('Add a dial', 'worth');
  await write('rules 0 do 0 add score', 'worth');
  await page.locator('.view-tabs').getByText('Balance', { exact: true }).click();
  await page.getByText('3,000 sessions of each player').waitFor({ timeout: 60_000 });
  await page.getByRole('slider', { name: 'worth' }).focus();
  for (let step = 0; step < 15; step++) await page.keyboard.press('ArrowRight');
  await button('Keep these settings').click();
  await expect.poll(() => page.getByLabel('dials worth value', { exact: true }).inputValue()).toBe('25');
  await status(/Passed.*1 of 1 test passed/);
  expect(errors).toEqual([]);
});

test('what is known of a sentence, and of the whole, keeps its room until more is known', async () => {
  await button('Begin with nothing').click();
  await addThing('acorn');
  await button('acorn.taken').click();
  await button('Keep as a test').click();
  await status(/1 of 1 test passed.*1 finding/);
  await page.getByRole('region', { name: 'Found in the rest of the file' }).waitFor();
  const seen = await page.evaluateHandle(() => {
    const seen = new Set<string>();
    const [things, tests] = ['things', 'tests'].map((name) => document.querySelector(`.group.${name}`)!);
    const look = (): void => {
      seen.add(`${things!.getBoundingClientRect().top + scrollY} ${tests!.getBoundingClientRect().height}`);
      requestAnimationFrame(look);
    };
    look();
    return seen;
  });
  // The test stands further down in the file then.
  await addThing('thorn', 'Something that hurts');
  await page.getByLabel('rules 1 do 0 add lives', { exact: true }).waitFor();
  await status(/1 of 1 test passed.*1 finding/);
  expect(await seen.evaluate((all) => [...all])).toHaveLength(1);
  expect(errors).toEqual([]);
});

test('a link holds the design; a damaged one and a huge one say so', async () => {
  await starter('Low Tide');
  await status('Passed');
  await menu('Copy a link that holds the design');
  await page.getByText('The link is copied.').waitFor();
  const link = await page.evaluate(() => navigator.clipboard.readText());
  expect(link.length).toBeLessThan(4000);
  const other = await browser.newPage();
  await other.goto(link);
  await other.getByRole('heading', { name: 'Low Tide' }).waitFor();
  await other.goto('about:blank');
  await other.goto(`${link.slice(0, -40)}!`);
  await other.getByText('The link is damaged').waitFor();
  // A megabyte of zeros is a link of a thousand letters.
  const huge = await page.evaluate(async () => {
    const zeros = new Blob([new Uint8Array(3_000_000)]).stream();
    const packed = await new Response(zeros.pipeThrough(new CompressionStream('deflate-raw'))).arrayBuffer();
    return btoa(String.fromCharCode(...new Uint8Array(packed)))
      .replaceAll('+', '-')
      .replaceAll('/', '_');
  });
  await other.goto('about:blank');
  await other.goto(`${url}#design=${huge}`);
  await other.getByText('too large for a link').waitFor();
  await other.close();
});

test('a file is opened or dropped; one that is no text is refused, and one with mistakes shows them', async () => {
  await page.locator('input[type=file]').setInputFiles({
    name: 'picture.yaml',
    mimeType: 'text/yaml',
    buffer: Buffer.from([0xff, 0xfe, 0xd8, 0x00]),
  });
  await page.getByText('picture.yaml is no text in UTF-8').waitFor();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.items.add(new File([text], 'mine.yaml'));
    document
      .querySelector('.home')!
      .dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
  }, 'title: Mine\nrulez: []\n');
  await status('1 problem in the file');
  await page.getByText(/rulez/).first().waitFor();
});

test('everything is found by what it says, and a name is changed everywhere', async () => {
  await starter('Dusk on the Heath');
  await page.locator('.sentence').first().waitFor();
  await page.keyboard.press('Control+k');
  await page.getByRole('textbox', { name: /Find anything/ }).fill('dusk falls quarters');
  await page.keyboard.press('Enter');
  await page.locator('li.sought[data-path="tests.7"]').waitFor();
  await page.getByRole('button', { name: /^Say more: Nectar starts/ }).click();
  await page.getByRole('menuitem', { name: 'Rename it everywhere' }).click();
  await page.getByLabel('Its name').fill('drops');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByLabel('counters drops start').waitFor();
  await status(/Passed.*12 of 12 tests passed/);
  await page.getByRole('button', { name: /^Say more: Drops starts/ }).click();
  await page.getByRole('menuitem', { name: 'Rename it everywhere' }).click();
  await page.getByLabel('Its name').fill('lives');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByText('The design has a lives already.').waitFor();
});

test('everything that the command line writes is exported', async () => {
  await starter('Low Tide');
  await status('3 of 3 targets met');
  const made: { [file: string]: string } = {};
  for (const item of [
    'Report, as a page',
    'Flow, as a picture (SVG)',
    'Flow, as SCXML',
    'Findings, as SARIF',
    'Tests and transitions, as JUnit XML',
    'Simulated runs, as CSV',
    'The game’s rules, as a JavaScript module',
  ]) {
    const [download] = await Promise.all([page.waitForEvent('download', { timeout: 60_000 }), menu(item)]);
    made[download.suggestedFilename()] = await textOf(download);
  }
  expect(made['report.html']).toMatch(/^<!doctype html>[\s\S]*Low Tide/i);
  expect(made['flow.svg']).toContain('<svg');
  expect(made['flow.scxml']).toContain('http://www.w3.org/2005/07/scxml');
  expect(JSON.parse(made['findings.sarif']!)).toMatchObject({ version: '2.1.0' });
  expect(made['check.xml']).toContain('<testsuite');
  expect(made['runs.csv']!.split(/\r?\n/)[0]).toBe(
    'player,session,run,began,seconds,score,ending,cause,level,lives,firstPoint,firstLoss,drySpell,streak',
  );
  const path = join(process.env.TMPDIR ?? '/tmp', `jocus-exported-${process.pid}.mjs`);
  writeFileSync(path, made['game.js']!);
  const { default: game } = (await import(path)) as {
    default: { start(): { send(event: string): void; counter(name: string): number } };
  };
  const session = game.start();
  session.send('input.start');
  session.send('shell.taken');
  expect(session.counter('score')).toBe(10);
  expect(errors).toEqual([]);
});

test('the file completes names and says what keys mean', async () => {
  await starter('Low Tide');
  await page.locator('.sentence').first().waitFor();
  await page.getByText('File', { exact: true }).click();
  const content = page.locator('.cm-content');
  await content.waitFor();
  await page.getByRole('textbox', { name: 'File' }).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('\nlists: { top: { of: sco');
  await page.locator('.cm-tooltip-autocomplete', { hasText: 'score' }).waitFor();
  // A key that comes right after an offer was not meant for it: the editor waits a moment, and so does whoever reads.
  await page.waitForTimeout(150);
  await page.keyboard.press('Enter');
  await page.keyboard.type(', when: home.ent');
  await page.locator('.cm-tooltip-autocomplete', { hasText: 'home.entered' }).waitFor({ timeout: 60_000 });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+Home');
  const meaning = page.locator('.meaning', { hasText: 'The counter that is the score' });
  const told = async (): Promise<boolean> => {
    // What is pointed at may have been drawn again meanwhile: it is pointed at once more.
    await page.mouse.move(0, 0);
    await page.locator('.cm-line', { hasText: 'score: score' }).first().locator('span').first().hover();
    return isSeen(meaning);
  };
  await expect.poll(told, { timeout: 60_000 }).toBe(true);
});

test('a phone plays it: the field and the HUD fit', async () => {
  await page.setViewportSize({ width: 390, height: 760 });
  await starter('Dusk on the Heath');
  await page.getByRole('button', { name: 'input.start', exact: true }).click();
  await page.getByRole('button', { name: '▶ Fly it' }).click();
  await page.locator('[data-screen="heath"]').waitFor();
  const box = (await page.locator('.screen').boundingBox())!;
  expect(box.width).toBeLessThanOrEqual(390);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('axe finds nothing serious in the choice of a design', async () => {
  await page.locator('.starters').waitFor();
  expect(await barriers(page)).toEqual([]);
  expect(demoText.startsWith('# Dusk on the Heath:')).toBe(true);
});
