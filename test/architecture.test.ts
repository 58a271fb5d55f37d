import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';

const root = fileURLToPath(new URL('../src', import.meta.url));

/** Folders of `src/`, each of which may use those before it and itself; those of one line may not use each other. */
const layers = [
  ['design'],
  ['engine', 'sentences'],
  ['measure'],
  ['players'],
  ['simulate', 'explore'],
  ['inspect'],
  ['balance'],
  ['formats'],
  ['node', 'browser'],
  ['cli'],
];
/** Files of one folder: a dozen, and one more at the most. */
const mostFiles = 13;
const mostLines = 300;

function filesIn(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return filesIn(path);
    return name.endsWith('.ts') ? [relative(root, path)] : [];
  });
}
const files = filesIn(root);
const importsOf = (file: string): string[] =>
  [...readFileSync(join(root, file), 'utf8').matchAll(/^(?:import|export|\})[^\n]*from '(\.[^']+)';$/gm)].map(
    ([, to]) => join(dirname(file), to!.replace(/\.js$/, '.ts')),
  );
const graph = new Map(files.map((file) => [file, importsOf(file)]));
const folderOf = (file: string): string => file.split('/')[0]!;
const layerOf = (file: string): number => layers.findIndex((layer) => layer.includes(folderOf(file)));

test('every import leads to a file, and downward', () => {
  const upward: string[] = [];
  for (const [file, all] of graph) {
    for (const to of all) {
      expect(graph.has(to) || to.endsWith('.d.ts'), `${file} -> ${to}`).toBe(true);
      const isOwn = folderOf(file) === folderOf(to);
      if (file !== 'index.ts' && !isOwn && layerOf(to) >= layerOf(file)) upward.push(`${file} -> ${to}`);
    }
  }
  expect(upward).toEqual([]);
  for (const file of files) if (file !== 'index.ts') expect(layerOf(file), file).toBeGreaterThanOrEqual(0);
});

test('no file needs itself, whatever lies between', () => {
  const settled = new Set<string>();
  const visit = (file: string, above: readonly string[]): void => {
    expect(above, [...above, file].join(' -> ')).not.toContain(file);
    if (settled.has(file)) return;
    for (const to of graph.get(file) ?? []) visit(to, [...above, file]);
    settled.add(file);
  };
  for (const file of files) visit(file, []);
});

test('a folder holds what can be seen at once', () => {
  const counts = new Map<string, number>();
  for (const file of files) counts.set(dirname(file), (counts.get(dirname(file)) ?? 0) + 1);
  expect([...counts].filter(([, count]) => count > mostFiles)).toEqual([]);
});

test('a file of more than three hundred lines says at its head why it is one', () => {
  const long = files.filter(
    (file) => readFileSync(join(root, file), 'utf8').trimEnd().split('\n').length > mostLines,
  );
  const silent = long.filter(
    (file) => !/^(#!.*\n)?(\/\/ |\/\*\*)/.test(readFileSync(join(root, file), 'utf8')),
  );
  expect(silent).toEqual([]);
});
