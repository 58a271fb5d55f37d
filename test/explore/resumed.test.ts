import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Search } from '../../src/explore/search/search.js';
import { type Design, explore, readDesign } from '../../src/index.js';
import { demo } from '../support/designs.js';
import { smallDesign } from '../support/plain-explorer.js';
import { runs } from '../support/runs.js';

const isOver = (): boolean => false;

/** What a search found: each of its states, and by which way each transition was first taken. */
function found(search: Search) {
  const { states, notes, layers, isCut, game } = search;
  const row = new Float64Array(game.width);
  const all = Array.from({ length: states.length }, (_, index) => {
    states.read(index, row);
    return row.join();
  });
  return { all, layers, isCut, takenFrom: [...notes.takenFrom], takenBy: [...notes.takenBy] };
}

function mustResume(search: Search, other: Search, limits: readonly number[]): void {
  for (const mostStates of limits) search.run({ mostStates, isOver });
  other.run({ mostStates: limits.at(-1)!, isOver });
  const [resumed, whole] = [found(search), found(other)];
  // A limit is looked at between two batches of states, so what is cut may end a few states sooner or later.
  if (whole.isCut) expect(resumed.isCut).toBe(true);
  else expect(resumed).toEqual(whole);
}

test('a search that was cut and goes on finds what one finds that was not', () => {
  mustResume(new Search(demo()), new Search(demo()), [5, 40, 100, 300, 100_000]);
  fc.assert(
    fc.property(smallDesign, fc.array(fc.integer({ min: 1, max: 60 }), { maxLength: 4 }), (text, limits) => {
      const design = readDesign(text);
      mustResume(
        new Search(design),
        new Search(design),
        [...limits, 5000].sort((a, b) => a - b),
      );
    }),
    runs(400),
  );
});

test('what a clock makes of a counter without a min, over and over, hides nothing else', () => {
  const design = readDesign(`
counters: { score: {}, lamps: { start: 0, max: 8 }, hearts: { start: 3, min: 0, max: 3 } }
timers: { gust: { every: 5 } }
pieces: { lamp: { is: collectible }, moth: { is: hazard } }
levels: [{ spawn: [{ piece: lamp, every: 2, atOnce: 3 }, { piece: moth, every: 6 }] }]
rules:
  - { when: lamp.taken, do: [{ add: { score: 10, lamps: 1 } }] }
  - { when: moth.hit, do: [{ add: { hearts: -1 } }] }
  - { when: gust.ticked, do: [{ add: { lamps: -1 } }] }
screens: { street: { live: true }, still: {}, out: { ending: lost }, dawn: { ending: won } }
transitions:
  - { from: street, to: out, if: hearts == 0 }
  - { from: street, to: dawn, if: lamps >= 5 }
  - { from: street, to: still, when: input.pause }
  - { from: still, to: back, when: input.pause }
  - { from: [out, dawn], to: street, when: input.again, fresh: run }
`);
  const { transitions, endings } = explore(design, { mostStates: 60_000 });
  expect(transitions.map(({ verdict }) => verdict)).toEqual(Array(transitions.length).fill('reached'));
  // The search never gets past what the clock does alone, so it does not know that none takes fewer.
  expect(endings.map(({ screen, events, leastEvents }) => [screen, events, leastEvents])).toEqual([
    ['out', 12, 0],
    ['dawn', 55, 0],
  ]);
});

