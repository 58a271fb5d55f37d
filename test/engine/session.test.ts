import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { boundsOf } from '../../src/explore/abstraction/ranges.js';
import {
  DesignError,
  gameOf,
  readDesign,
  recordOf,
  replay,
  Session,
  type Step,
  UsageError,
} from '../../src/index.js';
import { changed, demo, demoText } from '../support/designs.js';
import { designText, drive, happenings } from '../support/generated-designs.js';
import { runs } from '../support/runs.js';

const backends = ['printed', 'interpreted'] as const;

/** A session of a small design, given as YAML. */
const play = (text: string, backend: (typeof backends)[number] = 'printed'): Session =>
  new Session(readDesign(text), { backend });

describe.each(backends)('the meaning of a design, on %s', (backend) => {
  test('every amount of one effect is computed before any counter is written; the next effect sees it written', () => {
    const session = play(
      '{ counters: { a: { start: 1 }, b: { start: 5 } }, rules: [{ when: input.go, do: [{ set: { a: b, b: a } }, { add: { a: b } }] }] }',
      backend,
    );
    session.send('input.go');
    expect(session.counters).toEqual({ a: 6, b: 1 });
  });

  test('amounts that are no whole numbers are rounded half up', () => {
    const session = play(
      '{ counters: { a: {}, b: {} }, rules: [{ when: input.go, do: [{ set: { a: 5 / 2, b: -5 / 2 } }] }] }',
      backend,
    );
    session.send('input.go');
    expect(session.counters).toEqual({ a: 3, b: -2 });
  });

  test('a rule with when and if needs both, and rules see what those before them did', () => {
    const session = play(
      '{ counters: { a: {}, b: {} }, rules: [{ when: input.go, do: [{ add: { a: 1 } }] }, { when: input.go, if: a == 2, do: [{ add: { b: 1 } }] }] }',
      backend,
    );
    session.send('input.go');
    expect(session.counter('b')).toBe(0);
    session.send('input.go');
    expect(session.counter('b')).toBe(1);
  });

  test('a condition rule fires when its condition becomes true, not while it stays so', () => {
    const session = play(
      '{ counters: { a: {}, b: {} }, rules: [{ when: input.up, do: [{ add: { a: 1 } }] }, { when: input.down, do: [{ set: { a: 0 } }] }, { if: a >= 2, do: [{ add: { b: 1 } }] }] }',
      backend,
    );
    for (let press = 0; press < 4; press++) session.send('input.up');
    expect(session.counter('b')).toBe(1);
    session.send('input.down');
    session.send('input.up');
    session.send('input.up');
    expect(session.counter('b')).toBe(2);
  });

  test('a rescuing rule comes before a loss', () => {
    const session = play(
      '{ counters: { lives: { start: 1 }, spare: { start: 1 } }, pieces: { wasp: { is: hazard } }, rules: [{ when: wasp.hit, do: [{ add: { lives: -1 } }] }, { if: lives == 0 and spare > 0, do: [{ add: { lives: 1, spare: -1 } }] }], screens: { heath: { live: true }, dark: { ending: lost } }, transitions: [{ from: heath, to: dark, if: lives == 0 }] }',
      backend,
    );
    session.send('wasp.hit');
    expect([session.screen, session.counter('lives')]).toEqual(['heath', 1]);
    session.send('wasp.hit');
    expect(session.screen).toBe('dark');
  });

  test('a prize for 100 points is not paid again after a life is lost, but is in a new run', () => {
    const session = play(
      '{ counters: { score: {}, prizes: { keep: forever } }, rules: [{ when: input.score, do: [{ add: { score: 100 } }] }, { if: score >= 100, do: [{ add: { prizes: 1 } }] }], screens: { heath: { live: true } }, transitions: [{ from: heath, to: heath, when: input.die, fresh: life }, { from: heath, to: heath, when: input.over, fresh: run }] }',
      backend,
    );
    session.send('input.score');
    session.send('input.die');
    expect(session.counter('prizes')).toBe(1);
    session.send('input.over');
    session.send('input.score');
    expect(session.counter('prizes')).toBe(2);
  });

  test('marks without number that are passed while a rule is silent are passed at once', () => {
    // One touch passes a thousand million marks: the first fires the rule, which then is silent.
    const design = readDesign(`counters: { score: {}, prizes: {} }
pieces: { blossom: { is: collectible } }
rules:
  - { when: blossom.taken, do: [{ add: { score: 1000000000 } }] }
  - { passes: { score: 1 }, once: run, do: [{ add: { prizes: 1 } }] }`);
    const session = new Session(design, { backend });
    session.send('blossom.taken');
    session.send('blossom.taken');
    expect(session.counters).toEqual({ score: 2_000_000_000, prizes: 1 });
  });

  test('a rest is over at exactly its end, and begins only when the rule fired', () => {
    const session = play(
      '{ counters: { a: {} }, rules: [{ when: input.go, rest: 0.5, do: [{ add: { a: 1 } }] }] }',
      backend,
    );
    session.send('input.go');
    session.advance(499);
    session.send('input.go');
    expect(session.counter('a')).toBe(1);
    session.advance(1);
    session.send('input.go');
    expect(session.counter('a')).toBe(2);
  });

  test('grace turns a hit away before anything sees it', () => {
    const session = new Session(demo(), { backend });
    session.send('input.start');
    expect([session.send('wasp.hit'), session.send('wasp.hit')]).toEqual(['handled', 'turned away']);
    session.advance(1000);
    expect(session.send('wasp.hit')).toBe('handled');
    expect(session.counter('lives')).toBe(1);
  });

  test('a wait with when counts only from then on; a wait with if goes when both hold', () => {
    const session = play(
      '{ counters: { a: {} }, screens: { one: {}, two: {}, three: {} }, rules: [{ when: input.add, screens: two, do: [{ add: { a: 1 } }] }], transitions: [{ from: one, to: two, when: input.go, wait: 2 }, { from: two, to: three, if: a > 0, wait: 1 }] }',
      backend,
    );
    session.advance(1999);
    session.send('input.go');
    expect(session.screen).toBe('one');
    session.advance(1);
    session.send('input.go');
    session.send('input.add');
    expect(session.screen).toBe('two');
    session.advance(1000);
    expect(session.screen).toBe('three');
  });

  test('a screen that is not live stands still, and pieces mean nothing on it', () => {
    const session = play(
      '{ counters: { a: {} }, timers: { dusk: { countdown: 10 } }, pieces: { blossom: { is: collectible } }, rules: [{ when: blossom.taken, do: [{ add: { a: 1 } }] }], screens: { heath: { live: true }, pause: {} }, transitions: [{ from: heath, to: pause, when: input.pause }, { from: pause, to: heath, when: input.go }] }',
      backend,
    );
    session.advance(4000);
    session.send('input.pause');
    session.advance(60_000);
    expect([session.send('blossom.taken'), session.ignored, session.timer('dusk')]).toEqual([
      'ignored',
      1,
      6,
    ]);
    session.send('input.go');
    session.advance(5999);
    expect(session.timer('dusk')).toBe(0.001);
  });

  test('clocks due together fire timers, then spawns, then waits, and leaving the live screen postpones the rest', () => {
    const session = play(
      '{ counters: { a: {} }, timers: { dusk: { countdown: 1 } }, pieces: { wasp: { is: hazard } }, levels: [{ spawn: [{ piece: wasp, every: 1 }] }], screens: { heath: { live: true }, dark: {} }, transitions: [{ from: heath, to: dark, when: dusk.ended }, { from: dark, to: heath, when: input.back }] }',
      backend,
    );
    session.advance(1000);
    expect([session.screen, session.present.wasp]).toEqual(['dark', 0]);
    session.send('input.back');
    session.advance(0);
    expect(session.present.wasp).toBe(1);
  });

  test('a spawn whose bound is reached is no step', () => {
    const session = play(
      '{ counters: { a: {} }, pieces: { blossom: { is: collectible } }, levels: [{ spawn: [{ piece: blossom, every: 1, atOnce: 1 }] }] }',
      backend,
    );
    const steps: string[] = [];
    session.listen(({ at, cause, sequence }) => steps.push(`${at} ${cause} ${sequence.join()}`));
    session.advance(2000);
    expect(steps).toEqual(['1000 spawn ']);
    session.send('blossom.taken');
    session.advance(2000);
    expect(steps.filter((step) => step.includes('spawn'))).toHaveLength(2);
  });

  test('no more than ten thousand of a piece are there at once, however long nobody comes and whatever a game reports', () => {
    const session = play(
      '{ counters: { come: {} }, pieces: { blossom: { is: collectible } }, levels: [{ spawn: [{ piece: blossom, every: 1 }] }], rules: [{ when: blossom.appeared, do: [{ add: { come: 1 } }] }] }',
      backend,
    );
    session.advance(20_000_000);
    expect([session.present.blossom, session.counter('come')]).toEqual([10_000, 10_000]);
    expect(session.send('blossom.appeared')).toBe('ignored');
    session.send('blossom.taken');
    expect([session.send('blossom.appeared'), session.present.blossom]).toEqual(['handled', 10_000]);
    session.send('blossom.taken');
    session.advance(1000);
    expect(session.counter('come')).toBe(10_002);
  });

  test('spawns keep to first, atOnce and total', () => {
    const session = play(
      '{ counters: { a: {} }, pieces: { blossom: { is: collectible } }, levels: [{ spawn: [{ piece: blossom, every: 1, first: 0.5, atOnce: 2, total: 3 }] }] }',
      backend,
    );
    session.advance(400);
    expect(session.present.blossom).toBe(0);
    session.advance(100);
    expect(session.present.blossom).toBe(1);
    session.advance(5000);
    expect(session.present.blossom).toBe(2);
    session.send('blossom.taken');
    session.advance(1000);
    expect(session.present.blossom).toBe(2);
    session.send('blossom.taken');
    session.advance(10_000);
    expect(session.present.blossom).toBe(1);
  });

  test('none left is not true before any appear', () => {
    const session = play(
      '{ counters: { a: {} }, pieces: { blossom: { is: collectible } }, levels: [{ place: { blossom: 1 }, spawn: [{ piece: blossom, every: 1, total: 1 }] }], screens: { heath: { live: true }, done: { ending: won } }, transitions: [{ from: heath, to: done, if: left.blossom == 0 }] }',
      backend,
    );
    session.send('blossom.taken');
    expect(session.screen).toBe('heath');
    session.advance(1000);
    session.send('blossom.taken');
    expect(session.screen).toBe('done');
  });

  test('inside a transition its do sees the old values, and what is kept longer stays', () => {
    const session = play(
      '{ counters: { score: {}, best: { keep: forever } }, rules: [{ when: input.score, do: [{ add: { score: 7 } }] }], screens: { heath: { live: true } }, transitions: [{ from: heath, to: heath, when: input.again, do: [{ set: { best: score } }], fresh: run }] }',
      backend,
    );
    session.send('input.score');
    session.send('input.again');
    expect(session.counters).toEqual({ score: 0, best: 7 });
  });

  test('a chain without end names its loop and leaves the session as it was', () => {
    const session = play(
      '{ counters: { a: {} }, screens: { menu: {}, dawn: {}, dusk: {} }, transitions: [{ from: menu, to: dawn, when: input.start }, { from: dawn, to: dusk, if: a == 0 }, { from: dusk, to: dawn, if: a < 1 }] }',
      backend,
    );
    let problem: unknown;
    try {
      session.send('input.start');
    } catch (error) {
      problem = (error as DesignError).problems[0];
    }
    const loop = ['the transition dawn -> dusk', 'the transition dusk -> dawn'];
    expect(problem).toMatchObject({ code: 'endless-chain', details: { loop: expect.arrayContaining(loop) } });
    expect(session.screen).toBe('menu');
  });

  test('a number past 2^53 is an error, not a wrong number', () => {
    const session = play(
      '{ counters: { a: { start: 3 } }, rules: [{ name: square, when: input.go, do: [{ set: { a: a * a } }] }, { when: input.divide, do: [{ set: { a: a / 0 } }] }] }',
      backend,
    );
    for (let press = 0; press < 5; press++) session.send('input.go');
    const before = session.counter('a');
    expect(() => session.send('input.go')).toThrow(/square/);
    expect(() => session.send('input.divide')).toThrow(DesignError);
    expect(session.counter('a')).toBe(before);
  });
});

