import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';

/** Writes pages, by name, into a folder; with --check, only looks whether they are there as they should be. */
export function keepPages(folder, pages, command) {
  mkdirSync(folder, { recursive: true });
  const isCheck = process.argv.includes('--check');
  const stale = [...pages].filter(([name, text]) => {
    const file = `${folder}/${name}.md`;
    if (!isCheck) writeFileSync(file, `${text}\n`);
    return readFileSync(file, 'utf8') !== `${text}\n`;
  });
  if (stale.length === 0) return;
  process.stderr.write(
    `${stale.map(([name]) => name).join(', ')} of ${folder} not current; run ${command}.\n`,
  );
  process.exit(1);
}
