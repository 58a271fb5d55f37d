import { visitValue } from '../../engine/compile/footprint.js';
import type { Value } from '../../engine/compile/representation.js';
import type { Form } from '../../engine/program/form.js';
import { rangeOf } from '../../engine/program/ranges.js';

/** Whether working out a value may divide by zero, which ends a session where it is checked. */
export function canFault(value: Value, form: Form): boolean {
  let found = false;
  visitValue(value, (part) => {
    if (part.op !== 'binary' || (part.operator !== '/' && part.operator !== '%')) return;
    const [least, most] = rangeOf(part.right, form);
    // What may be anything may be 0.
    if (!(least > 0 || most < 0)) found = true;
  });
  return found;
}