describe('the session in a game', () => {
  test('steps tell which rule wrote which counter, and where a bound cut a write short', () => {
    const session = new Session(demo());
    const steps: Step[] = [];
    const stop = session.listen((step) => steps.push(step));
    session.send('input.start');
    for (let gathered = 0; gathered < 6; gathered++) session.send('blossom.taken');
    stop();
    session.send('blossom.taken');
    expect(steps).toHaveLength(7);
    expect(steps[6]).toMatchObject({
      cause: 'event',
      name: 'blossom.taken',
      sequence: ['gather'],
      cues: ['chime'],
    });
    expect(steps[6]!.writes.find(({ counter }) => counter === 'streak')).toMatchObject({
      counter: 'streak',
      before: 5,
      after: 5,
      wanted: 6,
      by: 'gather',
    });
  });

  test('a listener that sends or throws does so between events', () => {
    const session = new Session(demo());
    session.listen((step) => {
      if (step.name === 'input.start') session.send('blossom.taken');
      if (step.name === 'wasp.hit') throw new Error('from the game');
    });
    session.send('input.start');
    expect(session.counter('score')).toBe(10);
    expect(() => session.send('wasp.hit')).toThrow('from the game');
    expect(session.counter('lives')).toBe(2);
  });

  test('the HUD is what the session says', () => {
    const session = new Session(demo());
    expect(session.hud).toEqual([]);
    session.send('input.start');
    session.send('blossom.taken');
    session.advance(1500);
    const hud = Object.fromEntries(session.hud.map(({ show, text }) => [show, text]));
    expect(hud).toEqual({
      score: '000010',
      best: '000000',
      lives: '●●●○○',
      nectar: '1/20',
      streak: '2',
      daylight: '0:44',
    });
    expect(session.text).toBe('Gorse Bank: 1 of 12 drops');
  });

  test('what can happen now follows the screen and what is present', () => {
    const session = new Session(demo());
    expect(session.possible).toEqual(['input.help', 'input.start']);
    session.send('input.start');
    expect(session.possible).toEqual(['blossom.taken', 'blossom.missed']);
    session.advance(4000);
    expect(session.possible).toContain('wasp.hit');
    for (const event of session.possible) expect(session.outsideEvents).toContain(event);
  });

  test('parts of a millisecond add up, whatever the frame time', () => {
    const coarse = new Session(demo(), { seed: 9 });
    const fine = new Session(demo(), { seed: 9 });
    for (const session of [coarse, fine]) session.send('input.start');
    coarse.advance(20_000);
    for (let frame = 0; frame < 1200; frame++) fine.advance(20_000 / 1200);
    fine.advance(0.001);
    expect(fine.time).toBe(20_000);
    expect(fine.present).toEqual(coarse.present);
  });

  test('a hidden tab of ten minutes is played through', () => {
    const session = new Session(demo());
    session.send('input.start');
    session.advance(600_000);
    expect([session.screen, session.time]).toEqual(['dark', 600_000]);
  });

  test('events that nothing knows are ignored and counted', () => {
    const session = new Session(demo());
    for (const event of ['no.such', '__proto__', '', 'blossom.taken', 'input.again'])
      expect(session.send(event)).toBe('ignored');
    expect(session.ignored).toBe(5);
  });

  test.each([Number.NaN, -1001, Number.POSITIVE_INFINITY, 1e9])(
    'time does not pass by %d',
    (milliseconds) => {
      expect(() => new Session(demo()).advance(milliseconds)).toThrow(UsageError);
    },
  );

  test('calls about what the design does not have say what it has', () => {
    const session = new Session(demo());
    expect(() => session.counter('gold')).toThrow(/it has score, lives/);
    expect(() => session.timer('gold')).toThrow(/it has daylight/);
    expect(() => new Session(demo(), { seed: 0.5 })).toThrow(UsageError);
  });
});

