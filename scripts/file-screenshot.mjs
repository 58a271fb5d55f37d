// Takes a picture of a file that a browser shows, from one of its parts on. Usage: node scripts/file-screenshot.mjs IN.svg OUT.png [ID]
import { pathToFileURL } from 'node:url';
import { chromium } from 'playwright-core';

const [, , file, out, part] = process.argv;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(pathToFileURL(file).href);
if (part !== undefined) await page.evaluate((id) => document.getElementById(id).scrollIntoView(), part);
await page.screenshot({ path: out });
await browser.close();
