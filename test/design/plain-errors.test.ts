import { describe, expect, test } from 'vitest';
import { additionFor } from '../../src/design/text/addition.js';
import { changeDesign, readDesign, Session } from '../../src/index.js';
import { problemsOf } from '../support/designs.js';

/** What a design is refused with: each problem's line and words. */
function told(text: string): string[] {
  return problemsOf(text).map(({ place, message, remedy }) => `${place.line}: ${message} ${remedy}`);
}

const shells = 'counters: { score: {}, lives: { start: 3 } }\npieces: { shell: { is: collectible } }\n';

test('what is missing is added by one change each, until the design can be read', () => {
  let text =
    'levels: [{ place: { shell: 3 }, spawn: [{ piece: crab, every: 3 }] }]\nscreens: { beach: { live: true } }\nrules:\n  - { when: shell.taken, do: [{ add: { score: 1 } }, { start: tide }] }\n  - { when: crab.hit, do: [{ add: { lives: -1 } }] }\ntransitions: [{ from: beach, to: home, if: lives == 0 }]\n';
  let count = 0;
  for (; problemsOf(text).length > 0 && count < 10; count++) {
    const [first] = problemsOf(text);
    text = changeDesign(text, additionFor(first!)!);
  }
  expect(count).toBe(6);
  const design = readDesign(text);
  const { pieces, timers, screens } = design;
  expect(pieces.map(({ name, role }) => `${name}: ${role}`)).toEqual(['shell: collectible', 'crab: hazard']);
  expect(new Session(design).counters).toEqual({ score: 0, lives: 3 });
  expect([timers, screens].map((list) => list.at(-1)!.name)).toEqual(['tide', 'home']);
});

test('what may be another name, or is something else, is added by nobody', () => {
  for (const amount of ['{ scroe: 1 }', '{ points: 1 }', '{ shell: 1 }', '{ "a b": 1 }', '{ time: 1 }'])
    expect(
      problemsOf(`${shells}rules: [{ when: shell.taken, do: [{ add: ${amount} }] }]`).map(additionFor),
      amount,
    ).toEqual([undefined]);
  expect(problemsOf('rules: [{ when: player.hit, do: [{ cue: ow }] }]').map(additionFor)).toEqual([
    undefined,
  ]);
});

test.each([
  [
    'levels: [{ values: { quota: 3 }, spawn: [{ piece: shell, every: 1, atOnce: 0 }] }]',
    '3: Found 0. Write a whole number from 1 to 10000.',
  ],
  ['levels: [{ values: { quota: few } }]', /^3: There is no counter "few"/],
  ['levels: [{ name: Low, colour: blue, values: { quota: 3 } }]', /^3: Level 1 has no key "colour"/],
])('what reads a level with a mistake is no mistake as well: %s', (levels, expected) => {
  const reads = 'rules: [{ if: score >= level.quota, do: [{ add: { lives: 1 } }] }]';
  expect(told(`${shells}${levels}\n${reads}`)).toEqual([
    typeof expected === 'string' ? expected : expect.stringMatching(expected),
  ]);
});

test('of a counter with a mistake, what is none is read: its words, and the most that it can be', () => {
  const reads = 'rules: [{ if: score > 3, do: [{ set: { gate: high } }] }]\nhud: [{ show: score, as: bar }]';
  expect(
    told(`counters: { score: { max: 9, icon: star }, gate: { words: [low, high], keep: always } }\n${reads}`),
  ).toEqual([
    expect.stringMatching(/^1: The counter score has no key "icon"/),
    '1: Found the text "always". Write one of life, level, run, session, forever.',
  ]);
  // Without its words, or its decimals, there is no telling what it holds.
  expect(told('counters: { gate: { words: 3, start: low } }')).toHaveLength(1);
  expect(told('counters: { heat: { places: many, start: 2.5 } }')).toHaveLength(1);
});

