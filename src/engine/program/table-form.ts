import type { Terms } from '../compile/evaluator.js';
import type { EffectForm, Form, Handler, Term, WriteForm } from './form.js';

/** What has to hold for a transition. */
export interface Guard {
  readonly transition: number;
  readonly condition: number;
  readonly wait: number;
}

/** A rule, for the loop: every one of the same shape, and its condition the number of a term or -1. */
export interface TableRule {
  readonly index: number;
  readonly condition: number;
  /** Whether neither a rest nor a mark of having fired can ever silence it. */
  readonly isAlwaysOpen: boolean;
  readonly rest: number;
  readonly restCell: number;
  readonly onceCell: number;
  readonly draw: number;
  readonly threshold: number;
  readonly effects: readonly TableEffect[];
}

/** What an event sets off on a screen. */
export interface TableHandler {
  readonly rules: readonly TableRule[];
  readonly guards: readonly Guard[];
  readonly isQuiet: boolean;
}

/** A write whose amount is the number of a term. */
export interface TableWrite {
  readonly counter: number;
  readonly cell: number;
  readonly adds: boolean;
  readonly rounds: boolean;
  readonly amount: number;
  readonly min: number;
  readonly max: number;
}

/** What an effect does. */
export const ops = {
  write: 0,
  cue: 1,
  grace: 2,
  spawn: 3,
  clear: 4,
  timerWrite: 5,
  timerStart: 6,
  timerStop: 7,
  become: 8,
  emit: 9,
  popup: 10,
} as const;

/** An effect: every one of the same shape, so that the loop stays quick. */
export interface TableEffect {
  readonly op: (typeof ops)[keyof typeof ops];
  /** The piece, timer, event, popup or cue that it is about; for a grace, its milliseconds. */
  readonly of: number;
  /** The piece that one becomes. */
  readonly to: number;
  readonly adds: boolean;
  /** The term of how many, or of how long. */
  readonly amount: number;
  readonly writes: readonly TableWrite[];
}

function tableEffect(
  op: TableEffect['op'],
  { of = -1, to = -1, adds = false, amount = -1, writes = [] }: Partial<TableEffect>,
): TableEffect {
  return { op, of, to, adds, amount, writes };
}

/** What a form is to the loop over tables: its terms stand in `terms`, and things of one kind are of one shape. */
export interface Tables {
  /** By counter, the term that it starts at. */
  readonly starts: readonly number[];
  readonly rules: readonly TableRule[];
  readonly transitionEffects: readonly (readonly TableEffect[])[];
  /** By screen and event; null: it sets nothing off there. */
  readonly handlers: readonly (TableHandler | null)[];
  /** By screen, those of the transitions without a `when`. */
  readonly conditionGuards: readonly (readonly Guard[])[];
}

export function tablesOf(form: Form, terms: Terms): Tables {
  const compile = (term: Term | undefined): number => (term === undefined ? -1 : terms.add(term));
  const starts = form.counters.map(({ start }) => terms.add(start));
  const guards = form.transitions.map(
    ({ condition, wait }, transition): Guard => ({ transition, condition: compile(condition), wait }),
  );
  const compileWrite = ({ counter, adds, rounds, amount }: WriteForm): TableWrite => {
    const { min, max } = form.counters[counter]!;
    return {
      counter,
      cell: form.cells.counters + counter,
      adds,
      rounds,
      amount: terms.add(amount),
      min,
      max,
    };
  };
  const compileEffect = (effect: EffectForm): TableEffect => {
    const op = ops[effect.op];
    switch (effect.op) {
      case 'write':
        return tableEffect(op, { writes: effect.writes.map(compileWrite) });
      case 'spawn':
        return tableEffect(op, { of: effect.piece, amount: terms.add(effect.count) });
      case 'timerWrite':
        return tableEffect(op, { of: effect.timer, adds: effect.adds, amount: terms.add(effect.amount) });
      case 'clear':
        return tableEffect(op, { of: effect.piece });
      case 'timerStart':
      case 'timerStop':
        return tableEffect(op, { of: effect.timer });
      case 'become':
        return tableEffect(op, { of: effect.from, to: effect.to });
      case 'emit':
        return tableEffect(op, { of: effect.event });
      case 'popup':
        return tableEffect(op, { of: effect.popup });
      case 'grace':
        return tableEffect(op, { of: effect.duration });
      case 'cue':
        return tableEffect(op, { of: effect.cue });
    }
  };
  const rules = form.rules.map(
    ({ condition, rest, restCell, onceCell, draw, threshold, effects }, index): TableRule => ({
      index,
      condition: compile(condition),
      isAlwaysOpen: rest === 0 && onceCell < 0,
      rest,
      restCell,
      onceCell,
      draw,
      threshold,
      effects: effects.map(compileEffect),
    }),
  );
  const transitionEffects = form.transitions.map((transition) => transition.effects.map(compileEffect));
  const guardsOf = (transitions: readonly number[]): Guard[] => transitions.map((index) => guards[index]!);
  const compileHandler = (handler: Handler): TableHandler => ({
    rules: handler.rules.map((index) => rules[index]!),
    guards: guardsOf(handler.transitions),
    isQuiet: handler.isQuiet,
  });
  const handlers = form.screens.flatMap((screen) =>
    form.events.map((_, event) => {
      const handler = screen.handlers.get(event);
      return handler === undefined ? null : compileHandler(handler);
    }),
  );
  const conditionGuards = form.screens.map((screen) => guardsOf(screen.conditionTransitions));
  return { starts, rules, transitionEffects, handlers, conditionGuards };
}
