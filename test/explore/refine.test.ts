import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Refiner } from '../../src/explore/evidence/refine.js';
import { lostEndings, lostWins, trapsOf } from '../../src/explore/evidence/traps.js';
import { Search } from '../../src/explore/search/search.js';
import { TimedRefiner } from '../../src/explore/timed/timed-refiner.js';
import { TimedSearch } from '../../src/explore/timed/timed-search.js';
import { type Design, explore, readDesign, replay } from '../../src/index.js';
import { designText } from '../support/generated-designs.js';
import { explorePlainly, smallDesign } from '../support/plain-explorer.js';
import { runs } from '../support/runs.js';

const isOver = (): boolean => false;
const limits = { mostStates: 20_000, isOver };

test.each([
  ['with time left out', (design: Design) => new Refiner(design, true, limits), 0.8],
  ['with time kept', (design: Design) => new TimedRefiner(design, { followsAll: true }, limits), 0.8],
])(
  'what follows as little as it needs comes to the same verdicts as the slow reading, %s',
  (_, refinerOf, least) => {
    let [decided, count] = [0, 0];
    fc.assert(
      fc.property(smallDesign, (text) => {
        const design = readDesign(text);
        const names = design.transitions.map(({ from, to }) => `${from} -> ${to}`);
        const plain = plainlyOf(design);
        if (plain === undefined || !plain.isWhole || plain.isFaulty) return;
        const refiner = refinerOf(design);
        const asked = [
          ...names.map((key, transition) => ({ key, sought: { transition } })),
          ...design.rules.map(({ name }, rule) => ({ key: `rule ${name}`, sought: { rule } })),
        ];
        for (const { key, sought } of asked) {
          if (asked.filter((each) => each.key === key).length > 1) continue;
          const judged = refiner.on(sought, () => 'nowhere');
          count++;
          if (judged === undefined) continue;
          decided++;
          expect(judged.verdict, key).toBe(plain.fewest.has(key) ? 'reached' : 'unreachable');
        }
      }),
      runs(120),
    );
    expect(decided / count).toBeGreaterThan(least);
  },
);

test('a transition that no player has the time for by what follows little is not come to in time by what follows all', () => {
  const paces = [700, 0];
  let late = 0;
  fc.assert(
    fc.property(smallDesign, (text) => {
      const design = readDesign(text);
      const whole = timed(design, paces);
      if (!whole?.hasClocks) return;
      const refiner = new TimedRefiner(design, { paces }, limits);
      for (const transition of design.transitions.keys()) {
        const search = refiner.outOfTime({ transition });
        if (search === undefined) continue;
        late++;
        expect(search.states.length).toBeGreaterThan(0);
        expect(whole.cameTo({ transition }), `transition ${transition + 1}`).toBe(false);
      }
    }),
    runs(60),
  );
  expect(late).toBeGreaterThan(10);
});

test('designs of every kind get no other verdict from it, and no other lock, than from the search through all states', () => {
  let compared = 0;
  fc.assert(
    fc.property(designText, (text) => {
      const design = readDesign(text);
      const whole = searched(design, 20_000);
      if (whole === undefined || whole.doubt() !== undefined || whole.faults.length > 0) return;
      const refiner = new Refiner(design, false, limits);
      design.transitions.forEach((_, transition) => {
        const judged = refiner.on({ transition }, () => 'nowhere');
        if (judged === undefined) return;
        compared++;
        if (judged.witness !== undefined) replay(design, judged.witness.record!);
        // What the engine shows, a search that allows at least as much comes to; what one excludes, the other may only not have excluded.
        if (judged.verdict === 'reached') expect(whole.pathTo({ transition })).toBeDefined();
      });
      const cut = searched(design, 1)!;
      for (const lost of [trapsOf, lostEndings, lostWins]) {
        const all = lost({ design, search: whole, refiner, isOver });
        const some = lost({ design, search: cut, refiner, isOver });
        if (all === undefined || some === undefined) continue;
        compared++;
        if (some.length === 0) expect(all.map(({ screen }) => screen)).toEqual([]);
      }
    }),
    runs(40),
  );
  expect(compared).toBeGreaterThan(20);
});

