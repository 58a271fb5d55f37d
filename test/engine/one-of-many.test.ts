import { describe, expect, test } from 'vitest';
import { type DesignError, fieldWorld, readDesign, Session, simulate } from '../../src/index.js';

/** A design whose two inputs take lanterns away, or turn them into flames. */
const lanterns = (taken: string, turned: string, level = 'place: { lantern: 3 }'): string => `
counters: { many: { start: 1, min: -9, max: 9 } }
pieces: { lantern: { is: prop }, flame: { is: prop } }
levels: [{ ${level} }]
rules:
  - { when: input.take, do: [{ clear: ${taken} }] }
  - { when: input.turn, do: [{ become: ${turned} }] }
  - { when: input.more, do: [{ add: { many: 1 } }] }
  - { when: input.less, do: [{ set: { many: -1 } }] }
screens: { pier: { live: true } }`;

describe.each(['printed', 'interpreted'] as const)('so many of a piece, %s', (backend) => {
  const play = (text: string, ...events: string[]): Session => {
    const session = new Session(readDesign(text), { backend });
    for (const event of events) session.send(event);
    return session;
  };

  test('go, or become another, as far as there are any', () => {
    const text = lanterns('{ lantern: 1 }', '{ lantern: { flame: many } }');
    expect(play(text, 'input.take').present).toEqual({ lantern: 2, flame: 0 });
    expect(play(text, 'input.turn').present).toEqual({ lantern: 2, flame: 1 });
    expect(play(text, 'input.more', 'input.turn').present).toEqual({ lantern: 1, flame: 2 });
    expect(play(text, 'input.take', 'input.take', 'input.take', 'input.take').present.lantern).toBe(0);
    expect(play(text, 'input.more', 'input.more', 'input.more', 'input.turn').present).toEqual({
      lantern: 0,
      flame: 3,
    });
  });

  test('are none where the count is less than none, and rounded where it is no whole number', () => {
    const text = lanterns('{ lantern: 3 / 2 }', '{ lantern: { flame: many } }');
    expect(play(text, 'input.less', 'input.turn').present).toEqual({ lantern: 3, flame: 0 });
    expect(play(text, 'input.take').present.lantern).toBe(1);
  });

  test('are told one by one, and all at once as before', () => {
    const changes = (text: string, event: string): string[] => {
      const session = play(text);
      const told: string[] = [];
      session.listen(({ pieces }) => told.push(...pieces.map(({ piece, change }) => `${piece} ${change}`)));
      session.send(event);
      return told;
    };
    const some = lanterns('{ lantern: 2 }', '{ lantern: { flame: 1 } }');
    expect(changes(some, 'input.take')).toEqual(['lantern gone', 'lantern gone']);
    expect(changes(some, 'input.turn')).toEqual(['lantern gone', 'flame appeared']);
    const all = lanterns('lantern', '{ lantern: flame }');
    expect(changes(all, 'input.take')).toEqual(['lantern cleared']);
    expect(changes(all, 'input.turn')).toEqual(['lantern cleared', ...Array(3).fill('flame appeared')]);
  });

  test('are the one come to last on a course, then the first', () => {
    const text = `
pieces: { post: { is: checkpoint }, lantern: { is: prop, outcomes: { seen: 1 }, ends: [] }, flame: { is: prop } }
levels: [{ course: [lantern, post, lantern, lantern] }]
rules: [{ when: input.turn, do: [{ become: { lantern: { flame: 1 } } }] }]
screens: { pier: { live: true } }`;
    const course = (...events: string[]): unknown => play(text, ...events).course.pieces;
    expect(course('input.turn')).toEqual(['flame', 'post', 'lantern', 'lantern']);
    expect(course('lantern.seen', 'lantern.seen', 'input.turn')).toEqual([
      'lantern',
      'post',
      'flame',
      'lantern',
    ]);
    // The post was come to last, so that the first lantern is meant.
    expect(course('lantern.seen', 'post.reached', 'input.turn')).toEqual([
      'flame',
      'post',
      'lantern',
      'lantern',
    ]);
  });
});

describe('so many of a piece', () => {
  test('in a world are taken from where they stand', () => {
    const design = readDesign(`
counters: { lit: { start: 0 } }
pieces: { lantern: { is: collectible }, flame: { is: prop } }
levels: [{ place: { lantern: 6 } }]
timers: { gust: { every: 1 }, night: { countdown: 20 } }
rules:
  - { when: lantern.taken, do: [{ spawn: flame }, { add: { lit: 1 } }] }
  - { when: gust.ticked, if: present.flame > 0, do: [{ clear: { flame: 1 } }, { spawn: lantern }] }
screens: { pier: { live: true }, dark: { ending: lost, text: Dark } }
transitions: [{ from: pier, to: dark, when: night.ended }, { from: dark, to: pier, when: input.again, fresh: run }]
players: { one: { skill: 3 } }`);
    const { tally } = simulate(design, { sessions: 3, seed: 4, world: fieldWorld }).players[0]!;
    // What a gust puts out can be lit again: more are lit than there ever were at once.
    expect(tally.fired[0]).toBeGreaterThan(3 * 6);
    expect(tally.fired[1]).toBeGreaterThan(0);
  });

  const problems = (taken: string, turned: string): string[] => {
    try {
      readDesign(lanterns(taken, turned));
      return [];
    } catch (error) {
      return (error as DesignError).problems.map(
        ({ message, remedy, place }) => `${place.line} ${message} ${remedy}`,
      );
    }
  };

  test.each([
    ['{ lamp: 1 }', '{ lantern: flame }', /^6 There is no piece "lamp"/],
    ['{ lantern: many + }', '{ lantern: flame }', /^6 /],
    ['{ lantern: -1 }', '{ lantern: flame }', /^6 .*whole number from 0 to 1000/],
    ['lantern', '{ lantern: { lamp: 1 } }', /^7 There is no piece "lamp"/],
    ['lantern', '{ lamp: { flame: 1 } }', /^7 There is no piece "lamp"/],
    ['lantern', '{ lantern: { flame: [] } }', /^7 /],
  ])('clear: %s, become: %s is a problem with its line', (taken, turned, told) => {
    const found = problems(taken, turned);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(told);
  });
});