describe('snapshots', () => {
  const played = (seed = 4): Session => {
    const session = new Session(demo(), { seed });
    session.send('input.start');
    session.advance(5000.25);
    session.send('blossom.taken');
    session.send('wasp.hit');
    return session;
  };
  const look = (session: Session) => [
    session.time,
    session.screen,
    session.counters,
    session.present,
    session.timer('daylight'),
    session.hud,
  ];

  test('a session goes on from one as if nothing had happened, after a way through JSON', () => {
    const first = played();
    const snapshot = JSON.parse(JSON.stringify(first.snapshot()));
    const second = new Session(demo(), { seed: 4 });
    second.restore(snapshot);
    expect(look(second)).toEqual(look(first));
    for (const session of [first, second]) {
      session.advance(12_345.75);
      session.send('blossom.taken');
    }
    expect(look(second)).toEqual(look(first));
    expect(() => second.recorded).toThrow(UsageError);
  });

  test('of any design too', () => {
    fc.assert(
      fc.property(designText, happenings, happenings, (text, before, after) => {
        const outcome = (session: Session, happened: readonly (string | number)[]): string => {
          try {
            drive(session, happened);
          } catch (error) {
            if (!(error instanceof DesignError)) throw error;
          }
          return JSON.stringify([session.snapshot(), session.counters, session.text]);
        };
        let first: Session;
        try {
          first = new Session(readDesign(text));
        } catch {
          return;
        }
        outcome(first, before);
        const second = new Session(readDesign(text));
        second.restore(JSON.parse(JSON.stringify(first.snapshot())));
        expect(outcome(second, after)).toBe(outcome(first, after));
      }),
      runs(150),
    );
  });

  test.each([
    ['nothing', null, 'not-a-snapshot'],
    ['a number', 7, 'not-a-snapshot'],
    ['cells of another length', { cells: [1, 2, 3] }, 'not-a-snapshot'],
    ['a screen that does not exist', { cell: [2, 99] }, 'not-a-snapshot'],
    ['a counter out of its range', { cell: [8, 77] }, 'not-a-snapshot'],
    ['half a life', { cell: [8, 1.5] }, 'not-a-snapshot'],
    ['another design', { design: { rules: 'x' } }, 'design-changed'],
  ])('%s is refused, and the session stays as it was', (_, change, code) => {
    const session = played();
    const before = look(session);
    const snapshot = session.snapshot();
    const { cell, ...rest } = (change ?? {}) as { cell?: [number, number] };
    const cells = snapshot.cells.map((each, index) => (index === cell?.[0] ? cell[1] : each));
    const damaged = typeof change === 'object' && change !== null ? { ...snapshot, cells, ...rest } : change;
    let found = 'none';
    try {
      session.restore(damaged);
    } catch (error) {
      found = (error as DesignError).problems[0]!.code;
    }
    expect(found).toBe(code);
    expect(look(session)).toEqual(before);
  });

  test('a design that changed since names the sections', () => {
    const other = new Session(readDesign(changed('petal: { value: 10', 'petal: { value: 11')), { seed: 4 });
    expect(() => other.restore(played().snapshot())).toThrow(/in: dials/);
  });
});

