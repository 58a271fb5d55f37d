import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { readDesign, readRecord, replay } from '../../src/index.js';
import { hasComputed, inThread, jocus, main, startJocus, temporaryFolder } from '../support/command-line.js';
import { changed, demoFile, demoText } from '../support/designs.js';

const folder = temporaryFolder();
let files = 0;
function file(text: string, ending = 'yaml'): string {
  const path = join(folder, `file-${files++}.${ending}`);
  writeFileSync(path, text);
  return path;
}
const ticking =
  'counters: { score: {} }\ntimers: { beat: { every: 0.001 } }\nrules: [{ when: beat.ticked, do: [{ add: { score: 1 } }] }]\n';

describe('a limit on time', () => {
  test('of a check: what is told says that it was cut short, and it has not passed', () => {
    const names = 'abcdefghijkl'.split('');
    const wide = file(`counters: { ${names.map((name) => `${name}: { min: 0, max: 1000000 }`).join(', ')} }
pieces: { ${names.map((name) => `piece_${name}: { is: collectible }`).join(', ')} }
rules: [${names.map((name) => `{ when: piece_${name}.taken, do: [{ add: { ${name}: 1 } }] }`).join(', ')}]
screens: { play: { live: true }, end: { ending: won } }
transitions: [{ from: play, to: end, if: ${names.map((name) => `${name} == 1000000`).join(' and ')} }, { from: end, to: play, when: input.again, fresh: run }]
`);
    const { status, stdout } = jocus(['check', wide, '--seconds', '1']);
    expect(status).toBe(1);
    expect(stdout).toMatch(/✗ not finished {2}the limit on time was reached \(--seconds\)/);
    expect(stdout).toMatch(/undecided +the limit on time was reached/);
    const cut = inThread(['check', wide, '--states', '500']);
    expect(cut.status).toBe(1);
    expect(cut.stdout).toMatch(
      /✗ not finished {2}left open: what is undecided, whether .*, since the limit of 500 states was hit/,
    );
    const several = inThread(['check', wide, demoFile, '--states', '500']);
    expect(several.stdout).toContain('1 of 2 designs passed');
    expect(several.stdout.replace(/\s+/g, ' ')).toContain('left open: what is undecided, whether ');
  });

  test('of a test in the design, which has not passed then', () => {
    const long = file(`${ticking}tests: [{ name: a day, do: [wait 86400], expect: { score: 1 } }]\n`);
    const { status, stdout } = jocus(['check', long, '--seconds', '1']);
    expect(status).toBe(1);
    expect(stdout).toMatch(/✗ a day[\s\S]*The limit on time was reached at [\d.]+ s of session time/);
  });

  test('of a replay: a short record of thirty years', () => {
    const design = file(ticking);
    const { fingerprint } = readDesign(ticking);
    const record = file(
      `{"record":1,"design":"${fingerprint}","seed":1,"session":0,"spawns":true,"kept":{}}\n{"end":{"at":1000000000000,"screen":"play","level":1,"counters":{"score":0}}}\n`,
      'jsonl',
    );
    const { status, stderr } = jocus(['replay', design, record, '--seconds', '1']);
    expect([status, stderr]).toEqual([2, expect.stringContaining('The limit on time was reached')]);
  });

  test('of what is simulated: what is done is kept, or nothing is told', () => {
    const simulated = jocus(['simulate', file(ticking), '--sessions', '100000', '--seconds', '1']);
    expect(simulated.status).toBe(0);
    expect(simulated.stderr).toMatch(
      /^Stopped at the limit of 1 s \(--seconds\) after [\d,]+ of 100,000 sessions\./m,
    );
    for (const words of [
      ['dials', demoFile],
      ['compare', demoFile, '--set', 'petal=20'],
      ['tune', demoFile],
      ['report', demoFile, '--format', 'markdown'],
    ]) {
      const { status, stdout, stderr } = inThread([...words, '--sessions', '20000', '--seconds', '1']);
      expect([status, stdout], words[0]).toEqual([2, '']);
      expect(stderr).toContain('The limit of 1 s was reached before this was done, so there is no result.');
    }
  });
});

describe('an interrupted simulation', () => {
  test('keeps what is done and ends with the code of its signal', async () => {
    const part = join(folder, 'stopped.json');
    const running = startJocus(['simulate', demoFile, '--sessions', '200000', '--out', part]);
    let stderr = '';
    running.stderr.on('data', (data) => {
      stderr += data;
    });
    const ended = new Promise((resolve) => running.on('close', resolve));
    await hasComputed(running, 2);
    running.kill('SIGTERM');
    expect(await ended).toBe(143);
    expect(stderr).toMatch(/Stopped by SIGTERM after [\d,]+ of 200,000 sessions\. Go on with --resume/);
    const { sessions } = JSON.parse(readFileSync(part, 'utf8'));
    expect(sessions).toBeGreaterThan(0);
  });

  test('with rows keeps the rows of the sessions that are done', async () => {
    const rows = join(folder, 'rows.jsonl');
    const running = startJocus(['simulate', demoFile, '--sessions', '100000', '--save-sessions', rows]);
    running.stderr.resume();
    running.stdout.resume();
    const ended = new Promise((resolve) => running.on('close', resolve));
    await hasComputed(running, 2);
    running.kill('SIGTERM');
    expect(await ended).toBe(143);
    const lines = readFileSync(rows, 'utf8')
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line));
    const of = (player: string): number[] =>
      lines.filter((line) => line.player === player).map(({ session }) => session);
    expect(of('newcomer')).toEqual(of('veteran'));
    expect(of('veteran')).toEqual(of('veteran').map((_, index) => index));
  });
});

