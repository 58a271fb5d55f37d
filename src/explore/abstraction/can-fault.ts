import type { Form, Term } from '../../engine/program/form.js';
import { visitTerm } from '../../engine/program/lower-expression.js';
import { rangeOf } from './ranges.js';

/** Whether working out a term may divide by zero, which ends a session. */
export function canFault(term: Term, form: Form): boolean {
  let found = false;
  visitTerm(term, (part) => {
    if (part.op !== 'binary' || (part.operator !== '/' && part.operator !== '%')) return;
    const [least, most] = rangeOf(part.right, form);
    // What may be anything may be 0.
    if (!(least > 0 || most < 0)) found = true;
  });
  return found;
}
