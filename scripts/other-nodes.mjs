// Runs the command line under other releases of Node and compares what it prints, byte for byte, with this one: the same seed gives the
// same result anywhere. A release that does not install here is left out, and said so: node scripts/other-nodes.mjs
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const releases = ['22', '24'];
const root = fileURLToPath(new URL('..', import.meta.url));
const demo = 'demo/dusk-on-the-heath.yaml';
const commands = [
  ['check', demo, '--format', 'json'],
  ['check', 'demo/night-post.yaml', 'demo/rock-pool.yaml'],
  ['simulate', demo, '--sessions', '300', '--format', 'json'],
  ['simulate', 'demo/mechanics/become.yaml', '--exact', '--format', 'json'],
  ['dials', demo, '--sessions', '60', '--format', 'csv'],
  ['report', demo, '--sessions', '100', '--format', 'markdown'],
];

/** @param {string} node */
const printed = (node) =>
  commands.map((words) => {
    const { status, stdout, stderr } = spawnSync(node, ['dist/bin/jocus.js', ...words], {
      cwd: root,
      encoding: 'utf8',
    });
    return { words, status, text: `${status}\n${stdout}\n${stderr}` };
  });

const here = printed(process.execPath);
for (const { words, status, text } of here)
  if (status !== 0)
    throw new Error(`jocus ${words.join(' ')} fails on ${process.version}: ${text.slice(0, 500)}`);
for (const release of releases) {
  const folder = mkdtempSync(join(tmpdir(), 'jocus-node-'));
  try {
    const name = `node-${process.platform}-${process.arch}`;
    const { status } = spawnSync(
      'npm',
      ['install', '--no-audit', '--no-fund', '--no-save', '--prefix', folder, `${name}@${release}`],
      { cwd: folder, stdio: 'ignore' },
    );
    if (status !== 0) {
      process.stdout.write(`– Node ${release} does not install here\n`);
      continue;
    }
    const node = join(folder, 'node_modules', name, 'bin/node');
    const version = spawnSync(node, ['--version'], { encoding: 'utf8' }).stdout.trim();
    const different = printed(node).filter(({ text }, index) => text !== here[index]?.text);
    for (const { words, text } of different)
      process.stdout.write(
        `✗ ${version} prints something else for jocus ${words.join(' ')}:\n${text.slice(0, 500)}\n`,
      );
    if (different.length > 0) process.exitCode = 1;
    else
      process.stdout.write(
        `✓ ${version} prints the same as ${process.version}, ${commands.length} commands\n`,
      );
  } finally {
    rmSync(folder, { recursive: true });
  }
}
