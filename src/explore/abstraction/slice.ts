import type { EffectForm, Form, IntervalForm, Term } from '../../engine/program/form.js';
import { canFault } from './can-fault.js';
import type { Cone } from './cone.js';

/** As long as any, where time is left out: nothing asks how long it is. */
const anyLength: IntervalForm = { least: 1, step: 0, choices: 1, draw: -1, computed: undefined };

const oneSecond: Term = { op: 'constant', value: 1 };
/** A second, or a fault where the amount is one: 0 times what is no finite number is none either. */
const anyAmount = (amount: Term): Term => ({
  op: 'binary',
  operator: '+',
  left: oneSecond,
  right: { op: 'binary', operator: '*', left: { op: 'constant', value: 0 }, right: amount },
});

/** The form without all that the cone does not follow, which is written for the search alone. */
export function sliceOf(form: Form, cone: Cone): Form {
  const { counters, rules, screens, transitions, timers, levels } = form;
  const isKept = {
    counter: new Set(cone.counters),
    piece: new Set(cone.pieces),
    rule: new Set(cone.rules),
    timer: new Set(cone.timers),
  };
  const hears = (piece: number): boolean => cone.events.has(form.pieces[piece]!.appeared);
  const effects = (all: readonly EffectForm[]): EffectForm[] =>
    all.flatMap((effect): EffectForm[] => {
      switch (effect.op) {
        case 'write': {
          // What may end a session is kept, whatever it writes.
          const writes = effect.writes.filter(
            ({ counter, amount }) => isKept.counter.has(counter) || canFault(amount, form),
          );
          return writes.length === 0 ? [] : [{ ...effect, writes }];
        }
        case 'spawn':
          return isKept.piece.has(effect.piece) || hears(effect.piece) ? [effect] : [];
        case 'clear':
          return isKept.piece.has(effect.piece) ? [effect] : [];
        case 'become':
          return isKept.piece.has(effect.from) || isKept.piece.has(effect.to) ? [effect] : [];
        case 'timerWrite':
          if (canFault(effect.amount, form)) return [{ ...effect, amount: anyAmount(effect.amount) }];
          return isKept.timer.has(effect.timer) ? [{ ...effect, amount: oneSecond }] : [];
        case 'timerStart':
        case 'timerStop':
          return isKept.timer.has(effect.timer) ? [effect] : [];
        case 'emit':
          return cone.events.has(effect.event) ? [effect] : [];
        default:
          return [];
      }
    });
  return {
    ...form,
    cells: { ...form.cells, courseLength: 0 },
    counters: counters.map((counter, index) =>
      isKept.counter.has(index) ? counter : { ...counter, start: { op: 'constant', value: counter.min } },
    ),
    timers: timers.map((timer) => ({ ...timer, interval: anyLength, warn: [] })),
    levels: levels.map((level) => ({
      ...level,
      spawns: level.spawns.map((spawn) => ({ ...spawn, every: anyLength, first: undefined })),
    })),
    rules: rules.map((rule) => ({ ...rule, effects: effects(rule.effects) })),
    transitions: transitions.map((transition) => ({ ...transition, effects: effects(transition.effects) })),
    screens: screens.map((screen) => ({
      ...screen,
      conditionRules: screen.conditionRules.filter((rule) => isKept.rule.has(rule)),
      handlers: new Map(
        [...screen.handlers].flatMap(([event, handler]) => {
          const own = handler.rules.filter((rule) => isKept.rule.has(rule));
          if (own.length + handler.transitions.length === 0) return [];
          return [[event, { ...handler, rules: own }]];
        }),
      ),
    })),
  };
}
