import { slotsRead } from '../../engine/compile/footprint.js';
import { constant, type Slot, type Value } from '../../engine/compile/representation.js';
import type { Slicing } from '../../engine/compile/slice.js';
import { checkedAmount } from '../../engine/program/footprints.js';
import type { Form } from '../../engine/program/form.js';
import { rangeOf } from '../../engine/program/ranges.js';
import { canFault } from './can-fault.js';
import type { Cone } from './cone.js';

/** The form with the rules of the cone only; what these do is sliced where it is printed. */
export function followedForm(form: Form, cone: Cone): Form {
  const isKept = new Set(cone.rules);
  return {
    ...form,
    cells: { ...form.cells, courseLength: 0 },
    screens: form.screens.map((screen) => ({
      ...screen,
      conditionRules: screen.conditionRules.filter((rule) => isKept.has(rule)),
      handlers: new Map(
        [...screen.handlers].flatMap(([event, handler]) => {
          const rules = handler.rules.filter((rule) => isKept.has(rule));
          return rules.length + handler.transitions.length === 0 ? [] : [[event, { ...handler, rules }]];
        }),
      ),
    })),
  };
}

/**
 * What a search follows of the program.
 *
 * @param isFollowed whether a slot, or one of several from it on, is followed
 * @param isClock whether a slot is a clock, which stands still where time is left out
 */
export function slicingOf(
  form: Form,
  isFollowed: (slot: number) => boolean,
  isClock: (slot: number) => boolean,
): Slicing {
  const { timers, present } = form.cells;
  return {
    value: (slot: Slot, value: Value) => {
      const first = slot.op === 'slot' ? slot.slot : slot.base;
      if (!isFollowed(first)) return undefined;
      // Of a timer only whether it runs is followed.
      if (first >= timers && first < present) return constant(value.op === 'never' ? 0 : 1);
      return value;
    },
    canFail: (holds: Value) => {
      let isKnown = true;
      slotsRead(holds, (first) => {
        if (!isFollowed(first) && !isClock(first)) isKnown = false;
      });
      if (isKnown) return rangeOf(holds, form)[0] !== 1;
      return canFault(checkedAmount(holds), form);
    },
  };
}
