import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { inThread, jocus, temporaryFolder } from '../support/command-line.js';
import { demoFile } from '../support/designs.js';

const folder = temporaryFolder();
const small = join(folder, 'rock.yaml');
writeFileSync(
  small,
  `title: The rock
dials: { worth: { value: 5, from: 1, to: 9, step: 2 } }
counters: { score: {} }
pieces:
  shell: { is: collectible, difficulty: -2, takes: 1, lasts: 3 }
  pearl: { is: collectible, difficulty: 2, takes: 2, lasts: 0.9 }
timers: { tide: { countdown: 4 } }
levels: [{ place: { shell: 1, pearl: 1 } }]
rules:
  - { name: shells, when: shell.taken, do: [{ add: { score: worth } }] }
  - { name: pearls, when: pearl.taken, do: [{ add: { score: 20 } }] }
screens: { beach: { live: true }, over: { ending: lost } }
transitions: [{ from: beach, to: over, when: tide.ended }]
players: { wader: { skill: 0 }, diver: { skill: 2 } }
targets:
  - { measure: score, stat: mean, of: wader, from: 4, to: 5 }
  - { measure: share, rule: shells, of: diver, atLeast: 1 }
`,
);

describe('jocus simulate --exact', () => {
  test('tells exact figures, what a dial changes, and what better choices would bring', () => {
    const { status, stdout, stderr } = jocus(['simulate', small, '--exact']);
    expect([status, stderr]).toEqual([0, '']);
    expect(stdout).toMatch(/^The rock {2}exact figures, nothing sampled/);
    // logistic(2) = 0.880797; logistic(4) = 0.982014; logistic(-2) = 0.119203.
    expect(stdout).toMatch(/score +mean +4\.404 +4\.9101/);
    expect(stdout).toMatch(/runs end on +over +100 % +100 %/);
    expect(stdout).toMatch(/wader +at best 6\.788 a run +as it plays 4\.404 \(64\.8786 % of it\)/);
    expect(stdout).toMatch(/worth +5 -> 7 +\+1\.7616 +\+1\.964/);
    expect(stdout).toMatch(/met +mean score of wader +4\.404 +wanted 4 to 5/);
    expect(stdout.trimEnd().split('\n').at(-1)).toBe('✓ passed  2 of 2 targets met');
  });

  test('gives all of it to programs', () => {
    const { status, stdout } = inThread([
      'simulate',
      small,
      '--exact',
      '--player',
      'wader',
      '--format',
      'json',
    ]);
    expect(status).toBe(0);
    const { players, targets } = JSON.parse(stdout);
    expect(Object.keys(players)).toEqual(['wader']);
    expect(players.wader).toMatchObject({
      open: 0,
      runs: { least: 1, most: 1 },
      abandoned: { least: 0, most: 0 },
    });
    expect(players.wader.score.values.map(({ value }: { value: number }) => value)).toEqual([0, 5]);
    expect(players.wader.best).toMatchObject({
      score: expect.closeTo(6.788, 3),
      own: expect.closeTo(4.404, 3),
    });
    expect(targets).toMatchObject([{ verdict: 'met', value: expect.closeTo(4.404, 3) }]);
    const suites = inThread(['simulate', small, '--exact', '--format', 'junit']).stdout;
    expect(suites).toContain('tests="2"');
  });

  test('stands in for sampling where a precision is asked for and it is sooner done', () => {
    const { status, stdout } = inThread(['simulate', small, '--precision', '1%']);
    expect(status).toBe(0);
    expect(stdout).toContain('exact figures, nothing sampled');
    const sampled = inThread(['simulate', small, '--precision', '5%', '--sessions', '4000']).stdout;
    expect(sampled).toContain('sessions of each player, seed 1');
  });

  test('says of a design that is too large what makes it so, and refuses what samples', () => {
    const large = inThread(['simulate', demoFile, '--exact', '--turns', '20000', '--player', 'regular']);
    expect(large.status).toBe(2);
    expect(large.stderr).toMatch(
      /too many states to be solved exactly: 100 % of the sessions of regular .* how often wasp appears \(21 ways\)/,
    );
    const mixed = inThread(['simulate', small, '--exact', '--sessions', '50']);
    expect([mixed.status, mixed.stdout]).toEqual([2, '']);
    expect(mixed.stderr).toContain('--exact works sessions out and samples none');
  });

  test('tells bounds where some sessions are left open', () => {
    const waves = join(folder, 'waves.yaml');
    writeFileSync(
      waves,
      `counters: { score: {} }
pieces: { shell: { is: collectible, difficulty: 0, takes: 1, again: true } }
levels: [{ place: { shell: 2 } }]
rules: [{ when: shell.taken, do: [{ add: { score: 1 } }] }]
screens: { beach: { live: true }, over: { ending: won } }
transitions: [{ from: beach, to: over, if: left.shell == 0 }]
players: { one: { skill: 0 } }
`,
    );
    const { status, stdout } = inThread(['simulate', waves, '--exact', '--turns', '20']);
    expect(status).toBe(0);
    expect(stdout).toMatch(/bounds, nothing sampled/);
    expect(stdout).toMatch(/runs end on +over +[\d.]+ % to 100 %/);
    expect(stdout).toMatch(/one: [\d.]+ % of the sessions were still running after 20 turns/);
  });
});
