import { describe, expect, test } from 'vitest';
import { observationsOn } from '../../src/balance/observations.js';
import { check, readDesign, simulate, summarize } from '../../src/index.js';

/** What is remarked on a design, with what its check proved. */
function remarks(text: string, sessions = 300): string {
  const design = readDesign(text);
  const summary = summarize(simulate(design, { sessions, seed: 1 }));
  return observationsOn(design, summary, check(design).exploration.transitions)
    .map(({ what, remedy }) => `${what} ${remedy}`)
    .join('\n');
}

/** A minute on the heath: seeds to gather, and what else a case needs. */
const heath = ({ counters = '', pieces = '', rules = '', ways = '', players = '', dials = '' } = {}) => `
${dials}
counters: { score: 0${counters} }
timers: { day: { countdown: 60, keep: run } }
pieces:
  seed: { is: collectible, difficulty: 0, takes: 1, lasts: 4 }
${pieces}
levels: [{ spawn: [{ piece: seed, every: 1, atOnce: 3 }] }]
rules:
  - { name: gather, when: seed.taken, do: [{ add: { score: 1 } }] }
${rules}
screens: { heath: { live: true }, home: { ending: won }, dark: { ending: lost } }
transitions:
  - { from: heath, to: dark, when: day.ended }
${ways}
players: { one: { skill: 0, runs: 1${players} } }`;

describe('each remark is made where it holds, and only there', () => {
  test('a counter that sits at its max', () => {
    const grows = heath({
      counters: ', bag: { start: 0, max: 2 }',
      rules: '  - { when: seed.taken, do: [{ add: { bag: 1 } }] }',
    });
    expect(remarks(grows)).toContain('bag sits at its max of 2');
    // Lives are full until one is lost.
    const lives = heath({ counters: ', lives: { start: 3, max: 3, min: 0 }' });
    expect(remarks(lives)).not.toContain('sits at its max');
  });

  test('an ending to which nobody comes, and what finds how much less to ask for', () => {
    const far = (dials: string, quota: string) =>
      heath({ dials, ways: `  - { from: heath, to: home, if: score >= ${quota} }` });
    const turned = remarks(far('dials: { quota: { value: 50, from: 5, to: 50 } }', 'quota'));
    expect(turned).toContain(
      'Nobody reaches home. Ask for less on the way there; jocus tune finds how much less.',
    );
    const fixed = remarks(far('', '50'));
    expect(fixed).toContain('Nobody reaches home. Ask for less on the way there.');
    expect(fixed).not.toContain('tune');
    expect(remarks(far('', '5'))).not.toContain('Nobody reaches');
  });

  test('an ending that is proved unreachable is a finding, and no matter of numbers', () => {
    const closed = heath({
      counters: ', bag: { start: 0, max: 2 }',
      ways: '  - { from: heath, to: home, if: bag >= 3 }',
    });
    expect(remarks(closed)).not.toContain('Nobody reaches home');
  });

  test('runs that are left before they end', () => {
    expect(remarks(heath({ players: ', patience: 20' }))).toMatch(/^100 % of runs are left before/m);
    expect(remarks(heath())).not.toContain('are left before');
    // Of runs that nobody plays to an end it is not said that nobody loses.
    expect(remarks(heath({ players: ', patience: 20' }))).not.toContain('ever loses');
  });

  test('points that nearly all come from one rule, in a share', () => {
    const rare = heath({
      pieces: '  egg: { is: collectible, difficulty: 2, takes: 1, lasts: 3 }',
      rules: '  - { name: egg, when: egg.taken, do: [{ add: { score: 1 } }] }',
    }).replace('atOnce: 3 }]', 'atOnce: 3 }, { piece: egg, every: 5, atOnce: 1 }]');
    expect(remarks(rare)).toMatch(/"gather" makes \d+ % of all points\. If the other rules are to matter/);
    const even = rare.replace('difficulty: 2', 'difficulty: 0').replace('every: 5', 'every: 1');
    expect(remarks(even)).not.toContain('of all points');
  });

  test('scores that skill does not touch', () => {
    const drawn = heath({ players: ' }, two: { skill: 2' }).replace(
      'difficulty: 0, takes: 1, lasts: 4',
      'outcomes: { taken: 1, lost: 1 }, takes: 1, lasts: 4',
    );
    expect(remarks(drawn)).toContain('No piece asks for skill');
    expect(remarks(heath({ players: ' }, two: { skill: 2' }))).not.toContain('Skill hardly matters');
  });
});
