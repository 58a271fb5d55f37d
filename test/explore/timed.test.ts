import fc from 'fast-check';
import { expect, test } from 'vitest';
import { keepsNothing } from '../../src/explore/abstraction/loosen.js';
import { neverOver } from '../../src/explore/search/limits.js';
import { TimedSearch } from '../../src/explore/timed/timed-search.js';
import { DesignError, explore, readDesign, Session } from '../../src/index.js';
import { leaksIn } from '../support/closed-zones.js';
import { smallDesign } from '../support/plain-explorer.js';
import { countedRuns } from '../support/runs.js';

test.each([
  ['rests and graces kept', {}],
  ['a player who takes 0.7 s for a piece', { paces: [700, 0] }],
  ['what conditions alone read left out', { followsAll: true, kept: keepsNothing }],
] as const)('what is found with time is closed, by the slow reading: %s', (_, options) => {
  let tried = 0;
  let whole = 0;
  fc.assert(
    fc.property(smallDesign, fc.nat(1e6), (text, seed) => {
      const design = readDesign(text);
      let search: TimedSearch;
      try {
        search = new TimedSearch(design, options);
      } catch (error) {
        // Its very first start never comes to an end.
        if (!(error instanceof DesignError)) throw error;
        return;
      }
      if (!search.hasClocks) return;
      search.run(5000, neverOver);
      if (search.isCut || search.game.narrowedBy !== undefined || search.states.unfit >= 0) return;
      whole++;
      const found = leaksIn(design, search, 'paces' in options ? options.paces : undefined, seed, 150);
      tried += found.tried;
      expect(found.leaks, text).toEqual([]);
    }),
    countedRuns(80, 14),
  );
  expect(whole).toBeGreaterThan(8);
  expect(tried).toBeGreaterThan(500);
});

test('a grace that a resting rule did not renew keeps no hit away', () => {
  const design = readDesign(`{
    counters: { open: { max: 1 }, taken: { max: 1 } },
    timers: { bell: { countdown: 1.9 }, dusk: { countdown: 3 } },
    pieces: { blossom: { is: collectible }, wasp: { is: hazard } },
    rules: [
      { when: bell.ended, do: [{ set: { open: 1 } }] },
      { when: blossom.taken, if: open == 1, do: [{ set: { taken: 1 } }] },
      { name: shelter, when: blossom.taken, do: [{ grace: 2 }], rest: 3 },
    ],
    screens: { heath: { live: true }, caught: { ending: lost }, dark: { ending: lost } },
    transitions: [
      { from: heath, to: caught, when: wasp.hit, if: taken == 1 },
      { from: heath, to: dark, when: dusk.ended },
    ],
  }`);
  const session = new Session(design, { seed: 1 });
  session.send('blossom.taken');
  session.advance(1900);
  session.send('blossom.taken');
  session.advance(100);
  session.send('wasp.hit');
  expect(session.screen).toBe('caught');
  expect(explore(design).transitions[0]!.verdict).not.toBe('unreachable');
});
