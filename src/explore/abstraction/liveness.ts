import { type Footprint, slotsRead } from '../../engine/compile/footprint.js';
import type { Value } from '../../engine/compile/representation.js';
import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import { footprintsOf } from '../../engine/program/footprints.js';
import type { Form, Term, TransitionForm } from '../../engine/program/form.js';
import { canFault } from './can-fault.js';
import type { Cone } from './cone.js';

/**
 * By cell of a counter, of a piece, or of what a spawn has made: the screens on which what it holds can still matter (live variables;
 * Kildall 1973). On all others it is put back before anything reads it, so that states which differ in it alone are one. What is asked
 * for exactly, and what marks are counted by, matters everywhere and is not told.
 */
export function liveScreens(form: Form, cone: Cone): ReadonlyMap<number, ReadonlySet<number>> {
  const { cells: at, screens, transitions } = form;
  const read = screens.map((_, screen) => cellsReadOn(form, cone, screen));
  const readAnywhere = cellsReadOutOfSight(form);
  const ways = transitions.flatMap((way) => {
    const { from, to, index } = way;
    if (index < 0) return [];
    const back = transitions.flatMap((each) => (each.to === from && each.from >= 0 ? [each.from] : []));
    return [{ from, leadsTo: to >= 0 ? [to] : [0, ...back], putsBack: cellsPutBack(form, way) }];
  });
  const marked = new Set(cone.rules.map((rule) => form.rules[rule]!.passes?.counter));
  const counters = cone.counters.filter((each) => !cone.exact.includes(each) && !marked.has(each));
  const cells = [
    ...counters.map((each) => at.counters + each),
    ...cone.pieces.map((each) => at.present + each),
  ];
  if (cone.countsMade) for (let cell = at.spawnMade; cell < at.course; cell++) cells.push(cell);
  const live = new Map<number, ReadonlySet<number>>();
  for (const cell of cells) {
    if (readAnywhere.has(cell)) continue;
    const on = new Set(screens.flatMap((_, screen) => (read[screen]!.has(cell) ? [screen] : [])));
    const open = ways.filter(({ putsBack }) => !putsBack.has(cell));
    for (let known = -1; known < on.size; ) {
      known = on.size;
      for (const { from, leadsTo } of open) if (leadsTo.some((to) => on.has(to))) on.add(from);
    }
    if (on.size < screens.length) live.set(cell, on);
  }
  return live;
}

/** Adds the cells that a value reads, but for one. */
function addRead(value: Value, to: Set<number>, but?: number): void {
  slotsRead(value, (first, length) => {
    for (let cell = first; cell < first + length; cell++) if (cell !== but) to.add(cell);
  });
}

/** Cells that something on a screen reads before it sets them. */
function cellsReadOn(form: Form, cone: Cone, index: number): ReadonlySet<number> {
  const { cells: at } = form;
  const found = new Set<number>();
  const build = new Build(form, {});
  const reads = (value: Value, but?: number): void => addRead(value, found, but);
  const readsTerm = (of: Term | undefined): void => {
    if (of !== undefined) reads(term(build, of));
  };
  const acts = ({ writes, pushes, checks }: Footprint): void => {
    // What only counts itself up says nothing to anybody.
    for (const { first, length, value, under } of writes) {
      reads(value, length === 1 ? first : undefined);
      for (const each of under) reads(each);
    }
    for (const { event, under } of pushes) for (const each of [event, ...under]) reads(each);
    for (const { holds, under } of checks) {
      for (const each of under) reads(each);
      const isFaulty = canFault(holds, form);
      slotsRead(holds, (cell) => {
        if (isFaulty || cell >= at.present) found.add(cell);
      });
    }
  };
  const footprints = footprintsOf(form);
  const { handlers, conditionRules, live } = form.screens[index]!;
  const rules = new Set([...conditionRules, ...[...handlers.values()].flatMap((each) => each.rules)]);
  for (const rule of cone.rules) {
    if (!rules.has(rule)) continue;
    readsTerm(form.rules[rule]!.condition);
    acts(footprints.rules[rule]!);
  }
  form.transitions.forEach((way, transition) => {
    if (way.from !== index || way.index < 0) return;
    readsTerm(way.condition);
    acts(footprints.transitions[transition]!);
  });
  if (live) {
    for (const { needs } of form.pieces) readsTerm(needs);
    // What is there can be met, and stands in the way of spawns.
    for (let cell = at.present; cell < at.course; cell++) found.add(cell);
  }
  return found;
}

/** Cells that starts, bounds, numbers of pieces and lengths of time are worked out from, wherever that happens. */
function cellsReadOutOfSight(form: Form): ReadonlySet<number> {
  const found = new Set<number>();
  const build = new Build(form, {});
  for (const each of termsOutOfSight(form)) addRead(term(build, each), found);
  return found;
}

/** What starts, bounds, numbers of pieces and lengths of time are worked out by. */
export function termsOutOfSight(form: Form): Term[] {
  const spawns = form.levels.flatMap((level) => level.spawns);
  const intervals = [
    ...form.timers.map(({ interval }) => interval),
    ...spawns.flatMap(({ first, every }) => [first ?? every, every]),
  ];
  const all = [
    ...form.counters.flatMap(({ start, bounds }) => [start, bounds.min, bounds.max]),
    ...intervals.flatMap(({ computed }) => [computed?.seconds, computed?.upTo]),
    ...form.levels.flatMap(({ placed }) => placed),
    ...spawns.flatMap(({ atOnce, total }) => [atOnce, total]),
    ...form.rules.map(({ rest }) => rest),
    ...form.transitions.map(({ grace }) => grace),
  ];
  return all.filter((each) => typeof each === 'object');
}

/** Cells that a transition gives a value of its own, whatever they held. */
function cellsPutBack(form: Form, { fresh, respawns }: TransitionForm): ReadonlySet<number> {
  const { cells: at } = form;
  const found = new Set<number>();
  form.counters.forEach(({ keep }, counter) => {
    if (fresh >= keep) found.add(at.counters + counter);
  });
  if (respawns) for (let cell = at.present; cell < at.course; cell++) found.add(cell);
  return found;
}
