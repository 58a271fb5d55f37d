import fc from 'fast-check';
import type { Session } from '../../src/index.js';

/** Designs as plain values, small but using every part of the language; the names are always the same. */
const keep = fc.constantFrom('life', 'level', 'run', 'session', 'forever');
const amount = fc.oneof(
  fc.integer({ min: -3, max: 5 }),
  fc.constantFrom(
    'a',
    'b + 1',
    'a * 2 - b',
    'c / 2',
    'bonus * b',
    'level',
    'level.goal',
    'min(a, 3)',
    'a > 2 ? 1 : -1',
    'present.red',
    'floor(timer.clock)',
    'a % 3',
    '-b',
    'd / 4',
    'flag ? 2 : b',
    'word == one ? a : 1',
    'round(c / 3)',
    'course + 1',
  ),
);
const condition = fc.constantFrom(
  'a >= 3',
  'b == 0',
  'a > b and not (c == 1)',
  'c >= level.goal',
  'level.last or a == 2',
  'present.piece <= 1',
  'left.blue == 0',
  'a + b > 4',
  'c % 2 == 1',
  'true',
  'flag',
  'not flag and word != two',
  'd >= 1.5',
  'course == 2',
);
const event = fc.constantFrom(
  'odd.above',
  'mark.reached',
  'red.taken',
  'blue.hit',
  'piece.taken',
  'red.missed',
  'blue.avoided',
  'hazard.hit',
  'input.go',
  'input.stop',
  'clock.ended',
  'clock.warned',
  'beat.ticked',
  'play.entered',
  'over.entered',
  'own.first',
  'own.second',
  'red.appeared',
);
const screen = fc.constantFrom('menu', 'play', 'deep', 'over', 'pause');
const seconds = fc.integer({ min: 1, max: 40 }).map((tenths) => tenths / 10);
const interval = fc.oneof(
  seconds,
  fc.tuple(seconds, seconds).map(([a, b]) => [Math.min(a, b), Math.max(a, b)]),
);
/** Where expressions may stand as well; some give nothing, or ranges that are backwards. */
const timed = fc.oneof(
  { weight: 3, arbitrary: interval },
  fc.constantFrom('level / 2', '3 - a / 2', '1 / 0', [0, 1.5], [0.5, 'b'], ['c / 4', 2], ['0 / 0', 'level']),
);
const counterName = fc.constantFrom('a', 'b', 'c');
const amounts = fc.dictionary(counterName, amount, { minKeys: 1, maxKeys: 2 });

/** Without timers, which nothing but an event may look at. */
const paid = fc.dictionary(
  counterName,
  fc.constantFrom(1, 2, 'a', 'b + 1', 'bonus', 'level', 'present.red'),
  {
    minKeys: 1,
    maxKeys: 2,
  },
);

const setFlag = fc.constantFrom('true', 'false', 'not flag', 'a > b', 'word == three');
const setWord = fc.constantFrom('one', 'two', 'flag ? three : one', 'word');

const effect = fc.oneof(
  setFlag.map((flag) => ({ set: { flag } })),
  setWord.map((word) => ({ set: { word } })),
  amount.map((d) => ({ add: { d } })),
  { weight: 4, arbitrary: amounts.map((add) => ({ add })) },
  { weight: 3, arbitrary: amounts.map((set) => ({ set })) },
  fc.constantFrom(
    { spawn: 'red' },
    { spawn: { blue: 2 } },
    { spawn: { blue: 'level', red: 'a - 1' } },
    { clear: 'piece' },
    { clear: ['red'] },
    { become: { blue: 'red' } },
    { clear: { red: 1 } },
    { clear: { red: 'oldest', blue: 'all' } },
    { become: { blue: { red: 'oldest' } } },
    { become: { red: { blue: 'a' } } },
    { start: 'clock' },
    { stop: ['beat', 'clock'] },
    { add: { clock: 1.5 } },
    { set: { beat: 'a / 2' } },
    { emit: 'own.first' },
    { emit: 'own.second' },
    { popup: '+{a * 2} of {level.name}' },
    { cue: 'ding' },
  ),
  fc
    .oneof({ weight: 2, arbitrary: seconds }, fc.constantFrom('b / 2', 'level', '0 / 0'))
    .map((grace) => ({ grace })),
);
const optional = <Value>(value: fc.Arbitrary<Value>) => fc.option(value, { nil: undefined, freq: 2 });

