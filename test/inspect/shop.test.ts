import { expect, test } from 'vitest';
import { type Check, check, readDesign } from '../../src/index.js';

/** Two days of a tea garden: water and leaves make cups, guests pay for them, and a market between the days sells by its own transitions. */
const garden = `title: The tea garden by the canal
score: purse
counters:
  purse: { start: 20, min: 0 }
  leaves: { start: 10, min: 0, max: 40 }
  water: { min: 0, max: 4 }
  cups: { min: 0, max: 2 }
  walkouts: { keep: level }
  record: { keep: forever }
  samovar: { max: 1 }
timers: { day: { countdown: 60 } }
pieces:
  guest: { is: prop, meets: sought, takes: 2, lasts: 15, needs: cups > 0, outcomes: { served: 1, walked: 0 } }
  well: { is: prop, meets: sought, takes: 2, ends: [], needs: water < 4 }
  kettle: { is: prop, meets: sought, takes: 3, ends: [], needs: "water > 0 and leaves > 0 and cups < 2" }
levels:
  - { values: { rent: 25 }, place: { well: 1, kettle: 1 }, spawn: [{ piece: guest, every: 5, atOnce: 4 }] }
  - { values: { rent: 30 }, place: { well: 1, kettle: 1 }, spawn: [{ piece: guest, every: 4, atOnce: 4 }] }
rules:
  - { name: draw, when: well.passed, do: [{ add: { water: 1 } }] }
  - { name: brew, when: kettle.passed, do: [{ pay: { water: 1, leaves: 1 } }, { add: { cups: "samovar == 1 ? 2 : 1" } }] }
  - { name: serve, when: guest.served, do: [{ pay: { cups: 1 } }, { add: { purse: 6 } }] }
  - { name: sigh, when: [guest.walked, guest.gone], do: [{ add: { walkouts: 1 } }] }
screens:
  garden: { live: true }
  market: { text: "Purse {purse}. Leaves {leaves}. Guests who left {walkouts}." }
  won: { ending: won, text: "{purse} in the purse, record {record}." }
  closed: { ending: lost, text: The gate is locked. }
hud: [{ show: purse }, { show: leaves, label: leaves }, { show: water, label: water }, { show: cups, as: icons }, { show: day, as: clock }]
transitions:
  - { from: garden, to: closed, when: day.ended, if: purse < level.rent }
  - { from: garden, to: won, when: day.ended, if: level.last, do: [{ pay: { purse: level.rent } }, { set: { record: "max(record, purse)" } }] }
  - { from: garden, to: market, when: day.ended, do: [{ pay: { purse: level.rent } }] }
  - { from: market, to: market, when: input.leaves, if: purse >= 5 and leaves <= 35, do: [{ pay: { purse: 5 } }, { add: { leaves: 5 } }] }
  - { from: market, to: market, when: input.samovar, if: purse >= 40 and samovar == 0, do: [{ pay: { purse: 40 } }, { set: { samovar: 1 } }] }
  - { from: market, to: garden, when: input.next, level: next, fresh: level }
  - { from: [won, closed], to: garden, when: input.again, fresh: run }
`;

const checked = (from = '', to = ''): Check => {
  expect(garden).toContain(from);
  return check(readDesign(garden.replace(from, to)), { mostStates: 2000 });
};

test('nothing is said against a shop in which all is paid for', () => {
  const { findings, exploration } = checked();
  expect(findings.map(({ message }) => message)).toEqual([]);
  // The rent that cannot be paid, and the rent that is, are all there is.
  expect(exploration.leftOpen).toMatch(/^whether a win can be lost for good before the run ends, since/);
});

