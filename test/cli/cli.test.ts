import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { partText, readDesign, readPart, recordOf, Session, simulate, writeRecord } from '../../src/index.js';
import {
  hasComputed,
  inThread,
  jocus as jocusProcess,
  main,
  startJocus,
  temporaryFolder,
} from '../support/command-line.js';
import { changed, demoFile, demoText, smallText } from '../support/designs.js';

const folder = temporaryFolder();

let files = 0;
function file(text: string, ending = 'yaml'): string {
  const path = join(folder, `file-${files++}.${ending}`);
  writeFileSync(path, text);
  return path;
}

const jocus = (...words: string[]) => inThread(words);
/** Each command is run as a process of its own once at least. */
const asProcess = (...words: string[]) => jocusProcess(words);

describe('jocus check', () => {
  test('tells the flow, the tests and the summary, and ends with 0', () => {
    const { status, stdout, stderr } = asProcess('check', demoFile);
    expect([status, stderr]).toEqual([0, '']);
    expect(stdout).toMatch(/heath -> dark +if lives == 0 +reached +input\.start, wasp\.hit/);
    expect(stdout).toContain('✓ three stings and it is dark');
    expect(stdout.trimEnd().split('\n').at(-1)).toMatch(
      /^✓ passed {2}12 of 12 transitions reached · [\d,]+ states · 12 of 12 tests passed · no findings$/,
    );
  });

  test('gives the same as JSON', () => {
    const { status, stdout } = jocus('check', demoFile, '--format', 'json');
    const result = JSON.parse(stdout);
    expect(status).toBe(0);
    expect(result.design).toBe('Dusk on the Heath');
    expect(result.states).toBeGreaterThan(100);
    expect(result.transitions).toHaveLength(12);
    expect(result.transitions[2]).toEqual({
      from: 'title',
      to: 'heath',
      index: 2,
      verdict: 'reached',
      assumes: 'any order',
      witness: ['input.start'],
    });
    expect(result.tests[0]).toEqual({
      name: 'a second blossom is worth double',
      passed: true,
      line: expect.any(Number),
    });
    expect(result.findings).toEqual([]);
  });

  test('ends with 1 where the design falls short, and says where and how to mend it', () => {
    const path = file(changed('quota: 12', 'quota: 99'));
    const { status, stdout } = asProcess('check', path);
    expect(status).toBe(1);
    expect(stdout).toContain(`error transition-unreachable  ${path}:`);
    expect(stdout.replace(/\s+/g, ' ')).toContain(
      '"nectar >= level.quota" never holds (the nearest it comes: nectar 20 (its max), level.quota 99)',
    );
    expect(stdout).toMatch(/\d+ \| +- \{ from: heath, +to: cleared/);
    const json = JSON.parse(jocus('check', path, '--format', 'json').stdout);
    expect(json.findings[0]).toMatchObject({
      code: 'transition-unreachable',
      severity: 'error',
      file: path,
      line: expect.any(Number),
      column: 5,
    });
    expect(json.transitions.find((each: { to: string }) => each.to === 'cleared').reason).toContain(
      'never holds',
    );
  });

  test('shows what a failed test of the design expected and which rule wrote it', () => {
    const { status, stdout } = jocus('check', file(changed('score: 30, streak: 3', 'score: 40, streak: 3')));
    expect(status).toBe(1);
    expect(stdout).toContain('✗ a second blossom is worth double');
    expect(stdout).toContain('score: expected 40, found 30 (last written by gather)');
  });

  test('says nothing that a terminal would obey', () => {
    const path = file(changed('title: Dusk on the Heath', 'title: "Dusk\\e[2J\\e]0;owned\\a\\u202e"'));
    const { stdout } = jocus('check', path);
    expect(stdout).toContain('Dusk·[2J·]0;owned··');
    expect(stdout).not.toContain('\u001b');
  });
});

describe('jocus check, as others read it', () => {
  test('shows the session that takes a transition, and saves it as a record that replays', () => {
    const record = join(folder, 'way.jsonl');
    const { status, stdout } = jocus('check', demoFile, '--witness', '7', '--save', record);
    expect(status).toBe(0);
    expect(stdout).toMatch(/blossom\.taken +gather, heath -> cleared, daylight saved/);
    expect(asProcess('replay', demoFile, record).stdout).toContain('✓ replayed');
    expect(jocus('check', demoFile, '--witness', '13').stderr).toContain('number of a transition, 1 to 12');
    const unreachable = jocus('check', file(changed('quota: 12', 'quota: 61')), '--witness', '7');
    expect([unreachable.status, unreachable.stdout]).toEqual([
      1,
      expect.stringContaining(
        'heath -> cleared is unreachable: on heath, "nectar >= level.quota" never holds',
      ),
    ]);
  });

  test('shows the session that comes to a rule, an outcome or a screen by its name, and says what is near a misspelt one', () => {
    expect(jocus('check', demoFile, '--witness', 'royalJelly.taken').stdout).toMatch(
      /royalJelly\.taken +royal jelly/,
    );
    expect(jocus('check', demoFile, '--witness', 'wither').stdout).toMatch(/missed +wither/);
    const wrong = jocus('check', demoFile, '--witness', 'nightfal');
    expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining('Did you mean nightfall?')]);
  });

  test('says how much else is reached, how soon the endings come, and in JSON what each proof rests on', () => {
    const { stdout } = jocus('check', demoFile);
    expect(stdout).toContain('7 of 7 rules, 8 of 8 outcomes, 1 of 1 timer, 6 of 6 screens, 3 of 3 levels');
    expect(stdout).toContain('dark: at least 1 event and 2 s of play');
    const { transitions, parts } = JSON.parse(
      jocus('check', file(changed('quota: 20', 'quota: 25')), '--format', 'json').stdout,
    );
    const never = [...transitions, ...parts].filter(({ verdict }) => verdict === 'unreachable');
    expect(never.length).toBeGreaterThan(2);
    for (const { closedStates, reason } of never) {
      expect(closedStates).toBeGreaterThan(100);
      expect(reason).toBeTruthy();
    }
  });

  test('writes SARIF, JUnit, SVG and SCXML to a file or to standard output', () => {
    const out = join(folder, 'flow.svg');
    expect(jocus('check', demoFile, '--format', 'svg', '--out', out).stdout).toBe(`Wrote ${out}.\n`);
    expect(readFileSync(out, 'utf8')).toMatch(/^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg"/);
    expect(JSON.parse(jocus('check', demoFile, '--format', 'sarif').stdout).version).toBe('2.1.0');
    expect(jocus('check', demoFile, '--format', 'junit').stdout).toContain(
      '<testsuite name="flow" tests="12" failures="0"',
    );
    expect(jocus('check', demoFile, '--format', 'scxml').stdout).toContain(
      '<scxml xmlns="http://www.w3.org/2005/07/scxml"',
    );
  });

  test('fails on the severity that is asked for, only for the codes that are asked for', () => {
    const loose = file(changed(/ {2}- \{ show: lives.*\n/, ''));
    const status = (...words: string[]) => jocus('check', loose, ...words).status;
    expect([status(), status('--fail-on', 'hint'), status('--fail-on', 'warning')]).toEqual([0, 1, 0]);
    expect(status('--fail-on', 'hint', '--skip', 'counter-unshown')).toBe(0);
    expect(status('--fail-on', 'hint', '--only', 'trap')).toBe(0);
  });

  test('shows what the design accepts and why, and does not count it', () => {
    const text =
      '{ counters: { score: {} }, pieces: { blossom: { is: collectible } }, rules: [{ when: blossom.taken, do: [{ add: { score: 1 } }] }], accept: [{ finding: no-screens, because: a first try }] }';
    const { status, stdout } = jocus('check', file(text), '--fail-on', 'hint', '--only', 'no-screens');
    expect(status).toBe(0);
    expect(stdout).toMatch(/accepted no-screens: a first try[\s\S]* · no findings · 1 accepted/);
  });
});

describe('jocus simulate', () => {
  test('shows the players side by side and judges the targets', () => {
    const { status, stdout } = asProcess('simulate', demoFile, '--sessions', '300');
    expect(status).toBe(0);
    expect(stdout).toMatch(/newcomer +regular +veteran/);
    expect(stdout).toMatch(/met +median score of newcomer +\d+ \[\d+, \d+\] +wanted 200 to 500/);
    expect(stdout.trimEnd().split('\n').at(-1)).toBe('✓ passed  4 of 4 targets met');
  });

  test('gives byte-identical JSON for the same seed, and other sessions for another', () => {
    const call = ['simulate', demoFile, '--sessions', '200', '--format', 'json'];
    const first = jocus(...call, '--seed', '7').stdout;
    expect(asProcess(...call, '--seed', '7').stdout).toBe(first);
    expect(jocus(...call, '--seed', '8').stdout).not.toBe(first);
    const { seed, players, targets } = JSON.parse(first);
    expect(seed).toBe(7);
    expect(Object.keys(players)).toEqual(['newcomer', 'regular', 'veteran']);
    const { veteran } = players;
    expect(veteran.sessions).toBe(200);
    const { score, runSeconds, endings, abandoned, levels } = veteran;
    expect(Object.keys(runSeconds)).toEqual(Object.keys(score));
    expect(score.intervals.p50[0]).toBeLessThanOrEqual(score.p50);
    expect(score.histogram.reduce((sum: number, part: { runs: number }) => sum + part.runs, 0)).toBe(
      veteran.runs,
    );
    expect(endings.dark.value + endings.nightfall.value + abandoned.value).toBeCloseTo(1, 12);
    expect(levels[0]).toMatchObject({ level: 1, name: 'Gorse Bank', reached: { value: 1 } });
    expect(veteran.transitions[2]).toEqual({
      from: 'title',
      to: 'heath',
      trigger: 'when input.start',
      index: 2,
      count: expect.any(Number),
      sessions: 200,
    });
    expect(veteran.rules[0]).toMatchObject({ name: 'gather', when: ['blossom.taken'], index: 0 });
    expect(targets[0]).toMatchObject({ measure: 'score', of: 'newcomer', verdict: 'met' });
  });

  test('ends with 1 where a target is missed', () => {
    const { status, stdout } = jocus(
      'simulate',
      file(changed('from: 200, to: 500', 'from: 2000, to: 5000')),
      '--player',
      'newcomer',
      '--sessions',
      '100',
    );
    expect(status).toBe(1);
    expect(stdout).toContain('✗ falls short  0 of 1 target met · 1 missed');
  });

  test('plays a design of one counter, one piece and one rule', () => {
    const { status, stdout } = jocus(
      'simulate',
      file(
        '{ counters: { score: {} }, pieces: { blossom: { is: collectible } }, rules: [{ when: blossom.taken, do: [{ add: { score: 5 } }] }], levels: [{ place: { blossom: 1 } }] }',
      ),
      '--format',
      'json',
    );
    expect(status).toBe(0);
    expect(JSON.parse(stdout).players.regular.score).toMatchObject({ min: 0, max: 5 });
  });
});

describe('many sessions, spread out', () => {
  const call = ['simulate', demoFile, '--sessions', '90', '--seed', '3'];
  const alone = asProcess(...call, '--format', 'json').stdout;
  const path = (name: string): string => join(folder, name);

  test('workers and shards give the same bytes', () => {
    expect(asProcess(...call, '--workers', '2', '--format', 'json').stdout).toBe(alone);
    const parts = [1, 2, 3].map((shard) => path(`part${shard}.json`));
    parts.forEach((part, index) => {
      const { status, stdout } = jocus(...call, '--shard', `${index + 1}/3`, '--out', part);
      expect([status, stdout]).toEqual([
        0,
        `Saved ${part}: sessions ${30 * index} to ${30 * index + 29} of 90.\n`,
      ]);
    });
    const merged = asProcess('merge', demoFile, parts[2]!, parts[0]!, parts[1]!, '--format', 'json');
    expect([merged.status, merged.stdout]).toEqual([0, alone]);
    const lacking = jocus('merge', demoFile, parts[0]!, parts[2]!);
    expect([lacking.status, lacking.stderr]).toEqual([2, expect.stringContaining('Sessions 30 to 59 of 90')]);
  });

  test('Ctrl-C keeps what is done, and --resume goes on to the same end', async () => {
    const part = path('stopped.json');
    const many = ['simulate', demoFile, '--sessions', '2000000', '--workers', '1', '--player', 'newcomer'];
    const child = startJocus([...many, '--out', part]);
    let told = '';
    child.stderr.on('data', (text) => {
      told += text;
    });
    const ended = new Promise((resolve) => child.on('close', resolve));
    await hasComputed(child, 1.5);
    child.kill('SIGINT');
    expect(await ended).toBe(130);
    expect(told).toMatch(/Stopped by SIGINT after [\d,]+ of 2,000,000 sessions\. Go on with --resume/);
    const { sessions } = readPart(readFileSync(part, 'utf8'), part);
    expect(sessions).toBeGreaterThan(0);
    expect(sessions).toBeLessThan(2_000_000);
    // Not to the end, which would take too long here: some sessions more are enough to see that it goes on.
    const shorter = {
      ...readPart(readFileSync(part, 'utf8'), part),
      of: sessions + 50,
      until: sessions + 50,
    };
    writeFileSync(part, partText(shorter));
    const resumed = jocus('simulate', demoFile, '--resume', part, '--format', 'json').stdout;
    const whole = jocus(
      'simulate',
      demoFile,
      '--sessions',
      String(sessions + 50),
      '--player',
      'newcomer',
      '--format',
      'json',
    );
    expect(resumed).toBe(whole.stdout);
  }, 120_000);

  test('goes on until every figure is known so closely, in looks that are paid for', () => {
    const { stdout, status } = jocus(
      'simulate',
      demoFile,
      '--player',
      'veteran',
      '--precision',
      '3%',
      '--sessions',
      '8000',
    );
    expect(status).toBe(0);
    expect(stdout).toMatch(/✓ precise {2}within 3\.0 % after [\d,]+ sessions \(check \d of 4 planned/);
    const never = jocus(
      'simulate',
      demoFile,
      '--player',
      'newcomer',
      '--precision',
      '0.1%',
      '--sessions',
      '1200',
    );
    expect([never.status, never.stdout]).toEqual([1, expect.stringContaining('✗ not precise')]);
  });

  test('saves runs, sessions and events as CSV and JSON Lines', () => {
    const [runs, sessions, events] = [path('runs.csv'), path('sessions.jsonl'), path('events.csv')];
    const few = ['simulate', demoFile, '--sessions', '4', '--player', 'regular'];
    const { stdout } = jocus(
      ...few,
      '--save-runs',
      runs,
      '--save-sessions',
      sessions,
      '--save-events',
      events,
    );
    expect(stdout).toContain(`Saved ${runs}: 12 rows.`);
    const lines = readFileSync(runs, 'utf8').split('\r\n');
    expect(lines[0]).toBe(
      'player,session,run,began,seconds,score,ending,cause,level,lives,firstPoint,firstLoss,drySpell,streak',
    );
    expect(lines).toHaveLength(14);
    const told = readFileSync(sessions, 'utf8')
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(told.map(({ session, runs: count }) => [session, count])).toEqual([
      [0, 3],
      [1, 3],
      [2, 3],
      [3, 3],
    ]);
    const best = lines.slice(1, 4).map((line) => Number(line.split(',')[5]));
    expect(told[0].best).toBe(Math.max(...best));
    expect(readFileSync(events, 'utf8')).toMatch(
      /^player,session,at,event,tried\r\nregular,0,1,input\.(start|help),1\r\n/,
    );
  });

  test('targets as JUnit XML', () => {
    const { stdout } = jocus(...call, '--format', 'junit');
    expect(stdout).toContain('<testsuite name="targets" tests="4" failures="0" skipped="0">');
    expect(stdout).toContain('median score of newcomer');
  });
});

describe('what a change does', () => {
  test('compare tells what changed, what that did, and what is noise', () => {
    const { status, stdout } = asProcess('compare', demoFile, '--set', 'petal=20', '--sessions', '100');
    expect(status).toBe(0);
    expect(stdout).toContain('dials petal value: 10 -> 20');
    expect(stdout).toMatch(/veteran +mean score +[\d,.]+ +[\d,.]+ +\+[\d,.]+ \[[^\]]+\]/);
    expect(stdout).toMatch(/Paired sessions correlate at 0\.\d\d to\s+1\.00/);
    expect(stdout).toMatch(/No clear change: mean length of a run \(newcomer, regular, veteran\)/);
    expect(stdout).toMatch(/changed +median score of newcomer +met -> missed/);
    const other = file(
      changed(
        '{ from: dark,      to: title,     when: input.leave }',
        '{ from: dark, to: title, when: input.leave, if: lives > 9 }',
      ),
    );
    const flow = jocus('compare', demoFile, other, '--sessions', '2').stdout;
    expect(flow).toContain('dark -> title: reached -> unreachable');
    expect(flow).toMatch(/new +transition-unreachable/);
    // Two ways lead from heath to dark; only the first changes.
    const spared = file(changed('to: dark,      if: lives == 0', 'to: dark, if: lives > 9'));
    const ways = jocus('compare', demoFile, spared, '--sessions', '2').stdout;
    expect(ways).toContain('heath -> dark if lives == 0: reached -> unreachable');
    expect(ways).not.toContain('heath -> dark when daylight.ended');
    expect(jocus('compare', demoFile, demoFile, '--sessions', '2').stdout).toMatch(
      /Changed in the design\n {2}nothing\n/,
    );
  });

  test('compare fails where asked to, on what got worse', () => {
    const home = '{ from: heath, to: home, when: daylight.ended }';
    const leaving = (only: string): string =>
      changed(home, `${home}\n  - { from: home, to: title, when: input.leave${only} }`, smallText);
    const better = file(leaving(''));
    const worse = file(changed('expect: { score: 10 }', 'expect: { score: 11 }', leaving(', if: lives > 9')));
    const compared = (...more: string[]) => jocus('compare', better, worse, '--sessions', '20', ...more);
    const plain = compared();
    expect(plain.status).toBe(0);
    expect(plain.stdout).toContain('test "one blossom": passes -> fails');
    expect(plain.stdout).toMatch(/✗ worse {2}1 test fails · 1 transition is not reached · 1 new finding\n$/);
    expect(compared('--fail-on', 'targets').status).toBe(0);
    expect(compared('--fail-on', 'targets', '--fail-on', 'tests').status).toBe(1);
    expect(compared('--fail-on', 'any').status).toBe(1);
    const same = jocus('compare', better, better, '--sessions', '20', '--fail-on', 'any');
    expect(same.status).toBe(0);
    expect(same.stdout).toContain('✓ nothing got worse');
    const markdown = compared('--format', 'markdown').stdout;
    expect(markdown).toContain('- tests: one blossom: fails');
    expect(markdown).toContain('### Tests, flow and findings');
    // Of a finding that is gone nothing is said to be worse.
    expect(jocus('compare', worse, better, '--sessions', '20', '--fail-on', 'any').status).toBe(0);
    const unknown = compared('--fail-on', 'looks');
    expect(unknown.status).toBe(2);
    expect(unknown.stderr).toContain('targets, tests, flow, findings, any');
  });

  test('compare, dials and tune play in a world where asked to', () => {
    const short = file(changed('countdown: 45', 'countdown: 12'));
    const inField = (...call: string[]) =>
      jocus(...call, '--world', 'field', '--sessions', '3', '--format', 'json');
    const compared = JSON.parse(inField('compare', short, '--set', 'petal=20', '--player', 'veteran').stdout);
    const plain = JSON.parse(
      jocus(
        'compare',
        short,
        '--set',
        'petal=20',
        '--player',
        'veteran',
        '--sessions',
        '3',
        '--format',
        'json',
      ).stdout,
    );
    const score = ({ differences }: { differences: { what: string; before: number; after: number }[] }) =>
      differences.find(({ what }) => what === 'mean score')!;
    // Flown, not met: the same sessions come to other scores.
    expect(score(compared).before).not.toBe(score(plain).before);
    expect(score(compared).after).toBeGreaterThan(score(compared).before);
    const { effects } = JSON.parse(inField('dials', short, '--player', 'veteran').stdout);
    const standing = effects
      .find(({ what, dial }: { what: string; dial: string }) => what === 'mean score' && dial === 'petal')
      .points.find(({ setting }: { setting: number }) => setting === 10);
    expect(standing.value).toBe(score(compared).before);
    expect(JSON.parse(inField('tune', short, '--dial', 'petal').stdout).found).toHaveLength(4);
    const none = jocus('dials', short, '--world', 'nowhere.js');
    expect(none.status).toBe(2);
    expect(none.stderr).toContain('nowhere.js');
  });

  test('dials tells in one table what each does, the largest first, and its curves where asked', () => {
    const dials = (...more: string[]) =>
      asProcess('dials', demoFile, '--sessions', '60', '--player', 'veteran', ...more);
    const { status, stdout } = dials('--curves');
    expect(status).toBe(0);
    expect(stdout).toMatch(
      /petal +lantern\n +1 to 50 +0 to 10\n +mean score +veteran +\+4\d\d[\d.]* % +\+\d\d[\d.]* %/,
    );
    expect(stdout).toMatch(/points from "daylight saved" +veteran +-\d\d[\d.]* pp +\+\d\d[\d.]* pp/);
    expect(stdout).toMatch(/No clear change from any dial: mean length of a run \(veteran\)/);
    // More than enough of the points come from gathering, at whatever they are worth.
    expect(stdout).toMatch(/points from "gather" +veteran +✓ ✓ ✓ +✓ ✓ ✓/);
    expect(stdout).toContain('▁▂▃▅▆█');
    expect(dials().stdout).not.toContain('▁▂▃▅▆█');
    const [titles, first] = dials('--format', 'csv').stdout.split('\n');
    expect(titles).toBe('dial,player,figure,unit,least,most,atLeast,atMost,change,low,high,clear');
    expect(first).toMatch(/^petal,veteran,mean score,points,1,50,[\d.]+,[\d.]+,[\d.]+,[\d.]+,[\d.]+,true$/);
  });

  test('tune finds settings that meet the targets and writes them, comments and all, only when told to', () => {
    const path = file(changed('from: 200, to: 500', 'from: 600, to: 900'));
    const before = readFileSync(path, 'utf8');
    const out = join(folder, 'tuned.yaml');
    const { status, stdout } = asProcess('tune', path, '--sessions', '100', '--write', out);
    expect(status).toBe(0);
    expect(stdout).toMatch(/✓ tuned {2}4 of 4 targets met/);
    expect(readFileSync(path, 'utf8')).toBe(before);
    const [written, lines] = [readFileSync(out, 'utf8').split('\n'), before.split('\n')];
    const differing = written.filter((line, at) => line !== lines[at]);
    expect(differing.length).toBeGreaterThan(0);
    for (const line of differing) expect(line).toMatch(/^ {2}(petal|lantern): .*# points for/);
    expect(jocus('simulate', out, '--sessions', '200').stdout).toContain('4 of 4 targets met');
    const never = jocus(
      'tune',
      file(changed('from: 200, to: 500', 'from: 1, to: 2')),
      '--sessions',
      '20',
      '--dial',
      'lantern',
    );
    expect([never.status, never.stdout]).toEqual([1, expect.stringContaining('the nearest that was found')]);
  }, 120_000);

  test('fit finds the skills and difficulties that played, and whether the simulated play alike', () => {
    const log = join(folder, 'playtest.csv');
    jocus('simulate', demoFile, '--sessions', '60', '--save-events', log);
    const { players, pieces, likeness } = JSON.parse(
      jocus('fit', demoFile, log, '--format', 'json', '--sessions', '100').stdout,
    );
    for (const { estimate, design } of [...players, ...pieces]) {
      const error = (estimate.high - estimate.low) / (2 * 1.96);
      expect(Math.abs(estimate.value - design)).toBeLessThan(4 * Math.max(error, 0.05));
    }
    expect(likeness).toHaveLength(12);
    // Players who are twice as fast play otherwise, whatever their skill.
    const fast = file(changed('regular:  { skill: 0.5,', 'regular:  { skill: 0.5, pace: 0.4,'));
    jocus('simulate', fast, '--sessions', '60', '--player', 'regular', '--save-events', log);
    const { stdout } = jocus('fit', demoFile, log, '--sessions', '100');
    expect(stdout).toMatch(/differs +median length of a run of regular/);
  });

  test('fit reads the records that a game saves, one for each session', () => {
    const design = readDesign(demoText);
    const records = Array.from({ length: 6 }, (_, index) => {
      const session = new Session(design, { seed: 4, session: index });
      simulate(design, {
        sessions: 1,
        first: index,
        seed: 4,
        players: ['regular'],
        onEvent: (_player, _session, event, at) => session.sendAt(event, at, !event.startsWith('input.')),
      });
      return file(writeRecord(recordOf(session)), 'jsonl');
    });
    const { stdout, status } = asProcess(
      'fit',
      demoFile,
      ...records,
      '--sessions',
      '100',
      '--format',
      'json',
    );
    expect(status).toBe(0);
    const { sessions, players, likeness } = JSON.parse(stdout);
    expect(sessions).toBe(6);
    expect(players).toMatchObject([{ name: 'player', estimate: { value: expect.any(Number) } }]);
    expect(likeness.map(({ sessions: count }: { sessions: number }) => count)).toContain(6);
  });
});

describe('jocus replay', () => {
  const session = new Session(readDesign(demoText));
  session.send('input.start');
  session.advance(1500);
  session.send('blossom.taken');
  session.send('wasp.hit');
  const record = file(writeRecord(recordOf(session)), 'jsonl');

  test('tells each event with its rules and every counter before and after', () => {
    const { status, stdout } = asProcess('replay', demoFile, record);
    expect(status).toBe(0);
    expect(stdout).toMatch(/0:01\.500 +blossom\.taken +gather +score 0 -> 10, nectar 0 -> 1, streak 1 -> 2/);
    expect(stdout.trimEnd().split('\n').at(-1)).toBe(
      '✓ replayed  0:01.500 · screen heath · level 1 · score 10 · lives 2 · nectar 1 · streak 1 · best 0',
    );
  });

  test('gives the steps as JSON', () => {
    const { steps, end } = JSON.parse(jocus('replay', demoFile, record, '--format', 'json').stdout);
    expect(end.counters.score).toBe(10);
    expect(steps.at(-1)).toMatchObject({ at: 1500, name: 'wasp.hit', rules: ['sting'] });
  });

  test('refuses a record of another design', () => {
    const { status, stderr } = jocus('replay', file(changed('grace: 1', 'grace: 2')), record);
    expect(status).toBe(2);
    expect(stderr).toContain('other-design');
  });
});

describe('jocus demo', () => {
  test('shows all of it on the demo design', () => {
    const { status, stdout } = asProcess('demo');
    expect(status).toBe(0);
    for (const part of [
      '1. jocus check',
      '12 of 12 transitions reached',
      '2. jocus replay',
      '✓ replayed',
      '3. jocus simulate',
      '4 of 4 targets met',
    ]) {
      expect(stdout).toContain(part);
    }
  });
});

describe('jocus try', () => {
  const lead = (lines: string, ...words: string[]) => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [main, 'try', demoFile, ...words], {
      encoding: 'utf8',
      input: lines,
    });
    return { status, stdout, stderr };
  };

  test('leads a session by a file of lines, and saves it as a record', () => {
    const saved = join(folder, 'led.jsonl');
    const { status, stdout } = lead(
      `input.start\n2 x blossom.taken # twice\nwasp.hit\nundo\nwait 1.5\nsave ${saved}\nquit\nwasp.hit\n`,
    );
    expect(status).toBe(0);
    expect(stdout).toContain('blossom.taken  gather, score 10 -> 30, nectar 1 -> 2, streak 2 -> 3, ♪ chime');
    expect(stdout).toContain('taken back');
    expect(stdout).toContain('can happen: input.help  input.start');
    const replayed = jocus('replay', demoFile, saved);
    expect(replayed.status).toBe(0);
    expect(replayed.stdout).toContain('0:01.500 · screen heath · level 1 · score 30 · lives 3');
  });

  test('refuses a line that cannot be used, says why, and goes on', () => {
    const { status, stdout } = lead(`jump\nblosom.taken\nundo\nwait 99999999\nsave ${folder}\ninput.start\n`);
    expect(status).toBe(0);
    for (const reason of [
      '"jump" is no step',
      'Did you mean blossom.taken?',
      'nothing to undo',
      'A line waits at most 86400 s',
      'already; choose another name',
      'title -> heath',
    ]) {
      expect(stdout.replace(/\s+/g, ' ')).toContain(reason);
    }
  });
});

