// Says how large the built workbench is, gzipped, and fails where a part has outgrown its budget: node scripts/page-sizes.mjs
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { mustFit } from './budgets.mjs';

const folder = fileURLToPath(new URL('../dist/workbench/assets/', import.meta.url));
/** Kilobytes, gzipped. What is not named here is loaded before the first sentences are shown, and counts as `first`. */
const budgets = {
  first: 300,
  'reading.worker': 154,
  'analysis.worker': 130,
  'play.worker': 36,
  'balance.worker': 155,
  figures: 230,
  exports: 100,
  'check-exports': 39,
  FileEditor: 160,
  FlowPanel: 90,
  Home: 50,
  BalancePanel: 5,
  LevelsPanel: 5,
  'engine.iife': 15,
};
const sizes = Object.fromEntries(Object.keys(budgets).map((name) => [name, 0]));
for (const file of readdirSync(folder)) {
  const name = Object.keys(budgets).find((each) => file.startsWith(`${each}-`)) ?? 'first';
  sizes[name] += gzipSync(readFileSync(`${folder}${file}`)).length / 1000;
}
for (const [name, size] of Object.entries(sizes)) mustFit(name, size, budgets[name]);
