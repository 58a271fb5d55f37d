import { describe, expect, test } from 'vitest';
import { check, readDesign, Session } from '../../src/index.js';

describe('several levels from one entry', () => {
  test('are named by number, and their formulas read it', () => {
    const { levels } = readDesign(
      'levels: { count: 3, name: "Pond {level}", values: { goal: 4 + level, rest: [5, 3, 2] } }',
    );
    expect(levels.map(({ name }) => name)).toEqual(['Pond 1', 'Pond 2', 'Pond 3']);
    const shown = levels.map((_, index) => {
      const design = readDesign(
        `levels: { count: 3, values: { goal: 4 + level, rest: [5, 3, 2] } }
screens: { play: { live: true, text: "{level.goal} {level.rest}" } }
transitions: [{ from: play, to: play, when: input.on, fresh: level, level: next }]`,
      );
      const session = new Session(design);
      for (let on = 0; on < index; on++) session.send('input.on');
      return session.text;
    });
    expect(shown).toEqual(['5 5', '6 3', '7 2']);
  });

  test('go on a list, count by the length of a list of values, and may be like a level of another entry', () => {
    const { levels } = readDesign(`
pieces: { lily: { is: collectible } }
levels:
  - { name: Bank, place: { lily: 1 }, values: { goal: 1 } }
  - { name: Pond, like: Bank, values: { goal: [2, 3] } }
  - { like: Pond 2, endless: true }`);
    expect(levels.map(({ name, endless }) => [name, endless])).toEqual([
      ['Bank', false],
      ['Pond 1', false],
      ['Pond 2', false],
      ['Level 4', true],
    ]);
    expect(levels.every(({ placed }) => placed.length === 1)).toBe(true);
    expect(levels.map(({ values }) => values.get('goal'))).toEqual(
      [1, 2, 3, 3].map((value) => ({ kind: 'number', value })),
    );
  });

  test('keep what a chain of three levels gives each other', () => {
    const [, , third] = readDesign(`
pieces: { lily: { is: collectible } }
levels: [{ name: A, place: { lily: 4 } }, { name: B, like: A }, { name: C, like: B }]`).levels;
    expect(third!.placed).toEqual([{ piece: 'lily', count: 4 }]);
  });
});

describe('short forms', () => {
  test('a counter may be its start alone', () => {
    const { counters } = readDesign(
      'counters: { score: 3, isNight: true, bees: { start: score }, words: score }',
    );
    const of = new Session(readDesign('counters: { score: 3, isNight: true, bees: score }')).counters;
    expect(of).toEqual({ score: 3, isNight: true, bees: 3 });
    expect(counters.map(({ kind }) => kind)).toEqual(['number', 'flag', 'number', 'number']);
  });

  test('an empty list of groups leaves the inherited ones, for those that are like it too', () => {
    const { pieces } = readDesign(`
pieces:
  moth: { is: collectible, in: [dusk, small] }
  owl: { like: moth, in: [] }
  owlet: { like: owl, in: [young] }`);
    expect(pieces.map(({ answersTo }) => answersTo)).toEqual([
      ['moth', 'dusk', 'small', 'collectible'],
      ['owl', 'collectible'],
      ['owlet', 'young', 'collectible'],
    ]);
  });

  test('data of a piece is handed to the game, what is inherited with it', () => {
    const session = new Session(
      readDesign(`
pieces:
  moth: { is: collectible, data: { sprite: moth, speed: 2 } }
  owl: { like: moth, data: { sprite: owl, isLoud: true } }`),
    );
    expect(session.pieces.map(({ data }) => data)).toEqual([
      { sprite: 'moth', speed: 2 },
      { sprite: 'owl', speed: 2, isLoud: true },
    ]);
  });

  test('a HUD item may stand in the middle', () => {
    const design = readDesign('counters: { score: 0 }\nhud: [{ show: score, at: middle }]');
    expect(new Session(design).hud.map(({ at }) => at)).toEqual(['middle']);
  });

  test('an interval may begin at 0, and a clock is never due at the moment when it is set', () => {
    const design = readDesign(`
counters: { ticks: 0 }
timers: { drip: { every: [0, 0.3] } }
rules: [{ when: drip.ticked, do: [{ add: { ticks: 1 } }] }]`);
    const session = new Session(design, { seed: 4 });
    session.advance(10_000);
    // Four lengths, drawn alike: 1, 100, 200 and 300 ms.
    expect(session.counters.ticks).toBeGreaterThan(40);
    expect(session.counters.ticks).toBeLessThan(110);
  });
});

