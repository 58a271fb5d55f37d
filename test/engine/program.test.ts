import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { footprintOf } from '../../src/engine/compile/footprint.js';
import { interpreter, memoryOf } from '../../src/engine/compile/interpret.js';
import { Printer } from '../../src/engine/compile/print.js';
import {
  add,
  and,
  ask,
  assign,
  binary,
  type Case,
  type Code,
  call,
  check,
  choose,
  constant,
  count,
  declare,
  get,
  give,
  isEqual,
  isLess,
  type Label,
  type Local,
  label,
  leave,
  local,
  loop,
  minus,
  never,
  not,
  type Operator,
  or,
  type Program,
  plus,
  push,
  select,
  set,
  slot,
  slotAt,
  tableAt,
  tell,
  type Value,
  when,
} from '../../src/engine/compile/representation.js';
import { sliced } from '../../src/engine/compile/slice.js';
import { runs } from '../support/runs.js';

const slots = 6;
const table = { name: 'squares', values: [0, 1, 4, 9] };

/** What a run of a program tells, and what its slots hold afterwards. */
interface Outcome {
  readonly told: readonly (readonly (string | number)[])[];
  readonly slots: readonly number[];
}

const start = [3, -2, 0.5, 1, 7, 2];

function around(told: (string | number)[][]) {
  return {
    probe: { noted: (...of: number[]) => void told.push(['noted', ...of]) },
    host: {
      failed: (...of: number[]): never => {
        told.push(['failed', ...of]);
        throw new RangeError('failed');
      },
    },
  };
}

function outcome(told: (string | number)[][], memory: ArrayLike<number>, go: () => void): Outcome {
  try {
    go();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
  }
  return { told, slots: Array.from({ length: slots }, (_, index) => memory[index]!) };
}

function interpreted(program: Program): Outcome {
  const told: (string | number)[][] = [];
  const memory = new Float64Array(memoryOf(program));
  memory.set(start);
  const { go } = interpreter(program, memory, (place, asked) => place * 10 + asked, around(told));
  return outcome(told, memory, () => go!(5));
}

function printed(program: Program): Outcome {
  const told: (string | number)[][] = [];
  const { probe, host } = around(told);
  const cells = new Float64Array(program.slots);
  cells.set(start);
  const printer = new Printer({
    slot: (at) => `cells[${at}]`,
    slotAt: (base, at) => `cells[${base} + ${at}]`,
    never: 'Infinity',
    draw: (place) => `(${place} * 10 + cells[${program.asked} + ${place}]++)`,
  });
  const functions = printer.functions(program);
  const text = `const queue = [];\n${printer.tables()}\n${functions}\nreturn go;`;
  const go = new Function('cells', 'probe', 'host', text)(cells, probe, host) as (given: number) => void;
  return outcome(told, cells, () => go(5));
}

const operators: readonly Operator[] = [
  '+',
  '-',
  '*',
  '/',
  '%',
  'bit or',
  'bit and',
  'shift left',
  'shift right',
];
const comparisons: readonly Operator[] = ['<', '<=', '>', '>=', '==', '!='];
const index = (value: Value): Value =>
  // Anything as a place from 0 to 3; what is no number is 0.
  binary('bit and', value, constant(3));

