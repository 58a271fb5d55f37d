import type { Transition } from '../model.js';
import { showExpression } from './expression-parts.js';

/** What makes a transition go, as a designer would write it: `when input.start`, `if lives == 0`, `wait 2`. */
export function showTrigger({ heard, condition, wait }: Transition): string {
  const parts = [
    ...(heard.length === 0 ? [] : [`when ${heard.join(' or ')}`]),
    ...(condition === undefined ? [] : [`if ${showExpression(condition)}`]),
    ...(wait === 0 ? [] : [`wait ${wait / 1000}`]),
  ];
  return parts.join(', ');
}