/** A tea room whose coins are spent and have no max, so that no search goes through all states. */
const teaRoom = ({ shut = 'hearts == 0', tip = 'cheer >= 3', shift = 45, takes = 1.5, more = '' } = {}) =>
  readDesign(`
counters:
  coins: { start: 0, min: 0 }
  served: { start: 0, min: 0, keep: level }
  hearts: { start: 3, min: 0, max: 3 }
  cups: { start: 2, min: 0, max: 2, keep: life }
  tray: { start: 0, min: 0, max: 2 }
  cheer: { start: 0, min: 0, max: 5, keep: level }
timers: { shift: { countdown: ${shift}, keep: level }, boil: { every: 3, screens: parlour }, yawn: { every: 100 } }
pieces: { guest: { is: collectible, lasts: 9, takes: ${takes}, needs: cups > 0 } }
levels: { count: 2, values: { wanted: 6 + 2 * level }, spawn: [{ piece: guest, every: 2, atOnce: 4 }] }
rules:
  - { name: boiled, when: boil.ticked, do: [{ add: { cups: 1 } }] }
  - { name: serve, when: guest.taken, do: [{ pay: { cups: 1 } }, { add: { served: 1, cheer: 1, coins: 5 } }] }
  - { name: tip, when: guest.taken, if: ${tip}, do: [{ add: { coins: 2 } }] }
  - { name: gone, when: guest.missed, do: [{ add: { hearts: -1 } }] }
  - { name: tray, when: input.buy, screens: closed, do: [{ pay: { coins: 15 } }, { add: { tray: 1 } }] }
  - { name: drowsy, when: yawn.ticked, do: [{ set: { cheer: 0 } }] }
screens: { sign: {}, parlour: { live: true }, closed: {}, gold: { ending: won }, shut: { ending: lost } }
transitions:
  - { from: sign, to: parlour, when: input.open, fresh: run }
  - { from: parlour, to: shut, if: ${shut} }
  - { from: parlour, to: gold, when: shift.ended, if: served >= level.wanted and level.last }
  - { from: parlour, to: closed, when: shift.ended, if: served >= level.wanted }
  - { from: parlour, to: shut, when: shift.ended }
  - { from: closed, to: parlour, when: input.open, fresh: level, level: next }
  - { from: [gold, shut], to: sign, when: input.again }
${more}`);
const limit = { mostStates: 10_000 };
const neverIn = (design: Design): string[] => {
  const { transitions, parts } = explore(design, limit);
  return [
    ...transitions.map(({ from, to, ...judged }) => ({ name: `${from} -> ${to}`, ...judged })),
    ...parts.filter(({ kind }) => kind === 'rule' || kind === 'timer'),
  ].flatMap(({ name, verdict, assumes }) =>
    verdict === 'reached' ? [] : [`${name} ${verdict}, ${assumes}`],
  );
};

describe('where no end of states was found', () => {
  test.each([
    [
      'all of it can happen but what a timer never comes to',
      {},
      ['drowsy unreachable, any order', 'yawn unreachable, any order'],
    ],
    [
      'a condition outside the range of its counter never holds',
      { shut: 'hearts < 0', tip: 'cheer >= 6' },
      [
        'parlour -> shut unreachable, any order',
        'tip unreachable, any order',
        'drowsy unreachable, any order',
        'yawn unreachable, any order',
      ],
    ],
    [
      'a shift too short for the cups that boil is never won',
      { shift: 12 },
      [
        'parlour -> gold unreachable, any order',
        'parlour -> closed unreachable, any order',
        'closed -> parlour unreachable, any order',
        'gold -> sign unreachable, any order',
        'tray unreachable, any order',
        'drowsy unreachable, any order',
        'yawn unreachable, any order',
      ],
    ],
    [
      'guests who take too long are too many for every player',
      { takes: 15 },
      [
        'parlour -> gold unreachable, players',
        'parlour -> closed unreachable, players',
        'drowsy unreachable, any order',
        'yawn unreachable, any order',
      ],
    ],
  ])('%s', (_, change, never) => {
    expect(neverIn(teaRoom(change))).toEqual(never);
  });

  test('a timer that another is always too soon for says so, and so does the rule that waits for it', () => {
    const reasons = explore(teaRoom(), limit).parts.flatMap(({ reason }) => reason ?? []);
    expect(reasons).toEqual([
      'yawn never ends: before it could, play always ends or starts it again',
      'before it could, play always ends or starts it again',
    ]);
  });

  test('time that is over while more states are visited takes back nothing that was found before', () => {
    const design = teaRoom({ shut: 'coins == 123457' });
    let isLate = false;
    const { transitions, states } = explore(design, {
      isOver: () => isLate,
      progress: (visited) => {
        isLate ||= visited > 50_000;
      },
    });
    expect(states).toBeGreaterThan(50_000);
    expect(transitions.map(({ verdict }) => verdict)).toEqual([
      'reached',
      'undecided',
      ...Array(6).fill('reached'),
    ]);
    expect(isLate).toBe(true);
  });
});
