import { largestNumber } from '../../../design/limits.js';
import {
  and,
  binary,
  type Code,
  call,
  check,
  choose,
  constant,
  count,
  declare,
  get,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  isNever,
  type Local,
  local,
  minus,
  never,
  not,
  plus,
  push,
  set,
  type Value,
  when,
} from '../../compile/representation.js';
import { type EffectForm, longestTimer, mostPresent, mostSpawned, type WriteForm } from '../form.js';
import type { Build } from './build.js';
import { alongCourse, oneOnCourse } from './course.js';
import { duration, period, term } from './expressions.js';

/** What a list of effects does, in order; `source` is the rule, or past the last rule the transition, whose list it is. */
export const effects = (build: Build, list: readonly EffectForm[], source: number): Code =>
  list.flatMap((each) => effect(build, each, source));

function effect(build: Build, of: EffectForm, source: number): Code {
  const { form, state, listener } = build;
  switch (of.op) {
    case 'write':
      return writes(build, of.writes, source);
    case 'spawn':
      return spawn(build, of.piece, term(build, of.count));
    case 'clear':
      if (of.count !== undefined) return some(build, of.piece, term(build, of.count), undefined, of.isOldest);
      return [
        set(state.present(of.piece), 0),
        ...alongCourse(build, of.piece, -1),
        ...(listener.cleared?.(of.piece) ?? []),
      ];
    case 'become': {
      if (of.count !== undefined) return some(build, of.from, term(build, of.count), of.to, of.isOldest);
      const changed = local('changed');
      return [
        declare(changed, state.present(of.from)),
        set(state.present(of.from), 0),
        ...alongCourse(build, of.from, of.to),
        ...(listener.cleared?.(of.from) ?? []),
        ...appear(build, of.to, get(changed)),
      ];
    }
    case 'timerWrite':
      return timerWrite(build, of.timer, of.adds, term(build, of.amount), source);
    case 'timerStart':
      return startTimer(build, of.timer);
    case 'timerStop':
      return setTimer(build, of.timer, never);
    case 'emit':
      return form.events[of.event]!.isHeard ? [push(of.event)] : [];
    case 'grace':
      return [set(state.graceEnds, plus(state.live, duration(build, of.duration)))];
    case 'popup':
      return listener.popup?.(of.popup) ?? [];
    case 'cue':
      return listener.cue?.(of.cue) ?? [];
  }
}

/** Every amount of one effect is computed before any counter is written; the next effect of the list sees it written. */
function writes(build: Build, list: readonly WriteForm[], source: number): Code {
  const { state, listener } = build;
  const wanted = list.map(({ counter, adds, rounds, amount }) => {
    const value = term(build, amount);
    const whole = rounds ? call('round', value) : value;
    return adds ? plus(state.counter(counter), whole) : plus(whole, 0);
  });
  // What is known already needs no variable.
  const asks = wanted.map((value) => (value.op === 'constant' ? value : get(local('wanted'))));
  const amounts = list.flatMap((write, index): Code => {
    const asked = asks[index]!;
    const known = asked.op === 'local' ? [declare(asked.local, wanted[index]!)] : [];
    return [...known, ...tooLarge(build, write, asked, source)];
  });
  const stores = list.flatMap((write, index): Code => {
    const to = state.counter(write.counter);
    const asked = asks[index]!;
    const after = clamped(build, write, asked);
    const before = local('before');
    const told = listener.write?.(write.counter, source, get(before), to, asked) ?? [];
    return told.length === 0 ? [set(to, after)] : [declare(before, to), set(to, after), ...told];
  });
  return [...amounts, ...stores];
}

const isHeld = (value: Value): Value =>
  and(isAtLeast(value, -largestNumber), binary('<=', value, constant(largestNumber)));

/** Past 2^53 is an error, not a wrong number; where what the counter can hold leaves no way there, that is not asked. */
function tooLarge(build: Build, { counter, adds, amount }: WriteForm, wanted: Value, source: number): Code {
  const { min, max } = build.form.counters[counter]!;
  if (amount.op === 'constant') {
    const [least, most] = adds ? [min + amount.value, max + amount.value] : [amount.value, amount.value];
    if (least >= -largestNumber && most <= largestNumber) return [];
  }
  return check(isHeld(wanted), 'tooLarge', source, counter, wanted);
}

/** A bound of a counter, in cells; one that is computed and is no number bounds nothing. */
function bound(build: Build, counter: number, which: 'min' | 'max'): Value {
  const { bounds, ...widest } = build.form.counters[counter]!;
  const computed = bounds[which];
  if (computed === undefined) return constant(widest[which]);
  const value = term(build, computed);
  return choose(isEqual(value, value), value, which === 'min' ? -largestNumber : largestNumber);
}