describe('jocus new', () => {
  test('writes a first design that passes its check, and never writes over a file', () => {
    const path = join(folder, 'first.yaml');
    expect(asProcess('new', path)).toMatchObject({ status: 0, stderr: '' });
    expect(jocus('check', path).status).toBe(0);
    expect(jocus('simulate', path).status).toBe(0);
    const again = jocus('new', path);
    expect(again.status).toBe(2);
    expect(again.stderr).toContain('already');
    expect(jocus('new', join(folder, 'no', 'where.yaml')).stderr).toContain('does not exist');
  });
});

describe('jocus build', () => {
  const out = join(folder, 'game.js');

  test('writes one module that plays where code from text is forbidden, and its declarations', () => {
    const { status, stdout } = asProcess('build', demoFile, '--out', out);
    expect([status, stdout]).toEqual([0, expect.stringMatching(/Wrote .*game\.js \(1\d\.\d kB gzipped\)/)]);
    const play = file(
      "import game from './game.js'; const session = game.start(); session.send('input.start'); session.send('blossom.taken'); process.stdout.write(session.text);",
      'mjs',
    );
    const ran = spawnSync(process.execPath, ['--disallow-code-generation-from-strings', play], {
      encoding: 'utf8',
    });
    expect([ran.stdout, ran.stderr]).toEqual(['Gorse Bank: 1 of 12 drops', '']);
    expect(readFileSync(join(folder, 'game.d.ts'), 'utf8')).toMatch(/counters: \{\n {4}score: number;/);
  });

  test('writes over its own module, never over a file of somebody else', () => {
    expect(jocus('build', demoFile, '--out', out).status).toBe(0);
    const own = file('// mine\n', 'js');
    const { status, stderr } = jocus('build', demoFile, '--out', own);
    expect([status, readFileSync(own, 'utf8')]).toEqual([2, '// mine\n']);
    expect(stderr).toContain('choose another name');
    expect(jocus('build', demoFile, '--out', join(folder, 'game.txt')).stderr).toContain('.js or .mjs');
  });
});

describe('jocus replay --counter', () => {
  const session = new Session(readDesign(demoText));
  session.send('input.start');
  for (let taken = 0; taken < 6; taken++) session.send('blossom.taken');
  session.send('wasp.hit');
  const record = file(writeRecord(recordOf(session)), 'jsonl');

  test('lists every write to one counter with the rule and line, and where a bound held it', () => {
    const { status, stdout } = jocus('replay', demoFile, record, '--counter', 'streak');
    expect(status).toBe(0);
    const line = demoText.split('\n').findIndex((each) => each.includes('name: gather')) + 1;
    expect(stdout).toMatch(new RegExp(`blossom\\.taken +5 -> 5 +held from 6 +gather +line ${line}`));
    expect(stdout).toMatch(/wasp\.hit +5 -> 1 +sting/);
    expect(stdout).toContain('7 writes to streak');
    const { writes } = JSON.parse(
      jocus('replay', demoFile, record, '--counter', 'lives', '--format', 'json').stdout,
    );
    expect(writes).toMatchObject([{ before: 3, after: 2, by: 'sting', event: 'wasp.hit' }]);
    expect(jocus('replay', demoFile, record, '--counter', 'gold').stderr).toContain('it has score, lives');
  });
});

describe('--watch', () => {
  test('runs again when the file is saved, and goes on after a mistake', async () => {
    const path = file(demoText);
    const child = startJocus(['check', path, '--watch']);
    let told = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (told += part));
    const tells = async (text: string): Promise<void> => {
      for (let tries = 0; tries < 300 && !told.includes(text); tries++)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect(told).toContain(text);
      told = '';
    };
    try {
      await tells('Watching');
      writeFileSync(path, changed('quota: 12', 'quota: 99'));
      await tells('9 of 12 tests passed');
      writeFileSync(path, 'counters: [');
      await tells('not-yaml');
      writeFileSync(path, demoText);
      await tells('12 of 12 tests passed');
    } finally {
      child.kill();
    }
  });
});

