import { describe, expect, test } from 'vitest';
import { winWords } from '../../src/formats/written.js';
import { check, readDesign, simulate, summarize } from '../../src/index.js';
import { changed, problemsOf } from '../support/designs.js';

const told = (text: string): string[] =>
  check(readDesign(text)).findings.map(({ code, message }) => `${code}: ${message}`);

/** So many throws at baskets: exactly so many chestnuts win, more of them throw the player back. */
const chestnuts = `counters:
  points: { start: 0, min: 0 }
  throws: { start: 9, min: 0 }
  fewest: { start: 99, keep: forever }
pieces:
  near: { is: collectible, difficulty: -1, takes: 2 }
  far: { is: collectible, difficulty: 1, takes: 2 }
levels: [{ place: { near: 1, far: 1 }, spawn: [{ piece: near, every: 2, atOnce: 1 }, { piece: far, every: 2, atOnce: 1 }] }]
rules:
  - { name: near basket, when: near.taken, do: [{ add: { points: 2 } }] }
  - { name: far basket, when: far.taken, do: [{ add: { points: 9 } }] }
  - { name: a throw, when: [near.taken, near.missed, far.taken, far.missed], do: [{ add: { throws: -1 } }] }
  - { name: too many, if: points > 24, do: [{ set: { points: 12 } }, { popup: Too many! }] }
screens:
  yard: { live: true }
  full: { ending: won, text: "Exactly {points} of 24, fewest {fewest}" }
  empty: { ending: lost, text: "{points} of 24" }
transitions:
  - { from: yard, to: full, if: points == 24, do: [{ set: { fewest: "min(fewest, 9 - throws)" } }] }
  - { from: yard, to: empty, if: throws == 0 }
  - { from: [full, empty], to: yard, when: input.again, fresh: run }
hud: [{ show: points }, { show: throws }, { show: fewest }]
`;

describe('a game of so many tries', () => {
  test('has no finding: a try costs the same however it ends, and each moves the run on to its end', () => {
    expect(told(chestnuts)).toEqual([]);
  });

  test.each([
    [
      'the lost ending first',
      (text: string) => {
        const [won, lost] = text.split('\n').filter((line) => /to: (full|empty),/.test(line));
        return text.replace(`${won}\n${lost}`, `${lost}\n${won}`);
      },
      'lost-before-won: empty stands above full (line 20): a run in which both hold at once is lost.',
    ],
    [
      'one try too few',
      (text: string) => changed('throws == 0', 'throws == 1', text),
      'ends-early: empty comes while throws is still 1.',
    ],
    [
      'the most for the fewest',
      (text: string) => changed('min(fewest', 'max(fewest', text),
      'best-stuck: fewest takes 9 - throws only when that is higher, but it starts at 99 and 9 - throws never rises above that.',
    ],
    [
      'the fewest of none',
      (text: string) => changed('start: 99', 'start: 0', text),
      'best-stuck: fewest takes 9 - throws only when that is lower, but it starts at 0 and 9 - throws never falls below that.',
    ],
    [
      'another goal in a text',
      (text: string) => changed('"{points} of 24"', '"{points} of 25"', text),
      'goal-told-wrong: The text says "{points} of 25", and the design asks for points == 24.',
    ],
    [
      'a success that alone costs a try',
      (text: string) =>
        changed('near.taken, near.missed, far.taken, far.missed', 'near.taken, far.taken', text),
      'success-costs: near.taken only takes from throws: succeeding makes the player worse off.',
    ],
  ])('%s is told', (_, change, message) => {
    expect(told(change(chestnuts))).toContain(message);
  });
});

