import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { XMLParser } from 'fast-xml-parser';
import { parseHTML } from 'linkedom';
import { describe, expect, test } from 'vitest';
import { inThread, jocus, temporaryFolder } from '../support/command-line.js';
import { demoFile } from '../support/designs.js';

const exercises = fileURLToPath(new URL('../../examples/exercises/', import.meta.url));
const names = readdirSync(exercises)
  .filter((file) => /^\d.*(?<!marking)\.yaml$/.test(file))
  .map((file) => file.replace('.yaml', ''));
const folder = temporaryFolder();
const [first] = names as [string];
const marking = join(exercises, `${first}.marking.yaml`);
const solution = join(exercises, 'solutions', `${first}.yaml`);

const broken = join(folder, 'broken.yaml');
writeFileSync(
  broken,
  'counters: { score: {} }\nrules: [{ when: nothing.taken, do: [{ add: { score: 1 } }] }]\n',
);

describe('exercises', () => {
  test.each(names)('%s falls short, and its solution passes', (name) => {
    const own = join(exercises, `${name}.yaml`);
    const tests = ['--tests', join(exercises, `${name}.marking.yaml`), '--no-accept'];
    expect(inThread(['check', own, ...tests]).status).toBe(1);
    expect(inThread(['check', join(exercises, 'solutions', `${name}.yaml`), ...tests]).status).toBe(0);
  });
});

describe('jocus check of several designs', () => {
  const files = [join(exercises, `${first}.yaml`), solution, broken];

  test('tells them in one table, and why those fall short that do', () => {
    const { status, stdout } = jocus(['check', ...files, '--tests', marking]);
    expect(status).toBe(1);
    expect(stdout).toMatch(/✗ +\S+1-snails-after-rain\.yaml +3 of 3 +2 of 3 +1 +0 +0/);
    expect(stdout).toMatch(/✓ +\S+solutions\/1-snails-after-rain\.yaml +3 of 3 +3 of 3 +0 +0 +0/);
    expect(stdout).toMatch(/✗ +\S+broken\.yaml +cannot be read/);
    expect(stdout).toContain('test "starting again puts score and lives back" fails: score is 5, expected 0');
    expect(stdout).toMatch(/line 2: .*nothing\.taken/);
    expect(stdout.trimEnd().split('\n').at(-1)).toBe('✗ falls short  1 of 3 designs passed');
  });

  test('one that cannot be read is a failed case and not a missing one', () => {
    const xml = inThread(['check', ...files, '--tests', marking, '--format', 'junit']).stdout;
    const { testsuites } = new XMLParser({ ignoreAttributes: false }).parse(xml);
    const suites = testsuites.testsuite as { '@_name': string; '@_failures': string; '@_tests': string }[];
    const unread = suites.find((suite) => suite['@_name'] === `${broken}: design`)!;
    expect([unread['@_tests'], unread['@_failures']]).toEqual(['1', '1']);
    expect(
      suites.filter((suite) => suite['@_name'].endsWith(': tests')).map((suite) => suite['@_failures']),
    ).toEqual(['1', '0']);
    const told = JSON.parse(inThread(['check', ...files, '--format', 'json']).stdout);
    expect(told.map(({ file }: { file: string }) => file)).toEqual(files);
    expect(told[2].problems[0].line).toBe(2);
  });

  test('tests that a design cannot change: one that names what is not there fails alone', () => {
    const tests = join(folder, 'marking.yaml');
    writeFileSync(
      tests,
      '- { name: strange, do: [input.start, moth.taken], expect: { score: 1 } }\n- { name: known, do: [input.start, snail.taken], expect: { score: 5 } }\n',
    );
    const { status, stdout } = inThread(['check', solution, '--tests', tests]);
    expect(status).toBe(1);
    expect(stdout).toMatch(/✗ strange +\S+marking\.yaml:1:\d+/);
    expect(stdout).toContain('Nothing can send the event "moth.taken".');
    expect(stdout).toContain('✓ 1 other holds');
  });

  test('--no-accept reports what the design accepts', () => {
    const accepting = join(folder, 'accepting.yaml');
    writeFileSync(
      accepting,
      `counters: { score: {} }
screens: { field: { live: true }, shed: {} }
transitions: [{ from: field, to: shed, when: input.go }]
accept: [{ finding: dead-end, because: it is fine }]
`,
    );
    expect(inThread(['check', accepting]).status).toBe(0);
    const strict = inThread(['check', accepting, '--no-accept']);
    expect(strict.status).toBe(1);
    expect(strict.stdout).toContain('Nothing leads out of the screen shed');
    expect(strict.stdout).not.toContain('accepted');
  });

  test('a report of one sheet has a name at its head, and no more than verdicts, tests, findings and scores', () => {
    const out = join(folder, 'sheet.html');
    const { status, stderr } = inThread([
      'report',
      demoFile,
      '--brief',
      '--for',
      'Group <3> & friends',
      '--sessions',
      '50',
      '--out',
      out,
    ]);
    expect([status, stderr]).toEqual([0, '']);
    const { document } = parseHTML(readFileSync(out, 'utf8'));
    expect(document.querySelector('header')!.textContent).toContain('For Group <3> & friends');
    const headings = [...document.querySelectorAll('h2')].map(({ textContent }) => textContent);
    expect(headings).toEqual(['Verdicts', 'Tests of the design', 'Findings', 'Scores']);
    expect(document.querySelectorAll('.tests li')).toHaveLength(12);
    const whole = jocus(['report', demoFile, '--for', 'Ada', '--sessions', '50', '--out', out]);
    expect(whole.status).toBe(0);
    expect(readFileSync(out, 'utf8')).toContain('For <b>Ada</b>');
    const wrong = inThread(['report', demoFile, '--brief', '--format', 'markdown']);
    expect([wrong.status, wrong.stderr]).toEqual([
      2,
      expect.stringMatching(/--brief and --for are of a page/),
    ]);
  });

  test('says what is wrong with a call or a marking file', () => {
    const empty = join(folder, 'empty.yaml');
    writeFileSync(empty, 'tests: []\n');
    const calls: [string[], RegExp][] = [
      [['check', ...files, '--witness', '1'], /give one file for a witness/],
      [['check', ...files, '--format', 'svg'], /Several designs are shown as a table, as JSON or as JUnit/],
      [['check', ...files, '--watch'], /--watch watches one design/],
      [['check', solution, '--tests', empty], /holds no tests; write a list of them/],
      [['check', solution, '--tests', join(folder, 'none.yaml')], /none\.yaml/],
    ];
    for (const [words, expected] of calls) {
      const { status, stderr } = inThread(words);
      expect([status, stderr]).toEqual([2, expect.stringMatching(expected)]);
    }
  });
});