describe('contacts', () => {
  const session = (): Session => {
    const started = new Session(
      readDesign(
        '{ counters: { hits: { keep: session } }, pieces: { wasp: { is: hazard }, spring: { is: checkpoint } }, rules: [{ when: [wasp.hit, spring.reached], do: [{ add: { hits: 1 } }] }, { when: input.shield, do: [{ grace: 1 }] }], screens: { heath: { live: true } }, transitions: [{ from: heath, to: heath, when: input.again, fresh: level }] }',
      ),
    );
    return started;
  };

  test('one contact with one id counts once until it ends', () => {
    const played = session();
    const frames = Array.from({ length: 5 }, () => played.send('wasp.hit', 7));
    expect(frames).toEqual(['handled', ...Array(4).fill('repeated')]);
    expect([played.send('wasp.hit', 8), played.send('spring.reached', 7)]).toEqual(['handled', 'handled']);
    played.endContact(7);
    expect(played.send('wasp.hit', 7)).toBe('handled');
    expect(played.send('wasp.hit', 8)).toBe('repeated');
    expect(played.counter('hits')).toBe(4);
    expect(replay(played.design, recordOf(played)).counter('hits')).toBe(4);
  });

  test('what grace turned away has not counted yet, and a fresh start forgets contacts', () => {
    const played = session();
    played.send('input.shield');
    expect(played.send('wasp.hit', 1)).toBe('turned away');
    played.advance(1000);
    expect([played.send('wasp.hit', 1), played.send('wasp.hit', 1)]).toEqual(['handled', 'repeated']);
    const later = session();
    later.restore(JSON.parse(JSON.stringify(played.snapshot())));
    expect(later.send('wasp.hit', 1)).toBe('repeated');
    later.send('input.again');
    expect(later.send('wasp.hit', 1)).toBe('handled');
  });
});