const rule = fc
  .record({
    when: optional(fc.oneof(event, fc.uniqueArray(event, { minLength: 1, maxLength: 3 }))),
    if: optional(condition),
    screens: optional(fc.uniqueArray(screen, { minLength: 1, maxLength: 3 })),
    rest: optional(fc.oneof({ weight: 3, arbitrary: seconds }, fc.constantFrom('a / 4', 'level.goal / 3'))),
    chance: optional(fc.constantFrom(0, 0.3, 0.9, 1)),
    once: optional(keep),
    passes: optional(fc.constantFrom({ a: 2 }, { c: 3 })),
    pay: optional(paid),
    do: fc.array(effect, { minLength: 1, maxLength: 3 }),
  })
  .map(({ pay, passes, ...each }) => {
    const list = pay === undefined ? each.do : [{ pay }, ...each.do];
    if (each.when !== undefined || each.if !== undefined) return { ...each, do: list };
    return passes === undefined ? { ...each, do: list, when: 'red.taken' } : { ...each, passes };
  });

const transition = fc
  .record({
    from: fc.uniqueArray(screen, { minLength: 1, maxLength: 2 }),
    to: screen,
    when: optional(event),
    if: optional(condition),
    wait: optional(
      fc.oneof(
        { weight: 3, arbitrary: seconds },
        fc.constantFrom('level / 2', 'level.goal / 4', 'bonus / 4'),
      ),
    ),
    fresh: optional(keep),
    level: optional(fc.constantFrom('next', 'first', 2)),
    grace: optional(fc.oneof({ weight: 3, arbitrary: seconds }, fc.constantFrom('a', 'level / 4'))),
    do: optional(fc.array(effect, { minLength: 1, maxLength: 2 })),
  })
  .map((each) =>
    each.when === undefined && each.if === undefined && each.wait === undefined
      ? { ...each, when: 'input.go' }
      : each,
  );

const many = (min: number, max: number) =>
  fc.oneof(
    { weight: 3, arbitrary: fc.integer({ min, max }) },
    fc.constantFrom('level', 'a', 'bonus - 1', 'b / 2', 'present.red + 1'),
  );

const spawn = fc.record({
  piece: fc.constantFrom('red', 'blue', 'odd'),
  every: timed,
  first: optional(
    fc.oneof(
      fc.integer({ min: 0, max: 30 }).map((tenths) => tenths / 10),
      fc.constant('level - bonus / 2'),
    ),
  ),
  atOnce: optional(many(1, 3)),
  total: optional(many(1, 4)),
});
const level = fc.record({
  count: optional(fc.constantFrom(1, 2)),
  values: fc.record({
    goal: fc.oneof(fc.integer({ min: 0, max: 6 }), fc.constantFrom('level', '2 * level - bonus')),
  }),
  place: optional(fc.dictionary(fc.constantFrom('red', 'blue', 'odd'), many(0, 3), { minKeys: 1 })),
  spawn: optional(fc.array(spawn, { maxLength: 3 })),
  course: optional(
    fc.array(fc.constantFrom('red', 'blue', '2 x odd', 'mark'), { minLength: 1, maxLength: 5 }),
  ),
});
/** A counter that may read others above it. */
const bounds = (...above: string[]) =>
  fc.record({
    start: fc.oneof(fc.integer({ min: 0, max: 2 }), fc.constantFrom('bonus', 'bonus / 4', '0 - 1')),
    min: optional(fc.constantFrom(-2, 0, 'level - 2', ...above.map((name) => `-${name}`))),
    max: optional(fc.constantFrom(4, 9, 'bonus * 2.4', '0 / 0', ...above.map((name) => `${name} + level`))),
    keep: optional(keep),
  });

const withoutUndefined = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

