// Says how large each entry of the package is in a page, gzipped, with all that it needs, and fails where one has outgrown its budget:
// node scripts/entry-sizes.mjs
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';
import { mustFit } from './budgets.mjs';

const dist = fileURLToPath(new URL('../dist/', import.meta.url));
/**
 * What a page imports, from where, and kilobytes.
 *
 * @type {readonly [what: string, names: string, from: string, budget: number][]}
 */
const entries = [
  ['a game built ahead of time', 'Game', 'engine/index.js', 12],
  ['a session', 'Session', 'index.js', 38],
  ['a session and the reader', 'Session, readDesign', 'index.js', 190],
  ['the simulator', 'simulate', 'index.js', 62],
  ['the simulator and its figures', 'simulate, summarize', 'index.js', 90],
  ['the exact solver', 'solve', 'index.js', 86],
  ['the check', 'check', 'index.js', 142],
  ['the report', 'reportToHtml', 'formats/report/index.js', 150],
  ['a world', 'fieldWorld, Stage', 'players/worlds/worlds.js', 5],
  ['the React hook', 'useSession', 'browser/react.js', 2],
];
const folder = mkdtempSync(join(tmpdir(), 'jocus-sizes-'));
for (const [what, names, from, budget] of entries) {
  const entry = join(folder, 'entry.mjs');
  writeFileSync(entry, `export { ${names} } from '${join(dist, from)}';`);
  const built = await build({
    logLevel: 'silent',
    configFile: false,
    root: folder,
    build: {
      write: false,
      minify: true,
      lib: { entry, formats: ['es'], fileName: 'entry' },
      // The page has it already.
      rollupOptions: { external: ['react'] },
    },
  });
  const size = [built]
    .flat()
    .flatMap((each) => ('output' in each ? each.output : []))
    .reduce((sum, part) => sum + (part.type === 'chunk' ? gzipSync(part.code).length / 1000 : 0), 0);
  mustFit(what, size, budget);
}
rmSync(folder, { recursive: true });