/** Values over the slots and these variables, to some depth. */
function values(
  depth: number,
  locals: readonly Local[],
  draws: boolean,
): { number: fc.Arbitrary<Value>; truth: fc.Arbitrary<Value> } {
  const leaves: fc.Arbitrary<Value>[] = [
    fc.constantFrom(0, 1, -1, 2.5, 3, -0, 1e9).map(constant),
    fc.nat(slots - 1).map(slot),
    ...(locals.length === 0 ? [] : [fc.constantFrom(...locals).map(get)]),
  ];
  if (depth === 0) {
    const number = fc.oneof(...leaves);
    return { number, truth: fc.tuple(number, number).map(([a, b]) => isLess(a, b)) };
  }
  const { number: of, truth } = values(depth - 1, locals, draws);
  const number = fc.oneof(
    ...leaves,
    fc.tuple(fc.constantFrom(...operators), of, of).map(([operator, a, b]) => binary(operator, a, b)),
    fc.tuple(truth, of, of).map(([test, a, b]) => choose(test, a, b)),
    fc.tuple(fc.constantFrom('min', 'max'), of, of, of).map(([name, a, b, c]) => call(name, a, b, c)),
    fc.tuple(fc.constantFrom('floor', 'ceil', 'round', 'abs'), of).map(([name, a]) => call(name, a)),
    of.map((value): Value => ({ op: 'negative', of: value })),
    of.map((value) => tableAt(table, index(value))),
    of.map((value) => slotAt(1, 4, index(value))),
    ...(draws
      ? leaves.map((leaf) =>
          leaf.map((value): Value => ({ op: 'draw', place: index(value), split: undefined })),
        )
      : []),
    of.map((value) => ask('twice', value)),
  );
  const compared = fc
    .tuple(fc.constantFrom(...comparisons), of, of)
    .map(([operator, a, b]) => binary(operator, a, b));
  const truths = fc.oneof(
    compared,
    truth.map(not),
    fc.tuple(truth, truth).map(([a, b]) => and(a, b)),
    fc.tuple(truth, truth).map(([a, b]) => or(a, b)),
    of.map((value) => isEqual(value, never)),
  );
  return { number, truth: truths };
}

/** Statements, to some depth; `leaving` is a loop that may be left. */
function statements(
  depth: number,
  locals: readonly Local[],
  leaving: Label | undefined,
  draws: boolean,
  counts: readonly Local[] = [],
): fc.Arbitrary<Code> {
  // What counts a loop is read, and never set: it would go round for ever.
  const { number, truth } = values(2, [...locals, ...counts], draws);
  const plain: fc.Arbitrary<Code>[] = [
    fc.tuple(fc.nat(slots - 1), number).map(([at, value]) => [set(slot(at), value)]),
    fc.tuple(fc.nat(slots - 1), number).map(([at, value]) => [add(slot(at), value)]),
    fc.tuple(number, number).map(([at, value]) => [set(slotAt(1, 4, index(at)), value)]),
    fc.tuple(number, number).map(([a, b]) => [tell('probe.noted', a, b)]),
    truth.map((holds) => check(holds, 'failed', 1, slot(0))),
    number.map((value) => [push(value)]),
    ...(locals.length === 0
      ? []
      : [fc.tuple(fc.constantFrom(...locals), number).map(([of, value]) => [assign(of, value)])]),
  ];
  if (depth === 0) return fc.oneof(...plain);
  const inner = (
    more: readonly Local[] = [],
    within = leaving,
    nth: readonly Local[] = [],
  ): fc.Arbitrary<Code> =>
    fc
      .array(statements(depth - 1, [...locals, ...more], within, draws, [...counts, ...nth]), {
        maxLength: 3,
      })
      .map((codes) => codes.flat());
  /** With a variable or label of its own each time. */
  const fresh = <Of>(make: () => Of, use: (of: Of) => fc.Arbitrary<Code>): fc.Arbitrary<Code> =>
    fc.constant(undefined).chain(() => use(make()));
  const cases: fc.Arbitrary<Case[]> = fc.tuple(inner(), inner()).map(([a, b]) => [
    { of: [0, 2], body: a },
    { of: [3], body: b },
  ]);
  return fc.oneof(
    ...plain,
    fc.tuple(truth, inner(), inner()).map(([test, a, b]) => when(test, a, b)),
    fc.tuple(number, cases, inner()).map(([on, of, otherwise]) => select(index(on), of, otherwise)),
    fresh(
      () => local('value'),
      (of) => fc.tuple(number, inner([of])).map(([value, body]) => [declare(of, value), ...body]),
    ),
    fresh(
      () => local('nth'),
      (of) => inner([], leaving, [of]).map((body) => count(of, 0, 3, body)),
    ),
    fresh(
      () => label('around'),
      (of) => inner([], of).map((body) => [loop(of, [...body, leave(of)])]),
    ),
    ...(leaving === undefined ? [] : [truth.map((test) => when(test, [leave(leaving)]))]),
  );
}

