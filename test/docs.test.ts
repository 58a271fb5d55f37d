import { existsSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, test } from 'vitest';
import * as jocus from '../src/index.js';
import { check, readDesign } from '../src/index.js';
import { compile } from './support/compile.js';
import { blocksOf, readPage, root } from './support/pages.js';

const pages = ['README.md', 'CONTRIBUTING.md', 'CHANGELOG.md'].concat(
  readdirSync(join(root, 'docs'), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.md'))
    .map((file) => `docs/${file}`),
);

describe('recipes', () => {
  const blocks = blocksOf('docs/recipes.md', 'yaml');

  test('are eight', () => {
    expect(blocks).toHaveLength(8);
  });

  test.each(blocks.map((block) => [/title: (.*)/.exec(block)![1]!, block] as const))(
    '%s is a design without findings, whose tests pass',
    (_, block) => {
      const { passed, findings, tests, exploration } = check(readDesign(block));
      expect(findings.filter(({ accepted }) => accepted === undefined).map(({ code }) => code)).toEqual([]);
      expect(passed).toBe(true);
      expect(tests.every(({ passed }) => passed)).toBe(true);
      expect(exploration.transitions.every(({ verdict }) => verdict === 'reached')).toBe(true);
    },
  );
});

test('the designs of the language page are right: their tests pass, and every transition can be taken', () => {
  const blocks = blocksOf('docs/language.md', 'yaml');
  expect(blocks).toHaveLength(3);
  for (const block of blocks) {
    const { tests, exploration, findings } = check(readDesign(block));
    expect(tests.filter(({ passed }) => !passed)).toEqual([]);
    expect(exploration.transitions.filter(({ verdict }) => verdict !== 'reached')).toEqual([]);
    expect(findings.filter(({ severity }) => severity === 'error')).toEqual([]);
  }
});

test('the TypeScript of the pages compiles', () => {
  const programs = new Map(
    pages.flatMap((page) =>
      ['ts', 'tsx'].flatMap((language) =>
        blocksOf(page, language).map((block, index): [string, string] => [
          `${page.replaceAll(/\W/g, '-')}-${index}.${language}`,
          `${block}\nexport {};\n`,
        ]),
      ),
    ),
  );
  expect(programs.size).toBeGreaterThan(10);
  programs.set(
    'heath.d.yaml.ts',
    readPage('demo/dusk-on-the-heath.d.yaml.ts').replaceAll(/^export \{.*\n/gm, ''),
  );
  expect(compile(programs)).toBe('');
});

test('the examples of the doc comments compile', () => {
  const source = readdirSync(join(root, 'src'), { recursive: true, encoding: 'utf8' })
    .filter((file) => /^(?!cli|node|browser).*\.ts$/.test(file))
    .map((file) => readPage(`src/${file}`))
    .join('\n');
  const examples = [
    ...source.matchAll(/@example((?:\n \* .*)+)\n \*\/\nexport (?:async )?(?:function|class) (\w+)/g),
  ].flatMap(([, lines, name]) => (name! in jocus ? [lines!.replaceAll('\n * ', '\n')] : []));
  expect(examples.length).toBeGreaterThan(20);
  const names = Object.keys(jocus).join(', ');
  const given = 'declare const text: string, design: Design, session: Session, game: Game;';
  const programs = new Map(
    examples.map((example, index): [string, string] => [
      `example-${index}.ts`,
      `import { ${names}, type Design } from 'jocus';\n${given}\nexport {};\n{${example}\n}\n`,
    ]),
  );
  expect(compile(programs)).toBe('');
});

test('every page of docs has its place in the site', () => {
  const config = readPage('site/.vitepress/config.mjs');
  const missing = pages
    .filter((page) => /^docs\/[\w-]+\.md$/.test(page))
    .filter((page) => !config.includes(`'${page.replace(/^docs(.*)\.md$/, '$1')}'`));
  expect(missing).toEqual([]);
});

/** As pages of a repository name their headings. */
const anchorOf = (heading: string): string =>
  heading
    .replaceAll('`', '')
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N} _-]/gu, '')
    .replaceAll(' ', '-');

test.each(pages)('the links of %s lead somewhere', (page) => {
  const text = readPage(page).replaceAll(/^```[\s\S]*?^```/gm, '');
  const broken = [...text.matchAll(/\]\(([^)\s]+)\)/g)]
    .map(([, link]) => link!)
    .filter((link) => !/^[a-z]+:/.test(link))
    .filter((link) => {
      const [path = '', anchor] = link.split('#');
      const file = path === '' ? page : join(dirname(page), path);
      if (!existsSync(join(root, file))) return true;
      if (anchor === undefined || !file.endsWith('.md')) return false;
      return ![...readPage(file).matchAll(/^#+ (.*)$/gm)].some(
        ([, heading]) => anchorOf(heading!) === anchor,
      );
    });
  expect(broken).toEqual([]);
});