test('a piece without a role is told what roles there are, and which goes with outcomes of its own', () => {
  expect(told('pieces: { note: { outcomes: { clean: 3, off: 1 } }, shell: {} }')).toEqual([
    '1: The piece note lacks the key "is". Add is: prop, since its own outcomes say what can become of it.',
    '1: The piece shell lacks the key "is". Say what it is to the player: collectible (to take), hazard (to avoid), foe (to avoid or beat), checkpoint or exit (to reach), prop (none of these).',
  ]);
});

describe('one slip gives one problem, and the line as it should be', () => {
  test.each<[string, string, ...string[]]>([
    [
      'a counter as a key of a rule',
      `${shells}rules:\n  - when: shell.taken\n    score: 3`,
      '5: Rule 1 changes score outside its list of effects. Write do: [{ add: { score: 3 } }] to add, or do: [{ set: { score: 3 } }] to set it.',
    ],
    [
      'a unit',
      'timers: { dusk: { countdown: 90s } }',
      '1: "90s" has a unit; times are plain numbers of seconds. Write 90.',
    ],
    [
      'milliseconds',
      'timers: { dusk: { countdown: 120000 } }',
      '1: Found 120000. Write 120 for 120000 milliseconds: times are in seconds, 86400 at most.',
    ],
    [
      'minutes of patience',
      'players: { one: { patience: 2 min } }',
      '1: "2 min" has a unit; times are plain numbers of seconds. Write 120.',
    ],
    [
      'a time as an event',
      `${shells}rules: [{ when: 1.5s, do: [{ add: { score: 1 } }] }]`,
      '3: "1.5s" is a time, and when takes an event. Add a timer, such as timers: { dusk: { after: 1.5 } }, and write when: dusk.ended.',
    ],
    [
      'a condition as an event',
      `${shells}rules: [{ when: score = 10, do: [{ add: { score: 1 } }] }]`,
      '3: "score = 10" is a condition, and when takes an event. Write it as if: score == 10',
    ],
    [
      'a choice without quotes',
      `${shells}rules:\n  - when: shell.taken\n    do:\n      - add:\n          score: lives > 1 ? 3 : 1`,
      '7: YAML takes what stands before a colon for a key, so "lives > 1 ? 3 : 1" was not read as one value. Put it in quotes: score: "lives > 1 ? 3 : 1"',
    ],
    [
      'a title with a colon',
      'title: Night Post: the first round\ncounters: { score: {} }',
      '1: YAML takes what stands before a colon for a key, so "Night Post: the first round" was not read as one value. Put it in quotes: title: "Night Post: the first round"',
    ],
    [
      'a tab',
      'counters:\n\tscore: {}',
      '2: This cannot be read: a tab stands before the first word of this line, and YAML indents with spaces alone. Replace the tab by spaces, two for each step.',
    ],
    [
      'a second block of counters',
      'counters:\n  score: {}\npieces:\n  shell: { is: collectible }\ncounters:\n  lives: 3',
      '5: This is a second block "counters:"; the first begins in line 1. Put these lines under the first, and take this key out.',
    ],
    [
      'a counter that is not there, wherever it stands',
      `${shells}rules:\n  - { when: shell.taken, do: [{ add: { found: 1 } }] }\n  - { when: shell.missed, do: [{ add: { found: -1 } }] }\nhud: [{ show: found }]`,
      '4: There is no counter "found". Add it under counters, such as found: { start: 0 }. Allowed here: score, lives. The same on lines 5 and 6.',
    ],
    [
      'a counter under another word',
      `${shells}rules:\n  - { when: shell.taken, do: [{ add: { points: 1 } }] }`,
      '4: There is no counter "points". Did you mean score?',
    ],
    [
      'lives that are not there',
      'pieces: { crab: { is: hazard } }\nrules: [{ when: crab.hit, do: [{ add: { lives: -1 } }] }]',
      '2: There is no counter "lives". Add it under counters, such as lives: { start: 3, min: 0 }.',
    ],
    [
      'a piece that is not there, with what is heard of it',
      `${shells}rules:\n  - { when: crab.hit, do: [{ add: { lives: -1 } }] }\nlevels:\n  - place: { shell: 3 }\n    spawn: [{ piece: crab, every: 3 }]`,
      '4: There is no piece "crab". Add it under pieces, such as crab: { is: hazard }. Allowed here: shell. The same on line 7.',
    ],
    [
      'a timer that is not there, with what is heard of it',
      `${shells}rules:\n  - { when: shell.taken, do: [{ start: tide }] }\n  - { when: tide.ended, do: [{ add: { score: 1 } }] }`,
      '4: There is no timer "tide". Add it under timers, such as tide: { countdown: 30 }. The same on line 5.',
    ],
    [
      'an event of what is nowhere',
      `${shells}rules:\n  - { when: crab.hit, do: [{ add: { score: 1 } }] }\n  - { when: crab.avoided, do: [{ add: { score: 2 } }] }`,
      '4: Nothing can send the event "crab.hit". Add crab under pieces, such as crab: { is: hazard }. The same on line 5.',
    ],
    [
      'a piece where a counter is needed',
      `${shells}rules: [{ when: shell.taken, do: [{ add: { shell: 1 } }] }]`,
      '3: "shell" is a piece; a counter is needed here. Allowed here: score, lives.',
    ],
    [
      'a share in percent',
      'players: { one: {} }\nscreens: { a: { live: true } }\ntargets: [{ measure: reach, screen: a, of: one, from: 20, to: 0.9 }]',
      '3: from is 20, and this measures a share, which is between 0 and 1. Write 0.2 for 20 %.',
    ],
    [
      'a screen that is no ending, where an ending is needed',
      'players: { one: {} }\nscreens: { a: { live: true }, b: { ending: lost, text: B } }\ntargets: [{ measure: ending, screen: a, of: one, from: 0.2 }]',
      '3: "a" is a screen; an ending screen is needed here. Did you mean b?',
    ],
    [
      'a comment of another language',
      '// my game\ncounters: { score: {} }',
      '1: This cannot be read: a comment begins with #, not with // or /*. Write # my game',
    ],
    [
      'a comment of another language in JSON',
      '{ "counters": { "score": {} }, // counted\n "rules": [] }',
      '1: A design has no key "// counted "rules"". A comment begins with #, not with // or /*.',
    ],
    [
      'a comment of another language after a value',
      'counters:\n  score: 0 // counted',
      '2: The expression "0 // counted" cannot be read: it holds more than one expression or a comment. A comment begins with #, after a space.',
    ],
    [
      'a comma that is missing in JSON',
      '{\n  "counters": { "score": {} }\n  "rules": []\n}',
      '3: This cannot be read: a comma is missing at the end of the line above. Add it.',
    ],
    [
      'an effect without its colon',
      `${shells}rules: [{ when: shell.taken, do: [cue chime] }]`,
      '3: Found the text "cue chime". Write { cue: chime }.',
    ],
    [
      'keys under everyday words: what is meant, and nothing that is lacking for it',
      'pieces: { berry: { is: collectible } }\nrules: [{ on: berry.taken, then: [] }]',
      '2: Rule 1 has no key "on". Write when.',
      '2: Rule 1 has no key "then". Write do.',
    ],
    [
      'an event in everyday words',
      'counters: { score: {} }\npieces: { berry: { is: collectible } }\nrules: [{ when: berry.collected, do: [{ add: { score: 1 } }] }]',
      '3: Nothing can send the event "berry.collected". Write berry.taken.',
    ],
    [
      'an effect in everyday words',
      'counters: { lives: 3 }\npieces: { wasp: { is: hazard } }\nrules: [{ when: wasp.hit, do: [{ subtract: { lives: 1 } }] }]',
      '3: An effect of rule 1 has no key "subtract". Write add with a negative amount, such as add: { lives: -1 }.',
    ],
    [
      'a role alone',
      'pieces: { berry: collectible }',
      '1: Found the text "collectible". Write { is: collectible }.',
    ],
    ['a time alone', 'timers: { dusk: 40 }', '1: Found 40. Write { countdown: 40 }.'],
    [
      'an arrow',
      'screens: { title: {}, heath: {} }\ntransitions: [title -> heath]',
      '2: Found the text "title -> heath". Write { from: title, to: heath, when: input.go }.',
    ],
    [
      'what meeting a piece is worth, at the piece',
      'pieces: { apple: { is: collectible, points: 5 } }',
      '1: The piece apple has no key "points". Points are given by a rule, such as { when: apple.taken, do: [{ add: { score: 10 } }] }.',
    ],
    [
      'how a piece moves',
      'pieces: { car: { is: hazard, speed: 3 } }',
      '1: The piece car has no key "speed". Looks, sound and movement belong to the game. To hand the game a value, use data, such as data: { speed: 3 }.',
    ],
    [
      'what happens at the end of a timer, at the timer',
      'timers: { night: { countdown: 60, on_end: lose } }',
      '1: The timer night has no key "on_end". To react when it ends, write a transition, such as { from: play, to: over, when: night.ended }, or a rule.',
    ],
    [
      'what is asked of a counter, at the counter',
      'counters: { apples: { goal: 10 } }',
      '1: The counter apples has no key "goal". Put the goal in a transition, such as { from: play, to: won, if: apples >= 10 }.',
    ],
    [
      'a piece as a key of a level',
      'pieces: { apple: { is: collectible } }\nlevels: [{ apple: 6 }]',
      '2: Level 1 has no key "apple". Write place: { apple: 6 }.',
    ],
    [
      'a spawn in words',
      'pieces: { car: { is: hazard } }\nlevels: [{ spawn: [car every 3s] }]',
      '2: Found the text "car every 3s". Write { piece: car, every: 3 }.',
    ],
    [
      'effects as other languages write them',
      'counters: { score: {}, lives: 3 }\nrules: [{ when: input.a, do: score += 5 }, { when: input.b, do: [lives -= 1, score = 0, lives--] }]',
      '2: Found the text "score += 5". Write [{ add: { score: 5 } }].',
      '2: Found the text "lives -= 1". Write { add: { lives: -1 } }.',
      '2: Found the text "score = 0". Write { set: { score: 0 } }.',
      '2: Found the text "lives--". Write { add: { lives: -1 } }.',
    ],
    [
      'a counter as a key of an effect',
      'counters: { lives: 3 }\nrules: [{ when: input.a, do: [{ lives: -1 }] }]',
      '2: An effect of rule 1 has no key "lives". Write add: { lives: -1 }.',
    ],
    [
      'a screen that a rule is to change',
      'counters: { score: {} }\nrules: [{ when: input.a, do: [{ win: true }] }]',
      '2: An effect of rule 1 has no key "win". Rules do not change screens; transitions do, such as { from: play, to: over, if: lives == 0 }.',
    ],
    [
      'a text for a screen, and other words for endings',
      'screens: { title: Press space, over: { ending: lose }, home: { ending: Win } }',
      '1: Found the text "Press space". Write { text: "Press space" }.',
      '1: Found the text "lose". Write lost.',
      '1: Found the text "Win". Write won.',
    ],
    [
      'other words on the HUD',
      'counters: { lives: { start: 3, max: 3 } }\nhud: [{ show: lives, as: hearts, at: top right }, { show: lives, position: left }]',
      '2: Found the text "hearts". Write icons.',
      '2: Found the text "top right". Write top-right.',
      '2: HUD item 2 has no key "position". Write at.',
    ],
    [
      'other words for a target',
      'counters: { score: {} }\nplayers: { novice: {} }\ntargets: [{ measure: score, player: novice, min: 5, max: 9 }]',
      '3: Target 1 has no key "player". Write of.',
      '3: Target 1 has no key "min". Write atLeast.',
      '3: Target 1 has no key "max". Write atMost.',
    ],
    ['yes', 'screens: { heath: { live: yes } }', '1: Found the text "yes". Write true.'],
    [
      'a counter on the HUD',
      'counters: { score: {} }\nhud: [score]',
      '2: Found the text "score". Write { show: score }.',
    ],
    [
      'a word for a role',
      'pieces: { wasp: { is: enemy } }',
      '1: "enemy" is no role. Write hazard where it is only to be avoided, or foe where it can also be beaten.',
    ],
    [
      'another',
      'pieces: { door: { is: target } }',
      '1: "target" is no role. Write exit where the player is to reach it, foe where it is to be hit, or prop where outcomes of its own say what becomes of it.',
    ],
    [
      'another, and a rule that hears of it',
      'pieces: { door: { is: target } }\ncounters: { score: {} }\nrules: [{ when: door.reached, do: [{ add: { score: 1 } }] }]',
      '1: "target" is no role. Write exit where the player is to reach it, foe where it is to be hit, or prop where outcomes of its own say what becomes of it.',
    ],
    [
      'no word for a role',
      'pieces: { wasp: { is: buzzing } }',
      '1: "buzzing" is no role. Say what it is to the player: collectible (to take), hazard (to avoid), foe (to avoid or beat), checkpoint or exit (to reach), prop (none of these).',
    ],
    [
      'no colon',
      'counters:\n  score: {}\n  lives 3',
      '3: This cannot be read: this line has no colon. Write lives: 3',
    ],
    [
      'an open bracket',
      'counters: { score: {}\npieces: {}',
      '2: This cannot be read: a { is opened and not closed. Add the } where it ends.',
    ],
    [
      'a bracket too many',
      'counters: { score: {} }}',
      '1: This cannot be read: a } closes what was not opened. Take it out, or open it before.',
    ],
    [
      'an open quote',
      'title: "Dusk',
      '1: This cannot be read: a quote is opened and not closed. Add the closing quote at the end of the text.',
    ],
    [
      'a mark at the start',
      'title: @dusk',
      '1: This cannot be read: a value cannot begin with @ unless it is in quotes. Put the value in quotes.',
    ],
    [
      'a crooked line',
      'counters:\n  score: {}\n lives: {}',
      '3: This cannot be read: this line does not begin in the same column as the keys it belongs to. Indent all keys of one map alike.',
    ],
    [
      'a wrong type',
      'counters: { score: [] }',
      '1: Found an empty list. Write { } with keys of these: start, min, max, places, words, keep.',
    ],
  ])('%s', (_, text, ...expected) => {
    expect(told(text)).toEqual(expected);
  });

  test('a rule that lacks its effects, and says nothing else, is still told so', () => {
    expect(told(`${shells}rules: [{ when: shell.taken }]`)).toEqual([
      '3: Rule 1 lacks the key "do". Add do (its effects, in order).',
    ]);
  });
});

