import fc from 'fast-check';
import { expect, test } from 'vitest';
import { neverOver } from '../../src/explore/search/limits.js';
import { Search } from '../../src/explore/search/search.js';
import { type Design, DesignError, readDesign } from '../../src/index.js';
import { demo } from '../support/designs.js';
import { designText } from '../support/generated-designs.js';
import { runs } from '../support/runs.js';

/** All that a search finds, in an order that does not depend on how it went about it. */
function findings(design: Design, followsAll: boolean, canWrite: boolean) {
  const search = new Search(design, { followsAll, canWrite });
  search.run({ mostStates: 4000, isOver: neverOver });
  const { states, notes, layers } = search;
  const state = new Float64Array(search.game.width);
  const inLayers = layers.map((from, layer) => {
    const to = layers[layer + 1] ?? states.length;
    return Array.from({ length: to - from }, (_, index) => {
      states.read(from + index, state);
      return state.join();
    }).sort();
  });
  return {
    isLeftOut: search.isCut || search.game.cone.timerRead !== undefined,
    layers: search.isCut ? [] : inLayers,
    taken: [...notes.takenFrom].map(
      (row) => row !== -2 && (search.isCut || search.eventsTo(Math.max(0, row))),
    ),
    // Other rules are nothing to the search: the machine runs them all the same.
    fired: search.game.cone.rules.map((rule) => notes.firedFrom[rule] !== -2),
    preempted: [...notes.preemptedBy].map((by) => by >= 0),
    seen: design.screens.map((_, screen) => [...search.seenOn(screen)].sort((a, b) => a - b)),
    isFaulty: notes.faults.length > 0,
    lost: search.isCut
      ? 0
      : search.lostTo((each) => design.screens[each[0]!]!.ending !== undefined, neverOver)?.length,
  };
}

test('written code and the machine find the same on the demo', () => {
  const written = findings(demo(), false, true);
  expect(written.layers.flat().length).toBeGreaterThan(100);
  expect(written).toEqual(findings(demo(), false, false));
});

test('pieces that are not counted do not keep a spawn from being heard', () => {
  const design = readDesign(
    '{ pieces: { red: { is: collectible } }, levels: [{ place: { red: 2 }, spawn: [{ piece: red, every: 1, atOnce: 2 }] }], screens: { play: { live: true }, over: { ending: lost } }, transitions: [{ from: play, to: over, when: red.appeared }] }',
  );
  expect(findings(design, false, false).taken[0]).toBe(0);
  expect(findings(design, false, true)).toEqual(findings(design, false, false));
});

test('written code and the machine find the same on any design', () => {
  fc.assert(
    fc.property(designText, fc.boolean(), (text, followsAll) => {
      const design = readDesign(text);
      try {
        const written = findings(design, followsAll, true);
        // The seconds of a timer, where they are read, are whatever the one or the other makes of them.
        if (!written.isLeftOut) expect(written).toEqual(findings(design, followsAll, false));
      } catch (error) {
        // Its very first start never comes to an end.
        if (!(error instanceof DesignError)) throw error;
      }
    }),
    runs(40),
  );
}, 180_000);
