// Looks at the package as npm packs it, from the build: how its entries resolve, what its manifest promises, and the licences of all that it
// brings along. Usage: node scripts/package-checks.mjs
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { publint } from 'publint';
import { formatMessage } from 'publint/utils';

const folder = mkdtempSync(join(tmpdir(), 'jocus-package-'));
const faults = [];

const packed = execFileSync('npm', ['pack', '--ignore-scripts', '--silent', '--pack-destination', folder], {
  encoding: 'utf8',
}).trim();
const tarball = join(folder, packed);

// As an engine of modules resolves it; a package of ECMAScript modules alone is not for require.
const { status, stdout } = spawnSync(
  process.execPath,
  ['node_modules/@arethetypeswrong/cli/dist/index.js', tarball, '--profile', 'esm-only', '--no-color'],
  { encoding: 'utf8' },
);
if (status !== 0) faults.push(stdout.trim());

execFileSync('tar', ['xzf', tarball, '-C', folder]);
const manifest = JSON.parse(readFileSync(join(folder, 'package/package.json'), 'utf8'));
const { messages } = await publint({ pkgDir: join(folder, 'package'), pack: false, strict: true });
for (const message of messages) faults.push(formatMessage(message, manifest));

const allowed = [
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  'BlueOak-1.0.0',
  '0BSD',
  'Unlicense',
];
const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const brought = Object.entries(packages).filter(
  ([path, { dev, devOptional, peer }]) => path !== '' && !dev && !devOptional && !peer,
);
for (const [path, { license = writtenLicence(path) }] of brought)
  if (!allowed.includes(license)) faults.push(`${path} has the licence ${license}, which is not allowed`);

/** Of a package whose manifest names none: what its licence file begins with. */
function writtenLicence(path) {
  const file = readdirSync(path).find((name) => /^licen[cs]e/i.test(name));
  const text = file === undefined ? '' : readFileSync(join(path, file), 'utf8');
  return text.includes('Permission is hereby granted, free of charge') ? 'MIT' : undefined;
}

rmSync(folder, { recursive: true });
for (const fault of faults) process.stdout.write(`✗ ${fault}\n`);
if (faults.length > 0) process.exitCode = 1;
else
  process.stdout.write(
    `✓ ${Object.keys(manifest.exports).length} entries resolve, the manifest keeps what it promises, ${brought.length} packages have a licence that may be used\n`,
  );
