import { slotsRead } from '../../engine/compile/footprint.js';
import type { Value } from '../../engine/compile/representation.js';
import { amountOf, footprintsOf } from '../../engine/program/footprints.js';
import type { Form } from '../../engine/program/form.js';
import { rangeOf } from '../../engine/program/ranges.js';
import type { Cone } from './cone.js';

/**
 * From which value on a counter is as good as any larger one: no test that counts tells them apart, and nothing takes it down
 * again by an amount that depends on what it is.
 */
export interface Saturation {
  readonly from: number;
  /**
   * Larger values are kept apart by their remainder, so that prizes for multiples still come at the right time: 1 where there
   * are none.
   */
  readonly every: number;
}

/** The counters of the cone that saturate. */
export function saturationOf(form: Form, cone: Cone): ReadonlyMap<number, Saturation> {
  const thresholds = new Map(cone.counters.map((counter) => [counter, form.counters[counter]!.min]));
  for (const counter of cone.exact) thresholds.delete(counter);
  for (const counter of cone.counters) {
    const { bounds } = form.counters[counter]!;
    if (bounds.min !== undefined || bounds.max !== undefined) thresholds.delete(counter);
  }
  for (const value of cone.values) compare(form, value, thresholds);
  const footprints = footprintsOf(form);
  const writers = [...cone.rules.map((rule) => footprints.rules[rule]!), ...footprints.transitions];
  const steps = new Map<number, number>();
  for (const rule of cone.rules) {
    const { passes } = form.rules[rule]!;
    if (passes === undefined) continue;
    steps.set(passes.counter, leastCommonMultiple(steps.get(passes.counter) ?? 1, passes.step));
  }
  for (const write of writers.flatMap(({ writes }) => writes)) {
    const counter = write.first - form.cells.counters;
    if (form.counters[counter] === undefined) continue;
    const { adds, amount } = amountOf(write);
    const mayFall = adds ? !(rangeOf(amount, form)[0] >= 0) : steps.has(counter);
    if (mayFall) thresholds.delete(counter);
  }
  return new Map(
    [...thresholds].flatMap(([counter, threshold]): [number, Saturation][] => {
      const every = steps.get(counter) ?? 1;
      const from = Math.max(threshold, form.counters[counter]!.min, 0);
      return from + every <= form.counters[counter]!.max ? [[counter, { from, every }]] : [];
    }),
  );
}

/** Raises the thresholds of counters that a value compares, and takes out those that it reads in any other way. */
function compare(form: Form, value: Value, thresholds: Map<number, number>): void {
  const of = (part: Value): void => compare(form, part, thresholds);
  if (value.op === 'binary' && comparisons.has(value.operator)) {
    for (const [side, other] of [
      [value.left, value.right],
      [value.right, value.left],
    ] as const) {
      const scaled = scaledCounter(side, form);
      const most =
        scaled === undefined || countersIn(other, form).includes(scaled.counter)
          ? Number.NaN
          : rangeOf(other, form)[1];
      if (scaled === undefined || !Number.isFinite(most)) {
        for (const counter of countersIn(side, form)) thresholds.delete(counter);
        continue;
      }
      const known = thresholds.get(scaled.counter);
      const from = Math.ceil(most / scaled.factor) + 1;
      if (known !== undefined) thresholds.set(scaled.counter, Math.max(known, from));
    }
    return;
  }
  if (value.op === 'slot') thresholds.delete(value.slot - form.cells.counters);
  else if (value.op === 'not' || value.op === 'negative') of(value.of);
  else if (value.op === 'binary') for (const side of [value.left, value.right]) of(side);
  else if (value.op === 'call') for (const part of value.of) of(part);
  else if (value.op === 'choose') for (const part of [value.test, value.yes, value.no]) of(part);
}

const comparisons: ReadonlySet<string> = new Set(['<', '<=', '>', '>=', '==', '!=']);

/** A counter, or one that is multiplied or divided by a number above 0. */
function scaledCounter(
  value: Value,
  form: Form,
): { readonly counter: number; readonly factor: number } | undefined {
  const [counter] = countersIn(value, form);
  if (counter === undefined) return undefined;
  if (value.op === 'slot') return { counter, factor: 1 };
  if (value.op !== 'binary' || value.left.op !== 'slot' || value.right.op !== 'constant') return undefined;
  const { value: by } = value.right;
  if (!(by > 0)) return undefined;
  if (value.operator === '*') return { counter, factor: by };
  return value.operator === '/' ? { counter, factor: 1 / by } : undefined;
}

function countersIn(value: Value, { cells, counters }: Form): number[] {
  const found: number[] = [];
  slotsRead(value, (first) => {
    if (counters[first - cells.counters] !== undefined) found.push(first - cells.counters);
  });
  return found;
}

function leastCommonMultiple(a: number, b: number): number {
  let [large, small] = [a, b];
  while (small > 0) [large, small] = [small, large % small];
  return (a / large) * b;
}
