import type { Computed, Design, Transition } from '../model.js';
import { conjunctsOf, showExpression } from './expression-parts.js';

/** Seconds as a designer would write them. */
export const showSeconds = (of: Computed): string =>
  typeof of === 'number' ? String(of / 1000) : showExpression(of);

/** What makes a transition go, as a designer would write it: `when input.start`, `if lives == 0`, `wait 2`. */
export function showTrigger({ heard, condition, wait }: Transition): string {
  const parts = [
    ...(heard.length === 0 ? [] : [`when ${heard.join(' or ')}`]),
    ...(condition === undefined ? [] : [`if ${showExpression(condition)}`]),
    ...(wait === 0 ? [] : [`wait ${showSeconds(wait)}`]),
  ];
  return parts.join(', ');
}

/** Whether a transition is taken on the last level alone. */
export const isForLastLevel = ({ condition }: Transition): boolean =>
  conjunctsOf(condition).some(({ kind }) => kind === 'lastLevel');

/** A transition by its screens, and where another leads the same way, by what makes it go as well. */
export function transitionName({ transitions }: Pick<Design, 'transitions'>, index: number): string {
  const own = transitions[index]!;
  const name = `${own.from} -> ${own.to}`;
  const isOne = transitions.every((each) => each === own || each.from !== own.from || each.to !== own.to);
  return isOne ? name : `${name} (${showTrigger(own)})`;
}
