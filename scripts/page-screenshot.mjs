// Takes a picture of the first-light page while it is played. Usage: node scripts/page-screenshot.mjs OUT.png
import { chromium } from 'playwright-core';
import { build, preview } from 'vite';

const root = new URL('../examples/first-light', import.meta.url).pathname;
await build({ root, configFile: `${root}/vite.config.ts`, logLevel: 'error' });
const server = await preview({
  root,
  configFile: `${root}/vite.config.ts`,
  preview: { port: 0 },
  logLevel: 'error',
});
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.clock.install({ time: 0 });
await page.goto(server.resolvedUrls.local[0]);
await page.click('[data-event="input.start"]');
await page.clock.runFor(6500);
await page.click('[data-event="blossom.taken"]');
await page.click('[data-event="blossom.taken"]');
await page.click('[data-event="wasp.hit"]');
await page.clock.runFor(1200);
await page.click('[data-event="blossom.taken"]');
await page.clock.runFor(300);
await page.screenshot({ path: process.argv[2] });
await browser.close();
await server.close();
