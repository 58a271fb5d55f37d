import type { Expression } from '../../../design/language/expression.js';
import type { Counter } from '../../../design/model.js';

/** An amount as a counter's cell holds it: decimals scaled up, a flag as 1 or 0. */
export function inCells(amount: Expression, kind: Counter['kind'], places: number): Expression {
  const number = (value: number): Expression => ({ kind: 'number', value });
  if (kind === 'flag') return { kind: 'choose', test: amount, yes: number(1), no: number(0) };
  return places === 0 ? amount : { kind: 'binary', operator: '*', left: amount, right: number(10 ** places) };
}

/** What is paid is rounded before it is taken away, so that what can be afforded is what is paid. */
export const rounded = (amount: Expression): Expression => ({ kind: 'call', name: 'round', of: [amount] });