describe('what is kept forever', () => {
  const storage = () => {
    const kept = new Map<string, string>();
    return {
      kept,
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => void kept.set(key, value),
    };
  };
  const lose = (session: Session): void => {
    session.send('input.start');
    for (let taken = 0; taken < 3; taken++) session.send('blossom.taken');
    session.advance(45_000);
  };

  test('lives in a storage between sessions, and in the record', () => {
    const store = storage();
    const first = new Session(demo(), { storage: store });
    lose(first);
    expect(first.counter('best')).toBe(60);
    const second = new Session(demo(), { storage: store });
    expect(second.counter('best')).toBe(60);
    second.send('input.start');
    expect(replay(demo(), recordOf(second)).counter('best')).toBe(60);
  });

  test('a best list keeps the highest, in order, between sessions', () => {
    const design = readDesign(
      changed(
        'hud:\n',
        'lists: { top: { of: score, when: [dark.entered, nightfall.entered], length: 3 } }\nhud:\n',
      ),
    );
    const store = storage();
    const scores = [2, 0, 4, 1].map((blossoms) => {
      const session = new Session(design, { storage: store });
      session.send('input.start');
      for (let taken = 0; taken < blossoms; taken++) session.send('blossom.taken');
      session.advance(45_000);
      return session.lists.top;
    });
    expect(scores).toEqual([[30], [30, 0], [100, 30, 0], [100, 30, 10]]);
    store.kept.set('jocus Dusk on the Heath', '{"top":["9",null,7,-1e999,8],"best":5}');
    expect(new Session(design, { storage: store }).lists).toEqual({ top: [8, 7] });
  });

  test('a storage that is damaged or forbidden counts as empty and stops nothing', () => {
    const store = storage();
    for (const text of [
      '{',
      'null',
      '[1]',
      '{"best":"many"}',
      '{"best":1.5}',
      '{"score":99}',
      '{"__proto__":{"best":3}}',
    ]) {
      store.kept.set('jocus Dusk on the Heath', text);
      expect(new Session(demo(), { storage: store }).counters).toMatchObject({ best: 0, score: 0 });
    }
    const forbidden = {
      getItem: () => {
        throw new Error('forbidden');
      },
      setItem: () => {
        throw new Error('full');
      },
    };
    const session = new Session(demo(), { storage: forbidden });
    lose(session);
    expect(session.counter('best')).toBe(60);
  });
});

