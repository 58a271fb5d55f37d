import { UsageError } from '../../design/problems/problem.js';
import type { Form } from '../program/form.js';
import type { CarrierName, MakeCarrier } from './backend.js';
import { Emitter, type Watch } from './emit.js';
import type { Spelling } from './emit-term.js';
import { tableCarrier } from './tables.js';

/** The state spelt as cells of the array `cells`. */
export function cellSpelling(form: Form): Spelling {
  const { cells, rules } = form;
  const cell = (index: number): string => `cells[${index}]`;
  return {
    now: cell(cells.now),
    live: cell(cells.live),
    screen: cell(cells.screen),
    entered: cell(cells.entered),
    waited: cell(cells.waited),
    level: cell(cells.level),
    graceEnds: cell(cells.graceEnds),
    coursePassed: cell(cells.course),
    courseCheckpoint: cell(cells.course + 1),
    courseAt: (place) => `cells[${cells.course + 2} + ${place}]`,
    clock: (timer) => cell(form.timers[timer]!.clockCell),
    counter: (counter) => cell(cells.counters + counter),
    timer: (timer) => cell(cells.timers + timer),
    present: (piece) => cell(cells.present + piece),
    spawnDue: (slot) => cell(cells.spawnDue + slot),
    spawnMade: (slot) => cell(cells.spawnMade + slot),
    rest: (rule) => cell(rules[rule]!.restCell),
    memory: (rule) => cell(rules[rule]!.memoryCell),
    warning: (timer) => cell(form.timers[timer]!.warnCell),
    back: (screen, part) => cell(form.screens[screen]!.backCell + part),
    once: (rule) => cell(rules[rule]!.onceCell),
    never: 'Infinity',
    draw: (draw) => `host.draw(${draw}, ${cell(cells.asked + draw)}++)`,
  };
}

const probing: Watch = {
  rule: (rule) => `probe.rule(${rule});`,
  transition: () => 'probe.transition(take);',
  write: (counter, source, before, after, wanted) =>
    `probe.write(${counter}, ${source}, ${before}, ${after}, ${wanted});`,
  cue: (cue) => `probe.cue(${cue});`,
  popup: (popup) => `probe.popup(${popup});`,
  appeared: (piece) => `probe.appeared(${piece});`,
  cleared: (piece) => `probe.cleared(${piece});`,
  allCleared: () => 'probe.allCleared();',
  clocksSet: () => '',
};

/** For code that nobody watches. */
export const unwatched: Watch = {
  rule: () => '',
  transition: () => '',
  write: () => '',
  cue: () => '',
  popup: () => '',
  appeared: () => '',
  cleared: () => '',
  allCleared: () => '',
  clocksSet: () => '',
};

/** True where this JavaScript engine lets code be made from text; a page's content security policy may forbid it. */
export function canGenerate(): boolean {
  try {
    return new Function('return true')() === true;
  } catch {
    return false;
  }
}

/**
 * The carrier to use: the one asked for, else generated code where it is allowed.
 *
 * @throws UsageError where generated code is asked for and forbidden
 */
export function chooseCarrier(asked: CarrierName | undefined): CarrierName {
  if (asked === 'tables') return asked;
  if (canGenerate()) return 'generated';
  if (asked === undefined) return 'tables';
  throw new UsageError('This page forbids code made from text; use the carrier tables.');
}

/** The code of each form, with and without a probe, made once however many sessions run it. */
const made = { probing: new WeakMap<Form, MakeCarrier>(), unwatched: new WeakMap<Form, MakeCarrier>() };

/** What makes a form's carrier of the kind asked for; see `chooseCarrier`. */
export function carrierOf(form: Form, asked: CarrierName | undefined, isWatched: boolean): MakeCarrier {
  if (chooseCarrier(asked) === 'tables')
    return (cells, host, probe) => tableCarrier(form, cells, host, probe);
  const known = isWatched ? made.probing : made.unwatched;
  let make = known.get(form);
  if (make === undefined) {
    const text = carrierText(form, isWatched);
    const carrier = new Function('cells', 'host', 'probe', 'tables', text);
    make = (cells, host, probe) => carrier(cells, host, probe, form.levelTables);
    known.set(form, make);
  }
  return make;
}

/**
 * The body of a function of `cells`, `host`, `probe` and `tables` that gives the carrier. The text is built from the form
 * alone, which holds integers, so that nothing a designer wrote is ever evaluated.
 */
export function carrierText(form: Form, isWatched: boolean): string {
  const emitter = new Emitter(form, cellSpelling(form), isWatched ? probing : unwatched);
  return `'use strict';
const queue = [];
return {
  run(event, transition) {
    let e = event, take = transition, steps = 0, head = 0, tail = 0;
    ${emitter.chain()}
  },
  respawn() { ${emitter.respawn()} },
};`;
}
