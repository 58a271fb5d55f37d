// Takes a picture of a file that a browser shows, from one of its parts on. Usage: node scripts/file-screenshot.mjs IN.svg OUT.png [ID]
import { pathToFileURL } from 'node:url';
import { openPage } from './browser.mjs';

const [, , file, out, part] = process.argv;
const { browser, page } = await openPage();
await page.goto(pathToFileURL(file).href);
if (part !== undefined) await page.evaluate((id) => document.getElementById(id).scrollIntoView(), part);
await page.screenshot({ path: out });
await browser.close();