/** Whoever is four points up, and two ahead, has the round; two rounds have the match. */
const pegs = `counters: { red: { keep: level }, blue: { keep: level }, redRounds: 0, blueRounds: 0 }
timers: { turn: { countdown: 8 } }
pieces: { peg: { is: prop, meets: sought, takes: 2, outcomes: { red: 1, blue: 1, neither: 1 } } }
levels: { count: 3, spawn: [{ piece: peg, every: 1, atOnce: 1 }] }
rules:
  - { name: red scores, when: peg.red, do: [{ add: { red: 1 } }, { start: turn }] }
  - { name: blue scores, when: peg.blue, do: [{ add: { blue: 1 } }, { start: turn }] }
  - { name: too slow, when: turn.ended, do: [{ popup: Too slow! }, { start: turn }] }
screens:
  line: { live: true }
  redRound: { text: "{redRounds} : {blueRounds}" }
  blueRound: { text: "{redRounds} : {blueRounds}" }
  redWins: { ending: over, text: Red wins }
  blueWins: { ending: over, text: Blue wins }
transitions:
  - { from: line, to: redRound, if: red >= 4 and red - blue >= 2, do: [{ add: { redRounds: 1 } }] }
  - { from: line, to: blueRound, if: blue >= 4 and blue - red >= 2, do: [{ add: { blueRounds: 1 } }] }
  - { from: redRound, to: redWins, when: input.next, if: redRounds == 2 }
  - { from: blueRound, to: blueWins, when: input.next, if: blueRounds == 2 }
  - { from: [redRound, blueRound], to: line, when: input.next, level: next, fresh: level }
  - { from: [redWins, blueWins], to: line, when: input.again, fresh: run }
hud: [{ text: "{red} : {blue}", label: points }, { text: "{redRounds} : {blueRounds}", label: rounds }, { show: turn, as: clock }]
`;

describe('a match of two', () => {
  test.each([
    [
      'another number',
      'blue >= 4',
      'blue >= 5',
      '"line -> blueRound" and "line -> redRound" do the same for blue and red, but "line -> redRound" has if: red >= 4 where "line -> blueRound" has if: blue >= 5.',
    ],
    [
      'another comparison',
      'red - blue >= 2',
      'red - blue == 3',
      '"line -> blueRound" and "line -> redRound" do the same for blue and red, but "line -> redRound" has if: red - blue == 3 where "line -> blueRound" has if: blue - red >= 2.',
    ],
    [
      'a clock that one side starts anew, and the other does not',
      '{ add: { blue: 1 } }, { start: turn }',
      '{ add: { blue: 1 } }',
      '"blue scores" and "red scores" do the same for blue and red, but "red scores" has start: turn where "blue scores" has nothing.',
    ],
  ])('is fair; %s is told', (_, from, to, message) => {
    const unlike = (text: string) => told(text).filter((each) => each.startsWith('unlike-its-twin'));
    expect(unlike(pegs)).toEqual([]);
    expect(unlike(changed(from, to, pegs))).toEqual([`unlike-its-twin: ${message}`]);
  });

  test('that neither wins nor loses fails at no level; one that is lost does', () => {
    const levels = (text: string) =>
      Object.values(summarize(simulate(readDesign(text), { sessions: 20, seed: 1 })).players)[0]!.levels.map(
        ({ fails, climb }) => [fails?.value, climb],
      );
    expect(levels(pegs)).toEqual([
      [undefined, null],
      [undefined, null],
      [undefined, null],
    ]);
    const lost = levels(pegs.replace('blueWins: { ending: over', 'blueWins: { ending: lost'));
    expect(lost.at(-1)).toEqual([1, expect.anything()]);
  });
});

/** Eels are caught for bait, sold at a jetty, and bait is bought at night. */
const eels = `lives: hull
counters:
  money: { start: 12, min: 0 }
  eels: { min: 0, max: 3, keep: level }
  bait: { start: 4, min: 0, max: 5 }
  hull: { start: 2, min: 0, max: 2 }
timers: { day: { countdown: 30 } }
pieces:
  eel: { is: collectible, needs: bait > 0 and eels < 3, takes: 2, lasts: 6, outcomes: { taken: 1, missed: 1, ignored: 0 }, success: taken }
  stump: { is: hazard, lead: 2 }
  jetty: { is: prop, meets: sought, outcomes: { reached: 1 }, needs: eels > 0, takes: 3, ends: [] }
levels: { count: 2, name: "Day {level}", place: { jetty: 1 }, spawn: [{ piece: eel, every: 3, atOnce: 2 }, { piece: stump, every: 9, atOnce: 1 }] }
rules:
  - { name: caught, when: eel.taken, do: [{ pay: { bait: 1 } }, { add: { eels: 1 } }] }
  - { name: got away, when: eel.missed, do: [{ pay: { bait: 1 } }] }
  - { name: scraped, when: stump.hit, do: [{ add: { hull: -1 } }, { grace: 2 }] }
  - { name: sold, when: jetty.reached, do: [{ add: { money: eels * 3 } }, { set: { eels: 0 } }] }
screens:
  river: { live: true }
  inn: { text: "You have {money}. Bait costs 1, planks cost 6." }
  sunk: { ending: lost, text: Sunk }
  poor: { ending: lost, text: "Only {money} of 20" }
  rich: { ending: won, text: "{money} earned" }
transitions:
  - { from: river, to: sunk, if: hull == 0 }
  - { from: river, to: rich, when: day.ended, if: level.last and money >= 20 }
  - { from: river, to: poor, when: day.ended, if: level.last }
  - { from: river, to: inn, when: day.ended }
  - { from: inn, to: inn, when: input.bait, if: bait < 5, do: [{ pay: { money: 1 } }, { add: { bait: 1 } }] }
  - { from: inn, to: inn, when: input.planks, if: hull < 2, do: [{ pay: { money: 6 } }, { add: { hull: 1 } }] }
  - { from: inn, to: river, when: input.sail, level: next, fresh: level }
  - { from: [sunk, poor, rich], to: river, when: input.again, fresh: run }
hud: [{ show: money }, { show: eels, as: icons }, { show: bait }, { show: hull, as: icons }, { show: day, as: clock }]
players: { boy: { skill: 0 } }
`;

