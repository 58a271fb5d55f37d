import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { type Design, explore, readDesign, replay, Session } from '../../src/index.js';
import { changed, demo } from '../support/designs.js';

const mechanic = (name: string): Design =>
  readDesign(readFileSync(new URL(`../../demo/mechanics/${name}.yaml`, import.meta.url), 'utf8'), name);

const flow = (rules: string, more = '', score = '{}'): Design =>
  readDesign(
    `{ counters: { score: ${score}, lives: { start: 2, min: 0, max: 2 } }, pieces: { blossom: { is: collectible }, wasp: { is: hazard } }, levels: [{ place: { blossom: 3 } }], rules: [{ when: wasp.hit, do: [{ add: { lives: -1 } }, { grace: 1.5 }] }, ${rules}], screens: { heath: { live: true }, dark: { ending: lost } }, transitions: [{ from: heath, to: dark, if: lives == 0 }, { from: dark, to: heath, when: input.again, fresh: run }] ${more} }`,
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

  test('none where only a round of losses and gains betters it, but one that is set again and again stays', () => {
    const round = flow(
      '{ when: input.hum, do: [{ add: { score: -4 } }] }, { when: input.buzz, do: [{ add: { score: 5 } }] }',
    );
    expect(explore(round).score).toMatchObject({ highest: undefined, growsForEver: true });
    const set = flow(
      '{ when: input.hum, do: [{ set: { score: 5 } }] }, { when: blossom.taken, do: [{ add: { score: 1 } }] }',
    );
    expect(explore(set).score).toMatchObject({
      lowest: { value: 0 },
      highest: { value: 8 },
      growsForEver: false,
    });
  });

  test('its bound where it grows round and round until there', () => {
    const design = flow('{ when: input.hum, do: [{ add: { score: 3 } }] }', '', '{ max: 50 }');
    expect(explore(design).score).toMatchObject({ highest: { value: 50, witness: undefined } });
  });

  test('the demo: every flower at the highest streak, all daylight saved', () => {
    const design = demo();
    const { score } = explore(design);
    expect(score).toMatchObject({ lowest: { value: 0 }, growsForEver: false });
    // By level: 10 points by streak for 12 blossoms, 20 for 16 and for 20 foxgloves; and 2 for each of 45 seconds, three times.
    const streaks = (flowers: number): number => 1 + 2 + 3 + 4 + 5 * (flowers - 4);
    expect(score!.highest!.value).toBe(10 * streaks(12) + 20 * streaks(16) + 20 * streaks(20) + 3 * 2 * 45);
    expect(replay(design, score!.highest!.witness!.record!).counters.score).toBe(score!.highest!.value);
  });

  test('nothing is claimed where more seconds of a timer may mean fewer points', () => {
    const late = readDesign(
      changed('lantern * floor(timer.daylight)', '90 - lantern * floor(timer.daylight)'),
    );
    expect(explore(late).score).toBeUndefined();
  });
});

describe('how soon an ending can come', () => {
  test('two stings with a grace of 1.5 s between them', () => {
    const [dark] = explore(flow('{ when: blossom.taken, do: [{ add: { score: 1 } }] }')).endings;
    expect(dark).toMatchObject({ screen: 'dark', events: 2, leastEvents: 2, leastTime: 1500 });
    expect(dark!.witness.steps).toEqual(['wasp.hit', 'wait 1.5', 'wasp.hit']);
  });

  test('blossoms one after the other, by the fastest player', () => {
    const { endings } = explore(mechanic('level-bonus'));
    expect(endings).toMatchObject([{ screen: 'home', events: 4, leastEvents: 4, leastTime: 4000 }]);
  });

  test('where clocks are too many to follow, not before the flowers that it takes; and a session comes then', () => {
    const design = demo();
    const nightfall = explore(design).endings.find(({ screen }) => screen === 'nightfall')!;
    // The fastest player, with a pace of 0.9, takes 0.72 s for a blossom.
    expect(nightfall).toMatchObject({ events: 49, leastEvents: 49, leastTime: 48 * 720 });
    const session = new Session(design, { seed: 1, spawns: false });
    session.send('input.start');
    for (const flowers of [12, 16, 20]) {
      for (let flower = 0; flower < flowers; flower++) {
        session.advance(720);
        session.send('blossom.taken');
      }
      if (session.screen === 'cleared') session.advance(2000);
    }
    expect(session.screen).toBe('nightfall');
    expect(session.time).toBe(nightfall.leastTime! + 2 * 2000);
  });
});
