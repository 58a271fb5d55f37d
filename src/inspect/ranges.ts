import type { Expression } from '../design/expression.js';
import type { Design } from '../design/model.js';
import { applyFunction, applyOperator } from '../engine/lower-expression.js';

/** Everything that a value can be lies between these two; truth values are 1 and 0. */
export type Range = readonly [number, number];

const anything: Range = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
const truth: Range = [0, 1];

/**
 * The range of an expression, from those of the names in it (interval arithmetic; Moore, "Interval Analysis", 1966): never
 * less than all that it can give, and often more, since names that stand twice are taken for different ones.
 */
export function rangeOf(expression: Expression, design: Design): Range {
  const of = (part: Expression): Range => rangeOf(part, design);
  switch (expression.kind) {
    case 'number':
      return [expression.value, expression.value];
    case 'truth':
      return expression.value ? [1, 1] : [0, 0];
    case 'counter': {
      const counter = design.counters.find(({ name }) => name === expression.name)!;
      return [counter.min, counter.max];
    }
    case 'dial': {
      const { value } = design.dials.find(({ name }) => name === expression.name)!;
      return [value, value];
    }
    case 'level':
      return [1, design.levels.at(-1)!.endless ? Number.POSITIVE_INFINITY : design.levels.length];
    case 'lastLevel':
      return truth;
    case 'levelValue':
      return union(
        design.levels.map((level, index) => {
          const value = level.values.get(expression.name)!;
          return rangeOf(value, {
            ...design,
            levels: level.endless ? design.levels : design.levels.slice(0, index + 1),
          });
        }),
      );
    case 'present':
    case 'left':
    case 'timer':
    case 'course':
      return [0, Number.POSITIVE_INFINITY];
    case 'cell':
      return anything;
    case 'negative': {
      const [least, most] = of(expression.of);
      return [-most, -least];
    }
    case 'not': {
      const [least, most] = of(expression.of);
      return [1 - most, 1 - least];
    }
    case 'choose': {
      const [least, most] = of(expression.test);
      if (least === 1) return of(expression.yes);
      return most === 0 ? of(expression.no) : union([of(expression.yes), of(expression.no)]);
    }
    case 'call': {
      const parts = expression.of.map(of);
      if (expression.name === 'abs') {
        const [least, most] = parts[0]!;
        return [least > 0 ? least : most < 0 ? -most : 0, Math.max(Math.abs(least), Math.abs(most))];
      }
      // All others grow with each of their parts.
      return [0, 1].map((end) =>
        applyFunction(
          expression.name,
          parts.map((part) => part[end as 0 | 1]),
        ),
      ) as unknown as Range;
    }
    case 'binary':
      return binaryRange(expression.operator, of(expression.left), of(expression.right));
  }
}

function binaryRange(
  operator: Extract<Expression, { kind: 'binary' }>['operator'],
  left: Range,
  right: Range,
): Range {
  switch (operator) {
    case '+':
      return [left[0] + right[0], left[1] + right[1]];
    case '-':
      return [left[0] - right[1], left[1] - right[0]];
    case '*':
    case '/': {
      if (operator === '/' && right[0] <= 0 && right[1] >= 0) return anything;
      const ends = left.flatMap((a) => right.map((b) => applyOperator(operator, a, b)));
      // 0 times what has no bound may be anything between.
      return ends.some(Number.isNaN) ? anything : [Math.min(...ends), Math.max(...ends)];
    }
    case '%':
      return anything;
    case 'and':
      return [Math.min(left[0], right[0]), Math.min(left[1], right[1])];
    case 'or':
      return [Math.max(left[0], right[0]), Math.max(left[1], right[1])];
    case '<':
    case '<=':
      return [applyOperator(operator, left[1], right[0]), applyOperator(operator, left[0], right[1])];
    case '>':
    case '>=':
      return [applyOperator(operator, left[0], right[1]), applyOperator(operator, left[1], right[0])];
    case '==':
    case '!=': {
      const areApart = left[1] < right[0] || right[1] < left[0];
      const areOne = left[0] === left[1] && right[0] === right[1] && left[0] === right[0];
      const isEqual: Range = areApart ? [0, 0] : areOne ? [1, 1] : truth;
      return operator === '==' ? isEqual : [1 - isEqual[1], 1 - isEqual[0]];
    }
  }
}

const union = (ranges: readonly Range[]): Range => [
  Math.min(...ranges.map(([least]) => least)),
  Math.max(...ranges.map(([, most]) => most)),
];
