import { execFileSync, spawn } from 'node:child_process';
import {
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, Page } from 'playwright-core';
import { build, createServer, type InlineConfig } from 'vite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { launch, serve } from '../support/browser.js';
import { demoText } from '../support/designs.js';

const repository = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'jocus-dev-'));
let browser: Browser;

beforeAll(async () => {
  browser = await launch();
});
afterAll(async () => {
  await browser?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** Opens a page and drives it; whatever it complains of is a failure. */
async function drive(url: string, work: (page: Page) => Promise<void>): Promise<void> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  try {
    await page.goto(url);
    await work(page);
  } finally {
    await page.close();
  }
  expect(errors).toEqual([]);
}

async function inDevelopment(config: InlineConfig, work: (page: Page) => Promise<void>): Promise<void> {
  const server = await createServer({
    logLevel: 'silent',
    ...config,
    cacheDir: join(folder, 'cache', `${readdirSync(folder).length}-${performance.now()}`),
    server: { port: 0, host: '127.0.0.1' },
  });
  try {
    await server.listen();
    await drive(server.resolvedUrls!.local[0]!, work);
  } finally {
    await server.close();
  }
}

describe('the examples in the development server, as npm run starts them', () => {
  const example = (name: string): InlineConfig => {
    const root = join(repository, 'examples', name);
    return { root, configFile: join(root, 'vite.config.ts') };
  };

  test('the workbench: a starter is opened, checked and simulated', async () => {
    const root = join(repository, 'workbench');
    await inDevelopment({ root, configFile: join(root, 'vite.config.ts') }, async (page) => {
      await page.getByText('Low Tide', { exact: true }).click({ timeout: 60_000 });
      await page.getByText(/3 of 3 targets met/).waitFor({ timeout: 60_000 });
      await page.getByRole('button', { name: 'input.start', exact: true }).click();
      await page.locator('[data-screen="pool"]').waitFor();
    });
  });

  test('heath: a key starts the game, and the bee is on the heath', async () => {
    await inDevelopment(example('heath'), async (page) => {
      await page.waitForFunction(() => document.body.dataset.screen === 'title');
      await page.keyboard.press('Enter');
      await page.waitForFunction(() => document.body.dataset.screen === 'heath');
      await page.waitForFunction(() => document.querySelector('[data-show="lives"] b') !== null);
    });
  });
});

/**
 * An empty folder with the package as npm packs it. What the package depends on is linked from here, so that no registry is asked; what
 * it does not name is not there.
 */
function app(): string {
  const root = join(folder, 'app');
  const modules = join(root, 'node_modules');
  mkdirSync(modules, { recursive: true });
  const [packed] = JSON.parse(
    execFileSync('npm', ['pack', '--ignore-scripts', '--json', '--pack-destination', root], {
      cwd: repository,
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    }),
  ) as [{ filename: string }];
  execFileSync('tar', ['-xzf', join(root, packed.filename), '-C', modules]);
  execFileSync('mv', [join(modules, 'package'), join(modules, 'jocus')]);
  const { dependencies } = JSON.parse(readFileSync(join(modules, 'jocus', 'package.json'), 'utf8'));
  for (const name of [...Object.keys(dependencies), 'vite', 'react', 'react-dom']) {
    mkdirSync(dirname(join(modules, name)), { recursive: true });
    symlinkSync(join(repository, 'node_modules', name), join(modules, name));
  }
  writeFileSync(join(root, 'package.json'), '{ "private": true, "type": "module" }');
  writeFileSync(join(root, 'heath.yaml'), demoText);
  writeFileSync(
    join(root, 'vite.config.js'),
    "import { jocus } from 'jocus/vite';\nexport default { base: './', plugins: [jocus()] };\n",
  );
  writeFileSync(
    join(root, 'index.html'),
    '<!doctype html><link rel="icon" href="data:,"><body><script type="module" src="/main.js"></script>',
  );
  writeFileSync(
    join(root, 'main.js'),
    `import game from './heath.yaml';
import text from './heath.yaml?raw';
import { check, readDesign, readLog, Session, simulate, summarize } from 'jocus';
import { browserWorkers } from 'jocus/browser';
import { reportToHtml } from 'jocus/report';
import { fieldWorld, Stage } from 'jocus/world';
import workerUrl from 'jocus/simulate-worker?worker&url';

const design = readDesign(text, 'heath.yaml');
const session = new Session(design);
session.send('input.start');
session.send('blossom.taken');
const built = game.start();
built.send('input.start');
built.send('blossom.taken');
const stage = new Stage(fieldWorld, built);
stage.advance(100, 'left');
const { players } = simulate(design, { sessions: 20, seed: 1 });
const log = readLog('player,session,at,event\\n=1+1,0,0.5,input.start\\n', 'log.csv');
document.body.dataset.entries = [typeof browserWorkers, typeof reportToHtml, typeof summarize, typeof workerUrl].join();
document.body.textContent = [
  session.counter('score'),
  built.counter('score'),
  check(design).passed,
  players[0].tally.sessions,
  log[0].player,
].join(' ');
`,
  );
  writeFileSync(
    join(root, 'react.html'),
    '<!doctype html><link rel="icon" href="data:,"><body><script type="module" src="/react.js"></script>',
  );
  writeFileSync(
    join(root, 'react.js'),
    `import { createElement, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { useSession } from 'jocus/react';
import game from './heath.yaml';

const session = game.start();
let drawn = 0;
function Heath() {
  const [isPaused, setPaused] = useState(false);
  const { screen, text, hud } = useSession(session, { isPaused });
  drawn++;
  document.body.dataset.drawn = drawn;
  return createElement('main', null,
    createElement('button', { onClick: () => session.send('input.start') }, 'start'),
    createElement('button', { onClick: () => session.send('blossom.taken') }, 'take'),
    createElement('button', { onClick: () => setPaused(!isPaused) }, 'pause'),
    createElement('p', null, screen + ': ' + text),
    ...hud.map(({ show, text }) => createElement('b', { key: show, 'data-show': show }, text)));
}
const main = document.createElement('div');
document.body.append(main);
createRoot(main).render(createElement(Heath));
`,
  );
  return root;
}

describe('an app made from the packed package', () => {
  let root: string;
  beforeAll(() => {
    root = app();
  });
  const expected = '10 10 true 20 =1+1';
  const works = async (page: Page): Promise<void> => {
    await page.waitForFunction((text) => document.body.textContent === text, expected, { timeout: 60_000 });
    expect(await page.evaluate(() => document.body.dataset.entries)).toBe(
      'function,function,function,string',
    );
  };

  test('runs in the development server, and draws a session with React: as events come, as time passes, and no more often than it changes', async () => {
    await inDevelopment({ root, configFile: join(root, 'vite.config.js') }, async (page) => {
      await works(page);
      await page.goto(`${page.url()}react.html`);
      const shown = (name: string) => page.locator(`[data-show="${name}"]`);
      await page.getByText('title: Dusk on the Heath. Press start.').waitFor({ timeout: 60_000 });
      await page.getByRole('button', { name: 'start' }).click();
      await page.getByText('heath: Gorse Bank: 0 of 12 drops').waitFor();
      await page.getByRole('button', { name: 'take' }).click();
      await expect.poll(() => shown('score').textContent()).toBe('000010');
      await expect.poll(() => shown('daylight').textContent()).toMatch(/^0:4[0-3]$/);
      await page.getByRole('button', { name: 'pause' }).click();
      const [before, drawn] = [
        await shown('daylight').textContent(),
        await page.evaluate(() => document.body.dataset.drawn),
      ];
      await page.waitForTimeout(1500);
      expect(await shown('daylight').textContent()).toBe(before);
      expect(await page.evaluate(() => document.body.dataset.drawn)).toBe(drawn);
      // Sixty frames a second have passed, and it was drawn for some few changes.
      expect(Number(drawn)).toBeLessThan(40);
    });
  });

  test('runs built', async () => {
    await build({ root, configFile: join(root, 'vite.config.js'), logLevel: 'silent' });
    const { server, url } = await serve(join(root, 'dist'));
    try {
      await drive(url, works);
    } finally {
      server.close();
    }
  });

  test('its command line runs from there', () => {
    const bin = join(root, 'node_modules/jocus/dist/bin/jocus.js');
    const told = execFileSync(process.execPath, [bin, 'check', 'heath.yaml'], {
      cwd: root,
      encoding: 'utf8',
    });
    expect(told).toContain('✓ passed');
  });

  test('its workbench opens from there', async () => {
    const bin = join(root, 'node_modules/jocus/dist/bin/jocus.js');
    const running = spawn(process.execPath, [bin, 'open', 'heath.yaml', '--no-browser'], { cwd: root });
    try {
      const address = await new Promise<string>((done) => {
        running.stdout.on('data', (data) => {
          const found = /http:\S+/.exec(String(data));
          if (found !== null) done(found[0]);
        });
      });
      await drive(address, async (page) => {
        await page.locator('.status.good').waitFor({ timeout: 60_000 });
        await page.getByRole('button', { name: 'input.start', exact: true }).click();
        await page.waitForSelector('[data-screen="heath"]');
      });
    } finally {
      running.kill('SIGINT');
    }
  });
});
