import { applyCall, applyOperator, type Operator, type Value } from '../compile/representation.js';
import type { Form } from './form.js';

/** Everything that a value can be lies between these two; truth values are 1 and 0. Not a number: it may be anything, or nothing. */
export type Range = readonly [number, number];

const unknown: Range = [Number.NaN, Number.NaN];
const isUnknown = (range: Range): boolean => range.some(Number.isNaN);
const truth: Range = [0, 1];
const anyCount: Range = [0, Number.POSITIVE_INFINITY];

/**
 * The range of a value, from those of the slots that it reads (interval arithmetic; Moore, "Interval Analysis", 1966): never less than all
 * that it can give, and often more, since what stands twice is taken for two different things.
 */
export function rangeOf(value: Value, form: Form): Range {
  const of = (part: Value): Range => rangeOf(part, form);
  switch (value.op) {
    case 'constant':
    case 'dial':
      return [value.value, value.value];
    case 'truth':
      return value.value ? [1, 1] : [0, 0];
    case 'never':
      return [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
    case 'slot':
      return rangeOfCell(value.slot, form);
    case 'slotAt':
      return anyCount;
    case 'table':
      return union(value.table.values.map((each) => [each, each]));
    case 'negative': {
      const [least, most] = of(value.of);
      return [-most, -least];
    }
    case 'not': {
      const [least, most] = of(value.of);
      return [1 - most, 1 - least];
    }
    case 'choose': {
      if (isTimerLeft(value, form)) return anyCount;
      const [least, most] = of(value.test);
      if (least === 1) return of(value.yes);
      return most === 0 ? of(value.no) : union([of(value.yes), of(value.no)]);
    }
    case 'call': {
      const parts = value.of.map(of);
      if (parts.some(isUnknown)) return unknown;
      if (value.name === 'abs') {
        const [least, most] = parts[0]!;
        return [least > 0 ? least : most < 0 ? -most : 0, Math.max(Math.abs(least), Math.abs(most))];
      }
      // All others grow with each of their parts.
      return [0, 1].map((end) =>
        applyCall(
          value.name,
          parts.map((part) => part[end as 0 | 1]),
        ),
      ) as unknown as Range;
    }
    case 'binary':
      if (isStillToCome(value, form)) return anyCount;
      return binaryRange(value.operator, of(value.left), of(value.right));
    default:
      return unknown;
  }
}

function rangeOfCell(cell: number, { cells, counters, levels, endless }: Form): Range {
  const counter = counters[cell - cells.counters];
  if (counter !== undefined) return [counter.min, counter.max];
  if (cell === cells.level) return [0, endless ? Number.POSITIVE_INFINITY : levels.length - 1];
  return anyCount;
}

/** Whether a value is the seconds that a timer has left, which it gives as one value of several parts. */
export const isTimerLeft = (value: Value, { cells, timers }: Form): boolean =>
  value.op === 'choose' &&
  value.test.op === 'binary' &&
  value.test.right.op === 'never' &&
  value.test.left.op === 'slot' &&
  value.test.left.slot >= cells.timers &&
  value.test.left.slot < cells.timers + timers.length;

/** How many a spawn has still to make: it never makes more than its total. */
const isStillToCome = ({ operator, right }: Extract<Value, { op: 'binary' }>, { cells }: Form): boolean =>
  operator === '-' && right.op === 'slot' && right.slot >= cells.spawnMade && right.slot < cells.course;

function binaryRange(operator: Operator, left: Range, right: Range): Range {
  // A comparison with what is no number is false, whatever it is compared with.
  if (isUnknown(left) || isUnknown(right)) return '+-*/%'.includes(operator) ? unknown : truth;
  switch (operator) {
    case '+':
      return known(left[0] + right[0], left[1] + right[1]);
    case '-':
      return known(left[0] - right[1], left[1] - right[0]);
    case '*':
    case '/': {
      if (operator === '/' && right[0] <= 0 && right[1] >= 0) return unknown;
      const ends = left.flatMap((a) => right.map((b) => applyOperator(operator, a, b)));
      // 0 times what has no bound may be anything between.
      return ends.some(Number.isNaN) ? unknown : [Math.min(...ends), Math.max(...ends)];
    }
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
    default:
      return unknown;
  }
}

/** Without a bound on either side, a sum may be nothing at all. */
const known = (least: number, most: number): Range =>
  Number.isNaN(least) || Number.isNaN(most) ? unknown : [least, most];

const union = (ranges: readonly Range[]): Range => [
  Math.min(...ranges.map(([least]) => least)),
  Math.max(...ranges.map(([, most]) => most)),
];
