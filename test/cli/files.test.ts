import {
  copyFileSync,
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from 'vitest';
import { inThread, jocus, temporaryFolder } from '../support/command-line.js';
import { isSoak } from '../support/runs.js';

const folder = temporaryFolder();
const small = `# A design with a dial and a target, quick to tune.
jocus: 1
title: A glade
dials:
  worth: { value: 1, from: 1, to: 20 }   # points of a berry
counters: { score: { start: 0, min: 0 } }
pieces: { berry: { is: collectible } }
levels: [{ place: { berry: 3 } }]
rules: [{ when: berry.taken, do: [{ add: { score: worth } }] }]
screens: { glade: { live: true }, end: { ending: won, text: "{score}" } }
transitions:
  - { from: glade, to: end, if: left.berry == 0 }
  - { from: end, to: glade, when: input.again, fresh: run }
hud: [{ show: score }]
players: { one: {} }
targets: [{ measure: score, of: one, stat: mean, from: 12, to: 40 }]
`;
let places = 0;
/** A folder of its own with the small design in it. */
function place(): string {
  const own = join(folder, `place-${places++}`);
  mkdirSync(own);
  writeFileSync(join(own, 'glade.yaml'), small);
  return own;
}
const wrapper = fileURLToPath(new URL('../support/fail-at-write.mjs', import.meta.url));
const spoilt = (words: readonly string[], how: NodeJS.ProcessEnv) => jocus(words, how, ['--import', wrapper]);

describe('a result never goes over what is read', () => {
  test.each([
    ['check', ['check', 'D', '--out', 'D']],
    ['check as a picture', ['check', 'D', '--format', 'svg', '--out', 'D']],
    ['check, through a link', ['check', 'D', '--out', 'LINK']],
    ['check, by another name', ['check', 'D', '--out', 'HARD']],
    ['report', ['report', 'D', '--out', 'D']],
    ['simulate', ['simulate', 'D', '--out', 'D']],
    ['rows', ['simulate', 'D', '--save-runs', 'D.csv']],
    ['rows of two kinds in one file', ['simulate', 'D', '--save-runs', 'R.csv', '--save-events', './R.csv']],
    ['merge', ['merge', 'D', 'PART', '--out', 'PART']],
  ])('%s', (_, words) => {
    const own = place();
    const design = join(own, 'glade.yaml');
    symlinkSync(design, join(own, 'link.yaml'));
    linkSync(design, join(own, 'hard.yaml'));
    symlinkSync(design, join(own, 'design.csv'));
    expect(inThread(['simulate', design, '--sessions', '5', '--out', join(own, 'part.json')]).status).toBe(1);
    const names: { readonly [word: string]: string } = {
      D: design,
      LINK: join(own, 'link.yaml'),
      HARD: join(own, 'hard.yaml'),
      'D.csv': join(own, 'design.csv'),
      'R.csv': join(own, 'r.csv'),
      './R.csv': `${own}/./r.csv`,
      PART: join(own, 'part.json'),
    };
    const before = readFileSync(join(own, 'part.json'), 'utf8');
    const { status, stderr } = inThread(words.map((word) => names[word] ?? word));
    expect(stderr).toContain('in use by this command already');
    expect(status).toBe(2);
    expect(readFileSync(design, 'utf8')).toBe(small);
    expect(readFileSync(join(own, 'part.json'), 'utf8')).toBe(before);
    expect(existsSync(join(own, 'r.csv'))).toBe(false);
  });

  test.each([
    ['an unknown player', ['--player', 'nobody']],
    ['an unknown world', ['--world', 'nowhere.js']],
    ['no sessions', ['--sessions', '0']],
  ])('a call that fails leaves the rows of an older one: %s', (_, words) => {
    const own = place();
    writeFileSync(join(own, 'old.csv'), 'old rows\n');
    const call = ['simulate', join(own, 'glade.yaml'), '--save-runs', join(own, 'old.csv')];
    expect(inThread([...call, ...words]).status).toBe(2);
    expect(readFileSync(join(own, 'old.csv'), 'utf8')).toBe('old rows\n');
    expect(readdirSync(own).sort()).toEqual(['glade.yaml', 'old.csv']);
  });

  test('a folder that is not there, or a folder in the place of a file, is told before any work', () => {
    const own = place();
    const call = ['simulate', join(own, 'glade.yaml'), '--sessions', '10000000', '--out'];
    expect(inThread([...call, join(own, 'no/part.json')]).stderr).toContain('does not exist');
    expect(inThread([...call, own]).stderr).toContain('is a folder');
  });

  test('a link stays a link, and a file its permissions', () => {
    const own = place();
    writeFileSync(join(own, 'real.json'), 'old', { mode: 0o640 });
    symlinkSync(join(own, 'real.json'), join(own, 'link.json'));
    const words = ['check', join(own, 'glade.yaml'), '--format', 'json', '--out', join(own, 'link.json')];
    expect(jocus(words).status).toBe(0);
    expect(lstatSync(join(own, 'link.json')).isSymbolicLink()).toBe(true);
    expect(JSON.parse(readFileSync(join(own, 'real.json'), 'utf8')).passed).toBe(true);
    expect(statSync(join(own, 'real.json')).mode & 0o777).toBe(0o640);
  });

  test('a device is written to, not replaced', () => {
    const own = place();
    const words = ['check', join(own, 'glade.yaml'), '--format', 'json', '--out', '/dev/null'];
    expect(jocus(words).status).toBe(0);
    expect(statSync('/dev/null').isCharacterDevice()).toBe(true);
  });
});

describe('a file is the old one or the new one, whatever ends the process', () => {
  const commands: readonly (readonly [string, readonly string[], readonly string[]])[] = [
    [
      'tune over its design',
      ['glade.yaml'],
      ['tune', 'glade.yaml', '--sessions', '20', '--write', 'glade.yaml'],
    ],
    [
      'simulate over the part that it goes on with',
      ['part.json'],
      ['simulate', 'glade.yaml', '--workers', '1', '--resume', 'part.json', '--out', 'part.json'],
    ],
    ['check with its picture', ['old.svg'], ['check', 'glade.yaml', '--format', 'svg', '--out', 'old.svg']],
    [
      'simulate with rows',
      ['old.csv'],
      ['simulate', 'glade.yaml', '--sessions', '1500', '--save-runs', 'old.csv'],
    ],
    ['build', ['glade.js', 'glade.d.ts'], ['build', 'glade.yaml', '--out', 'glade.js']],
  ];
  const prepared = place();
  const cut = ['simulate', 'glade.yaml', '--sessions', '40', '--shard', '1/2', '--out', 'part.json'];
  jocus(inFolder(prepared, cut));
  jocus(inFolder(prepared, ['build', 'glade.yaml', '--out', 'glade.js']));
  const fresh = (): string => {
    const own = join(folder, `place-${places++}`);
    mkdirSync(own);
    for (const file of readdirSync(prepared)) copyFileSync(join(prepared, file), join(own, file));
    // An older state of each, which the command replaces.
    writeFileSync(join(own, 'old.svg'), 'old');
    writeFileSync(join(own, 'old.csv'), 'old');
    for (const module of ['glade.js', 'glade.d.ts']) {
      const text = readFileSync(join(own, module), 'utf8');
      writeFileSync(join(own, module), `${text}// older\n`);
    }
    return own;
  };

  test.each(commands)('%s', (_, files, words) => {
    const whole = fresh();
    const watched = files.map((file) => join(whole, file));
    const read = (paths: readonly string[]): string[] => paths.map((path) => readFileSync(path, 'utf8'));
    const before = read(watched);
    const states = `${whole}.states`;
    const { status } = spoilt(inFolder(whole, words), { WATCHED: JSON.stringify(watched), STATES: states });
    expect(status).toBeLessThan(2);
    const after = read(watched);
    expect(readdirSync(whole).filter((file) => file.endsWith('.part'))).toEqual([]);
    const isOneOfThem = (texts: readonly string[], moment: number): void => {
      texts.forEach((text, index) => {
        expect([before[index], after[index]], `${files[index]} at moment ${moment}`).toContain(text);
      });
    };
    const moments: string[][] = readFileSync(states, 'utf8')
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(moments.length).toBeGreaterThan(4);
    for (const [index, texts] of moments.entries()) isOneOfThem(texts, index + 1);
    // And once it is killed in fact, at the last moment at which all is still as it was; the soak kills it at each.
    const last = moments.findLastIndex((texts) => texts.join() === before.join()) + 1;
    expect(last).toBeGreaterThan(0);
    for (const moment of isSoak ? moments.keys() : [last - 1]) {
      const own = fresh();
      const { signal } = spoilt(inFolder(own, words), { FAIL_AT: String(moment + 1) });
      expect(signal).toBe('SIGKILL');
      isOneOfThem(read(files.map((file) => join(own, file))), moment + 1);
    }
  });

  test.each(commands)('a full disk: %s', (_, files, words) => {
    const own = fresh();
    const before = files.map((file) => readFileSync(join(own, file), 'utf8'));
    const { status, stderr } = spoilt(inFolder(own, words), { FAIL_WITH: 'ENOSPC' });
    expect(status).toBe(2);
    expect(stderr).toMatch(/There is no room left to write .+; what stood there before is as it was/);
    expect(files.map((file) => readFileSync(join(own, file), 'utf8'))).toEqual(before);
    expect(readdirSync(own).filter((file) => file.endsWith('.part'))).toEqual([]);
  });
});

function inFolder(own: string, words: readonly string[]): string[] {
  return words.map((word) => (/\.(yaml|json|csv|svg|js)$/.test(word) ? join(own, word) : word));
}

describe('tune over its design', () => {
  const changing = fileURLToPath(new URL('../support/change-after-read.mjs', import.meta.url));
  /** Tunes, while somebody saves another text in the file. */
  function tuneWhile(changed: string) {
    const file = join(place(), 'glade.yaml');
    const words = ['tune', file, '--sessions', '20', '--write', file];
    const { status, stderr } = jocus(words, { CHANGED_FILE: file, CHANGED_TEXT: changed }, [
      '--import',
      changing,
    ]);
    return { status, stderr, text: readFileSync(file, 'utf8') };
  }

  test('keeps what was saved meanwhile, and says what it was', () => {
    const { status, stderr, text } = tuneWhile(small.replace('berry: 3', 'berry: 4'));
    expect(stderr).toContain('was changed while jocus tuned: levels. Those changes are kept.');
    expect(status).toBe(0);
    expect(text).toContain('place: { berry: 4 }');
    expect(text).toMatch(/worth: { value: (?!1,)[\d.]+, from: 1, to: 20 } {3}# points of a berry/);
  });

  test('writes nothing where the dials were changed, or it can no longer be read', () => {
    const dials = small.replace('value: 1,', 'value: 2,');
    const changed = tuneWhile(dials);
    expect([changed.status, changed.text]).toEqual([2, dials]);
    expect(changed.stderr).toContain('The dials of');
    const broken = tuneWhile(`${small}nosuch: 1\n`);
    expect([broken.status, broken.text]).toEqual([2, `${small}nosuch: 1\n`]);
  });

  test('keeps a byte-order mark and line ends', () => {
    const own = place();
    const file = join(own, 'glade.yaml');
    writeFileSync(file, `\uFEFF${small.replaceAll('\n', '\r\n')}`);
    expect(inThread(['tune', file, '--sessions', '20', '--write', file]).status).toBe(0);
    const text = readFileSync(file, 'utf8');
    expect(text.startsWith('\uFEFF# A design')).toBe(true);
    expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
    expect(text).not.toContain('value: 1,');
  });

  test('refuses bytes that are not UTF-8, with their place', () => {
    const own = place();
    const file = join(own, 'glade.yaml');
    const bytes = Buffer.concat([
      Buffer.from('title: \ufffd\n# caf'),
      Buffer.from([0xe9]),
      Buffer.from(`\n${small}`),
    ]);
    writeFileSync(file, bytes);
    for (const words of [
      ['tune', file, '--write', file],
      ['check', file],
    ]) {
      const { status, stderr } = inThread(words);
      expect([status, stderr]).toEqual([2, expect.stringContaining(`${file}:2:6 is not UTF-8 text`)]);
    }
    expect(readFileSync(file)).toEqual(bytes);
  });
});

describe('build', () => {
  test('leaves files of somebody else alone: one that mentions its mark, and a link', () => {
    const own = place();
    const words = ['build', join(own, 'glade.yaml'), '--out', join(own, 'glade.js')];
    const hand = '// This replaces the module that was written by jocus build from glade.yaml\n';
    writeFileSync(join(own, 'glade.js'), hand);
    expect(inThread(words)).toMatchObject({ status: 2, stderr: expect.stringContaining('did not write') });
    expect(readFileSync(join(own, 'glade.js'), 'utf8')).toBe(hand);
    expect(existsSync(join(own, 'glade.d.ts'))).toBe(false);
  });

  test("writes neither file where one is somebody else's, and both over its own", () => {
    const own = place();
    const words = ['build', join(own, 'glade.yaml'), '--out', join(own, 'glade.js')];
    writeFileSync(join(own, 'mine.d.ts'), 'export const mine = 1;\n');
    symlinkSync(join(own, 'mine.d.ts'), join(own, 'glade.d.ts'));
    expect(inThread(words).status).toBe(2);
    expect(existsSync(join(own, 'glade.js'))).toBe(false);
    const other = place();
    const again = ['build', join(other, 'glade.yaml'), '--out', join(other, 'glade.js')];
    expect([inThread(again).status, inThread(again).status]).toEqual([0, 0]);
  });
});
