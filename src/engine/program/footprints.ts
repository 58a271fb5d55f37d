import { type Footprint, footprintOf, type Write } from '../compile/footprint.js';
import type { Value } from '../compile/representation.js';
import { Build } from './build/build.js';
import { effects } from './build/effects.js';
import type { Form } from './form.js';

/** What the effects of each rule and of each transition do to the state. */
export interface Footprints {
  readonly rules: readonly Footprint[];
  readonly transitions: readonly Footprint[];
  /** All that they write, whatever their conditions. */
  readonly writes: readonly Write[];
}

const known = new WeakMap<Form, Footprints>();

export function footprintsOf(form: Form): Footprints {
  const found = known.get(form);
  if (found !== undefined) return found;
  const build = new Build(form, {});
  const rules = form.rules.map((rule, index) => footprintOf(effects(build, rule.effects, index)));
  const transitions = form.transitions.map((transition, index) =>
    footprintOf(effects(build, transition.effects, form.rules.length + index)),
  );
  const made = { rules, transitions, writes: [...rules, ...transitions].flatMap(({ writes }) => writes) };
  known.set(form, made);
  return made;
}

/** Whether a write may set a cell. */
export const sets = ({ first, length }: Write, cell: number): boolean =>
  cell >= first && cell < first + length;

/** What is written to a slot, without the bounds that hold it: so much more than it was, or a value of its own. */
export function amountOf({ first, value }: Write): { readonly adds: boolean; readonly amount: Value } {
  let held = value;
  while (held.op === 'choose' && isBound(held)) held = held.no;
  if (held.op !== 'binary' || held.operator !== '+') return { adds: false, amount: held };
  const adds = held.left.op === 'slot' && held.left.slot === first;
  return { adds, amount: adds ? held.right : held };
}

/** Of a check that a number is no larger than numbers can be, what is added to a slot, or put there. */
export function checkedAmount(holds: Value): Value {
  const within = holds.op === 'binary' && holds.operator === 'and' ? holds.left : holds;
  const wanted = within.op === 'binary' ? within.left : within;
  if (wanted.op !== 'binary' || wanted.operator !== '+') return wanted;
  return wanted.left.op === 'slot' ? wanted.right : wanted;
}

const isBound = ({ test, yes }: Extract<Value, { op: 'choose' }>): boolean =>
  test.op === 'binary' &&
  (test.operator === '<' || test.operator === '>') &&
  test.right.op === 'constant' &&
  yes.op === 'constant' &&
  test.right.value === yes.value;

/** Whether an effect somewhere takes some of a piece away, and leaves others. */
export const takesSome = ({ cells }: Form, writes: readonly Write[]): boolean =>
  writes.some(
    ({ first, value }) =>
      first >= cells.present && first < cells.spawnDue && value.op === 'binary' && value.operator === '-',
  );

/** Whether an effect somewhere makes a piece appear: more of it than there was. */
export const isMadeByEffects = (form: Form, piece: number): boolean =>
  footprintsOf(form).writes.some(
    (write) =>
      sets(write, form.cells.present + piece) && write.value.op === 'binary' && write.value.operator === '+',
  );
