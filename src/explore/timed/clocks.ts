import { footprintOf, type Write } from '../../engine/compile/footprint.js';
import { Build } from '../../engine/program/build/build.js';
import { startTimer } from '../../engine/program/build/effects.js';
import { footprintsOf, sets } from '../../engine/program/footprints.js';
import type { Form } from '../../engine/program/form.js';
import type { Cone } from '../abstraction/cone.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';

/** In the place of a moment that the machine keeps, that nothing has set it since: no whole number, so that nothing else is it. */
export const unset = 0.5;
/** The same of when a rest or a grace is over, which must lie in the past. */
export const untouched = -0.5;

/** A timer whose time is followed, by its clock in the zones. */
export interface TimedTimer {
  readonly timer: number;
  readonly clock: number;
  /** Milliseconds between which it fires after it was set. */
  readonly least: number;
  readonly most: number;
  /** Live screens on which it stands still. */
  readonly standsOn: ReadonlySet<number>;
}

/** A rest of a rule, or a grace of some length: over once its clock shows its duration. */
export interface Cooldown {
  /** Where the machine keeps until when it holds. */
  readonly cell: number;
  readonly duration: number;
  readonly clock: number;
  /** The rule that rests; -1: it is a grace. */
  readonly rule: number;
}

/** Whether a rest or a grace was set at the moment at which the machine stands still, so that its clock shows 0. */
export const isSet = ({ cell, duration }: Cooldown, cells: Float64Array): boolean => cells[cell] === duration;

/** Whether something else was put in its place: a fresh start ended it, or another length of grace was given. */
export const isEnded = ({ cell }: Cooldown, cells: Float64Array): boolean =>
  cells[cell]! >= 0 && cells[cell]! < Number.POSITIVE_INFINITY;

/** Clocks that are followed at the most; rests and graces past that may be over at any moment. */
const mostClocks = 8;

/** Something that happens when a clock shows so much, and by its order before what else is due then. */
export interface Urgent {
  readonly order: number;
  readonly clock: number;
  readonly most: number;
}

/**
 * Timers in file order, a warning with its timer, then all else: of what is sent, a simulated player's comes before a wait that is
 * due at the same moment, and a game's after it.
 */
export const orderOf = ({ kind, index }: Edge, timers: number): number =>
  kind === 'timer' ? index % timers : timers;

/** How long a grace lasts that is set from now; of one that is computed, nothing is known. */
const lastsFor = ({ value }: Write): number[] =>
  value.op === 'binary' && value.right.op === 'constant' ? [value.right.value] : [];

/** Rests of the rules that the search follows, and every length of a grace, as far as there are clocks for them. */
export function holdsIn({ form, cone }: UntimedGame, greatest: number[]): Cooldown[] {
  const holds: Cooldown[] = [];
  const add = (cell: number, duration: number, rule: number): void => {
    if (greatest.length > mostClocks) return;
    holds.push({ cell, duration, rule, clock: greatest.push(duration) - 1 });
  };
  const footprints = footprintsOf(form);
  const isGrace = (write: Write): boolean => sets(write, form.cells.graceEnds);
  const graces = new Set([
    ...footprintsOf(form).writes.filter(isGrace).flatMap(lastsFor),
    ...form.transitions.flatMap(({ grace }) => (typeof grace === 'number' && grace > 0 ? [grace] : [])),
  ]);
  const isHit = form.events.some(({ turnedAway }, event) => turnedAway && cone.events.has(event));
  // A hit is kept away only where it is sure that the grace was given: one that may not have been may be over at any moment.
  const isSure = form.rules.every(
    (_, rule) => !footprints.rules[rule]!.writes.some(isGrace) || firesSurely(form, cone, rule),
  );
  if (isHit && isSure) for (const duration of graces) add(form.cells.graceEnds, duration, -1);
  for (const rule of cone.uncertain) {
    const { restCell, rest, draw } = form.rules[rule]!;
    // One that chance may silence too, or whose rest is computed, may be silent at any moment.
    if (restCell >= 0 && draw < 0 && typeof rest === 'number') add(restCell, rest, rule);
  }
  return holds;
}

/** Timers whose time can be followed: they run on live screens only, for a fixed or a random interval, and nothing changes their seconds. */
export function timedTimers(form: Form, timers: readonly number[]): TimedTimer[] {
  const build = new Build(form, {});
  const writes = footprintsOf(form).writes;
  /** Whether something sets it to another moment than its start does, or none. */
  const isChanged = (timer: number): boolean => {
    const [start] = footprintOf(startTimer(build, timer)).writes;
    return writes.some(
      (write) =>
        sets(write, form.cells.timers + timer) &&
        write.value.op !== 'never' &&
        JSON.stringify(write.value) !== JSON.stringify(start!.value),
    );
  };
  return timers
    .filter(
      (timer) =>
        form.screens.every((screen) => screen.live || !screen.timers.includes(timer)) &&
        form.timers[timer]!.interval.computed === undefined &&
        !isChanged(timer),
    )
    .map((timer, index): TimedTimer => {
      const { least, step, choices } = form.timers[timer]!.interval;
      const standsOn = form.screens.flatMap((screen, at) =>
        screen.live && !screen.timers.includes(timer) ? [at] : [],
      );
      const most = least + step * (choices - 1);
      return { timer, clock: index + 1, least: Math.max(1, least), most, standsOn: new Set(standsOn) };
    });
}

/** Whether a rule fires in the search only where it fires in the game: the search follows it, or nothing but its events decides. */
function firesSurely(form: Form, cone: Cone, index: number): boolean {
  if (cone.rules.includes(index)) return true;
  const { condition, rest, draw, onceCell, memoryCell } = form.rules[index]!;
  const { events } = form.design.rules[index]!;
  return (
    condition === undefined &&
    rest === 0 &&
    draw < 0 &&
    onceCell < 0 &&
    memoryCell < 0 &&
    events.every((event) => !['own', 'appeared'].includes(form.events[form.eventIndex.get(event)!]!.kind))
  );
}
