import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { readDesign } from '../../src/index.js';
import { inThread, jocus, temporaryFolder } from '../support/command-line.js';
import { demoFile, demoText } from '../support/designs.js';

const folder = temporaryFolder();
let files = 0;
function file(text: string, ending: string): string {
  const path = join(folder, `file-${files++}.${ending}`);
  writeFileSync(path, text);
  return path;
}

const ponds = `counters: { score: {} }
pieces: { lily: { is: collectible } }
levels: # by formula
  - name: Pond {level}
    count: 3
    values: { goal: 4 + level }   # grows
    place: { lily: 2 * level }
players: { one: { skill: 20 } }
`;

describe('jocus levels', () => {
  test('shows what is written, what it gives, and how players fare there', () => {
    const { status, stdout } = jocus(['levels', demoFile, '--sessions', '300']);
    expect(status).toBe(0);
    expect(stdout).toMatch(/^Dusk on the Heath {2}3 levels/);
    expect(stdout).toMatch(/level +name +quota +place blossom +% reached by newcomer/);
    expect(stdout).toMatch(/2 +Foxglove Hollow +16 +– +\d+(\.\d)? /);
    const csv = inThread(['levels', file(ponds, 'yaml'), '--format', 'csv', '--sessions', '0']).stdout;
    expect(csv).toBe(
      'level,name,goal,place lily,goal is,place lily is\n1,Pond 1,4 + level,2 * level,5,2\n2,Pond 2,4 + level,2 * level,6,4\n3,Pond 3,4 + level,2 * level,7,6\n',
    );
  });

  test('takes a changed table in, keeps comments, and adds levels', () => {
    const design = file(demoText, 'yaml');
    const csv = inThread(['levels', design, '--format', 'csv', '--sessions', '20']).stdout;
    const same = jocus(['levels', design, '--from', file(csv, 'csv'), '--write', design]);
    expect(same.stdout).toContain('nothing differs');
    expect(readFileSync(design, 'utf8')).toBe(demoText);
    const changed = csv.replace('Foxglove Hollow,16', 'Foxglove Hollow,18').trimEnd();
    const out = join(folder, 'longer.yaml');
    const table = file(`${changed}\n4,Moor at Night,24,3\n`, 'csv');
    const { status, stdout } = jocus(['levels', design, '--from', table, '--write', out]);
    expect([status, stdout]).toEqual([0, `Wrote ${out}, 1 level added.\n`]);
    const text = readFileSync(out, 'utf8');
    const { levels } = readDesign(text);
    expect(levels.map(({ name, values }) => [name, values.get('quota')])).toEqual([
      ['Gorse Bank', { kind: 'number', value: 12 }],
      ['Foxglove Hollow', { kind: 'number', value: 18 }],
      ['Last Light', { kind: 'number', value: 20 }],
      ['Moor at Night', { kind: 'number', value: 24 }],
    ]);
    // The line that was changed, and those of the new level; all others stand as they did.
    const lines = text.split('\n');
    expect(demoText.split('\n').filter((line) => !lines.includes(line))).toEqual([
      '    values: { quota: 16 }',
    ]);
  });

  test('a table over levels by formula becomes a list of values', () => {
    const design = file(ponds, 'yaml');
    const table = file('name,goal\nPond 1,4\nPond 2,9\nPond 3,9\n', 'csv');
    expect(inThread(['levels', design, '--from', table, '--write', design]).status).toBe(0);
    const text = readFileSync(design, 'utf8');
    expect(text).toContain('levels: # by formula');
    const after = inThread(['levels', design, '--format', 'json', '--sessions', '0']).stdout;
    expect(JSON.parse(after).map((row: { goal: number }) => row.goal)).toEqual([4, 9, 9]);
  });

  test('says what is wrong with a table, and writes nothing', () => {
    const design = file(demoText, 'yaml');
    const bad: [string, RegExp][] = [
      [
        'name,speed\nGorse Bank,3\n',
        /has the column "speed", which no level of the design has\. Allowed are name, quota, place blossom/,
      ],
      ['name,quota\nGorse Bank,3\n', /has 1 level, and the design has 3/],
      ['name,quota\n"Gorse Bank,3\n', /:\d+: this is no CSV/],
      ['name,quota\nA,level +\nB,1\nC,2\n', /expression "level \+" cannot be read/],
    ];
    for (const [csv, expected] of bad) {
      const { status, stderr } = inThread(['levels', design, '--from', file(csv, 'csv'), '--write', design]);
      expect([status, stderr]).toEqual([2, expect.stringMatching(expected)]);
      expect(readFileSync(design, 'utf8')).toBe(demoText);
    }
    expect(inThread(['levels', design, '--from', design]).stderr).toContain('--write DESIGN');
  });
});