describe('a boat that earns its living', () => {
  test('is told of nothing but that falling behind loses the win', () => {
    expect(told(eels)).toEqual([
      expect.stringMatching(/^win-lost-for-good: On river, the run can no longer be won after /),
    ]);
  });

  test.each([
    [
      'bait that is lost to eels which nobody tries for',
      ', outcomes: { taken: 1, missed: 1, ignored: 0 }, success: taken',
      '',
      'untried-costs: An eel that nobody tries for in time ends in eel.missed too, which takes from bait.',
    ],
    [
      'a miss that costs something else',
      'missed: 1, ignored: 0 }, success: taken',
      'missed: 1 }',
      'untried-costs: An eel that nobody tries for in time ends in eel.missed too, which takes from bait.',
    ],
    [
      'a last day that cannot be won',
      'to: rich, when: day.ended, if: level.last and',
      'to: rich, if:',
      'last-level-lost: On the last level day.ended leads to poor, which is lost; on the others it leads to inn.',
    ],
    [
      'a checkpoint to deliver at',
      'is: prop, meets: sought, outcomes: { reached: 1 }',
      'is: checkpoint',
      'delivered-once: Simulated players reach a checkpoint once, so "sold" pays once for each jetty.',
    ],
    [
      'a press that play does not hear',
      'boy: { skill: 0 }',
      'boy: { skill: 0, acts: { input.bait: 1 } }',
      'pressed-in-vain: boy presses input.bait during play, but only inn, where play stands still, hears it.',
    ],
    [
      'one price of two',
      'planks cost 6',
      'planks cost 4',
      'price-told-wrong: The text of inn says "planks cost 4", and "inn -> inn" takes 6.',
    ],
    [
      'a price that nothing takes',
      '{ pay: { money: 6 } }, { add: { hull: 1 } }',
      '{ add: { hull: 1 } }',
      'price-told-wrong: The text of inn says "planks cost 6", and "inn -> inn" takes nothing.',
    ],
  ])('%s is told', (_, from, to, message) => {
    expect(told(changed(from, to, eels))).toContain(message);
  });
});