test.each([
  [
    'an exit that asks for what may be lost',
    'gate: { is: exit, needs: keys > 0, ends: [], again: true }',
    'hole.hit',
    'set: { keys: 0 }',
  ],
  [
    'an exit of which there is one, and which may be missed',
    'gate: { is: exit }',
    'hole.hit',
    'add: { keys: 0 }',
  ],
])('%s is no sure way out, however little is followed', (_, gate, event, effect) => {
  const design = readDesign(`counters: { keys: { start: 1, min: 0, max: 1 } }
pieces: { ${gate}, hole: { is: hazard } }
levels: [{ place: { gate: 1 }, spawn: [{ piece: hole, every: 3 }] }]
rules: [{ when: ${event}, do: [{ ${effect} }] }]
screens: { cave: { live: true }, home: { ending: won, text: Home } }
transitions:
  - { from: cave, to: home, when: gate.reached }
  - { from: home, to: cave, when: input.again, fresh: run }`);
  const screens = [1, 1000].map((mostStates) =>
    trapsOf({
      design,
      search: searched(design, mostStates)!,
      refiner: new Refiner(design, false, limits),
      isOver,
    })?.map(({ screen }) => screen),
  );
  expect(screens).toEqual([['cave'], ['cave']]);
});

/** A chain of notes, of which the longest is kept, and a song that begins again when the nerve is gone. */
const song = (begins: string): Design =>
  readDesign(`counters:
  chain: { min: 0 }
  longest: { min: 0 }
  nerve: { start: 3, min: 0, max: 3, keep: level }
  missed: { min: 0 }
timers: { song: { countdown: 50 }, chill: { every: 100 } }
pieces: { note: { is: collectible } }
levels: [{ spawn: [{ piece: note, every: 1 }] }]
rules:
  - { when: note.taken, do: [{ add: { chain: 1 } }] }
  - { when: note.missed, do: [{ set: { chain: 0 } }, { add: { missed: 1, nerve: -1 } }] }
  - { name: longest, if: chain > longest, do: [{ set: { longest: chain } }] }
  - { name: twice, if: longest > 1 and chain == 0, do: [{ cue: hoot }] }
  - { name: perfect, when: over.entered, if: missed < 0, do: [{ add: { chain: 1 } }] }
  - { name: cold, when: chill.ticked, do: [{ add: { missed: 1 } }] }
screens: { pond: { live: true }, over: { ending: over, text: Over } }
transitions:
  - { from: pond, to: pond, if: nerve == 0, ${begins} }
  - { from: pond, to: over, when: song.ended }
  - { from: over, to: pond, when: input.again, fresh: run }`);

test('a record without end and a screen that begins again by a condition are followed only where they are asked for', () => {
  const { parts, leftOpen } = explore(song('fresh: level'), { mostStates: 5000 });
  expect(Object.fromEntries(parts.map(({ name, verdict }) => [name, verdict]))).toMatchObject({
    longest: 'reached',
    twice: 'reached',
    perfect: 'unreachable',
    cold: 'unreachable',
    chill: 'unreachable',
  });
  expect(leftOpen).toBeUndefined();
});

test('what two transitions ask in one moment comes out the same for both', () => {
  const fair = (first: string) =>
    readDesign(`counters: { fame: {} }
pieces: { pot: { is: collectible }, wind: { is: hazard } }
levels: [{ values: { order: 40 }, spawn: [{ piece: pot, every: 1 }, { piece: wind, every: 3 }] }, { values: { order: 70 }, like: Level 1 }]
rules: [{ when: pot.taken, do: [{ add: { fame: 7 } }] }, { when: wind.hit, do: [{ add: { fame: -5 } }] }]
screens: { stall: { live: true }, evening: {}, sold: { ending: won, text: Sold } }
transitions:
  - { from: stall, to: sold, if: ${first} and level.last }
  - { from: stall, to: evening, if: fame >= level.order }
  - { from: evening, to: stall, when: input.go, level: next, fresh: level }
  - { from: sold, to: stall, when: input.again, fresh: run }`);
  expect(new Refiner(fair('fame >= level.order'), false, limits).faults()).toEqual([]);
  const faults = new Refiner(fair('fame >= 2 * level.order'), false, limits).faults();
  expect(faults?.map(({ problem }) => problem.code)).toEqual(['no-next-level']);
});