test.each([
  [
    'leaves that are not used up',
    'pay: { water: 1, leaves: 1 }',
    'pay: { water: 1 }',
    'Nothing uses up leaves: once it is 1, paying for more at "market -> market on input.leaves" changes nothing.',
  ],
  [
    'cups that are not used up',
    'do: [{ pay: { cups: 1 } }, {',
    'do: [{',
    'Nothing uses up cups: once it is 1, paying for more at "brew" changes nothing.',
  ],
  [
    'a kettle that boils for nothing',
    ', needs: "water > 0 and leaves > 0 and cups < 2"',
    '',
    '"brew" takes water and leaves even when cups is at its max of 2, and gives nothing then.',
  ],
  ['guests without tea', 'needs: cups > 0, ', '', /^Where cups is 0, guest.served takes the guest away/],
  [
    'leaves for nothing',
    '[{ pay: { purse: 5 } }, { add: { leaves: 5 } }]',
    '[{ add: { leaves: 5 } }]',
    /^"market -> market on input.leaves" asks for purse >= 5 and leaves purse as it is/,
  ],
  [
    'leaves that do not fit in',
    'if: purse >= 5 and leaves <= 35',
    'if: purse >= 5',
    '"market -> market on input.leaves" takes purse even when leaves is at its max of 40, and gives nothing then.',
  ],
  [
    'a samovar that is sold twice',
    'if: purse >= 40 and samovar == 0',
    'if: purse >= 40',
    '"market -> market on input.samovar" takes purse even when samovar is 1 already, and gives nothing then.',
  ],
  [
    'a samovar for a day that is over',
    'samovar: { max: 1 }',
    'samovar: { max: 1, keep: level }',
    '"market -> market on input.samovar" writes samovar on market, and every way out puts it back (fresh: level).',
  ],
  [
    'a record of one run',
    'record: { keep: forever }',
    'record: {}',
    'record starts again with each run, so it is never more than the purse of one run.',
  ],
])('%s are told', (_, from, to, message) => {
  const messages = checked(from, to).findings.map((found) => found.message);
  expect(messages).toContainEqual(typeof message === 'string' ? message : expect.stringMatching(message));
});

test('what is sold up to what is asked for, goods that are a goal, and what a formula reads are used', () => {
  const free = (from: string, to: string): string[] =>
    check(readDesign(garden.replace('pay: { water: 1, leaves: 1 }', 'pay: { water: 1 }').replace(from, to)), {
      mostStates: 500,
    }).findings.map(({ code }) => code);
  expect(free('leaves > 0', 'leaves > 0')).toContain('never-used-up');
  expect(free('leaves <= 35', 'leaves < 1')).not.toContain('never-used-up');
  expect(free('if: level.last', 'if: level.last and leaves >= 20')).not.toContain('never-used-up');
  expect(free('purse: 6', 'purse: 6 + leaves')).not.toContain('never-used-up');
});

/** Two kites, three bouts: who has cut the other's line three times has won a bout. */
const kites = `counters:
  red: {}
  blue: {}
  redLine: { start: 3, min: 0, max: 3, keep: level }
  blueLine: { start: 3, min: 0, max: 3, keep: level }
timers: { bout: { countdown: 30 } }
pieces: { tug: { is: prop, meets: sought, ends: [], outcomes: { red: 1, blue: 1 } } }
levels: [{ place: { tug: 1 } }, { place: { tug: 1 } }, { place: { tug: 1 } }]
rules:
  - { when: tug.red, do: [{ add: { blueLine: -1 } }] }
  - { when: tug.blue, do: [{ add: { redLine: -1 } }] }
screens:
  sky: { live: true }
  pause: { text: Paused. }
  between: { text: "{red} : {blue}" }
  redWins: { ending: over, text: "Red wins {red} : {blue}." }
  blueWins: { ending: over, text: "Blue wins {blue} : {red}." }
hud: [{ show: redLine, as: icons }, { show: blueLine, as: icons }, { show: red }, { show: blue }, { show: bout, as: clock }]
transitions:
  - { from: sky, to: pause, when: input.pause }
  - { from: pause, to: back, when: input.resume }
  - { from: pause, to: between, when: input.leave }
  - { from: sky, to: redWins, if: blueLine == 0 and red == 1, do: [{ add: { red: 1 } }] }
  - { from: sky, to: blueWins, if: redLine == 0 and blue == 1, do: [{ add: { blue: 1 } }] }
  - { from: sky, to: between, if: blueLine == 0, do: [{ add: { red: 1 } }] }
  - { from: sky, to: between, if: redLine == 0, do: [{ add: { blue: 1 } }] }
  - { from: sky, to: sky, when: bout.ended, fresh: level }
  - { from: between, to: sky, when: input.next, level: next, fresh: level }
  - { from: [redWins, blueWins], to: sky, when: input.again, fresh: run }
`;

