import { largestNumber } from '../../design/limits.js';
import { visitValue } from '../../engine/compile/footprint.js';
import type { Value } from '../../engine/compile/representation.js';
import { Build } from '../../engine/program/build/build.js';
import { canMeet, term } from '../../engine/program/build/expressions.js';
import { amountOf, footprintsOf, sets } from '../../engine/program/footprints.js';
import type { Form, Term } from '../../engine/program/form.js';
import { rangeOf } from '../../engine/program/ranges.js';
import { termsOutOfSight } from '../abstraction/liveness.js';

/**
 * The counters that the course of a session depends on: those that a condition, a length of time, a number of pieces or a chance reads, and
 * those that what is written to such a counter is worked out from. The others, such as a best score that only the HUD shows, are written and
 * never ask anything.
 */
export function countersThatMatter(form: Form): ReadonlySet<number> {
  const known = mattering.get(form) ?? findMattering(form);
  mattering.set(form, known);
  return known;
}

/** They are asked for with and without the score. */
const mattering = new WeakMap<Form, ReadonlySet<number>>();

function findMattering(form: Form): ReadonlySet<number> {
  const { cells } = form;
  const found = new Set<number>();
  const build = new Build(form, {});
  const reads = (value: Value, but?: number): void =>
    visitValue(value, (part) => {
      const counter = part.op === 'slot' ? part.slot - cells.counters : -1;
      if (counter >= 0 && counter < form.counters.length && counter !== but) found.add(counter);
    });
  for (const each of termsOutsideEffects(form)) reads(term(build, each));
  form.pieces.forEach((_, piece) => {
    reads(canMeet(build, { op: 'constant', value: piece }));
  });
  form.rules.forEach(({ passes }) => {
    if (passes !== undefined) found.add(passes.counter);
  });
  const { rules, transitions } = footprintsOf(form);
  const effects = [...rules, ...transitions];
  for (const { pushes } of effects)
    for (const { event, under } of pushes) for (const each of [event, ...under]) reads(each);
  for (let known = -1; known < found.size; ) {
    known = found.size;
    for (const { writes } of effects)
      for (const { first, length, value, under } of writes) {
        const counter = first - cells.counters;
        const isCounter = length === 1 && counter >= 0 && counter < form.counters.length;
        if (isCounter && !found.has(counter)) continue;
        // What only counts itself up says nothing to any other.
        reads(value, isCounter ? counter : undefined);
        for (const each of under) reads(each);
      }
  }
  return found;
}

/** All that is worked out but what effects write. */
function termsOutsideEffects(form: Form): Term[] {
  const all = [
    ...termsOutOfSight(form),
    ...form.rules.map(({ condition }) => condition),
    ...form.transitions.flatMap(({ condition, wait }) => [condition, wait]),
    ...form.acts.map(({ condition }) => condition),
    ...form.design.players.map(({ caution }) => caution && form.lowerTerm(caution.condition)),
    ...form.pieces.flatMap(({ computed, weighted }) => [
      computed.difficulty,
      computed.takes,
      computed.lasts,
      computed.lead?.seconds,
      computed.lead?.upTo,
      computed.returns?.seconds,
      computed.returns?.upTo,
      ...(weighted ?? []).map(({ weight }) => weight),
    ]),
  ];
  return all.filter((each) => typeof each === 'object');
}

/**
 * Whether a counter can be left out of the states, and what is added to it summed up beside them: nothing depends on it, every write adds to
 * it what is nothing less than nothing, and no bound can hold it.
 */
export function isSummedUp(form: Form, counter: number): boolean {
  const { max, start, kind } = form.counters[counter]!;
  if (kind !== 'number' || max < largestNumber || start.op !== 'constant') return false;
  if (countersThatMatter(form).has(counter)) return false;
  return footprintsOf(form).writes.every((write) => {
    if (!sets(write, form.cells.counters + counter)) return true;
    const { adds, amount } = amountOf(write);
    return adds && rangeOf(amount, form)[0] >= 0;
  });
}
