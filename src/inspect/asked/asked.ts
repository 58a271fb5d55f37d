import type { Expression } from '../../design/language/expression.js';
import type { Design, Effect } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { writtenRules } from '../uses.js';

/** A transition or a rule, as something that asks for a condition. */
export interface Asked {
  readonly what: string;
  /** Where its condition stands. */
  readonly path: readonly (string | number)[];
  /** On which screens it is asked. */
  readonly screens: readonly string[];
  /** Where it leads; undefined: it is a rule. */
  readonly to: string | undefined;
  readonly events: readonly string[];
  readonly condition: Expression | undefined;
  readonly effects: readonly Effect[];
  readonly place: Place;
}

export const askedIn = (design: Design): Asked[] => [
  ...design.transitions.map(({ from, to, events, condition, effects, index, place }) => ({
    what: `${from} -> ${to}`,
    path: ['transitions', index, 'if'],
    screens: [from],
    to,
    events,
    condition,
    effects,
    place,
  })),
  ...writtenRules(design).map(({ name, screens, events, condition, effects, place }, index) => ({
    what: name,
    path: ['rules', index, 'if'],
    screens,
    to: undefined,
    events,
    condition,
    effects,
    place,
  })),
];