describe('calls and files that cannot be used end with 2 and say why', () => {
  mkdirSync(join(folder, 'directory.yaml'));
  test.each([
    ['no command', [], /Usage: jocus/],
    ['an unknown command', ['chekc', demoFile], /Did you mean check/],
    ['no file', ['check'], /missing required argument 'files'/],
    ['a missing file', ['check', 'nowhere.yaml'], /There is no file nowhere\.yaml/],
    ['a directory', ['check', join(folder, 'directory.yaml')], /is a directory/],
    ['an unknown option', ['check', demoFile, '--fromat', 'json'], /Did you mean --format/],
    ['an unknown format', ['check', demoFile, '--format', 'xml'], /Allowed choices are text, json/],
    ['sessions that are no number', ['simulate', demoFile, '--sessions', 'many'], /whole number/],
    ['no sessions', ['simulate', demoFile, '--sessions', '0'], /from 1 to 10000000/],
    ['a negative seed', ['simulate', demoFile, '--seed=-3'], /whole number/],
    ['a seed past 2^53', ['simulate', demoFile, '--seed', '9007199254740993'], /whole number/],
    ['an unknown player', ['simulate', demoFile, '--player', 'nobody'], /it has newcomer, regular, veteran/],
    ['a shard that is none', ['simulate', demoFile, '--shard', '4/3', '--out', 'x'], /such as 3\/8/],
    ['a shard without a place', ['simulate', demoFile, '--shard', '1/3'], /--out part\.json/],
    ['no precision', ['simulate', demoFile, '--precision', '0'], /such as 2%/],
    ['rows without a format', ['simulate', demoFile, '--save-runs', 'runs.xls'], /\.csv or in \.jsonl/],
    [
      'rows of a shard',
      ['simulate', demoFile, '--save-runs', 'r.csv', '--shard', '1/2', '--out', 'x'],
      /leave out/,
    ],
    ['nothing to compare', ['compare', demoFile], /--set petal=20/],
    ['a dial that is none', ['compare', demoFile, '--set', 'glow=1'], /it has petal, lantern/],
    ['a dial out of its range', ['compare', demoFile, '--set', 'petal=51'], /goes from 1 to 50/],
    ['a setting that is none', ['compare', demoFile, '--set', 'petal'], /such as petal=20/],
    ['a design to tune without dials', ['tune', file('counters: { score: {} }')], /has no dial to turn/],
    ['a design without dials', ['dials', file('counters: { score: {} }')], /has no dial to turn/],
    ['a log of nothing', ['fit', demoFile, file('player,session,at,event\n', 'csv')], /holds no events/],
    [
      'a log without columns',
      ['fit', demoFile, file('who,what\na,b\n', 'csv')],
      /player, session, at, event are missing/,
    ],
    [
      'a log of another game',
      ['fit', demoFile, file('player,session,at,event\na,0,1,rose.taken\n', 'csv')],
      /:2: the design has no event "rose\.taken"/,
    ],
    [
      'a log with bad times',
      ['fit', demoFile, file('player,session,at,event\na,0,soon,blossom.taken\n', 'csv')],
      /:2: at is "soon"/,
    ],
    [
      'a log that breaks off',
      ['fit', demoFile, file('player,session,at,event\na,0,"1\n', 'csv')],
      /is no CSV/,
    ],
    ['a part that is none', ['merge', demoFile, file('{}', 'json')], /no part of a simulation/],
    ['a report to nowhere', ['report', demoFile], /--out report\.html/],
    ['a figure that is none', ['report', demoFile, '--figure', 'pie'], /Allowed choices are flow, score/],
    ['a record that is none', ['replay', demoFile, demoFile], /not-a-record/],
    ['an empty design', ['check', file('')], /empty-file/],
    ['a binary file', ['check', file('\u0000\u0001\u0002')], /1:1/],
  ])('%s', (_, words, expected) => {
    const { status, stdout, stderr } = jocus(...words);
    expect(status).toBe(2);
    expect(stderr + stdout).toMatch(expected);
    expect(stderr).not.toMatch(/\n {4}at /);
  });

  test('problems of a design come with the line they stand on, or as JSON', () => {
    const path = file(
      'counters: { score: {} }\nrules:\n  - { when: input.go, do: [{ add: { scor: 1 } }] }\n',
    );
    const { status, stderr } = asProcess('check', path);
    expect(status).toBe(2);
    expect(stderr).toContain(`${path}:3:37 unknown-name`);
    expect(stderr).toContain('Did you mean score?');
    const caret = stderr.split('\n').find((line) => line.trim() === '^')!;
    const shown = stderr.split('\n').find((line) => line.includes('3 | '))!;
    expect(shown.slice(caret.indexOf('^'))).toMatch(/^scor: 1/);
    const { problems } = JSON.parse(jocus('check', path, '--format', 'json').stdout);
    expect(problems).toMatchObject([{ code: 'unknown-name', file: path, line: 3, column: 37 }]);
  });

  test('help has an example for every command', () => {
    for (const command of [
      'check',
      'simulate',
      'merge',
      'compare',
      'dials',
      'tune',
      'fit',
      'report',
      'replay',
      'try',
      'new',
      'demo',
    ]) {
      const { status, stdout } = jocus(command, '--help');
      expect(status).toBe(0);
      expect(stdout).toContain(`$ jocus ${command}`);
    }
  });
});
