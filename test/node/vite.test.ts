import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import type { Browser } from 'playwright-core';
import { build, createLogger, createServer, type InlineConfig } from 'vite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { jocus } from '../../dist/node/vite.js';
import { launch, serve } from '../support/browser.js';

const game = `jocus: 1
title: One drop
counters:
  score: { start: 0 }
pieces:
  drop: { is: collectible }
rules:
  - when: drop.taken
    do: [{ add: { score: 10 } }]
screens:
  heath: { live: true, text: "Drops are worth {score}" }
hud:
  - { show: score, as: digits, width: 4 }
`;
const page = `import game from './game.yaml';
import notOurs from './other.yaml?raw';
const session = game.start();
session.send('drop.taken');
const show = () => {
  document.body.textContent = session.hud[0]?.text + ' ' + notOurs.trim() + ' ' + performance.timeOrigin;
};
session.listen(show);
show();
document.addEventListener('click', () => session.send('drop.taken'));
`;

/** A project of its own in a folder of its own. */
function project(): string {
  const root = mkdtempSync(join(tmpdir(), 'jocus-vite-'));
  folders.push(root);
  mkdirSync(join(root, 'public'));
  writeFileSync(
    join(root, 'index.html'),
    '<!doctype html><link rel="icon" href="data:,"><body><script type="module" src="/main.js"></script>',
  );
  writeFileSync(join(root, 'main.js'), page);
  writeFileSync(join(root, 'other.yaml'), 'plain: yaml\n');
  writeFileSync(join(root, 'game.yaml'), game);
  return root;
}
const folders: string[] = [];
const plain: InlineConfig = { configFile: false, logLevel: 'silent', plugins: [jocus()] };
let browser: Browser;

/** Saves a file as nobody saves faster: of two changes within 50 ms of each other the server's watcher tells the first only. */
async function save(file: string, text: string): Promise<void> {
  await setTimeout(100);
  writeFileSync(file, text);
}

beforeAll(async () => {
  browser = await launch();
});
afterAll(async () => {
  await browser?.close();
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

describe('jocus/vite', () => {
  test('builds a game that runs its code under a policy that forbids code from text', async () => {
    const root = project();
    await build({ ...plain, root });
    const { server, url } = await serve(
      join(root, 'dist'),
      "default-src 'none'; script-src 'self'; img-src data:",
    );
    try {
      const tab = await browser.newPage();
      const errors: string[] = [];
      tab.on('pageerror', (error) => errors.push(error.message));
      tab.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
      await tab.goto(url);
      expect(await tab.textContent('body')).toMatch(/^0010 plain: yaml /);
      expect(errors).toEqual([]);
    } finally {
      server.close();
    }
    expect(readFileSync(join(root, 'game.d.yaml.ts'), 'utf8')).toContain('    score: number;\n');
  });

  test('stops the build at a mistake and says where it stands and how to mend it', async () => {
    const root = project();
    writeFileSync(join(root, 'game.yaml'), game.replace('add: { score', 'add: { scroe'));
    await expect(build({ ...plain, root })).rejects.toMatchObject({
      message: expect.stringMatching(/game\.yaml:9:19: There is no counter "scroe".*Did you mean score\?/s),
      errors: [{ loc: { line: 9, column: 19 } }],
    });
  });

  test('lets a running session go on under the changed file, and shows a mistake over the page', async () => {
    const root = project();
    const server = await createServer({ ...plain, root, server: { port: 0, host: '127.0.0.1' } });
    try {
      await server.listen();
      const tab = await browser.newPage();
      const told: string[] = [];
      tab.on('console', (message) => told.push(message.text()));
      await tab.goto(server.resolvedUrls!.local[0]!);
      await tab.waitForFunction(() => document.body.textContent?.startsWith('0010'));
      const [, , , opened] = (await tab.textContent('body'))!.split(' ');
      await tab.click('body');

      await save(join(root, 'game.yaml'), game.replace('score: 10', 'score: 25'));
      await tab.waitForFunction(() => document.body.textContent?.startsWith('0050'));
      // Played again in the page that was open, not loaded anew.
      expect((await tab.textContent('body'))!.split(' ')[3]).toBe(opened);
      expect(
        told.some((line) => /\[jocus\] 2 events were played again under the new design\./.test(line)),
      ).toBe(true);

      await save(join(root, 'game.yaml'), game.replace('drop.taken', 'drop.takn'));
      await tab.waitForSelector('vite-error-overlay');
      const overlay = await tab.evaluate(
        () => document.querySelector('vite-error-overlay')!.shadowRoot!.textContent,
      );
      expect(overlay).toMatch(/game\.yaml:8:11.*drop\.takn.*Did you mean drop\.taken\?/s);

      await save(join(root, 'game.yaml'), game.replace('score: 10', 'score: 7'));
      await tab.waitForFunction(() => document.body.textContent?.startsWith('0014'));
      await tab.click('body', { force: true });
      await tab.waitForFunction(() => document.body.textContent?.startsWith('0021'));
    } finally {
      await server.close();
    }
  });

  test('leaves declarations of somebody else alone, and says so: a file written by hand, and a link', async () => {
    for (const isLink of [false, true]) {
      const root = project();
      const declarations = join(root, 'game.d.yaml.ts');
      const own = '// Not written by jocus from game.yaml, but by hand.\nexport default 1;\n';
      const elsewhere = join(root, 'elsewhere.ts');
      writeFileSync(isLink ? elsewhere : declarations, own);
      if (isLink) symlinkSync(elsewhere, declarations);
      const warnings: string[] = [];
      const customLogger = { ...createLogger('silent'), warn: (text: string) => void warnings.push(text) };
      await build({ ...plain, root, customLogger });
      expect(readFileSync(declarations, 'utf8')).toBe(own);
      expect(warnings.join()).toMatch(/game\.d\.yaml\.ts was not written by Jocus and is left as it is/);
    }
  });

  test('a design that is empty for a moment, as some editors save, costs no session', async () => {
    const root = project();
    const server = await createServer({ ...plain, root, server: { port: 0, host: '127.0.0.1' } });
    try {
      await server.listen();
      const tab = await browser.newPage();
      const errors: string[] = [];
      tab.on('pageerror', (error) => errors.push(error.message));
      await tab.goto(server.resolvedUrls!.local[0]!);
      await tab.waitForFunction(() => document.body.textContent?.startsWith('0010'));
      await tab.click('body');
      const [, , , opened] = (await tab.textContent('body'))!.split(' ');
      for (const text of ['', 'jocus: 1\n', '# nothing yet\n']) {
        writeFileSync(join(root, 'game.yaml'), text);
        await tab.waitForTimeout(300);
        await save(join(root, 'game.yaml'), game.replace('score: 10', `score: ${20 + text.length}`));
        await tab.waitForFunction(
          (score) => document.body.textContent?.startsWith(score),
          String(2 * (20 + text.length)).padStart(4, '0'),
        );
      }
      expect((await tab.textContent('body'))!.split(' ')[3]).toBe(opened);
      expect(errors).toEqual([]);
    } finally {
      await server.close();
    }
  });
});