describe('a pantry that is filled in silence', () => {
  const pantry = `counters: { noise: { min: 0, max: 10 }, carried: { min: 0, max: 1 }, stored: { keep: level }, score: {} }
pieces:
  nut: { is: collectible, needs: carried == 0 }
  nest: { is: prop, meets: sought, outcomes: { reached: 1 }, needs: carried == 1, ends: [] }
  plate: { is: hazard, lead: 2 }
levels: { count: 2, values: { quota: [3, 4] }, place: { nut: 6, nest: 1 }, spawn: [{ piece: plate, every: 5, atOnce: 2 }] }
rules:
  - { name: pick up, when: nut.taken, do: [{ set: { carried: 1 } }, { add: { noise: 1 } }] }
  - { name: clatter, when: plate.hit, do: [{ add: { noise: 4 } }] }
  - { name: store, when: nest.reached, do: [{ set: { carried: 0 } }, { add: { stored: 1, score: 10 * (1 + stored) } }] }
screens: { shelf: { live: true }, awake: { ending: lost, text: "{score}" }, full: { ending: won, text: "{score}" } }
transitions:
  - { from: shelf, to: awake, if: noise == 10 }
  - { from: shelf, to: full, if: stored >= level.quota and level.last }
  - { from: shelf, to: shelf, if: stored >= level.quota, level: next, fresh: level }
  - { from: [awake, full], to: shelf, when: input.again, fresh: run }
hud: [{ show: noise, as: bar }, { show: carried, as: icons }, { text: "{stored} of {level.quota}" }, { show: score }]
`;
  test.each([
    [
      'a hit that calms',
      'noise: 4',
      'noise: -4',
      'harm-that-helps: plate.hit takes from noise, which a run is lost for having too much of, though it is the hit of a hazard.',
    ],
    [
      'what is delivered and still carried',
      '{ set: { carried: 0 } }, { add: { stored: 1',
      '{ add: { stored: 1',
      'paid-again: "store" asks for carried == 1 and leaves carried as it is, so it adds to stored again at once.',
    ],
    [
      'a bonus of nothing at first',
      '10 * (1 + stored)',
      '10 * floor(stored / 2)',
      'first-pays-nothing: What this adds to score is multiplied by floor(stored / 2), which is 0 the first time.',
    ],
    [
      'a first goal that is reached from the start',
      'quota: [3, 4]',
      'quota: [0, 4]',
      'goal-of-nothing: On Level 1, level.quota is 0, and stored is never less: nothing has to be done for it.',
    ],
    [
      'a counter set to itself',
      '{ set: { carried: 1 } }',
      '{ set: { carried: carried } }',
      'changes-nothing: This never changes carried.',
    ],
  ])('%s is told', (_, from, to, message) => {
    const codes = (text: string) => told(text).map((each) => each.split(':')[0]);
    expect(codes(pantry)).not.toContain(message.split(':')[0]);
    const found = told(changed(from, to, pantry));
    expect(found.map((each) => each.split(':')[0])).toContain(message.split(':')[0]);
    expect(found).toContain(message);
  });
});

/** Laps over a course, in as few seconds as can be. */
const laps = (fresh: string) => `score: seconds
counters: { seconds: 0, lap: { start: 1, max: 3 }, record: { start: 600, keep: forever } }
timers: { tick: { every: 1 }, cold: { countdown: 90, keep: run } }
pieces: { drift: { is: hazard, difficulty: -9 + lap, ends: [] }, hut: { is: exit, difficulty: -20 } }
levels: [{ course: [drift, drift, hut] }]
rules: [{ when: tick.ticked, do: [{ add: { seconds: 1 } }] }, { when: drift.hit, do: [{ add: { seconds: 5 } }] }]
screens: { lake: { live: true }, frozen: { ending: lost, text: "Lap {lap} of 3" }, home: { ending: won, text: "{seconds}, record {record}" } }
transitions:
  - { from: lake, to: home, when: hut.reached, if: lap == 3, do: [{ set: { record: "min(record, seconds)" } }] }
  - { from: lake, to: lake, when: hut.reached, fresh: ${fresh}, do: [{ add: { lap: 1 } }] }
  - { from: lake, to: frozen, when: cold.ended }
  - { from: [home, frozen], to: lake, when: input.again, fresh: run }
hud: [{ show: seconds }, { text: "{lap} of 3" }, { show: record }, { show: cold, as: clock }]
players: { guide: { skill: 2 }, pupil: { skill: -1, pace: 2 } }
`;

test('laps that are waited for in vain are told with what brings the course back', () => {
  const [error] = check(readDesign(laps('life'))).findings;
  expect([error!.code, error!.remedy]).toEqual([
    'transition-unreachable',
    'Only hut.reached raises lap, and no level has more than 1 x hut. Begin the course again with fresh: level, or place more.',
  ]);
  // A counter that only rises makes nothing easier than it is at its start.
  expect(told(laps('level')).filter((each) => !each.startsWith('win-lost'))).toEqual([]);
});

test('where the lowest is kept as the best, who has the lower score is told', () => {
  const of = (text: string) => summarize(simulate(readDesign(text), { sessions: 50, seed: 1 })).wins[0]!;
  const kept = of(laps('level'));
  expect(winWords(kept)).toMatch(/^guide has the lower score in .* of pairings with pupil$/);
  const most = of(laps('level').replace('min(record', 'max(record').replace('start: 600', 'start: 0'));
  expect(most).toEqual({ ...kept, isLowBest: false });
  expect(winWords(most)).toMatch(/^guide outscores pupil in /);
});