describe('what a game hears', () => {
  test('counters, screens, rules, cues, popups and what was ignored, each by itself', () => {
    const session = new Session(
      readDesign(
        '{ counters: { score: {} }, rules: [{ name: gather, when: input.go, do: [{ add: { score: 5 } }, { popup: "+{score}" }, { cue: chime }] }], screens: { title: {}, heath: { live: true } }, transitions: [{ from: title, to: heath, when: input.start }] }',
      ),
    );
    const heard: unknown[] = [];
    const stops = [
      session.on('counter', ({ counter, before, after, by }) => heard.push([counter, before, after, by])),
      session.on('screen', ({ from, to }) => heard.push([from, to])),
      session.on('rule', ({ name }) => heard.push(name)),
      session.on('cue', ({ name }) => heard.push(`♪ ${name}`)),
      session.on('popup', ({ text, event }) => heard.push([text, event])),
      session.on('ignored', ({ event, reception }) => heard.push([event, reception])),
    ];
    session.send('input.go');
    session.send('input.start');
    session.send('input.go');
    for (const stop of stops) stop();
    session.send('input.go');
    expect(heard).toEqual([
      ['input.go', 'ignored'],
      ['title', 'heath'],
      ['score', 0, 5, 'gather'],
      'gather',
      '♪ chime',
      ['+5', 'input.go'],
    ]);
  });

  test('a session that keeps no record says so', () => {
    const session = new Session(demo(), { record: false });
    session.send('input.start');
    expect(() => recordOf(session)).toThrow(/record: true/);
  });
});