describe('standard output', () => {
  test('that is full is an error, and no raw stack', () => {
    const { status, stderr } = spawnSync(
      'sh',
      ['-c', `"${process.execPath}" "${main}" check "${demoFile}" > /dev/full`],
      {
        encoding: 'utf8',
      },
    );
    expect([status, stderr]).toEqual([
      2,
      expect.stringMatching(/^error The result cannot be written \(ENOSPC\)/),
    ]);
  });

  test('that is closed early changes nothing of how a check ends', () => {
    const broken = file(changed('expect: { score: 30', 'expect: { score: 31'));
    const through = (design: string): string =>
      spawnSync(
        'bash',
        [
          '-c',
          `"${process.execPath}" "${main}" check "${design}" --format json | head -c 10 > /dev/null; echo \${PIPESTATUS[0]}`,
        ],
        {
          encoding: 'utf8',
        },
      ).stdout.trim();
    expect([through(broken), through(demoFile)]).toEqual(['1', '0']);
  });
});

describe('calls that cannot be used', () => {
  test.each([
    [['check', demoFile, '--only', 'nosuch'], 'There are no findings of the code "nosuch"'],
    [['check', demoFile, '--skip', 'residu'], 'Did you mean residue?'],
    [['simulate', demoFile, '--resume', 'PART', '--player', 'veteran'], 'A part knows its seed, its players'],
    [['simulate', demoFile, '--resume', 'PART', '--seed', '7'], 'A part knows its seed, its players'],
    [['simulate', demoFile, '--resume', 'PART', '--sessions', '7'], 'A part knows its seed, its players'],
  ])('%j', (words, told) => {
    const part = join(folder, 'part.json');
    if (words.includes('PART'))
      inThread(['simulate', demoFile, '--sessions', '10', '--shard', '1/2', '--out', part]);
    const { status, stderr } = inThread(words.map((word) => (word === 'PART' ? part : word)));
    expect([status, stderr]).toEqual([2, expect.stringContaining(told)]);
    expect(stderr).not.toContain('    at ');
  });

  test('a loop of events has a place in the file', () => {
    const loop = file(
      'rules:\n  - { when: input.go, do: [{ emit: own.a }] }\n  - { when: own.a, do: [{ emit: own.a }] }\n',
    );
    expect(inThread(['check', loop]).stdout).toMatch(new RegExp(`endless-chain {2}${loop}:2:5`));
  });
});

describe('a world of somebody else', () => {
  // It is waited for ten seconds, in which all else is tested.
  const endless = startJocus([
    ...['simulate', demoFile, '--sessions', '5', '--player', 'regular', '--world'],
    file('await new Promise(() => {});\nexport default { step: 50, open() {} };', 'mjs'),
  ]);
  let told = '';
  endless.stderr.on('data', (data) => {
    told += data;
  });
  const ended = once(endless, 'close');

  const world = (scene: string, more = ''): string =>
    file(
      `${more}export default { step: 50, open: (stage) => { let time = 0; return { begin() { time = 0; }, appear() {}, clear() {}, decide: () => ({ best: 'left', others: [] }), ${scene} }; } };`,
      'mjs',
    );
  const play = (module: string) =>
    inThread(['simulate', demoFile, '--sessions', '5', '--player', 'regular', '--world', module]);

  test('that throws: session, seed and moment are told, and the record replays to there', () => {
    const { status, stderr } = play(
      world(
        "advance() { time += 50; if (time === 1000) stage.report('blossom.appeared'); if (time === 2000) stage.report('blossom.taken'); if (time === 3000) null.x; }",
      ),
    );
    expect(status).toBe(2);
    const [, at, record] =
      /The world threw in session 0 of regular, seed 1, at ([\d.]+) s: TypeError: .*jocus replay \S+ (\S+)/.exec(
        stderr,
      )!;
    expect(stderr).toMatch(/file-\d+\.mjs:1:\d+/);
    const session = replay(readDesign(demoText), readRecord(readFileSync(record!, 'utf8')));
    expect(session.time / 1000).toBe(Number(at));
    expect(session.counter('score')).toBe(10);
  });

  test('that reports what the design does not know', () => {
    const { status, stderr } = play(
      world("advance() { time += 50; if (time === 1000) stage.report('wasp.hitt'); }"),
    );
    expect([status, stderr]).toEqual([
      expect.any(Number),
      expect.stringMatching(
        /The world reported wasp\.hitt \d+ times, which this design does not know\. Did you mean wasp\.hit\?/,
      ),
    ]);
  });

  test.each([
    [
      'lacks methods',
      'export default { step: 50, open: () => ({ begin() {} }) };',
      'lacks appear, clear, advance, decide',
    ],
    ['opens nothing', 'export default { step: 50, open: () => undefined };', 'lacks begin, appear'],
    [
      'decides nonsense',
      'export default { step: 50, open: () => ({ begin() {}, appear() {}, clear() {}, advance() {}, decide: () => 5 }) };',
      'A world decided 5',
    ],
    [
      'throws a text',
      'export default { step: 50, open: () => ({ begin() {}, appear() {}, clear() {}, advance() { throw "no"; }, decide: () => ({ best: "", others: [] }) }) };',
      'Error: no',
    ],
    ['throws when loaded', 'throw new Error("not today");', 'cannot be loaded: not today'],
  ])('that %s', (_, text, told) => {
    const { status, stderr } = play(file(text, 'mjs'));
    expect([status, stderr]).toEqual([2, expect.stringContaining(told)]);
    expect(stderr).not.toContain('\n    at ');
  });

  test('that never loads', async () => {
    const [status] = await ended;
    expect([status, told]).toEqual([2, expect.stringContaining('did not finish loading within 10 s')]);
    expect(told).not.toContain('\n    at ');
  });
});
