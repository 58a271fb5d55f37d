import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { type Design, explore, readDesign, replay } from '../../src/index.js';
import { demo } from '../support/designs.js';

const mechanic = (name: string): Design =>
  readDesign(readFileSync(new URL(`../../demo/mechanics/${name}.yaml`, import.meta.url), 'utf8'), name);

const flow = (rules: string, more = ''): Design =>
  readDesign(
    `{ counters: { score: {}, lives: { start: 2, min: 0, max: 2 } }, pieces: { blossom: { is: collectible }, wasp: { is: hazard } }, levels: [{ place: { blossom: 3 } }], rules: [{ when: wasp.hit, do: [{ add: { lives: -1 } }, { grace: 1.5 }] }, ${rules}], screens: { heath: { live: true }, dark: { ending: lost } }, transitions: [{ from: heath, to: dark, if: lives == 0 }, { from: dark, to: heath, when: input.again, fresh: run }] ${more} }`,
  );

describe('what the score can come to', () => {
  test('the lowest and the highest are exact where there are only so many pieces, and a session shows each', () => {
    const design = flow(
      '{ when: blossom.taken, do: [{ add: { score: 10 } }] }, { when: blossom.missed, do: [{ add: { score: -4 } }] }',
    );
    const { score } = explore(design);
    expect(score).toMatchObject({ lowest: { value: -12 }, highest: { value: 30 }, growsForEver: false });
    expect(replay(design, score!.highest!.witness!.record!).counters.score).toBe(30);
    expect(replay(design, score!.lowest!.witness!.record!).counters.score).toBe(-12);
  });

  test('none where it can grow round and round', () => {
    const { score } = explore(flow('{ when: input.hum, do: [{ add: { score: 1 } }] }'));
    expect(score).toMatchObject({ highest: undefined, growsForEver: true });
  });

  test('nothing is claimed of one that depends on the seconds of a timer', () => {
    expect(explore(demo()).score).toBeUndefined();
  });
});

describe('how soon an ending can come', () => {
  test('two stings with a grace of 1.5 s between them', () => {
    const [dark] = explore(flow('{ when: blossom.taken, do: [{ add: { score: 1 } }] }')).endings;
    expect(dark).toMatchObject({ screen: 'dark', events: 2, leastTime: 1500 });
    expect(dark!.witness.steps).toEqual(['wasp.hit', 'wait 1.5', 'wasp.hit']);
  });

  test('blossoms one after the other, by the fastest player', () => {
    const { endings } = explore(mechanic('level-bonus'));
    expect(endings).toMatchObject([{ screen: 'home', events: 4, leastTime: 4000 }]);
  });
});
