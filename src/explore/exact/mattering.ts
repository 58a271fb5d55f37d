import { largestNumber } from '../../design/schema.js';
import { visitValue } from '../../engine/compile/footprint.js';
import type { Value } from '../../engine/compile/representation.js';
import { Build } from '../../engine/program/build/build.js';
import { canMeet, term } from '../../engine/program/build/expressions.js';
import { amountOf, footprintsOf, sets } from '../../engine/program/footprints.js';
import type { Amount, Form, IntervalForm, Term } from '../../engine/program/form.js';
import { rangeOf } from '../../engine/program/ranges.js';

/**
 * The counters that the course of a session depends on: those that a condition, a length of time, a number of pieces or a chance reads, and
 * those that what is written to such a counter is worked out from. The others, such as a best score that only the HUD shows, are written and
 * never ask anything.
 */
export function countersThatMatter(form: Form): ReadonlySet<number> {
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
  const interval = ({ computed }: IntervalForm): (Term | undefined)[] => [computed?.seconds, computed?.upTo];
  const amounts = (of: readonly (Amount | undefined)[]): (Term | undefined)[] =>
    of.map((each) => (typeof each === 'object' ? each : undefined));
  const spawns = form.levels.flatMap((level) => level.spawns);
  const all: readonly (Term | undefined)[] = [
    ...form.rules.map(({ condition }) => condition),
    ...amounts(form.rules.map(({ rest }) => rest)),
    ...form.transitions.map(({ condition }) => condition),
    ...amounts(form.transitions.flatMap(({ wait, grace }) => [wait, grace])),
    ...form.acts.map(({ condition }) => condition),
    ...form.counters.flatMap(({ bounds, start }) => [bounds.min, bounds.max, start]),
    ...form.timers.flatMap((timer) => interval(timer.interval)),
    ...spawns.flatMap(({ every, first }) => [
      ...interval(every),
      ...(first === undefined ? [] : interval(first)),
    ]),
    ...amounts(spawns.flatMap(({ atOnce, total }) => [atOnce, total])),
    ...amounts(form.levels.flatMap(({ placed }) => placed)),
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
  return all.filter((each) => each !== undefined);
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
