import type { Form, Term } from '../../engine/program/form.js';
import { visitTerm } from '../../engine/program/lower-expression.js';
import type { Cone } from './cone.js';
import { rangeOf } from './ranges.js';

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
  for (const term of cone.terms) compare(form, term, thresholds);
  const writers = [...cone.rules.map((rule) => form.rules[rule]!), ...form.transitions];
  const steps = new Map<number, number>();
  for (const rule of cone.rules) {
    const { passes } = form.rules[rule]!;
    if (passes === undefined) continue;
    steps.set(passes.counter, leastCommonMultiple(steps.get(passes.counter) ?? 1, passes.step));
  }
  for (const { effects } of writers) {
    for (const effect of effects) {
      if (effect.op !== 'write') continue;
      for (const { counter, adds, amount } of effect.writes) {
        const mayFall = adds ? !(rangeOf(amount, form)[0] >= 0) : steps.has(counter);
        if (mayFall) thresholds.delete(counter);
      }
    }
  }
  return new Map(
    [...thresholds].flatMap(([counter, threshold]): [number, Saturation][] => {
      const every = steps.get(counter) ?? 1;
      const from = Math.max(threshold, form.counters[counter]!.min, 0);
      return from + every <= form.counters[counter]!.max ? [[counter, { from, every }]] : [];
    }),
  );
}

/** Raises the thresholds of counters that a term compares, and takes out those that it reads in any other way. */
function compare(form: Form, term: Term, thresholds: Map<number, number>): void {
  if (term.op === 'binary' && comparisons.has(term.operator)) {
    for (const [side, other] of [
      [term.left, term.right],
      [term.right, term.left],
    ] as const) {
      const scaled = scaledCounter(side);
      const most =
        scaled === undefined || reads(other, scaled.counter) ? Number.NaN : rangeOf(other, form)[1];
      if (scaled === undefined || !Number.isFinite(most)) {
        for (const counter of countersIn(side)) thresholds.delete(counter);
        continue;
      }
      const known = thresholds.get(scaled.counter);
      const from = Math.ceil(most / scaled.factor) + 1;
      if (known !== undefined) thresholds.set(scaled.counter, Math.max(known, from));
    }
    return;
  }
  if (term.op === 'counter') thresholds.delete(term.counter);
  else if (term.op === 'not' || term.op === 'negative') compare(form, term.of, thresholds);
  else if (term.op === 'binary') for (const side of [term.left, term.right]) compare(form, side, thresholds);
  else if (term.op === 'call') for (const part of term.of) compare(form, part, thresholds);
  else if (term.op === 'choose')
    for (const part of [term.test, term.yes, term.no]) compare(form, part, thresholds);
}

const comparisons: ReadonlySet<string> = new Set(['<', '<=', '>', '>=', '==', '!=']);

/** A counter, or one that is multiplied or divided by a number above 0. */
function scaledCounter(term: Term): { readonly counter: number; readonly factor: number } | undefined {
  if (term.op === 'counter') return { counter: term.counter, factor: 1 };
  if (term.op !== 'binary' || term.left.op !== 'counter' || term.right.op !== 'constant') return undefined;
  const { counter } = term.left;
  const { value } = term.right;
  if (!(value > 0)) return undefined;
  if (term.operator === '*') return { counter, factor: value };
  return term.operator === '/' ? { counter, factor: 1 / value } : undefined;
}

function countersIn(term: Term): number[] {
  const found: number[] = [];
  visitTerm(term, (part) => {
    if (part.op === 'counter') found.push(part.counter);
  });
  return found;
}

const reads = (term: Term, counter: number): boolean => countersIn(term).includes(counter);

function leastCommonMultiple(a: number, b: number): number {
  let [large, small] = [a, b];
  while (small > 0) [large, small] = [small, large % small];
  return (a / large) * b;
}
