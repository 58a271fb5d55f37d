// Takes a picture of the workbench with the demo, two blossoms taken: node scripts/workbench-screenshot.mjs OUT
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serveWorkbench } from '../dist/node/workbench-server.js';
import { openPage } from './browser.mjs';

const folder = mkdtempSync(join(tmpdir(), 'jocus-shot-'));
const file = join(folder, 'heath.yaml');
copyFileSync(fileURLToPath(new URL('../demo/dusk-on-the-heath.yaml', import.meta.url)), file);
const workbench = await serveWorkbench(file, { port: 0 });
const { browser, page } = await openPage();
await page.goto(workbench.address);
const press = (name) => page.getByRole('button', { name, exact: true }).click();
for (const name of ['input.start', '1 s', 'blossom.taken', 'blossom.taken']) await press(name);
await page.locator('.status.good').waitFor();
await page.waitForTimeout(500);
await page.screenshot({ path: process.argv[2] });
await browser.close();
await workbench.close();
rmSync(folder, { recursive: true });
