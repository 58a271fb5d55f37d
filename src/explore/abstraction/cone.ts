import type { EffectForm, Form, LevelForm, Term } from '../../engine/program/form.js';
import { visitTerm } from '../../engine/program/lower-expression.js';
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
  /** Every term that is worked out on the way. */
  readonly terms: ReadonlySet<Term>;
  /** Events that some rule or transition of the cone hears. */
  readonly events: ReadonlySet<number>;
  /** A timer whose seconds are read, so that leaving time out says too little; undefined: none. */
  readonly timerRead: string | undefined;
  /** What is added to those that are summed, where timers are read in it, and which timers. */
  readonly summedTerms: readonly Term[];
  readonly summedTimers: readonly number[];
}

/**
 * @param exact counters that are followed as well, every value of them kept apart
 * @param summed counters of which only what is added to them, or put in their place, is followed: the seconds of timers in that are
 * left to whoever sums
 *
 * Follows from the conditions of the transitions, and of all rules, outcomes and timers where that is asked, to everything that
 * they depend on, until nothing new is found.
 */
export function coneOf(
  form: Form,
  followsAll = false,
  exact: readonly number[] = [],
  summed: readonly number[] = [],
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
  const terms = new Set<Term>();
  const followsCourse = (): void => {
    readsCourse = true;
    for (const level of form.levels) for (const piece of level.course) add(pieces, piece);
  };
  const summedTerms = new Set<Term>();
  const summedTimers = new Set<number>();
  const reads = (term: Term | undefined, isSummed = false): void => {
    if (term === undefined) return;
    terms.add(term);
    visitTerm(term, (part) => {
      if (part.op === 'counter') add(counters, part.counter);
      else if (part.op === 'present' || part.op === 'left')
        for (const piece of part.pieces) add(pieces, piece);
      else if (part.op === 'timer' && isSummed) {
        summedTerms.add(term);
        summedTimers.add(part.timer);
      } else if (part.op === 'timer') timerRead ??= form.timers[part.timer]!.name;
      else if (part.op === 'level') readsLevel = true;
      else if (part.op === 'course') followsCourse();
      if (part.op === 'left') countsMade = true;
    });
  };
  const isHeard = (timer: number): boolean =>
    heard.has(form.timers[timer]!.event) || heard.has(form.timers[timer]!.warnEvent);
  /** Whether an effect changes anything of the cone, or may end a session; what it reads to do so then belongs to it. */
  const touches = (effect: EffectForm): boolean => {
    switch (effect.op) {
      case 'write': {
        const writes = effect.writes.filter(
          ({ counter, amount }) =>
            counters.has(counter) || summed.includes(counter) || canFault(amount, form),
        );
        for (const { counter, amount } of writes)
          reads(amount, summed.includes(counter) && !counters.has(counter));
        return writes.length > 0;
      }
      case 'spawn':
      case 'clear':
        if (!pieces.has(effect.piece) && !heard.has(form.pieces[effect.piece]!.appeared)) return false;
        if (effect.op === 'spawn') reads(effect.count);
        return true;
      case 'become':
        // What stands on a course turns into the other piece there.
        if (readsCourse && pieces.has(effect.from)) add(pieces, effect.to);
        return pieces.has(effect.from) || pieces.has(effect.to);
      case 'timerWrite':
        if (!canFault(effect.amount, form)) return isHeard(effect.timer);
        reads(effect.amount);
        return true;
      case 'timerStart':
      case 'timerStop':
        return isHeard(effect.timer);
      case 'emit':
        return heard.has(effect.event);
      default:
        return false;
    }
  };

  while (grew) {
    grew = false;
    heard = heardIn(form, rules, followsAll);
    for (const counter of counters) reads(form.counters[counter]!.start);
    for (const transition of form.transitions) {
      reads(transition.condition);
      for (const effect of transition.effects) touches(effect);
    }
    form.rules.forEach((rule, index) => {
      if (rule.effects.map(touches).includes(true) || followsAll) {
        add(rules, index);
        reads(rule.condition);
        if (rule.passes !== undefined) add(counters, rule.passes.counter);
      }
    });
    for (const piece of pieces) {
      reads(form.pieces[piece]!.needs);
      // What a met piece leaves present depends on where on the course the player is.
      if (form.levels.some(({ course }) => course.includes(piece))) followsCourse();
    }
    for (const event of heard) {
      const { kind, piece } = form.events[event]!;
      if (kind === 'outcome') reads(form.pieces[piece]!.needs);
      if (kind === 'outcome' && supplyEnds(form, piece)) {
        add(pieces, piece);
        countsMade = true;
      }
    }
  }
  const events = heardIn(form, rules, followsAll);

  const inCone = [...rules].sort((a, b) => a - b);
  return {
    rules: inCone,
    terms,
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
    summedTerms: [...summedTerms],
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
function supplyEnds(form: Form, piece: number): boolean {
  return (
    !isMadeByEffects(form, piece) &&
    form.levels.some(
      (level) =>
        holds(level, piece) &&
        level.spawns.every((spawn) => spawn.piece !== piece || Number.isFinite(spawn.total)),
    )
  );
}

/** Whether a level places or spawns a piece, or has it on its course. */
export const holds = ({ placed, spawns, course }: LevelForm, piece: number): boolean =>
  placed[piece]! > 0 || course.includes(piece) || spawns.some((spawn) => spawn.piece === piece);

/** Whether an effect somewhere makes a piece appear. */
export const isMadeByEffects = (form: Form, piece: number): boolean =>
  [...form.rules, ...form.transitions].some(({ effects }) =>
    effects.some(
      (effect) =>
        (effect.op === 'spawn' && effect.piece === piece) || (effect.op === 'become' && effect.to === piece),
    ),
  );