test('of two transitions, one for each of two players, the one that was copied and not changed is told', () => {
  const told = (from: string, to: string) =>
    check(readDesign(kites.replace(from, to))).findings.flatMap(({ code, message }) =>
      code === 'unlike-its-twin' ? [message] : [],
    );
  expect(told('', '')).toEqual([]);
  expect(told('red == 1, do: [{ add: { red: 1 } }]', 'red == 1, do: [{ add: { blue: 1 } }]')).toEqual([
    '"sky -> blueWins" and "sky -> redWins" do the same for blue and red, but both have add: { blue: 1 }.',
  ]);
  expect(told('redLine == 0 and blue == 1', 'redLine == 0')).toEqual([
    '"sky -> blueWins" and "sky -> redWins" do the same for blue and red, but "sky -> redWins" has if: red == 1 where "sky -> blueWins" has nothing.',
  ]);
});

test('a pause that only leaves, and a bout that ends without beginning again, are told', () => {
  const told = (from: string, to: string) =>
    check(readDesign(kites.replace(from, to))).findings.map(({ message }) => message);
  const [pause, stays] = [
    'Nothing leads from pause back into play, only to between.',
    'On bout.ended, sky leads to itself and changes nothing.',
  ];
  expect(told('', '')).not.toContainEqual(expect.stringMatching(/pause|sky leads/));
  expect(told('  - { from: pause, to: back, when: input.resume }\n', '')).toContain(pause);
  expect(told('when: bout.ended, fresh: level', 'when: bout.ended')).toContain(stays);
  // It keeps the next transition from being taken.
  const held = 'when: bout.ended, if: red > blue }\n  - { from: sky, to: between, when: bout.ended';
  expect(told('when: bout.ended, fresh: level', held)).not.toContain(stays);
});

/** A kitchen in which loaves burn: two guests who want one each, best and worst paid, and an offer to go on. */
const kitchen = `score: tips
counters:
  tips: { min: 0 }
  oven: { words: [empty, baking, ready, burnt] }
  tray: { min: 0, max: 4 }
  angry: { min: 0, max: 3 }
  forgiven: { start: false }
  most: { keep: forever }
timers: { bake: { after: 6 }, char: { after: 4 }, feast: { countdown: 90 } }
pieces:
  badger: { is: prop, meets: sought, lasts: 12, needs: tray > 0, outcomes: { fed: 1, hungry: 0 }, success: fed }
  hare: { is: prop, meets: sought, lasts: 8, needs: tray > 0, outcomes: { fed: 1, hungry: 0 }, success: fed }
levels: [{ spawn: [{ piece: badger, every: 5, atOnce: 3 }, { piece: hare, every: 6, atOnce: 2 }] }]
rules:
  - { name: bake, when: input.bake, if: oven == empty, do: [{ set: { oven: baking } }, { start: bake }] }
  - { name: golden, when: bake.ended, if: oven == baking, do: [{ set: { oven: ready } }, { start: char }] }
  - { name: black, when: char.ended, if: oven == ready, do: [{ set: { oven: burnt } }] }
  - { name: take out, when: input.take, if: oven == ready and tray < 3, do: [{ set: { oven: empty } }, { stop: char }, { add: { tray: 2 } }] }
  - { name: scrape, when: input.take, if: oven == burnt, do: [{ set: { oven: empty } }] }
  - { name: badger fed, when: badger.fed, do: [{ pay: { tray: 1 } }, { add: { tips: 5 + floor(timer.feast / 10) } }] }
  - { name: hare fed, when: hare.fed, do: [{ pay: { tray: 1 } }, { add: { tips: 8 } }] }
  - { name: hungry, when: [badger.hungry, badger.gone, hare.hungry, hare.gone], do: [{ add: { angry: 1 } }] }
screens:
  kitchen: { live: true }
  offer: { text: "Give the guests a pie for 20?" }
  done: { ending: over, text: "{tips} in tips, {most} at most." }
hud: [{ show: tips }, { show: oven }, { show: tray, as: icons }, { show: angry, as: icons }, { show: feast, as: clock }]
transitions:
  - { from: kitchen, to: offer, if: angry == 3 and not forgiven and tips >= 20 }
  - { from: kitchen, to: done, if: angry == 3, do: [{ set: { most: "max(most, tips)" } }] }
  - { from: kitchen, to: done, when: feast.ended, do: [{ set: { most: "max(most, tips)" } }] }
  - { from: offer, to: kitchen, when: input.pie, do: [{ pay: { tips: 20 } }, { set: { forgiven: true, angry: 0 } }] }
  - { from: offer, to: done, when: input.stop, do: [{ set: { most: "max(most, tips)" } }] }
  - { from: done, to: kitchen, when: input.again, fresh: run }
`;