export const designText = fc
  .record({
    score: fc.constant('a'),
    dials: fc.constant({ bonus: { value: 2 } }),
    counters: fc.record({
      a: bounds(),
      b: bounds('a'),
      c: bounds('a', 'b'),
      d: fc.record({
        start: fc.constantFrom(0, 1.25, 'b / 3'),
        min: optional(fc.constantFrom(-2.5, 'a / 3 - 2')),
        places: fc.constant(2),
        keep: optional(keep),
      }),
      flag: fc.record({ start: fc.boolean(), keep: optional(keep) }),
      word: fc.record({
        words: fc.constant(['one', 'two', 'three']),
        start: optional(fc.constant('two')),
        keep: optional(keep),
      }),
    }),
    timers: fc.record({
      clock: fc
        .record({
          countdown: seconds,
          warns: fc.array(fc.double({ min: 0.1, max: 0.9, noNaN: true }), { maxLength: 2 }),
          keep: optional(keep),
          screens: optional(fc.uniqueArray(screen, { minLength: 1, maxLength: 3 })),
        })
        .map(({ countdown, warns, keep: kept, screens }) => {
          const warn = warns.map((part) => Math.round(countdown * part * 1000) / 1000);
          return { countdown, keep: kept, screens, warn: warn.length === 0 ? [countdown / 2] : warn };
        }),
      beat: fc.record({
        every: timed,
        keep: optional(keep),
        screens: optional(fc.constantFrom('deep', ['play', 'deep'], ['menu', 'pause'])),
      }),
    }),
    pieces: fc.record({
      odd: fc.record({
        is: fc.constant('foe'),
        difficulty: optional(fc.constantFrom(0.5, 'a - 1')),
        success: optional(fc.constant('above')),
        by: optional(fc.constantFrom('own.first', 'own.second', 'input.go')),
        returns: optional(fc.constantFrom(1.5, [0, 0.8], 'max(0.4, a / 2)', ['level / 2', 2])),
        lead: fc.oneof(
          { weight: 3, arbitrary: interval },
          fc.constantFrom('a / 2', ['level / 2', 3], [0, 0.6]),
        ),
        outcomes: fc.constantFrom(
          { above: 1, beside: 2, below: 0 },
          { above: 'a', beside: 'level', below: 'b / 3' },
          { above: 0 },
          { above: '0 / 0', beside: 1 },
        ),
        ends: optional(fc.constant('above')),
      }),
      red: fc
        .record({
          is: fc.constant('collectible'),
          in: fc.constant('piece'),
          takes: fc.oneof({ weight: 3, arbitrary: seconds }, fc.constantFrom('level / 2', 'max(0.3, a - 1)')),
          lasts: optional(fc.oneof({ weight: 3, arbitrary: seconds }, fc.constantFrom('b + 0.5', '0 / 0'))),
          difficulty: fc.constantFrom(-1, 0, 1, 'a - level', 'timer.clock / 4', '0 / 0', '100 * c'),
          again: optional(fc.boolean()),
          hits: optional(fc.integer({ min: 1, max: 3 })),
          health: optional(fc.constantFrom(2, 3, 'level + a')),
          ends: optional(fc.constantFrom(['taken'], ['missed'], 'taken', [])),
          needs: optional(condition),
        })
        .map(({ hits, ...each }) => (each.health === undefined ? { hits, ...each } : each)),
      mark: fc.record({ is: fc.constant('checkpoint'), takes: seconds, needs: optional(condition) }),
      blue: fc
        .record({
          hits: optional(fc.integer({ min: 1, max: 3 })),
          needs: optional(condition),
          by: optional(fc.constantFrom('own.first', 'input.go')),
          returns: optional(fc.constantFrom(0.7, [0.5, 1])),
          ends: optional(fc.constantFrom([], ['avoided'], ['hit'])),
          is: fc.constant('hazard'),
          in: fc.constant('piece'),
          lead: interval,
        })
        .map(({ hits, ...each }) => (each.by === undefined ? { hits, ...each } : each)),
    }),
    levels: fc
      .tuple(fc.array(level, { minLength: 2, maxLength: 3 }), fc.boolean())
      .map(([levels, endless]) =>
        levels.map((each, index) => ({ ...each, endless: endless && index === levels.length - 1 })),
      ),
    rules: fc
      .array(rule, { maxLength: 8, size: 'max' })
      // Every own event is emitted somewhere, so that any rule may hear it.
      .map((rules) => [
        ...rules,
        { when: 'input.emit', do: [{ emit: 'own.first' }, { emit: 'own.second' }] },
        // The one that was reached is there still, one time in two.
        ...(rules.length % 2 === 0 ? [{ when: 'mark.reached', do: [{ clear: { mark: 'met' } }] }] : []),
      ]),
    screens: fc.constant({
      menu: {},
      play: { live: true },
      deep: { live: true },
      over: { ending: 'lost' },
      pause: {},
    }),
    transitions: fc
      .array(transition, { maxLength: 6, size: 'max' })
      .map((transitions) => [
        { from: ['play', 'deep'], to: 'pause', when: 'input.stop' },
        { from: ['pause'], to: 'back', when: 'input.go' },
        { from: ['menu'], to: 'play', when: 'input.go', fresh: 'run' },
        ...transitions,
      ]),
    players: fc.record({
      one: fc.record({
        skill: fc.constantFrom(0.3, 'bonus / 4', '100 * bonus'),
        runs: fc.constant(2),
        patience: fc.constant(40),
      }),
      two: fc.record(
        {
          skill: fc.constant(-1),
          pace: fc.constant(1.7),
          runs: fc.constant(3),
          patience: fc.constant(25),
          learning: optional(fc.constantFrom(0.4, 2)),
          paceLearning: optional(fc.constantFrom(0.3, 1)),
          practice: optional(fc.constantFrom(0.3, 2)),
          spread: optional(fc.constantFrom(0.5, 3)),
          paceSpread: optional(fc.constantFrom(0.2, 1)),
          caution: optional(
            fc.constantFrom(
              { if: 'a >= 20', pace: 1.5, skill: 1 },
              { if: 'a < 10 or present.red > 1', pace: 0.4 },
              { if: 'a > 0', skill: -2 },
            ),
          ),
          quits: optional(fc.constantFrom(0.4, 1)),
          timing: optional(fc.constantFrom([0.5, 2], [1, 1.2], [0.7, 0.7])),
          thinks: optional(fc.constantFrom(0.3, 2)),
          style: optional(fc.constantFrom({ red: 0 }, { collectible: 3, red: 0.5 }, { mark: 2 })),
          acts: optional(
            fc.constantFrom(
              { 'input.emit': 0.7 },
              { 'input.go': { every: 1.1, if: 'a > 0', takes: 0.3 }, 'input.emit': 2 },
            ),
          ),
          inputs: optional(
            fc.constantFrom(
              { menu: 'input.go' },
              { pause: { 'input.go': 2, 'input.stop': 1 }, over: { 'input.go': 0 } },
            ),
          ),
        },
        { requiredKeys: ['skill', 'pace', 'runs', 'patience'] },
      ),
    }),
  })
  .map((design) => JSON.stringify(withoutUndefined(design), null, 1));

/** What a game, or a player at a keyboard, might report; some of it means nothing. */
const happening = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.constantFrom(
      'red.taken',
      'red.missed',
      'red.struck',
      'blue.hit',
      'blue.avoided',
      'blue.gone',
      'odd.above',
      'mark.reached',
      'mark.missed',
      'red.appeared',
      'input.go',
      'input.stop',
      'no.such',
      'clock.ended',
    ),
  },
  { weight: 2, arbitrary: fc.integer({ min: 0, max: 3000 }) },
);
export const happenings = fc
  .array(happening, { maxLength: 40, size: 'max' })
  // Most play on; some stay on the menu.
  .map((happened) => (happened.length % 8 === 0 ? happened : ['input.go', ...happened]));

/** Plays what happens, one after the other: an event is sent, a number lets milliseconds pass. */
export function drive(session: Session, happened: readonly (string | number)[]): void {
  for (const each of happened) {
    if (typeof each === 'number') session.advance(each);
    else session.send(each);
  }
}