describe('properties of any design', () => {
  const faultless = (run: () => void): boolean => {
    try {
      run();
      return true;
    } catch (error) {
      if (error instanceof DesignError) return false;
      throw error;
    }
  };

  test('counters never leave their bounds', () => {
    fc.assert(
      fc.property(designText, happenings, (text, happened) => {
        const design = readDesign(text);
        faultless(() => {
          const session = new Session(design);
          session.listen(({ writes }) => {
            for (const { counter, after } of writes) {
              const { places, ...of } = design.counters.find(({ name }) => name === counter)!;
              const { min, max } = boundsOf(design, { ...of, places });
              if (typeof after !== 'number') continue;
              expect(after).toBeGreaterThanOrEqual(min);
              expect(after).toBeLessThanOrEqual(max);
              expect(Number(after.toFixed(places)) === after && !Object.is(after, -0)).toBe(true);
            }
          });
          drive(session, happened);
        });
      }),
      runs(200),
    );
  });

  test('fresh: run equals a first start, but for what is kept longer', () => {
    const restart = (text: string): string => {
      const design = JSON.parse(text);
      const again = {
        from: ['menu', 'play', 'deep', 'over', 'pause'],
        to: 'play',
        when: 'input.restart',
        fresh: 'run',
      };
      // A bound, or a number of pieces, that reads what is kept longer is another at a restart.
      for (const counter of Object.values(design.counters) as Record<string, unknown>[])
        for (const key of ['min', 'max']) if (typeof counter[key] === 'string') delete counter[key];
      for (const { place = {} } of design.levels)
        for (const piece of Object.keys(place)) if (typeof place[piece] === 'string') place[piece] = 1;
      // The restart stands first, and nothing else hears it or the way into play.
      design.rules = design.rules.filter(
        (rule: { when?: unknown }) =>
          rule.when !== undefined && !JSON.stringify(rule.when).includes('entered'),
      );
      design.transitions = [
        again,
        ...design.transitions.filter(
          (each: { when?: unknown; if?: unknown; wait?: unknown }) =>
            each.when !== undefined && each.if === undefined && each.wait === undefined,
        ),
      ];
      return JSON.stringify(design);
    };
    fc.assert(
      fc.property(designText, happenings, (text, happened) => {
        const design = readDesign(restart(text));
        const kept = new Set(
          design.counters
            .filter(({ keep }) => keep === 'session' || keep === 'forever')
            .map(({ name }) => name),
        );
        // A counter that starts from one of these is put back to another value than at first, as it should be.
        for (const { name, start } of design.counters) {
          if ([...kept].some((each) => JSON.stringify(start).includes(`"${each}"`))) kept.add(name);
        }
        const putBack = (session: Session) => ({
          screen: session.screen,
          level: session.level,
          present: session.present,
          counters: Object.entries(session.counters).filter(([name]) => !kept.has(name)),
        });
        faultless(() => {
          const first = new Session(design);
          first.send('input.restart');
          const played = new Session(design);
          drive(played, happened);
          played.send('input.restart');
          expect(putBack(played)).toEqual(putBack(first));
        });
      }),
      runs(200),
    );
  });
});

