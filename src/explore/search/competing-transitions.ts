import type { Duration, Form, Term } from '../../engine/program/form.js';

/** A later transition of the same screen that could go at the same moment. */
export interface Rival {
  readonly index: number;
  readonly condition: Term | undefined;
  readonly wait: Duration;
}

export function competingTransitions(form: Form, taken: number): Rival[] {
  const { transitions } = form.design;
  const own = transitions[taken];
  if (own === undefined) return [];
  return form.transitions.flatMap(({ from, condition, wait }, index): Rival[] => {
    const other = transitions[index];
    if (other === undefined || index <= taken || from !== form.transitions[taken]!.from) return [];
    const isAtOnce =
      other.heard.length === 0
        ? own.heard.length === 0
        : other.events.some((event) => own.events.includes(event));
    return isAtOnce ? [{ index, condition, wait }] : [];
  });
}
