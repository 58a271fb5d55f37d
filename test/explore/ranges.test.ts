import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Expression } from '../../src/design/language/expression.js';
import { formOf } from '../../src/engine/program/lower/lower.js';
import { Evaluator } from '../../src/engine/run/evaluator.js';
import { rangeIn } from '../../src/explore/abstraction/ranges.js';
import { readDesign } from '../../src/index.js';
import { runs } from '../support/runs.js';

const design = readDesign(`
dials: { petal: { value: 3 } }
counters: { a: { min: -2, max: 5 }, b: { min: 0, max: 9 }, flag: { start: true } }
pieces: { wasp: { is: hazard } }
timers: { dusk: { countdown: 9 } }
levels: [{ values: { quota: 4 } }, { values: { quota: 2 * level } }, { values: { quota: 9 } }]
rules: [{ when: wasp.hit, do: [{ add: { a: 1 } }] }]
`);
const form = formOf(design);

const number: fc.Memo<Expression> = fc.memo((depth) =>
  depth <= 1
    ? fc.oneof(
        fc.integer({ min: -4, max: 9 }).map((value): Expression => ({ kind: 'number', value })),
        fc.constantFrom<Expression>(
          { kind: 'counter', name: 'a' },
          { kind: 'counter', name: 'b' },
          { kind: 'dial', name: 'petal' },
          { kind: 'level' },
          { kind: 'levelValue', name: 'quota' },
          { kind: 'present', name: 'wasp' },
          { kind: 'timer', name: 'dusk' },
        ),
      )
    : fc.oneof(
        fc.tuple(fc.constantFrom('+', '-', '*', '/', '%'), number(depth - 1), number(depth - 1)).map(
          ([operator, left, right]): Expression => ({
            kind: 'binary',
            operator: operator as '+',
            left,
            right,
          }),
        ),
        fc
          .tuple(fc.constantFrom('min', 'max'), number(depth - 1), number(depth - 1))
          .map(([name, one, other]): Expression => ({ kind: 'call', name: name as 'min', of: [one, other] })),
        fc
          .tuple(fc.constantFrom('abs', 'floor', 'ceil', 'round'), number(depth - 1))
          .map(([name, of]): Expression => ({ kind: 'call', name: name as 'abs', of: [of] })),
        number(depth - 1).map((of): Expression => ({ kind: 'negative', of })),
        fc
          .tuple(truth(depth - 1), number(depth - 1), number(depth - 1))
          .map(([test, yes, no]): Expression => ({ kind: 'choose', test, yes, no })),
      ),
);
const truth: fc.Memo<Expression> = fc.memo((depth) =>
  depth <= 1
    ? fc.constantFrom<Expression>(
        { kind: 'counter', name: 'flag' },
        { kind: 'lastLevel' },
        { kind: 'truth', value: true },
      )
    : fc.oneof(
        fc.tuple(fc.constantFrom('<', '<=', '>', '>=', '==', '!='), number(depth - 1), number(depth - 1)).map(
          ([operator, left, right]): Expression => ({
            kind: 'binary',
            operator: operator as '<',
            left,
            right,
          }),
        ),
        fc.tuple(fc.constantFrom('and', 'or'), truth(depth - 1), truth(depth - 1)).map(
          ([operator, left, right]): Expression => ({
            kind: 'binary',
            operator: operator as 'and',
            left,
            right,
          }),
        ),
        truth(depth - 1).map((of): Expression => ({ kind: 'not', of })),
      ),
);

describe('the range of an expression', () => {
  test('holds every value that it can have', () => {
    const values = fc.record({
      a: fc.integer({ min: -2, max: 5 }),
      b: fc.integer({ min: 0, max: 9 }),
      flag: fc.boolean(),
      level: fc.integer({ min: 0, max: 2 }),
      wasps: fc.integer({ min: 0, max: 4 }),
      due: fc.oneof(fc.integer({ min: 0, max: 9000 }), fc.constant(Number.POSITIVE_INFINITY)),
    });
    fc.assert(
      fc.property(fc.oneof(number(4), truth(4)), values, (expression, { a, b, flag, level, wasps, due }) => {
        const cells = new Float64Array(form.cells.size);
        const at = form.cells;
        cells.set([a, b, flag ? 1 : 0], at.counters);
        cells[at.level] = level;
        cells[at.present] = wasps;
        cells[at.timers] = due;
        const terms = new Evaluator(form, cells);
        const value = terms.value(terms.add(form.lowerTerm(expression)));
        const [least, most] = rangeIn(design, expression);
        // What is no number, such as 0 / 0, is nowhere.
        if (Number.isNaN(value) || Number.isNaN(least) || Number.isNaN(most)) return;
        expect(value).toBeGreaterThanOrEqual(least);
        expect(value).toBeLessThanOrEqual(most);
      }),
      runs(3000),
    );
  });

  test('is as narrow as its parts allow where each name stands once', () => {
    const of = (expression: Expression) => rangeIn(design, expression);
    const a: Expression = { kind: 'counter', name: 'a' };
    const three: Expression = { kind: 'number', value: 3 };
    expect(of({ kind: 'binary', operator: '*', left: a, right: three })).toEqual([-6, 15]);
    expect(of({ kind: 'binary', operator: '>', left: a, right: { kind: 'number', value: 5 } })).toEqual([
      0, 0,
    ]);
    expect(of({ kind: 'binary', operator: '<=', left: a, right: { kind: 'number', value: 5 } })).toEqual([
      1, 1,
    ]);
    expect(of({ kind: 'call', name: 'abs', of: [a] })).toEqual([0, 5]);
    expect(of({ kind: 'levelValue', name: 'quota' })).toEqual([4, 9]);
  });
});
