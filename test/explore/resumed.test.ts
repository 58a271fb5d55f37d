import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Search } from '../../src/explore/search/search.js';
import { explore, readDesign } from '../../src/index.js';
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