/** A small design in which nothing is wrong. */
const meadow = {
  counters: { score: {}, lives: { start: 3, min: 0 } },
  timers: { dusk: { countdown: 30 } },
  dials: { petal: { value: 1 } },
  pieces: { berry: { is: 'collectible' }, thorn: { is: 'hazard' } },
  levels: [{ place: { berry: 3 }, spawn: [{ piece: 'thorn', every: 4 }] }],
  rules: [{ when: 'berry.taken', do: [{ add: { score: 10 } }] }],
  screens: { play: { live: true }, over: { ending: 'lost' } },
  transitions: [{ from: 'play', to: 'over', if: 'lives == 0' }],
  hud: [{ show: 'score' }],
  players: { child: { skill: 0 } },
  targets: [{ measure: 'score', of: 'child', from: 1, to: 100 }],
  tests: [{ name: 'one berry', do: ['berry.taken'], expect: { score: 10 } }],
};

/** The remedies that the meadow is refused with once something of it is changed: by a path, and what then stands there. */
function remedies(path: string, value: unknown): string[] {
  const design = structuredClone(meadow) as object;
  const steps = path.split(' ');
  const last = steps.pop()!;
  const at = steps.reduce((part, step) => (part as { [step: string]: object })[step]!, design);
  (at as { [step: string]: unknown })[last] = value;
  return problemsOf(JSON.stringify(design, null, 1)).map(({ remedy }) => remedy);
}