describe('expressions where a number stands', () => {
  const text = `
dials: { calm: { value: 2, from: 1, to: 4, step: 0.5 } }
counters: { score: 0, hearts: { start: 3, max: 5 }, lives: { start: hearts, min: 0, max: hearts } }
pieces:
  lily: { is: collectible, lasts: 6 - level, takes: level / 2 }
  frog: { is: hazard, ends: [] }
levels: { count: 3, place: { lily: 1 + level }, spawn: [{ piece: frog, every: 1, atOnce: level, total: 1 + level }] }
rules:
  - { when: lily.taken, rest: level, do: [{ add: { score: 1 } }] }
  - { when: frog.hit, do: [{ add: { lives: -1 } }, { grace: calm }] }
  - { when: input.heart, do: [{ add: { hearts: 1, lives: 1 } }] }
screens: { pond: { live: true }, bank: {} }
transitions:
  - { from: pond, to: bank, when: input.on }
  - { from: bank, to: pond, wait: level, fresh: level, level: next, grace: level - 1 }`;
  const onLevel = (level: number): Session => {
    const session = new Session(readDesign(text));
    for (let on = 1; on < level; on++) {
      session.send('input.on');
      session.advance(on * 1000);
    }
    return session;
  };

  test('numbers of pieces are worked out when the level begins, and when a spawn is due', () => {
    expect([1, 2, 3].map((level) => onLevel(level).present.lily)).toEqual([2, 3, 4]);
    const third = onLevel(3);
    third.advance(2000);
    expect(third.present.frog).toBe(2);
    third.advance(8000);
    expect(third.present.frog).toBe(3);
  });

  test('a wait is as long as the level says, to the millisecond', () => {
    const session = onLevel(2);
    session.send('input.on');
    session.advance(1999);
    expect(session.screen).toBe('bank');
    session.advance(1);
    expect([session.screen, session.level]).toEqual(['pond', 3]);
  });

  test('rests and graces are as long as they were when they began', () => {
    const session = onLevel(2);
    session.send('lily.taken');
    session.advance(1999);
    session.send('lily.taken');
    expect(session.counters.score).toBe(1);
    session.advance(1);
    session.send('lily.taken');
    expect(session.counters.score).toBe(2);
    expect(session.send('frog.hit')).toBe('handled');
    session.advance(1999);
    expect(session.send('frog.hit')).toBe('turned away');
    session.advance(1);
    expect(session.send('frog.hit')).toBe('handled');
  });

  test('a bound that reads another counter holds at the next write', () => {
    const session = onLevel(1);
    session.send('input.heart');
    // Both amounts are worked out first; hearts is written before lives.
    expect(session.counters).toMatchObject({ hearts: 4, lives: 4 });
    expect(session.pieces.map(({ lasts }) => lasts)).toEqual([5, undefined]);
    expect(onLevel(3).pieces[0]!.lasts).toBe(3);
  });

  test('the flow is proved all the same, each wait on its own level', () => {
    const { exploration } = check(readDesign(text));
    const ways = exploration.transitions.map(({ from, verdict, witness }) => [from, verdict, witness?.steps]);
    expect(ways).toEqual([
      ['pond', 'reached', ['input.on']],
      ['bank', 'reached', ['input.on', 'wait 1']],
    ]);
  });
});