/** A value held to both bounds of a counter, of which the min counts where they cross. */
export const withinBounds = (build: Build, counter: number, value: Value): Value =>
  call('max', bound(build, counter, 'min'), call('min', bound(build, counter, 'max'), value));

/** What is asked of a counter, held to its bounds; one that it cannot pass is not asked. */
function clamped(build: Build, { counter, adds, amount }: WriteForm, wanted: Value): Value {
  const { min, max, bounds } = build.form.counters[counter]!;
  if (bounds.min !== undefined || bounds.max !== undefined) return withinBounds(build, counter, wanted);
  const sign = adds && amount.op === 'constant' ? Math.sign(amount.value) : 0;
  const notAbove =
    max < largestNumber && !(adds && sign < 0) ? choose(isMore(wanted, max), max, wanted) : wanted;
  return min > -largestNumber && !(adds && sign > 0) ? choose(isLess(wanted, min), min, notAbove) : notAbove;
}

/** How many are meant, into a variable: rounded, and held from 0 to the most; what is no number is none. */
function countInto(into: Local, many: Value, most: Value): Code {
  const asked = local('asked');
  return [
    declare(asked, call('round', many)),
    declare(into, choose(isMore(get(asked), 0), call('min', get(asked), most), 0)),
  ];
}

/** So many appear, 1,000 at the most. */
function spawn(build: Build, piece: number, many: Value): Code {
  const { form, state } = build;
  const { appeared } = form.pieces[piece]!;
  const [spawned, nth] = [local('spawned'), local('nth')];
  return [
    ...countInto(spawned, many, constant(mostSpawned)),
    ...appear(build, piece, get(spawned)),
    ...check(not(isMore(state.present(piece), mostPresent)), 'tooMany', piece),
    ...count(nth, 0, get(spawned), form.events[appeared]!.isHeard ? [push(appeared)] : []),
  ];
}

/**
 * So many of a piece go, or become another, one after the other, as far as there are any: the one met last unless the oldest are meant, then
 * those there longest.
 */
function some(build: Build, piece: number, many: Value, to: number | undefined, isOldest: boolean): Code {
  const { state, listener } = build;
  const present = state.present(piece);
  const [taken, nth] = [local('taken'), local('nth')];
  const one = [
    set(present, minus(present, 1)),
    ...oneOnCourse(build, piece, to ?? -1, isOldest),
    ...(listener.gone?.(piece, isOldest) ?? []),
    ...(to === undefined ? [] : appear(build, to, constant(1))),
  ];
  return [...countInto(taken, many, present), ...count(nth, 0, get(taken), one)];
}

/** So many more of a piece are there. */
export function appear(build: Build, piece: number, many: Value): Code {
  const { state, listener } = build;
  const told = listener.appeared?.(constant(piece)) ?? [];
  return [set(state.present(piece), plus(state.present(piece), many)), ...count(local('nth'), 0, many, told)];
}

export function startTimer(build: Build, timer: number): Code {
  const { interval: length } = build.form.timers[timer]!;
  return setTimer(build, timer, plus(build.state.clock(timer), period(build, length)));
}

/** Sets when a timer is due, and with it when it warns next. */
export function setTimer(build: Build, timer: number, due: Value): Code {
  return [set(build.state.timer(timer), due), ...nextWarning(build, timer)];
}

/** The first warning that is still to come, seen from now. */
export function nextWarning({ form, state }: Build, timer: number): Code {
  const { warn } = form.timers[timer]!;
  if (warn.length === 0) return [];
  const due = state.timer(timer);
  const left = minus(due, state.clock(timer));
  const next = warn.reduceRight(
    (later: Value, each) => choose(isMore(left, each), minus(due, each), later),
    never,
  );
  return [set(state.warning(timer), choose(isNever(due), never, next))];
}

/** Seconds for a timer, to the millisecond; one that does not run has none to add to. */
function timerWrite(build: Build, timer: number, adds: boolean, seconds: Value, source: number): Code {
  const { state } = build;
  const by = local('by');
  const due = state.timer(timer);
  const now = state.clock(timer);
  const from = adds ? due : now;
  const write = [
    declare(by, call('round', binary('*', seconds, constant(1000)))),
    ...check(isHeld(get(by)), 'timerTooLarge', source, timer, get(by)),
    ...setTimer(
      build,
      timer,
      call('min', plus(now, longestTimer), call('max', plus(now, 1), plus(from, get(by)))),
    ),
  ];
  return adds ? when(not(isNever(due)), write) : write;
}