describe('what is written in the words or the form of other tools is answered with how it is written here, once', () => {
  test.each<[string, unknown, string]>([
    ['author', 'me', 'Write a comment, which begins with #.'],
    ['controls', {}, 'Inputs need no list: write them where they are heard, such as when: input.start.'],
    [
      'lose',
      'lives == 0',
      'Write a transition to a screen with ending: lost, such as { from: play, to: over, if: lives == 0 }.',
    ],
    ['score', 0, 'Write it under counters, such as counters: { score: 0 }.'],
    ['counters score from', 0, 'Write min.'],
    [
      'counters score reset',
      'run',
      'Write keep, with how long it lasts: life, level, run, session or forever.',
    ],
    [
      'timers dusk restart',
      'berry.taken',
      'It runs from the start, and a rule starts it again, such as { when: berry.taken, do: [{ start: dusk }] }. Where its end should count only after that, let the rule set a flag as well, and ask for the flag.',
    ],
    [
      'pieces thorn points',
      5,
      'Points are given by a rule, such as { when: thorn.avoided, do: [{ add: { score: 10 } }] }.',
    ],
    [
      'pieces thorn damage',
      1,
      'Damage is done by a rule, such as { when: thorn.hit, do: [{ add: { lives: -1 } }] }.',
    ],
    ['pieces berry label', 'Berry', 'Its name is its key, berry.'],
    ['pieces thorn requires', 'score > 3', 'Write needs, such as needs: score >= 100.'],
    [
      'pieces thorn chance',
      0.3,
      'Say how often it appears in a level, such as spawn: [{ piece: thorn, every: [2, 8] }], and how often a player succeeds with difficulty.',
    ],
    [
      'levels 0 time',
      30,
      'Put the numbers of a level under values, such as values: { time: 10 }; rules read them as level.time.',
    ],
    ['levels', { hill: { place: { berry: 3 } } }, 'Write levels: [{ name: hill, place: { berry: 3 } }].'],
    ['levels', { hill: { berries: 3 } }, 'Write levels: [{ name: hill, berries: 3 }].'],
    ['levels', { pieces: { berry: 3 } }, 'Write place.'],
    ['levels 0 spawn', { thorn: 4 }, 'Write [{ piece: thorn, every: 4 }].'],
    ['rules 0', { when: 'berry.taken', add: { score: 10 } }, 'Write do: [{ add: { score: 10 } }].'],
    ['rules 0 unless', 'lives == 0', 'Write if with not, such as if: not (lives == 0).'],
    ['rules 0 id', 'gather', 'Write name.'],
    ['rules 0 if', ['score > 1', 'lives > 1'], 'Write score > 1 and lives > 1.'],
    ['rules 0 do', ['add 10 to score'], 'Write { add: { score: 10 } }.'],
    ['rules 0 do', { add: { score: 10 } }, 'Write [{ add: { score: 10 } }].'],
    [
      'rules',
      { gather: { when: 'berry.taken', do: [{ cue: 'chime' }] } },
      'Write [{ name: gather, when: berry.taken, do: [{ cue: chime }] }].',
    ],
    [
      'screens play onEnter',
      'chime',
      'To react, write a rule, such as { when: play.entered, screens: play, do: [{ cue: chime }] }.',
    ],
    ['rules 0 when', 'berry.taken or thorn.hit', 'Write a list: [berry.taken, thorn.hit].'],
    ['rules 0 when', 'berry.taken and score > 3', 'Write when: berry.taken and if: score > 3'],
    [
      'rules 0 when',
      'every 2s',
      'Add a timer, such as timers: { beat: { every: 2 } }, and write when: beat.ticked.',
    ],
    ['rules 0 when', 'always', 'Leave when out; a rule with if alone fires as soon as that holds.'],
    ['rules 0 if', 'berry.taken > 2', 'Count it in a counter to which a rule adds, and ask for that.'],
    ['rules 0 if', 'count(berry) > 2', 'Write present.berry for how many are there.'],
    ['rules 0 if', 'random() < 0.5', 'Chance is said in a rule, such as chance: 0.5.'],
    ['rules 0 if', 'score == "high"', 'Names and words stand without quotes.'],
    ['levels 0 place', ['berry', 'berry', 'thorn'], 'Write { berry: 2, thorn: 1 }.'],
    [
      'screens over restart',
      'play',
      'To begin again, write a transition, such as { from: over, to: play, when: input.again, fresh: run }.',
    ],
    ['targets 0 measure', 'duration', 'Write length.'],
    ['targets 0 from', '50%', 'Write 0.5.'],
    ['targets 0 from', '1m', 'Write 60.'],
    ['tests 0 do', ['berry.taken x 3'], 'Write 3 x berry.taken.'],
    ['tests 0 do', ['wait(2)'], 'Write wait 2.'],
    ['tests 0 expect', { score: '>= 30' }, 'Write { atLeast: 30 }.'],
    ['transitions 0 after', 3, 'Write wait, such as wait: 3.'],
    ['transitions 0 from', '*', 'Write a list of screens: [play, over].'],
    ['transitions 0 if', 'berries == 0', 'Write present.berry for how many are there.'],
    ['transitions 0 if', 'lives is 0', 'To compare, write ==.'],
    [
      'transitions 0 if',
      'time > 3',
      'For the seconds of a timer, write timer and its name, such as timer.dusk.',
    ],
    ['hud 0 digits', 4, 'Write as: digits, width: 4.'],
    ['hud', { score: 'top' }, 'Write [{ show: score, at: top }].'],
    ['players child', 0.5, 'Write { skill: 0.5 }.'],
    [
      'players child accuracy',
      0.5,
      'Write skill. With a skill of 0 a player succeeds at a difficulty of 0 half the time; with a skill of 2, in 88 %.',
    ],
    ['dials petal', 10, 'Write { value: 10 }.'],
    ['targets 0 median', 10, 'Write stat: median.'],
    ['targets', { score: { from: 1, to: 3 } }, 'Write [{ measure: score, from: 1, to: 3 }].'],
    ['tests 0 then', { score: 10 }, 'Write expect, such as expect: { score: 10 }.'],
    ['tests 0 score', 10, 'Write expect: { score: 10 }.'],
    ['tests 0 do', 'berry.taken', 'Write [berry.taken].'],
    ['tests 0 expect', ['score == 10', 'lives = 3'], 'Write { score: 10, lives: 3 }.'],
  ])('%s: %j', (path, value, remedy) => {
    expect(remedies(path, value)).toEqual([remedy]);
  });

  test('names that stand in a list are known all the same', () => {
    expect(remedies('counters', ['score', 'lives'])).toEqual(['Write { score: 0, lives: 0 }.']);
    expect(remedies('counters', [{ score: 0 }, { lives: 3 }])).toEqual(['Write { score: 0, lives: 3 }.']);
    expect(
      remedies('pieces', [
        { name: 'berry', is: 'collectible' },
        { name: 'thorn', is: 'hazard' },
      ]),
    ).toEqual(['Write { berry: { is: collectible }, thorn: { is: hazard } }.']);
    expect(remedies('screens', ['play', 'over'])).toEqual(['Write { play: {}, over: {} }.']);
    // What is no list of names brings no names.
    expect(remedies('players', [3])[0]).toBe('Write players by name, such as regular: { skill: 0.4 }.');
  });

  test('an event of what is no thing of the design', () => {
    const heard = (event: string): string => remedies('rules 0 when', event)[0]!;
    expect(heard('jump')).toMatch(
      /^Write input\.jump if the player gives it\. Allowed here: berry\.appeared/,
    );
    expect(heard('player.hit')).toBe('Pieces say what happens to the player, such as thorn.hit.');
    expect(heard('level.completed')).toMatch(/^A level begins .* such as play\.entered\.$/);
    expect(heard('constructor.name')).toMatch(/^Allowed here: /);
  });

  test('a key that must be there, under another word, is not lacking too', () => {
    for (const [path, value] of [
      ['levels 0 spawn 0', { what: 'thorn', rate: 2 }],
      ['dials petal', { default: 3 }],
      ['tests 0', { title: 'one', do: [] }],
    ] as const)
      expect(
        remedies(path, value).every((remedy) => remedy.startsWith('Write ')),
        path,
      ).toBe(true);
  });
});

