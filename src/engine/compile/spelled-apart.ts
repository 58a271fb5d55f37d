import { binary, call, constant, type Value } from './representation.js';

const allDraws = constant(2 ** 32);

/** Which of so many equal parts a draw falls into, a whole number from 0: `choose` of `run/draw.ts`. */
export const nthOf = (drawn: Value, choices: Value): Value =>
  call('floor', binary('/', binary('*', drawn, choices), allDraws));

/** What `nthOf` was made of, where the parts are fewer than 2^16: two halves of a word, multiplied apart, do without fractions. */
export function fewParts(value: Value): { readonly drawn: Value; readonly choices: Value } | undefined {
  if (value.op !== 'call' || value.of[0]?.op !== 'binary' || value.of[0].right !== allDraws) return undefined;
  const { left: drawn, right: choices } = value.of[0].left as Extract<Value, { op: 'binary' }>;
  const counts =
    choices.op === 'table' ? choices.table.values : choices.op === 'constant' ? [choices.value] : [Infinity];
  return counts.every((count) => count < 2 ** 16) ? { drawn, choices } : undefined;
}

/** Whether a value is made of numbers and dials alone, and so is the same all through a session. */
export function isFixed(value: Value): boolean {
  switch (value.op) {
    case 'constant':
    case 'truth':
    case 'never':
    case 'dial':
      return true;
    case 'negative':
    case 'not':
      return isFixed(value.of);
    case 'binary':
      return isFixed(value.left) && isFixed(value.right);
    case 'choose':
      return isFixed(value.test) && isFixed(value.yes) && isFixed(value.no);
    case 'call':
      return value.of.every(isFixed);
    default:
      return false;
  }
}
