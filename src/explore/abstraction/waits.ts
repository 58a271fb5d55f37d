import type { Duration, Form } from '../../engine/program/form.js';
import { visitTerm } from '../../engine/program/lower/lower-expression.js';
import { heldDuration } from '../../engine/program/lower/lowering.js';
import { Evaluator } from '../../engine/run/evaluator.js';

/** The waits of each screen on each level of the list, in milliseconds, shortest first: `[screen][level]`. */
export interface Waits {
  readonly on: readonly (readonly (readonly number[])[])[];
  /** Whether a wait changes with the number of a level where there is no last one, so that not all of them are known. */
  readonly isOpen: boolean;
}

const known = new WeakMap<Form['transitions'], Waits>();

/** All that the waits of a form can be. Those that are computed read nothing but dials and what belongs to the level. */
export function waitsOf(form: Form): Waits {
  const found = known.get(form.transitions) ?? workedOut(form);
  known.set(form.transitions, found);
  return found;
}

function workedOut(form: Form): Waits {
  const { screens, levels, transitions, cells, endless } = form;
  const state = new Float64Array(cells.size);
  const evaluator = new Evaluator(form, state);
  const waits = transitions.map(({ from, wait }) => ({ from, on: inMilliseconds(evaluator, wait) }));
  const on = screens.map((_, screen) =>
    levels.map((__, level) => {
      state[cells.level] = level;
      const own = waits.flatMap((each) => (each.from === screen ? [each.on()] : []));
      return [...new Set(own)].filter((wait) => wait > 0).sort((a, b) => a - b);
    }),
  );
  let readsLevel = false;
  for (const { wait } of transitions)
    if (typeof wait === 'object') visitTerm(wait, ({ op }) => (readsLevel ||= op === 'level'));
  return { on, isOpen: endless && readsLevel };
}

/** A duration as it is in the state of an evaluator, each time it is asked for. */
export function inMilliseconds(evaluator: Evaluator, of: Duration): () => number {
  if (typeof of === 'number') return () => of;
  const index = evaluator.add(of);
  return () => heldDuration(evaluator.value(index));
}