test('of a loss and a win at once, the one that a miss brings about is a loss', () => {
  const echo = (event: string) => `counters: { answered: {}, mistakes: { max: 2 } }
pieces: { call: { is: collectible, again: false } }
levels: [{ place: { call: 5 } }]
rules:
  - { when: call.taken, do: [{ add: { answered: 1 } }] }
  - { when: ${event}, do: [{ add: { mistakes: 1, answered: 1 } }] }
screens: { wood: { live: true }, silent: { ending: lost, text: Silent }, summer: { ending: won, text: Summer } }
transitions:
  - { from: wood, to: silent, if: mistakes == 2 }
  - { from: wood, to: summer, if: answered == 5 }
  - { from: [silent, summer], to: wood, when: input.again, fresh: run }
hud: [{ show: mistakes }, { show: answered }]
`;
  const codes = (text: string) => told(text).map((each) => each.split(':')[0]);
  expect(codes(echo('call.missed'))).not.toContain('lost-before-won');
  // Taken twice, each counts twice: the second brings about both.
  expect(codes(changed('answered == 5', 'answered == 4', echo('call.taken')))).toContain('lost-before-won');
});

test('what is needed and never short, since the run ends without it, goes nowhere unheard', () => {
  const ferns = (end: string) => `counters: { merit: {}, pictures: { start: 9, min: 0 }, blurred: {} }
pieces: { fern: { is: collectible, needs: pictures > 0, takes: 2, lasts: 8 } }
levels: [{ spawn: [{ piece: fern, every: 3, atOnce: 4 }] }]
rules:
  - { when: fern.taken, do: [{ pay: { pictures: 1 } }, { add: { merit: 10 } }] }
  - { when: fern.missed, do: [{ add: { blurred: 1 } }] }
screens: { gorge: { live: true }, home: { ending: over, text: "{merit}, {blurred} blurred" } }
transitions: [{ from: gorge, to: home, ${end} }, { from: home, to: gorge, when: input.again, fresh: run }]
hud: [{ show: merit }, { show: pictures }, { show: blurred }]
`;
  const codes = (text: string) => told(text).map((each) => each.split(':')[0]);
  expect(codes(ferns('if: pictures == 0'))).not.toContain('gone-unheard');
  expect(codes(ferns('when: input.leave'))).toContain('gone-unheard');
});

test('a key that a text names before play, and nothing hears anywhere, is told', () => {
  const reeds = (text: string) => `counters: { snails: {}, hidden: { start: false } }
pieces: { snail: { is: collectible, needs: not hidden, lasts: 7 } }
levels: [{ spawn: [{ piece: snail, every: 2, atOnce: 5 }] }]
rules:
  - { when: snail.taken, do: [{ add: { snails: 1 } }] }
  - { when: input.hide, do: [{ set: { hidden: true } }] }
  - { when: input.out, do: [{ set: { hidden: false } }] }
screens: { title: { text: "${text}" }, ditch: { live: true } }
transitions: [{ from: title, to: ditch, when: input.start, fresh: run }]
hud: [{ show: snails }, { show: hidden }]
`;
  const vain = (text: string) => told(reeds(text)).filter((each) => each.startsWith('key-in-vain'));
  expect(vain('Hide with hide, come out with out. Press start.')).toEqual([]);
  expect(vain('Hide with hide, come out with leave. Press start.')).toEqual([
    'key-in-vain: The text of title says "with leave", and nothing there hears input.leave.',
  ]);
});

test('what a target could measure is said, for a counter, an ending, and for winning', () => {
  const remedyOf = (measure: string) =>
    problemsOf(`score: strokes
counters: { strokes: {}, ditches: {} }
screens: { field: { live: true }, home: { ending: won, text: Home } }
players: { child: {} }
targets: [{ measure: ${measure}, of: child, from: 0.2 }]`).map(({ remedy }) => remedy);
  expect(remedyOf('ditches')).toEqual([
    'Write measure: score, and let the design say which counter that is, with the line score: ditches.',
  ]);
  expect(remedyOf('home')).toEqual(['Write measure: ending, screen: home.']);
  for (const word of ['won', 'win rate', 'losses'])
    expect(remedyOf(word)).toEqual(['Write measure: ending, screen: NAME, with the name of the ending.']);
  expect(remedyOf('wins')).toEqual([
    'Add over (the player who should score lower; for the share of runs that are won, write measure: ending).',
  ]);
  expect(remedyOf('ending')).toEqual(['Add screen (the name of the ending).']);
});