describe('a design changed while a session runs', () => {
  const begin = (options = {}): { session: Session; told: string[] } => {
    const session = new Session(demo(), { seed: 2, ...options });
    const told: string[] = [];
    session.on('reload', (reload) => told.push(reload.told));
    session.send('input.start');
    session.advance(3000.5);
    session.send('blossom.taken');
    return { session, told };
  };

  test('plays what happened so far again under the new rules, and goes on from the same moment', () => {
    const { session, told } = begin();
    const reload = session.reload(gameOf(readDesign(changed('value: 10', 'value: 25'))));
    expect(reload).toEqual({
      replaced: true,
      told: '2 events were played again under the new design.',
    });
    expect([session.counter('score'), session.time, told]).toEqual([25, 3000, [reload.told]]);
    session.send('blossom.taken');
    expect(session.counter('score')).toBe(75);
    expect(recordOf(session).design).toBe(readDesign(changed('value: 10', 'value: 25')).fingerprint);
  });

  test('says what no longer fits', () => {
    const { session } = begin();
    const text = demoText.replaceAll('blossom', 'clover');
    const { replaced, told } = session.reload(gameOf(readDesign(text)));
    expect([replaced, session.counter('score')]).toEqual([true, 0]);
    expect(told).toContain('takes 1 of them otherwise: blossom.taken at 3 s was handled and is ignored');
  });

  test('goes on as it was where the new rules never end', () => {
    const { session } = begin();
    const endless = readDesign(
      '{ counters: { a: {} }, rules: [{ when: input.start, do: [{ emit: own.go }] }, { when: own.go, do: [{ emit: own.go }] }] }',
    );
    const { replaced, told } = session.reload(gameOf(endless));
    expect([replaced, session.counter('score'), session.title]).toEqual([false, 10, 'Dusk on the Heath']);
    expect(told).toMatch(/goes on under the old design: More than 1000 steps/);
  });

  test('begins afresh where no record says how it came to be', () => {
    const { session } = begin({ record: false });
    expect(session.reload(gameOf(demo())).told).toContain('began afresh');
    expect([session.screen, session.time]).toEqual(['title', 0]);
  });
});

test('the HUD is made again only for what has changed', () => {
  const session = new Session(demo());
  session.send('input.start');
  const before = session.hud;
  expect(session.hud).toBe(before);
  session.send('blossom.taken');
  const after = session.hud;
  const same = after.filter((view) => before.includes(view)).map(({ show }) => show);
  expect(same).toEqual(['best', 'lives', 'daylight']);
  session.advance(10);
  expect(session.hud.filter((view) => !after.includes(view)).map(({ show }) => show)).toEqual(['daylight']);
});

test('the course tells a game where its pieces are and where a fall leads back to', () => {
  const session = new Session(
    readDesign(
      '{ pieces: { heather: { is: collectible }, bog: { is: hazard }, cairn: { is: checkpoint } }, levels: [{ course: [heather, 2 x bog, cairn, heather] }], screens: { moor: { live: true } }, transitions: [{ from: moor, to: moor, when: input.fall, fresh: life }] }',
    ),
  );
  expect(session.course).toEqual({
    pieces: ['heather', 'bog', 'bog', 'cairn', 'heather'],
    passed: 0,
    checkpoint: 0,
  });
  for (const event of ['heather.taken', 'bog.hit', 'cairn.reached', 'heather.taken']) session.send(event);
  expect(session.course).toEqual({
    pieces: [undefined, 'bog', 'bog', 'cairn', undefined],
    passed: 5,
    checkpoint: 4,
  });
  session.send('input.fall');
  expect([session.course.passed, session.present]).toEqual([4, { heather: 0, bog: 2, cairn: 1 }]);
});

test.each(backends)('clocks that set themselves to nothing still let time pass, on %s', (backend) => {
  const session = play(
    '{ counters: { ticks: {}, comings: {} }, timers: { beat: { every: 1 } }, pieces: { gnat: { is: hazard } }, levels: [{ spawn: [{ piece: gnat, every: 9, first: 0 }] }], rules: [{ when: beat.ticked, do: [{ add: { ticks: 1 } }, { set: { beat: 0 } }] }, { when: gnat.appeared, do: [{ add: { comings: 1 } }] }], screens: { heath: { live: true } }, transitions: [{ from: heath, to: heath, when: gnat.appeared, fresh: level }] }',
    backend,
  );
  session.advance(1050);
  expect([session.time, session.counters]).toEqual([1050, { ticks: 0, comings: 1050 }]);
  const plain = play(
    '{ counters: { ticks: {} }, timers: { beat: { every: 1 } }, rules: [{ when: beat.ticked, do: [{ add: { ticks: 1 } }, { set: { beat: 0 } }] }] }',
    backend,
  );
  plain.advance(1050);
  expect([plain.time, plain.counter('ticks')]).toEqual([1050, 51]);
});
