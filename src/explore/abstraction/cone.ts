import { type Footprint, visitValue } from '../../engine/compile/footprint.js';
import type { Value } from '../../engine/compile/representation.js';
import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import { amountOf, checkedAmount, footprintsOf, isMadeByEffects } from '../../engine/program/footprints.js';
import type { Amount, Form, LevelForm, Term } from '../../engine/program/form.js';
import { isTimerLeft } from '../../engine/program/ranges.js';
import { canFault } from './can-fault.js';

/** The parts of the state that can influence which transitions are taken; all else is left out of the search. */
export interface Cone {
  readonly counters: readonly number[];
  /** Those of which every value is asked for. */
  readonly exact: readonly number[];
  /** Condition rules whose memory counts. */
  readonly memories: readonly number[];
  /** Pieces whose number present counts: it is read, or a level holds only so many of them. */
  readonly pieces: readonly number[];
  /** Whether how many a spawn has still to make is read. */
  readonly countsMade: boolean;
  /** Timers whose event some rule or transition of the cone hears. */
  readonly timers: readonly number[];
  /** Rules of the cone that may stay silent although all they ask for holds: by a rest, or by chance. */
  readonly uncertain: readonly number[];
  /** Rules of the cone whose having fired is remembered. */
  readonly once: readonly number[];
  /** Whether how far the player is on the course is read. */
  readonly readsCourse: boolean;
  /** Whether the level's number itself is read. */
  readonly readsLevel: boolean;
  /** Rules that belong to it. */
  readonly rules: readonly number[];
  /** Every value that is worked out on the way. */
  readonly values: readonly Value[];
  /** Events that some rule or transition of the cone hears. */
  readonly events: ReadonlySet<number>;
  /** A timer whose seconds are read, so that leaving time out says too little; undefined: none. */
  readonly timerRead: string | undefined;
  /** What is added to those that are summed, where timers are read in it, and which timers. */
  readonly summedValues: readonly Value[];
  readonly summedTimers: readonly number[];
}

/** What a search follows. */
export interface Following {
  /** Whether it follows all that rules, outcomes and timers depend on, and not only what transitions do. */
  readonly followsAll?: boolean;
  /** Rules that it follows only where something else depends on them, although it follows all. */
  readonly unasked?: ReadonlySet<number>;
  /** Counters that are followed as well, every value of them kept apart. */
  readonly exact?: readonly number[];
  /**
   * Counters of which only what is added to them, or put in their place, is followed: the seconds of timers in that are left to whoever
   * sums.
   */
  readonly summed?: readonly number[];
  /** Whether it follows what gives grace. */
  readonly followsGrace?: boolean;
  /** Where it is given, only these are counted for there being only so many of them. */
  readonly counted?: ReadonlySet<number>;
}

/**
 * Follows from the conditions of the transitions, and of all rules, outcomes and timers where that is asked, to everything that
 * they depend on, until nothing new is found.
 */
