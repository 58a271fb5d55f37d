import { describe, expect, test } from 'vitest';
import { fieldWorld, readDesign, recordOf, replay, Session, Stage, UsageError } from '../../src/index.js';
import { demo } from '../support/designs.js';

/** Points are doubled once a blossom was taken, so that the order of events shows in the score. */
const doubling = readDesign(`
counters: { score: { start: 0 }, worth: { start: 10 } }
pieces: { berry: { is: collectible }, leaf: { is: collectible } }
timers: { beat: { every: 1 } }
rules:
  - { when: berry.taken, do: [{ add: { score: worth } }] }
  - { when: leaf.taken, do: [{ set: { worth: 2 * worth } }] }
  - { when: beat.ticked, do: [{ add: { score: 1 } }] }
`);

describe('what a listener sends', () => {
  test('comes after the event that it hears, in the record as in play', () => {
    const session = new Session(doubling);
    session.listen(({ name }) => {
      if (name === 'leaf.taken') expect(session.send('berry.taken')).toBe('queued');
    });
    const heard: string[] = [];
    session.listen(({ name }) => heard.push(name));
    session.send('leaf.taken');
    expect(session.counter('score')).toBe(20);
    expect(heard).toEqual(['leaf.taken', 'berry.taken']);
    expect(recordOf(session).lines).toEqual([
      { at: 0, event: 'leaf.taken' },
      { at: 0, event: 'berry.taken' },
    ]);
    expect(replay(doubling, recordOf(session)).counter('score')).toBe(20);
  });

  test('while time passes, comes at the moment of the clock that it hears', () => {
    const session = new Session(doubling);
    session.on(
      'rule',
      ({ name }) => name === 'on beat.ticked' && session.time === 2000 && session.send('leaf.taken'),
    );
    session.advance(5000);
    expect(recordOf(session).lines).toEqual([{ at: 2000, event: 'leaf.taken' }]);
    expect(replay(doubling, recordOf(session)).counters).toEqual(session.counters);
  });

  test('lets time pass in its turn, other requests before it and after', () => {
    const session = new Session(doubling);
    const stop = session.listen(() => {
      stop();
      session.send('leaf.taken');
      session.advance(1500);
      session.send('berry.taken');
    });
    session.send('berry.taken');
    expect(session.time).toBe(1500);
    expect(session.counter('score')).toBe(10 + 1 + 20);
    expect(replay(doubling, recordOf(session)).counters).toEqual(session.counters);
  });

  test.each([
    ['sends', (session: Session) => session.send('berry.taken')],
    ['lets time pass', (session: Session) => session.advance(1000)],
  ])('without end is an error, and the session goes on: it %s', (_, answer) => {
    const session = new Session(doubling);
    const stop = session.listen(() => answer(session));
    expect(() => session.advance(1000)).toThrow(/follow(?:ed)? from one event/);
    stop();
    const { time } = session;
    session.advance(250);
    expect(session.time).toBe(time + 250);
    expect(replay(doubling, recordOf(session)).counters).toEqual(session.counters);
  });

  test('cannot replace the session that it hears', () => {
    const session = new Session(doubling);
    const snapshot = session.snapshot();
    session.listen(() => session.restore(snapshot));
    expect(() => session.send('berry.taken')).toThrow('cannot be restored while a listener hears a step');
    expect(session.counter('score')).toBe(10);
  });
});

describe('a listener that throws', () => {
  test('stops neither the event, nor its record, nor those who listen after it', () => {
    const session = new Session(doubling);
    session.listen(() => {
      throw new Error('no picture');
    });
    const heard: string[] = [];
    session.listen(({ name }) => heard.push(name));
    expect(() => session.send('berry.taken', 7)).toThrow('no picture');
    expect(heard).toEqual(['berry.taken']);
    expect(recordOf(session).lines).toEqual([{ at: 0, event: 'berry.taken' }]);
    expect(session.send('berry.taken', 7)).toBe('repeated');
    expect(session.counter('score')).toBe(10);
  });

  test('loses no time: parts of a millisecond included', () => {
    const session = new Session(doubling);
    let thrown = 0;
    session.listen(() => {
      thrown++;
      throw new Error(`beat ${thrown}`);
    });
    expect(() => session.advance(10_000.5)).toThrow(AggregateError);
    expect([session.time, session.counter('score'), thrown]).toEqual([10_000, 10, 10]);
    session.advance(0.5);
    expect(session.time).toBe(10_001);
  });

  test('is told beside a fault of the design', () => {
    const looping = readDesign(
      '{ rules: [{ when: input.go, do: [{ emit: own.go }] }, { when: own.go, do: [{ emit: own.go }] }, { when: input.well, do: [{ cue: ding }] }] }',
    );
    const session = new Session(looping);
    session.listen(({ name }) => {
      if (name === 'input.well') session.send('input.go');
    });
    expect(() => session.send('input.well')).toThrow('set each other off without end');
    expect(recordOf(session).lines).toEqual([{ at: 0, event: 'input.well' }]);
  });

  test('does not spoil what is not a function or not a kind of thing: that is told at once', () => {
    const session = new Session(demo());
    const untyped = session as unknown as {
      listen(value: unknown): void;
      on(kind: unknown, value: unknown): void;
    };
    for (const listener of [5, undefined, {}, 'x'])
      expect(() => untyped.listen(listener)).toThrow(UsageError);
    expect(() => untyped.on('nosuch', () => {})).toThrow('its events are counter, screen,');
    expect(() => untyped.on('cue', 5)).toThrow(UsageError);
    expect(session.send('input.start')).toBe('handled');
  });
});

describe('what a game can get wrong', () => {
  test.each([Number.NaN, Number.POSITIVE_INFINITY, -1, 0.5, 1e13])(
    'a moment of %s is refused and changes nothing',
    (at) => {
      const session = new Session(demo());
      expect(() => session.advanceTo(at)).toThrow(UsageError);
      expect(() => session.sendAt('input.start', at, false)).toThrow(UsageError);
      session.advance(10);
      expect(session.time).toBe(10);
    },
  );

  test('an event that is no text, or no name, is refused and not recorded', () => {
    const session = new Session(doubling);
    for (const name of [undefined, null, 7, {}, 'x'.repeat(201)])
      expect(() => session.send(name as unknown as string)).toThrow(UsageError);
    for (const id of [null, {}, 'x'.repeat(101)])
      expect(() => session.send('berry.taken', id as unknown as string)).toThrow(UsageError);
    expect(recordOf(session).lines).toEqual([]);
  });

  test('the first frame of a page may lie a little before the start', () => {
    const session = new Session(demo());
    session.advance(-16.7);
    session.advance(1.5);
    session.advance(0.5);
    expect(session.time).toBe(2);
  });

  test.each([Number.NaN, Number.POSITIVE_INFINITY, -5000])(
    'a frame of %s is refused by a stage too, and poisons nothing',
    (milliseconds) => {
      const session = new Session(demo());
      const stage = new Stage(fieldWorld, session);
      expect(() => stage.advance(milliseconds, '')).toThrow(UsageError);
      stage.advance(-8, '');
      stage.advance(25, '');
      expect(session.time).toBe(25);
    },
  );

  test('the end of one contact does not end another whose id ends alike', () => {
    const session = new Session(demo());
    session.send('input.start');
    session.send('wasp.hit', 'hive 1');
    session.endContact('1');
    session.advance(2000);
    expect(session.send('wasp.hit', 'hive 1')).toBe('repeated');
    session.endContact('hive 1');
    expect(session.send('wasp.hit', 'hive 1')).toBe('handled');
  });
});
