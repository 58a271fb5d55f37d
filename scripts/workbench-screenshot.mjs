// Takes pictures of the workbench with the demo: node scripts/workbench-screenshot.mjs FOLDER
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serveWorkbench } from '../dist/node/workbench-server.js';
import { openPage } from './browser.mjs';

const out = process.argv[2];
const folder = mkdtempSync(join(tmpdir(), 'jocus-shot-'));
const file = join(folder, 'heath.yaml');
copyFileSync(fileURLToPath(new URL('../demo/dusk-on-the-heath.yaml', import.meta.url)), file);
const workbench = await serveWorkbench(file, { port: 0 });
const { browser, page } = await openPage();
const shot = (name) => page.screenshot({ path: join(out, `${name}.png`) });
const press = (name) => page.getByRole('button', { name, exact: true }).click();
const view = (name) => page.locator('.view-tabs').getByText(name, { exact: true }).click();

await page.goto(workbench.address);
await page.getByText('4 of 4 targets met').waitFor();
await press('input.start');
await press('▶ Fly it');
await page.mouse.move(960, 250);
await page.waitForTimeout(5000);
await press('❚❚ Hold time');
await page.waitForTimeout(200);
await shot('workbench');

await view('Flow');
await press('Wide');
await page.getByRole('button', { name: /^heath → nightfall/ }).click();
await page.waitForTimeout(600);
await shot('workbench-flow');

await view('Balance');
await page.getByRole('slider', { name: 'petal' }).focus();
for (let step = 0; step < 6; step++) await page.keyboard.press('ArrowRight');
await page.getByText('3,000 sessions of each player').waitFor();
await page.waitForTimeout(2500);
await shot('workbench-balance');
await workbench.close();

const alone = await serveWorkbench(undefined, { port: 0 });
await page.goto(alone.address);
await page.locator('.starters').waitFor();
await shot('workbench-start');
await browser.close();
await alone.close();
rmSync(folder, { recursive: true });