export function coneOf(
  form: Form,
  { followsAll = false, unasked, followsGrace = false, exact = [], summed = [], counted }: Following = {},
): Cone {
  const counters = new Set<number>(exact);
  const pieces = new Set<number>();
  const rules = new Set<number>();
  let countsMade = false;
  let readsLevel = false;
  let readsCourse = false;
  let timerRead: string | undefined;
  let grew = true;
  let heard: ReadonlySet<number> = new Set();

  const add = (set: Set<number>, value: number): void => {
    if (!set.has(value)) {
      set.add(value);
      grew = true;
    }
  };
  const build = new Build(form, {});
  const { cells: at } = form;
  const values = new Set<Value>();
  const summedValues = new Set<Value>();
  const summedTimers = new Set<number>();
  const followsCourse = (): void => {
    if (!readsCourse) grew = true;
    readsCourse = true;
    for (const level of form.levels) for (const piece of level.course) add(pieces, piece);
  };
  const readsCell = (first: number, length: number): void => {
    const isIn = (from: number, many: number): boolean => first < from + many && first + length > from;
    for (let cell = first; cell < first + length; cell++) {
      if (cell >= at.counters && cell < at.timers) add(counters, cell - at.counters);
      if (cell >= at.present && cell < at.spawnDue) add(pieces, cell - at.present);
    }
    if (isIn(at.spawnMade, at.course - at.spawnMade)) countsMade = true;
    if (at.courseLength > 0 && isIn(at.course, at.courseLength + 2)) followsCourse();
    if (isIn(at.level, 1)) readsLevel = true;
  };
  /** A value is worked out, and so all that it reads is followed; the seconds of timers in it cannot be, unless whoever sums does. */
  const reads = (value: Value, isSummed = false): void => {
    values.add(value);
    visitValue(value, (part) => {
      if (isTimerLeft(part, form)) {
        const timer = (part as { test: { left: { slot: number } } }).test.left.slot - at.timers;
        if (isSummed) {
          summedValues.add(value);
          summedTimers.add(timer);
        } else timerRead ??= form.timers[timer]!.name;
        return false;
      }
      // Which of the list the level is, as in a table of its values, is known where all levels past the list are one.
      if (part.op === 'table' || isLevelIndex(part, at.level)) return false;
      if (part.op === 'slot') readsCell(part.slot, 1);
      if (part.op === 'slotAt') readsCell(part.base, part.length);
      return true;
    });
  };
  const made = new Map<Term, Value>();
  const readsTerm = (of: Term | undefined): void => {
    if (of === undefined) return;
    const value = made.get(of) ?? term(build, of);
    made.set(of, value);
    reads(value);
  };
  const readsAmount = (of: Amount): void => readsTerm(typeof of === 'object' ? of : undefined);
  const isHeard = (timer: number): boolean =>
    heard.has(form.timers[timer]!.event) || heard.has(form.timers[timer]!.warnEvent);
  const isFollowed = (cell: number): boolean => {
    if (cell >= at.counters && cell < at.timers) return counters.has(cell - at.counters);
    if (cell >= at.timers && cell < at.present) return isHeard(cell - at.timers);
    if (cell >= at.present && cell < at.spawnDue) return pieces.has(cell - at.present);
    if (cell >= at.spawnMade && cell < at.course) return countsMade;
    if (cell === at.graceEnds) return followsGrace;
    return readsCourse && cell >= at.course && cell < at.course + 2 + at.courseLength;
  };
  const isTimer = (cell: number): boolean => cell >= at.timers && cell < at.present;
  /** Whether something changes anything of the cone, or may end a session; what it reads to do so then belongs to it. */
  const touches = ({ writes, pushes, checks }: Footprint): boolean => {
    let found = false;
    const touch = (under: readonly Value[]): void => {
      found = true;
      for (const each of under) reads(each);
    };
    for (const write of writes) {
      const { first, length, value, under } = write;
      const isSummed = summed.some((counter) => first === at.counters + counter);
      const follows = Array.from({ length }, (_, index) => first + index).some(isFollowed);
      if (!follows && !isSummed) continue;
      touch(under);
      // Of a timer only whether it runs is followed; how long it does is left out with time.
      const isCounter = form.counters[first - at.counters] !== undefined;
      if (!isTimer(first)) reads(isCounter ? amountOf(write).amount : value, !follows);
      // What is put on the course is met there.
      if (
        first >= at.course &&
        first < at.course + 2 + at.courseLength &&
        value.op === 'constant' &&
        value.value >= 0
      )
        add(pieces, value.value);
    }
    for (const { event, under } of pushes)
      if (event.op !== 'constant' || heard.has(event.value)) touch(under);
    for (const { holds, under } of checks) {
      if (!canFault(holds, form)) continue;
      touch(under);
      reads(checkedAmount(holds));
    }
    return found;
  };
  const footprints = footprintsOf(form);
  const changesCourse = [...footprints.rules, ...footprints.transitions].some(({ writes }) =>
    writes.some(
      ({ first, length }) => first < at.course + 2 + at.courseLength && first + length > at.course + 2,
    ),
  );
  const dependsOnCourse = (piece: number): boolean =>
    (changesCourse || form.pieces[piece]!.staysOnCourse) &&
    form.levels.some(({ course }) => course.includes(piece));

  while (grew) {
    grew = false;
    heard = heardIn(form, rules, followsAll);
    for (const counter of counters) {
      const { start, bounds } = form.counters[counter]!;
      for (const of of [start, bounds.min, bounds.max]) readsTerm(of);
    }
    for (const { placed, spawns } of form.levels) {
      for (const piece of pieces) readsAmount(placed[piece]!);
      for (const { piece, atOnce, total } of spawns) {
        if (!pieces.has(piece) && !heard.has(form.pieces[piece]!.appeared)) continue;
        readsAmount(atOnce);
        readsAmount(total);
      }
    }
    form.transitions.forEach((transition, index) => {
      readsTerm(transition.condition);
      if (followsGrace) readsAmount(transition.grace);
      touches(footprints.transitions[index]!);
    });
    form.rules.forEach((rule, index) => {
      if (touches(footprints.rules[index]!) || (followsAll && unasked?.has(index) !== true)) {
        add(rules, index);
        readsTerm(rule.condition);
        if (rule.passes !== undefined) add(counters, rule.passes.counter);
      }
    });
    for (const piece of pieces) {
      readsTerm(form.pieces[piece]!.needs);
      // Whether meeting it takes it away depends on where on the course the player is.
      if (dependsOnCourse(piece)) followsCourse();
    }
    for (const event of heard) {
      const { kind, piece } = form.events[event]!;
      if (kind === 'outcome') readsTerm(form.pieces[piece]!.needs);
      // One that stays where it is on the course is there as long as the player likes: more than the game allows, never less.
      if (counted?.has(piece) === false) continue;
      if (kind === 'outcome' && supplyEnds(form, piece) && !dependsOnCourse(piece)) {
        add(pieces, piece);
        countsMade = true;
      }
    }
  }
  const events = heardIn(form, rules, followsAll);

  const inCone = [...rules].sort((a, b) => a - b);
  return {
    rules: inCone,
    values: [...values],
    counters: [...counters].sort((a, b) => a - b),
    exact,
    memories: inCone.filter((rule) => form.rules[rule]!.memoryCell >= 0),
    pieces: [...pieces].sort((a, b) => a - b),
    countsMade,
    timers: form.timers.flatMap(({ event, warnEvent }, index) =>
      events.has(event) || events.has(warnEvent) ? [index] : [],
    ),
    readsLevel,
    readsCourse,
    uncertain: inCone.filter((rule) => form.rules[rule]!.restCell >= 0 || form.rules[rule]!.draw >= 0),
    once: inCone.filter((rule) => form.rules[rule]!.onceCell >= 0),
    events,
    timerRead,
    summedValues: [...summedValues],
    summedTimers: [...summedTimers],
  };
}

