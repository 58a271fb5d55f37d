import type { BinaryOperator, Expression } from '../../design/language/expression.js';
import type { Design } from '../../design/model.js';
import { applyCall, applyOperator } from '../../engine/compile/representation.js';
import type { Form, Term } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower.js';

/** Everything that a value can be lies between these two; truth values are 1 and 0. Not a number: it may be anything, or nothing. */
export type Range = readonly [number, number];

const unknown: Range = [Number.NaN, Number.NaN];
const isUnknown = (range: Range): boolean => range.some(Number.isNaN);
const truth: Range = [0, 1];

/**
 * The range of a term, from those of the parts of the state that it reads (interval arithmetic; Moore, "Interval Analysis",
 * 1966): never less than all that it can give, and often more, since what stands twice is taken for two different things.
 */
export function rangeOf(term: Term, form: Form): Range {
  const of = (part: Term): Range => rangeOf(part, form);
  switch (term.op) {
    case 'constant':
    case 'dial':
      return [term.value, term.value];
    case 'truth':
      return term.value ? [1, 1] : [0, 0];
    case 'counter': {
      const { min, max } = form.counters[term.counter]!;
      return [min, max];
    }
    case 'level':
      return [1, form.endless ? Number.POSITIVE_INFINITY : form.levels.length];
    case 'lastLevel':
      return truth;
    case 'levelValue':
      return union(form.levelTables[term.table]!.map((value) => [value, value]));
    case 'present':
    case 'left':
    case 'timer':
    case 'course':
      return [0, Number.POSITIVE_INFINITY];
    case 'negative': {
      const [least, most] = of(term.of);
      return [-most, -least];
    }
    case 'not': {
      const [least, most] = of(term.of);
      return [1 - most, 1 - least];
    }
    case 'choose': {
      const [least, most] = of(term.test);
      if (least === 1) return of(term.yes);
      return most === 0 ? of(term.no) : union([of(term.yes), of(term.no)]);
    }
    case 'call': {
      const parts = term.of.map(of);
      if (parts.some(isUnknown)) return unknown;
      if (term.name === 'abs') {
        const [least, most] = parts[0]!;
        return [least > 0 ? least : most < 0 ? -most : 0, Math.max(Math.abs(least), Math.abs(most))];
      }
      // All others grow with each of their parts.
      return [0, 1].map((end) =>
        applyCall(
          term.name,
          parts.map((part) => part[end as 0 | 1]),
        ),
      ) as unknown as Range;
    }
    case 'binary':
      return binaryRange(term.operator, of(term.left), of(term.right));
  }
}

/** The same for an expression of a design. */
export function rangeIn(design: Design, expression: Expression): Range {
  const form = formOf(design);
  return rangeOf(form.lowerTerm(expression), form);
}

function binaryRange(operator: BinaryOperator, left: Range, right: Range): Range {
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
    case '%':
      return unknown;
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

/** Without a bound on either side, a sum may be nothing at all. */
const known = (least: number, most: number): Range =>
  Number.isNaN(least) || Number.isNaN(most) ? unknown : [least, most];

const union = (ranges: readonly Range[]): Range => [
  Math.min(...ranges.map(([least]) => least)),
  Math.max(...ranges.map(([, most]) => most)),
];
