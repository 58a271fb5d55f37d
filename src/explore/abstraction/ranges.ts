import type { Expression } from '../../design/language/expression.js';
import { withParts } from '../../design/language/expression-parts.js';
import type { Computed, Counter, Design, Level } from '../../design/model.js';
import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { heldDuration } from '../../engine/program/lower/lowering.js';
import { type Range, rangeOf } from '../../engine/program/ranges.js';

/** The range of an expression of a design, or of a number: never less than all that it can give. */
export function rangeIn(design: Design, of: Computed): Range {
  if (typeof of === 'number') return [of, of];
  const form = formOf(design);
  return rangeOf(term(new Build(form, {}), form.lowerTerm(of)), form);
}

/** Whether an expression is surely more where a counter or a timer holds one number than where it holds another. */
export function isMoreAt(
  design: Design,
  of: Expression,
  what: { readonly kind: 'counter' | 'timer'; readonly name: string },
  value: number,
  than: number,
): boolean {
  const [more, less] = [value, than].map((each) =>
    rangeIn(
      design,
      withParts(of, (part) =>
        part.kind === what.kind && part.name === what.name ? { kind: 'number', value: each } : undefined,
      ),
    ),
  ) as [Range, Range];
  return more[0] > less[0] && more[1] > less[1];
}

/** An expression as it is on one level, from 0; that past the end of the list reads its number still. */
export function onLevel(design: Design, expression: Expression, index: number): Expression {
  return design.levels[index]!.endless ? expression : atLevel(design, expression, index + 1);
}

/** The level of a number, from 1; past the end of the list it is the last. */
export const levelAt = ({ levels }: Design, nth: number): Level => levels[Math.min(nth, levels.length) - 1]!;

/** An expression as it is on the level of a number, from 1. */
export function atLevel(design: Design, expression: Expression, nth: number): Expression {
  const level = levelAt(design, nth);
  const number: Expression = { kind: 'number', value: nth };
  return withParts(expression, (part) => {
    if (part.kind === 'level') return number;
    if (part.kind !== 'levelValue') return undefined;
    return withParts(level.values.get(part.name)!, ({ kind }) => (kind === 'level' ? number : undefined));
  });
}

/** The bounds of a counter; of one that is computed, the widest that it can be. */
export function boundsOf(
  design: Design,
  { name, places }: Counter,
): { readonly min: number; readonly max: number } {
  const { min, max } = formOf(design).counters.find((each) => each.name === name)!;
  return { min: min / 10 ** places, max: max / 10 ** places };
}

/** The shortest that something can last, in milliseconds, where its seconds may be computed. */
export function leastDuration(design: Design, of: Computed): number {
  if (typeof of === 'number') return of;
  const [least] = rangeIn(design, of);
  return least > 0 ? heldDuration(least) : 0;
}
