import type { Expression } from '../design/language/expression.js';
import type { Design, Rule } from '../design/model.js';
import { outcomesOf } from './played-for.js';

/** The rules, and transitions that stay on their screen and begin nothing afresh, which do the same as a rule there: what is bought in a shop. */
export const deedsOf = ({ rules, transitions }: Design): readonly Rule[] => [
  ...rules,
  ...transitions.flatMap(({ from, to, fresh, level, wait, events, heard, condition, effects, place }) =>
    from !== to || fresh !== undefined || level !== undefined || wait !== 0 || effects.length === 0
      ? []
      : [
          {
            name: `${from} -> ${to}${heard.length === 0 ? '' : ` on ${heard.join(', ')}`}`,
            screens: [from],
            ...{ heard, events, condition, effects, place },
            ...{ rest: 0, chance: 1, once: undefined, passes: undefined, healthOf: undefined },
          },
        ],
  ),
];

/** What has to hold of each piece before anything happens to it, where a rule hears nothing but outcomes of pieces that need something. */
export function neededFor({ pieces }: Design, { events }: Pick<Rule, 'events'>): readonly Expression[] {
  const needs = events.flatMap(
    (event) => pieces.find((piece) => outcomesOf(piece).includes(event))?.needs ?? [],
  );
  return needs.length === events.length ? needs : [];
}