const baked = (from: string, to: string): string[] => {
  expect(kitchen).toContain(from);
  return check(readDesign(kitchen.replace(from, to)), { mostStates: 3000 }).findings.map(
    ({ message }) => message,
  );
};

test('nothing is said against a kitchen in which each loaf is baked, sold or scraped out', () => {
  expect(baked('', '')).toEqual([]);
});

test.each([
  [
    '  - { name: scrape, when: input.take, if: oven == burnt, do: [{ set: { oven: empty } }] }\n',
    '',
    'Once oven is burnt, nothing sets it to another word.',
  ],
  [
    'hare.fed, do: [{ pay: { tray: 1 } }, {',
    'hare.fed, do: [{',
    'hare needs tray and takes none of it, while badger needs it and takes it.',
  ],
  [
    'outcomes: { fed: 1, hungry: 0 }, success: fed }\n  hare',
    'outcomes: { fed: 0, hungry: 1 }, success: fed }\n  hare',
    'Simulated players never get badger.fed: its weight is 0.',
  ],
  ['5 + floor(', '15 - floor(', '"badger fed" adds more to tips the less is left of feast.'],
  ['a pie for 20?', 'a pie for 30?', /says "for 30"/],
  [
    ', when: input.stop, do: [{ set: { most: "max(most, tips)" } }]',
    ', when: input.stop',
    /^Most is set on .*, and not on offer -> done\.$/,
  ],
])('%s is told where it is %s', (from, to, message) => {
  expect(baked(from, to)).toContainEqual(
    typeof message === 'string' ? message : expect.stringMatching(message),
  );
});

test('guests who cannot be served are heard when they go', () => {
  expect(
    baked('[badger.hungry, badger.gone, hare.hungry, hare.gone]', '[badger.hungry, hare.hungry, hare.gone]'),
  ).toEqual([
    'Where "tray > 0" does not hold, a badger that has waited too long goes without badger.hungry, and nothing hears that.',
  ]);
});

test('a gate that stays open, and a story that comes to its end, are no words that are stuck', () => {
  const story = (words: string, rules: readonly string[], more = '') =>
    check(
      readDesign(
        `counters: { at: { words: [${words}] } }\nrules:\n${rules.map((rule) => `  - { ${rule} }`).join('\n')}\nhud: [{ show: at }]\n${more}`,
      ),
    ).findings.flatMap(({ code, message }) => (code === 'word-stuck' ? [message] : []));
  const on = (input: string, from: string, to: string) =>
    `when: input.${input}, if: at == ${from}, do: [{ set: { at: ${to} } }]`;
  expect(story('shut, open', [on('key', 'shut', 'open')])).toEqual([]);
  expect(story('dawn, noon, dusk', [on('a', 'dawn', 'noon'), on('b', 'noon', 'dusk')])).toEqual([]);
  const round = [on('a', 'dawn', 'noon'), on('b', 'noon', 'dawn'), on('c', 'noon', 'dusk')];
  expect(story('dawn, noon, dusk', round)).toEqual(['Once at is dusk, nothing sets it to another word.']);
  const ended = `screens: { hill: { live: true }, night: { ending: over, text: Night } }\ntransitions: [{ from: hill, to: night, if: at == dusk }]\n`;
  expect(story('dawn, noon, dusk', round, ended)).toEqual([]);
  expect(story('dawn, noon, dusk', [...round, 'when: input.d, do: [{ set: { at: dawn } }]'])).toEqual([]);
});