/** Events that a transition or one of these rules hears on some screen; or all that are told apart by what leads to them. */
function heardIn(form: Form, rules: ReadonlySet<number>, isAll: boolean): Set<number> {
  const events = new Set<number>();
  if (isAll) {
    form.events.forEach(({ kind }, event) => {
      if (kind === 'outcome') events.add(event);
    });
    for (const { event } of form.timers) events.add(event);
  }
  for (const screen of form.screens) {
    for (const [event, handler] of screen.handlers) {
      if (handler.transitions.length > 0 || handler.rules.some((rule) => rules.has(rule))) events.add(event);
    }
  }
  return events;
}

/** Whether some level has a piece but only so many of it, and no effect makes more. */
export function supplyEnds(form: Form, piece: number): boolean {
  return (
    !isMadeByEffects(form, piece) &&
    form.levels.some(
      (level) =>
        holds(level, piece) &&
        level.spawns.every((spawn) => spawn.piece !== piece || Number.isFinite(spawn.most)),
    )
  );
}

/** Whether the design itself makes a piece appear, on any level. */
export const isMade = (form: Form, piece: number): boolean =>
  isMadeByEffects(form, piece) || form.levels.some((level) => holds(level, piece));

/** Whether a level places or spawns a piece, or has it on its course. */
export const holds = ({ placed, spawns, course }: LevelForm, piece: number): boolean =>
  placed[piece] !== 0 || course.includes(piece) || spawns.some((spawn) => spawn.piece === piece);

/** The place of the level in the list, where its number may pass it. */
const isLevelIndex = (value: Value, level: number): boolean =>
  value.op === 'call' &&
  value.name === 'min' &&
  value.of.some((part) => part.op === 'slot' && part.slot === level);
