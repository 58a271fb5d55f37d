import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { changeDesign } from '../../src/design/text/change.js';
import { check, readDesign } from '../../src/index.js';
import { mendOf } from '../../src/inspect/mend.js';
import { changed } from '../support/designs.js';

const folder = new URL('../../demo/findings/', import.meta.url);

describe('what a finding advises, done', () => {
  test.each([
    'counter-unshown',
    'counter-unread',
    'countdown-unshown',
    'nothing-on-the-hud',
    'no-way-back',
    'residue',
    'level-not-fresh',
    'best-of-one-run',
    'put-back-on-leaving',
    'goal-carried-over',
    'outlives-the-run',
    'stake-unnamed',
    'in-milliseconds',
    'passed-by',
    'met-by-nobody',
    'pause-is-live',
    'left-between',
    'pause-ends-play',
    'gone-unheard',
    'never-picked',
    'ending-named-otherwise',
    'pressed-in-vain',
    'delivered-once',
  ])('%s is gone', (code) => {
    expect(readdirSync(folder)).toContain(`${code}.yaml`);
    const [text] = readFileSync(new URL(`${code}.yaml`, folder), 'utf8').split(/^---\n/m) as [string];
    const design = readDesign(text);
    const found = check(design).findings.filter((each) => each.code === code);
    expect(found.length).toBeGreaterThan(0);
    let mended = text;
    for (const each of found) mended = changeDesign(mended, mendOf(design, each)!);
    expect(check(readDesign(mended)).findings.map((each) => each.code)).not.toContain(code);
    // What stood there stands there still.
    for (const line of text.split('\n').filter((each) => each.startsWith('#')))
      expect(mended).toContain(line);
  });

  test('a rule is found by its place in the file, also where pieces with health have rules of their own', () => {
    const text = `counters: { score: {}, sap: { min: 0 } }
pieces: { bud: { is: collectible }, root: { is: collectible, health: 3 } }
levels: [{ spawn: [{ piece: bud, every: 2, atOnce: 2 }, { piece: root, every: 4, atOnce: 1 }] }]
rules: [{ when: bud.taken, do: [{ add: { score: 1, sap: 2 } }] }, { when: root.taken, do: [{ add: { sap: 5 } }] }, { if: sap == 6 and score > 0, do: [{ cue: hum }] }]
`;
    const design = readDesign(text);
    const found = check(design, { mostStates: 2000 }).findings.find(({ code }) => code === 'passed-by')!;
    expect(changeDesign(text, mendOf(design, found)!)).toBe(text.replace('sap == 6', 'sap >= 6'));
    const slow = text.replace('when: root.taken', 'when: root.taken, rest: 2000');
    const long = check(readDesign(slow), { mostStates: 2000 }).findings.find(
      ({ code }) => code === 'in-milliseconds',
    )!;
    expect(changeDesign(slow, mendOf(readDesign(slow), long)!)).toContain('when: root.taken, rest: 2,');
    const den = `${text.replace('when: root.taken', 'when: den.entered')}screens: { wood: { live: true }, den: { ending: over, text: Den } }
transitions: [{ from: wood, to: den, if: sap > 9 }]
`;
    const deaf = check(readDesign(den), { mostStates: 2000 }).findings.find(
      ({ code }) => code === 'rule-deaf',
    )!;
    expect(mendOf(readDesign(den), deaf)).toEqual({
      kind: 'set',
      path: ['rules', 1, 'screens'],
      value: 'den',
    });
  });

  test('a counter and a dial that nothing uses go; what a level gives is for somebody to decide', () => {
    const [text] = readFileSync(new URL('unused.yaml', folder), 'utf8').split(/^---\n/m) as [string];
    const design = readDesign(text);
    const changes = check(design)
      .findings.filter(({ code }) => code === 'unused')
      .map((found) => mendOf(design, found));
    expect(changes).toEqual([
      { kind: 'remove', path: ['counters', 'drops'] },
      { kind: 'remove', path: ['dials', 'nectar'] },
      undefined,
    ]);
  });

  test('a restart of the demo that forgets to put things back is as the demo was', () => {
    const text = changed(/(from: dark, +to: heath, +when: input\.again), fresh: run/, '$1');
    const design = readDesign(text);
    const [residue] = check(design).findings.filter(({ code }) => code === 'residue');
    const mended = changeDesign(text, mendOf(design, residue!)!);
    expect(check(readDesign(mended)).findings).toEqual([]);
  });

  test('a rule that hears a screen being entered gets that screen, and a start alone gets keys', () => {
    const text = `counters:
  score: 0 # points
  best: 0
pieces: { reed: { is: collectible } }
timers: { day: { countdown: 9 } }
rules:
  - { when: reed.taken, do: [{ add: { score: 1 } }] }
  - { name: best yet, when: dusk.entered, do: [{ set: { best: "max(best, score)" } }] }
screens: { punt: { live: true }, dusk: { ending: lost, text: "{best}" } }
transitions:
  - { from: punt, to: dusk, when: day.ended }
  - { from: dusk, to: punt, when: input.again, fresh: run }
`;
    let mended = text;
    const [several] = check(
      readDesign(text.replace('when: dusk.entered,', 'when: [reed.taken, dusk.entered],')),
    ).findings.filter(({ code }) => code === 'rule-deaf');
    expect(several!.remedy).toBe('Give the rule screens: [punt, dusk].');
    expect(mendOf(readDesign(text), several!)).toMatchObject({ value: ['punt', 'dusk'] });
    for (const code of ['rule-deaf', 'best-of-one-run']) {
      const design = readDesign(mended);
      const found = check(design).findings.find((each) => each.code === code)!;
      mended = changeDesign(mended, mendOf(design, found)!);
    }
    expect(mended).toContain('do: [{ set: { best: "max(best, score)" } }], screens: dusk }');
    expect(mended).toContain('  score: 0 # points\n  best: { start: 0, keep: forever }\n');
    const codes = check(readDesign(mended)).findings.map(({ code }) => code);
    expect(codes).not.toContain('rule-deaf');
    expect(codes).not.toContain('best-of-one-run');
  });

  test('times in milliseconds become seconds wherever they stand; minutes and hours stay as they are', () => {
    const design = readDesign(`counters: { score: {}, lives: { start: 3, min: 0 } }
timers: { dusk: { countdown: 45000 }, bell: { every: 1500 }, hour: { after: 3600 }, walk: { countdown: 1200 } }
pieces:
  fig: { is: collectible, lasts: 4000, takes: 800 }
  plum: { like: fig }
  jay: { is: hazard, lead: 1500, returns: 2500 }
levels:
  - spawn: [{ piece: fig, every: [2000, 4000], atOnce: 3 }, { piece: jay, every: 5000, first: 3000 }]
rules:
  - { name: pick, when: fig.taken, do: [{ add: { score: 1 } }], rest: 300 }
  - { name: peck, when: jay.hit, do: [{ add: { lives: -1 } }, { grace: 1000 }] }
screens: { orchard: { live: true }, night: { ending: lost }, barn: { ending: won } }
transitions:
  - { from: orchard, to: night, if: lives == 0, wait: 2000 }
  - { from: orchard, to: barn, when: dusk.ended }
  - { from: [night, barn], to: orchard, when: input.again, fresh: run, grace: 500 }
`);
    const found = check(design, { mostStates: 1000 }).findings.filter(
      ({ code }) => code === 'in-milliseconds',
    );
    expect(found.map(({ message }) => message.replace(/ is [^a-z].*/, ''))).toEqual([
      'The timer dusk',
      'The timer bell',
      'How long fig waits',
      'How long it takes to meet fig',
      'The lead of jay',
      'How long jay stays away',
      'The interval of fig',
      'The interval of jay',
      'How long the first jay takes to appear',
      'The rest of the rule pick',
      'The grace of the rule peck',
      'The wait of orchard -> night',
      'The grace of night -> orchard',
    ]);
    // Of a range somebody has to say both ends.
    const changes = found.map((each) => mendOf(design, each));
    expect(changes.map((each) => (each?.kind === 'set' ? each.value : undefined))).toEqual([
      45,
      1.5,
      4,
      0.8,
      1.5,
      2.5,
      undefined,
      5,
      3,
      0.3,
      1,
      2,
      0.5,
    ]);
  });

  test('a score that levels ask for is not put back by each of them', () => {
    const [text] = readFileSync(new URL('goal-carried-over.yaml', folder), 'utf8').split(/^---\n/m) as [
      string,
    ];
    const design = readDesign(text);
    const found = check(design).findings.find(({ code }) => code === 'goal-carried-over')!;
    const { counter } = found.details as { counter: string };
    expect(mendOf(design, found)).toMatchObject({ path: ['counters', counter, 'keep'], value: 'level' });
    expect(mendOf({ ...design, score: counter }, found)).toBeUndefined();
  });

  test('what somebody has to think about has no such change', () => {
    const design = readDesign('counters: { score: {} }\npieces: { berry: { is: collectible } }');
    const [first] = check(design).findings.filter(({ code }) => code === 'piece-unheard');
    expect(mendOf(design, first!)).toBeUndefined();
  });
});
