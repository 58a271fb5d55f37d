// Takes a picture of an example while it is played. Usage: node scripts/page-screenshot.mjs heath OUT.png
import { build, preview } from 'vite';
import { openPage } from './browser.mjs';

const [, , example, out] = process.argv;
const root = new URL(`../examples/${example}`, import.meta.url).pathname;
await build({ root, configFile: `${root}/vite.config.ts`, logLevel: 'error' });
const server = await preview({
  root,
  configFile: `${root}/vite.config.ts`,
  preview: { port: 0 },
  logLevel: 'error',
});
const { browser, page } = await openPage();
await page.clock.install({ time: 0 });
await page.goto(`${server.resolvedUrls.local[0]}?seed=3`);

async function fly() {
  await page.clock.runFor(100);
  await page.keyboard.press('Enter');
  /** @type {[string, number][]} */
  const presses = [
    ['ArrowLeft', 640],
    ['ArrowUp', 300],
    ['ArrowRight', 1500],
    ['ArrowDown', 700],
    ['ArrowLeft', 900],
    ['ArrowUp', 500],
    ['ArrowRight', 900],
    ['ArrowDown', 400],
  ];
  for (const [key, milliseconds] of presses) {
    await page.keyboard.down(key);
    await page.clock.runFor(milliseconds);
    await page.keyboard.up(key);
  }
}

await fly();
await page.screenshot({ path: out });
await browser.close();
await server.close();
