import type { BinaryOperator, Expression } from '../../design/language/expression.js';
import { readsAny, showExpression } from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import { onLevel, rangeIn } from '../../explore/abstraction/ranges.js';

/** A part of a condition that is known to hold, or not to, wherever something is asked. */
export interface Known {
  readonly part: Expression;
  readonly holds: boolean;
}

/** An end of a stretch of numbers, just past it where it is not part of it: -1 below, 1 above. */
export interface End {
  readonly at: number;
  readonly past: -1 | 0 | 1;
}
export const isAfter = (one: End, other: End): boolean =>
  one.at > other.at || (one.at === other.at && one.past > other.past);
export const isBefore = (one: End, other: End): boolean => isAfter(other, one);

export const opposite: { readonly [Operator in BinaryOperator]?: BinaryOperator } = {
  '<': '>=',
  '<=': '>',
  '>': '<=',
  '>=': '<',
  '==': '!=',
  '!=': '==',
};

/** Between which numbers something lies where a comparison of it with one number comes out as it does; undefined where it is no such. */
export function stretchOf(
  design: Design,
  level: number,
  { part, holds }: Known,
): { readonly of: string; readonly from: End; readonly to: End } | undefined {
  if (part.kind !== 'binary' || readsAny(part, ['dial'])) return undefined;
  const operator = holds ? part.operator : opposite[part.operator];
  const [least, most] = rangeIn(design, onLevel(design, part.right, level));
  if (least !== most) return undefined;
  const of = showExpression(part.left);
  const end = (past: End['past']): End => ({ at: least, past });
  const [lowest, highest]: End[] = [
    { at: Number.NEGATIVE_INFINITY, past: 0 },
    { at: Number.POSITIVE_INFINITY, past: 0 },
  ];
  switch (operator) {
    case '<':
      return { of, from: lowest!, to: end(-1) };
    case '<=':
      return { of, from: lowest!, to: end(0) };
    case '>':
      return { of, from: end(1), to: highest! };
    case '>=':
      return { of, from: end(0), to: highest! };
    case '==':
      return { of, from: end(0), to: end(0) };
    default:
      return undefined;
  }
}
