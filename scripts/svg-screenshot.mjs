// Takes a picture of an SVG file. Usage: node scripts/svg-screenshot.mjs IN.svg OUT.png
import { pathToFileURL } from 'node:url';
import { chromium } from 'playwright-core';

const [, , file, out] = process.argv;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(pathToFileURL(file).href);
await page.screenshot({ path: out });
await browser.close();