test.each([
  ['asked below it first', 'purse < level.rent', 'undefined'],
  ['asked above it first', 'not (purse >= level.rent)', 'undefined'],
  // Between 5 and the rent, the evening leads nowhere.
  ['asked below another number', 'purse < 5', 'evening'],
])('what one transition asks of a purse without a max says what the next can afford: %s', (_, poor, trap) => {
  const shop = readDesign(`counters: { purse: { start: 20, min: 0 }, cups: { min: 0, max: 2 } }
pieces: { pot: { is: prop, meets: sought, ends: [], needs: cups < 2 }, guest: { is: collectible, needs: cups > 0 } }
timers: { day: { countdown: 60 } }
levels: [{ values: { rent: 25 }, place: { pot: 1 }, spawn: [{ piece: guest, every: 3 }] }, { values: { rent: 40 }, like: Level 1 }]
rules:
  - { when: pot.passed, do: [{ add: { cups: 1 } }] }
  - { when: guest.taken, do: [{ pay: { cups: 1 } }, { add: { purse: 6 } }] }
screens: { garden: { live: true }, evening: {}, shut: { ending: lost, text: Shut }, done: { ending: won, text: Done } }
transitions:
  - { from: garden, to: evening, when: day.ended }
  - { from: evening, to: shut, when: input.go, if: ${poor} }
  - { from: evening, to: done, when: input.go, if: level.last, do: [{ pay: { purse: level.rent } }] }
  - { from: evening, to: garden, when: input.go, level: next, fresh: level, do: [{ pay: { purse: level.rent } }] }
  - { from: [shut, done], to: garden, when: input.again, fresh: run }`);
  const { traps, leftOpen } = explore(shop, { mostStates: 2000 });
  expect(String(traps[0]?.screen)).toBe(trap);
  expect(leftOpen).not.toContain('whether an ending can always be reached');
});

describe('where levels go on without end', () => {
  const nights = (lit: string, asked: string, rule = '') =>
    readDesign(`counters: { score: {}, lives: { start: 3, min: 0, max: 3 }, lit: ${lit}, wax: { keep: session } }
pieces: { lantern: { is: collectible }, reed: { is: hazard } }
levels: [{ endless: true, values: { quota: 30 * level }, spawn: [{ piece: lantern, every: 2, atOnce: 3 }, { piece: reed, every: 5, atOnce: 2 }] }]
rules:
  - { when: lantern.taken, do: [{ add: { lit: 1, wax: 1, score: 10 * level } }] }
  - { when: reed.hit, do: [{ add: { lives: -1 } }] }
${rule}
screens: { lake: { live: true }, shore: {}, over: { ending: lost, text: Over } }
transitions:
  - { from: lake, to: over, if: lives == 0 }
  - { from: lake, to: shore, if: "${asked}" }
  - { from: shore, to: lake, when: input.next, level: next, fresh: level }
  - { from: over, to: lake, when: input.again, fresh: run }`);

  test('what a transition has put back does not meet the next goal, however high that is by then', () => {
    const { atOnce, traps, leftOpen } = explore(nights('{ keep: level }', 'lit >= level.quota'));
    expect([atOnce, traps, leftOpen]).toEqual([[], [], undefined]);
    // What is kept for the run may.
    const kept = explore(nights('{}', 'lit >= level.quota - 29'), { mostStates: 2000 });
    expect(kept.leftOpen ?? kept.atOnce.length).not.toBe(0);
  });

  test.each(['level >= 3', 'level % 3 == 0', 'lives < 3', 'score > 500'])(
    'what a rule adds at once meets it, where %s',
    (holds) => {
      const gift = `  - { if: ${holds}, do: [{ add: { lit: 900 } }] }\n  - { when: lake.entered, if: ${holds}, do: [{ add: { lit: 900 } }] }`;
      const { atOnce, leftOpen } = explore(nights('{ keep: level }', 'lit >= level.quota', gift), {
        mostStates: 60,
      });
      expect(leftOpen?.includes('whether a level can be over at once') || atOnce.length > 0).toBe(true);
    },
  );

  test('a goal of a later level is no goal of the first: what only that level lets happen is not called unreachable', () => {
    const later = nights('{ keep: level }', 'lit >= 40 and lit < level.quota');
    const judged = new Refiner(later, false, limits).on({ transition: 1 }, () => 'nowhere');
    expect(judged?.verdict).not.toBe('unreachable');
  });
});

test('a step that goes in a circle is not taken for one that does not: the fault is found', () => {
  const faults = new Refiner(song('fresh: life'), false, limits).faults();
  expect(faults?.map(({ problem }) => problem.code)).toEqual(['endless-chain']);
  expect(new Refiner(song('fresh: level'), false, limits).faults()).toEqual([]);
});

function searched(design: Design, mostStates: number): Search | undefined {
  try {
    const search = new Search(design);
    search.run({ mostStates, isOver });
    return search;
  } catch {
    return undefined;
  }
}

function timed(design: Design, paces: readonly number[]): TimedSearch | undefined {
  try {
    const search = new TimedSearch(design, { paces });
    search.run(5000, isOver);
    return search;
  } catch {
    return undefined;
  }
}

function plainlyOf(design: Design): ReturnType<typeof explorePlainly> | undefined {
  try {
    return explorePlainly(design);
  } catch {
    return undefined;
  }
}
