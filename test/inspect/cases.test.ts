import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { type Check, check, readDesign, replay } from '../../src/index.js';

/** Small designs of which something wrong was once said, or nothing where something is wrong. */
const textOf = (name: string): string => readFileSync(new URL(`cases/${name}.yaml`, import.meta.url), 'utf8');
const checked = (name: string): Check => check(readDesign(textOf(name), name));
const codes = ({ findings }: Check): string[] => findings.map(({ code }) => code);
const verdicts = ({ exploration }: Check): string[] =>
  exploration.transitions.map(({ from, to, verdict }) => `${from} -> ${to} ${verdict}`);

test.each([
  ['forgotten-fresh', 'residue'],
  ['locked-way-back', 'way-back-lost'],
  ['locked-after-a-hit', 'trap'],
  ['locked-in-the-shop', 'trap'],
  ['cut-short-small', 'missed-for-good'],
  ['cut-short', 'missed-for-good'],
  ['long-course-missed-inn', 'missed-for-good'],
  ['divide', 'number-too-large'],
  ['faults-unseen', 'number-too-large'],
])('%s falls short with %s and a session that shows it', (name, code) => {
  const result = checked(name);
  expect(result.passed).toBe(false);
  const found = result.findings.find((each) => each.code === code);
  expect(found, codes(result).join()).toMatchObject({ severity: 'error' });
  expect(found!.witness!.length).toBeGreaterThan(0);
});

test('what the limit on states cut short has not passed', () => {
  // Without the key that is lost, all play is far from where no ending can be reached.
  const text = textOf('cut-short').replace(/.*lost key.*\n/, '');
  const result = check(readDesign(text), { mostStates: 20_000 });
  expect(codes(result).join()).not.toMatch(/missed-for-good|trap/);
  expect(result.passed).toBe(false);
  expect(result.exploration.isCut).toBe(true);
});

test('a score that ends far up does not grow without end, and one that does not end is not said to', () => {
  expect(checked('bound-cut-short').exploration.score).not.toMatchObject({ growsForEver: true });
  expect(checked('resume').exploration.score).toMatchObject({ growsForEver: true });
});

test.each([
  ['never-appears', 'heath -> home', ['boss']],
  ['spawns-too-late', 'heath -> home', ['key']],
])('%s: %s takes a game that brings %s', (name, way, pieces) => {
  const result = checked(name);
  expect(codes(result)).toContain('needs-the-game');
  const [from, to] = way.split(' -> ');
  const found = result.exploration.transitions.find((each) => each.from === from && each.to === to);
  expect(found).toMatchObject({ verdict: 'reached', brings: pieces });
});

test('a piece that only a rule which never fires makes appear never appears', () => {
  const found = checked('never-appears').findings.find(({ code }) => code === 'piece-nowhere');
  expect(found?.details).toEqual({ piece: 'boss', rule: 'if score == 11' });
});

test('a hit that grace always turns away is not reached', () => {
  const { parts, transitions } = checked('always-turned-away').exploration;
  expect(parts.find(({ name }) => name === 'wasp.hit')?.verdict).toBe('unreachable');
  expect(transitions.map(({ verdict }) => verdict)).toEqual(['reached', 'unreachable', 'unreachable']);
});

test('nothing hits with no pause where the first hit ends the run', () => {
  expect(codes(checked('first-hit-ends'))).not.toContain('hit-without-pause');
});

test('a loss behind a way back is a loss', () => {
  expect(codes(checked('loss-behind-back'))).not.toContain('no-loss');
});

test('an interval that a counter drives to nothing is told, and holds nobody up', () => {
  expect(codes(checked('interval-to-zero'))).toContain('interval-too-short');
});

test('a transition to back from a screen that nothing enters is read and checked', () => {
  expect(checked('back-from-nowhere').passed).toBe(true);
});

test.each(['undecided-two-spawns', 'undecided-nested-menus', 'long-course', 'resume'])(
  '%s leaves nothing undecided',
  (name) => {
    expect(verdicts(checked(name)).filter((verdict) => verdict.endsWith('undecided'))).toEqual([]);
  },
);

test('what one session shows on its way is not left open elsewhere', () => {
  expect(verdicts(checked('undecided-one-way-tried'))).toEqual([
    'title -> kitchen reached',
    'kitchen -> garden reached',
    'kitchen -> title reached',
    // Tea ends sooner in each round, by the clocks of both.
    'kitchen -> night unreachable',
    'garden -> night reached',
    'night -> title reached',
  ]);
});

test('a piece that no level has in play is not met by sending its event after a session that shows something else', () => {
  const text = `counters: { eggs: { max: 3 } }
timers: { dusk: { countdown: 2 } }
pieces: { egg: { is: collectible } }
levels: [{ place: { egg: 0 } }, { place: { egg: 1 } }]
rules: [{ name: gather, when: egg.taken, do: [{ add: { eggs: 1 } }] }]
screens: { play: { live: true }, menu: {}, over: { ending: lost, text: Over } }
transitions:
  - { from: over, to: menu, wait: 1, level: next }
  - { from: menu, to: over, wait: 1 }
  - { from: play, to: over, when: dusk.ended }
  - { from: over, to: play, when: input.go, fresh: run }`;
  const { parts } = check(readDesign(text)).exploration;
  expect(parts.find(({ name }) => name === 'gather')!.verdict).not.toBe('reached');
});

test('what is unreachable whatever a timer says is told, and only that', () => {
  expect(verdicts(checked('undecided-timer-read'))).toEqual([
    'heath -> look reached',
    'look -> back reached',
    'heath -> home unreachable',
    'heath -> dark reached',
    'home -> heath unreachable',
    'dark -> heath reached',
  ]);
});

test('a bound says of which pieces it takes no more to be met than the levels have', () => {
  expect(checked('bound-not-true').exploration.score).toMatchObject({
    highest: { value: 15 },
    supply: ['berry'],
  });
});

test('what only play that goes on comes to is shown by a session of a player, not left open', () => {
  const text = `counters: { height: { start: 5, min: 0, max: 10 } }
timers: { breeze: { every: 1 }, sunset: { countdown: 30, keep: run } }
pieces: { thermal: { is: collectible, takes: 0.6, lasts: 3 } }
levels: [{ spawn: [{ piece: thermal, every: [1, 2], atOnce: 3 }] }]
rules:
  - { when: breeze.ticked, do: [{ add: { height: -1 } }] }
  - { when: thermal.taken, do: [{ add: { height: 2 } }] }
screens: { sky: { live: true }, sand: { ending: lost, text: Down }, dusk: { ending: won, text: Up } }
transitions:
  - { from: sky, to: sand, if: height == 0 }
  - { from: sky, to: dusk, when: sunset.ended }
  - { from: [sand, dusk], to: sky, when: input.again, fresh: run }
`;
  const design = readDesign(text);
  const { transitions } = check(design).exploration;
  expect(transitions.map(({ verdict }) => verdict)).toEqual(['reached', 'reached', 'reached', 'reached']);
  const { witness } = transitions[1]!;
  expect(replay(design, witness!.record!).screen).toBe('dusk');
});