const given = local('given');
const seen = local('seen');
const twice = local('number');

/** A whole program: its statements, then each event that was pushed is told. */
const programs = (draws: boolean): fc.Arbitrary<Program> =>
  fc.array(statements(2, [given], undefined, draws), { minLength: 1, maxLength: 5 }).map((codes) => {
    const events = label('events');
    const body: Code = [
      ...codes.flat(),
      declare(seen, 0),
      loop(events, [
        ...when(not({ op: 'pending' }), [leave(events)]),
        tell('probe.noted', { op: 'pop' }),
        assign(seen, plus(get(seen), 1)),
      ]),
      { op: 'rewind' },
      tell('probe.noted', get(seen)),
      give(0),
    ];
    return {
      slots: slots + 4,
      asked: slots,
      functions: new Map([
        ['go', { parameters: [given], body }],
        ['twice', { parameters: [twice], body: [give(plus(get(twice), get(twice)))] }],
      ]),
    };
  });

describe('a program', () => {
  test('does the same printed and interpreted: slots, what is told, and where it fails', () => {
    fc.assert(
      fc.property(programs(true), (program) => {
        expect(interpreted(program)).toEqual(printed(program));
      }),
      runs(1500),
    );
  });

  // What only unfollowed slots ask for is not drawn, so that draws have no place in this.
  test('sliced for some of its slots leaves these as they were, and fails where it failed', () => {
    fc.assert(
      fc.property(programs(false), fc.nat(2 ** slots - 1), (program, followed) => {
        const go = program.functions.get('go')!;
        const isFollowed = (at: number): boolean => (followed & (1 << at)) !== 0 || at > 0;
        const body = sliced(go.body, {
          value: (to, value) => (to.op === 'slotAt' || isFollowed(to.slot) ? value : undefined),
          canFail: () => true,
        });
        const less = { ...program, functions: new Map([...program.functions, ['go', { ...go, body }]]) };
        const [whole, left] = [printed(program), printed(less)];
        // Slot 0 may be left out; where nothing reads it, all else is as it was.
        const readsFirst = JSON.stringify(go.body).match(/"op":"slot","slot":0\}/g) ?? [];
        const setsFirst = JSON.stringify(go.body).match(/"op":"set","slot":\{"op":"slot","slot":0\}/g) ?? [];
        if (!isFollowed(0) && readsFirst.length > setsFirst.length) return;
        expect(left.told).toEqual(whole.told);
        expect(left.slots.slice(1)).toEqual(whole.slots.slice(1));
      }),
      runs(1500),
    );
  });

  test('keeps a check whose amount nobody follows, and drops the amount where it cannot fail', () => {
    const wanted = local('wanted');
    const amount = binary('/', constant(100), slot(1));
    const code: Code = [
      declare(wanted, plus(slot(0), amount)),
      ...check(isLess(get(wanted), 1000), 'failed', get(wanted)),
      set(slot(0), get(wanted)),
      set(slot(1), minus(slot(1), 1)),
    ];
    const follows = (canFail: boolean) =>
      sliced(code, {
        value: (to, value) => (to.op === 'slot' && to.slot === 1 ? value : undefined),
        canFail: () => canFail,
      }).map(({ op }) => op);
    expect(follows(true)).toEqual(['let', 'check', 'set']);
    expect(follows(false)).toEqual(['set']);
  });

  test('has a footprint: what it sets, pushes and checks, variables written out, and under what', () => {
    const changed = local('changed');
    const { writes, pushes } = footprintOf([
      declare(changed, slot(2)),
      ...when(isLess(slot(3), 4), [set(slot(1), plus(slot(1), get(changed))), push(9)]),
    ]);
    expect(writes).toEqual([
      { first: 1, length: 1, value: plus(slot(1), slot(2)), under: [isLess(slot(3), 4)] },
    ]);
    expect(pushes).toEqual([{ event: constant(9), under: [isLess(slot(3), 4)] }]);
  });
});
