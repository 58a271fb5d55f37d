import type { Expression } from '../../../design/language/expression.js';
import type { Counter } from '../../../design/model.js';
import { longestTimer } from '../form.js';

/** An amount as a counter's cell holds it: decimals scaled up, a flag as 1 or 0. */
export function inCells(amount: Expression, kind: Counter['kind'], places: number): Expression {
  const number = (value: number): Expression => ({ kind: 'number', value });
  if (kind === 'flag') return { kind: 'choose', test: amount, yes: number(1), no: number(0) };
  return places === 0 ? amount : { kind: 'binary', operator: '*', left: amount, right: number(10 ** places) };
}

/** Computed seconds as they are held: whole milliseconds, at least one and at most a day; what is no number is one. */
export function heldSeconds(seconds: Expression): Expression {
  const number = (value: number): Expression => ({ kind: 'number', value });
  const whole = rounded({ kind: 'binary', operator: '*', left: seconds, right: number(1000) });
  const held: Expression = {
    kind: 'choose',
    test: { kind: 'binary', operator: '>', left: whole, right: number(1) },
    yes: { kind: 'call', name: 'min', of: [whole, number(longestTimer)] },
    no: number(1),
  };
  return { kind: 'binary', operator: '/', left: held, right: number(1000) };
}

/** What is paid is rounded before it is taken away, so that what can be afforded is what is paid. */
export const rounded = (amount: Expression): Expression => ({ kind: 'call', name: 'round', of: [amount] });