describe('one slip is one problem', () => {
  const game = (changed: Readonly<Record<string, string>> = {}): string =>
    Object.entries({
      counters: '{ score: 0, lives: { start: 3, min: 0 } }',
      timers: '{ tide: { countdown: 90 } }',
      pieces: '{ shell: { is: collectible }, crab: { is: hazard } }',
      levels: '[{ spawn: [{ piece: shell, every: 2 }, { piece: crab, every: 3 }] }]',
      rules:
        '[{ when: collectible.taken, do: [{ add: { score: 1 } }] }, { when: crab.hit, do: [{ add: { lives: -1 } }] }]',
      screens: '{ beach: { live: true }, over: { ending: lost, text: Home } }',
      transitions: '[{ from: beach, to: over, if: lives == 0 }, { from: beach, to: over, when: tide.ended }]',
      ...changed,
    })
      .map(([section, written]) => `${section}: ${written}\n`)
      .join('');
  test.each([
    [
      'a name that a counter and a piece share',
      { counters: '{ score: 0, lives: { start: 3, min: 0 }, shell: 2 }' },
      ['3: "shell" is a piece here and already a counter at line 1'],
    ],
    [
      'outcomes as a list',
      {
        pieces: '{ shell: { is: prop, meets: sought, outcomes: [whole, broken] }, crab: { is: hazard } }',
        rules: '[{ when: shell.whole, do: [{ add: { score: 1 } }] }]',
      },
      ['3: Found a list of 2. Write { whole: 1, broken: 1 }.'],
    ],
    [
      'two roles',
      { pieces: '{ shell: { is: [collectible, prop] }, crab: { is: hazard } }' },
      ['3: Found a list of 2. Write one of collectible, hazard, foe'],
    ],
    [
      'outcomes that are judged instead of weighed',
      {
        pieces:
          '{ shell: { is: prop, meets: sought, outcomes: { taken: success, lost: 1 } }, crab: { is: hazard } }',
        rules: '[{ when: shell.taken, do: [{ add: { score: 1 } }] }]',
      },
      ['3: Found the text "success". Write how often it happens, such as taken: 1; that players try for it'],
    ],
    [
      'a comma in a text',
      { screens: '{ beach: { live: true }, over: { ending: lost, text: Home again, and wet } }' },
      ['Put the text in quotes: text: "Home again, and wet"'],
    ],
    [
      'a payment after something else',
      { rules: '[{ when: crab.hit, do: [{ set: { score: 0 } }, { pay: { lives: 1 } }] }]' },
      ['To lower it as far as its min instead, write { add: { lives: -1 } }.'],
    ],
    [
      'bounds beside their counter',
      { counters: '{ score: 0, lives: 3, min: 0, max: 5 }' },
      [
        '1: "min" is a word of the language and cannot be a name. Write lives: { start: 3, min: 0 }.',
        '1: "max" is a word of the language and cannot be a name. Write lives: { start: 3, max: 5 }.',
      ],
    ],
    [
      'minutes and seconds',
      { timers: '{ tide: 1:30 }' },
      ['Found the text "1:30". Write { countdown: 90 }.'],
    ],
    [
      'a percentage in an amount',
      { rules: '[{ when: shell.taken, do: [{ add: { score: 10% } }] }]' },
      ['Found the text "10%". Write 0.1.'],
    ],
  ])('%s', (_, changed, expected) => {
    expect(told(game())).toEqual([]);
    expect(told(game(changed))).toEqual(expected.map((each) => expect.stringContaining(each)));
  });
});
