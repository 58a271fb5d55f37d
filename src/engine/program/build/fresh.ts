import { spans } from '../../../design/model.js';
import {
  binary,
  type Code,
  call,
  choose,
  constant,
  declare,
  get,
  isAtLeast,
  isEqual,
  local,
  never,
  plus,
  select,
  set,
  type Value,
  when,
} from '../../compile/representation.js';
import { type CounterForm, mostSpawned } from '../form.js';
import type { Build } from './build.js';
import { layCourse } from './course.js';
import { appear, startTimer, withinBounds } from './effects.js';
import { amount, period, term } from './expressions.js';

/** Puts back counters, in the order of the file, then timers, rests, grace, the course and what rules remember, as far as `fresh` reaches. */
export function putBack(build: Build, fresh: Value): Code {
  const { form, state } = build;
  /** What runs where `fresh` reaches at least the span that it belongs to. */
  const upTo = (ofSpan: (span: number) => Code): Code =>
    spans.flatMap((_, span) => when(isAtLeast(fresh, span), ofSpan(span)));
  const counters = form.counters.flatMap((counter, index) =>
    when(isAtLeast(fresh, counter.keep), putToStart(build, counter, index)),
  );
  const timers = upTo((span) =>
    form.timers.flatMap(({ keep }, timer) => (keep === span ? startTimer(build, timer) : [])),
  );
  const rests = form.rules.flatMap(({ restCell }, rule) => (restCell < 0 ? [] : [set(state.rest(rule), 0)]));
  const fallBack = form.cells.courseLength === 0 ? [] : [set(state.coursePassed, state.courseCheckpoint)];
  const memories = upTo((span) =>
    form.rules.flatMap(({ memoryCell, forgets, passes, onceCell, onceSpan }, rule) => [
      ...(memoryCell >= 0 && forgets === span
        ? [set(state.memory(rule), passes === undefined ? 0 : marksPassed(build, passes))]
        : []),
      ...(onceCell >= 0 && onceSpan === span ? [set(state.once(rule), 0)] : []),
    ]),
  );
  return [...counters, ...timers, ...rests, set(state.graceEnds, 0), ...fallBack, ...memories];
}

/** How many multiples of a step a counter has reached. */
export const marksPassed = (
  { state }: Build,
  { counter, step }: { readonly counter: number; readonly step: number },
): Value => call('floor', binary('/', state.counter(counter), constant(step)));

/** What is no number at all, such as 0 / 0, starts at 0 or the bound next to it. */
function putToStart(build: Build, { start, min, max, bounds }: CounterForm, counter: number): Code {
  const to = build.state.counter(counter);
  const isKnown = bounds.min === undefined && bounds.max === undefined;
  if (
    isKnown &&
    start.op === 'constant' &&
    Number.isInteger(start.value) &&
    start.value >= min &&
    start.value <= max
  )
    return [set(to, start.value)];
  const found = local('start');
  return [
    declare(found, call('round', term(build, start))),
    set(to, withinBounds(build, counter, choose(isEqual(get(found), get(found)), get(found), 0))),
  ];
}

/** The pieces that stand in the level at its start, on its course as well, and its spawn clocks. */
export function respawn(build: Build): Code {
  const { form, state, listener } = build;
  const { courseLength } = form.cells;
  const gone = form.pieces.map((_, piece) => set(state.present(piece), 0));
  const cases = form.levels.map((level, index) => {
    const placed = level.placed.flatMap((many, piece) => {
      if (many === 0) return [];
      const placed = local('placed');
      return [declare(placed, amount(build, many, mostSpawned)), ...appear(build, piece, get(placed))];
    });
    const onCourse = form.pieces.flatMap((_, piece) => {
      const many = level.course.filter((each) => each === piece).length;
      return many === 0 ? [] : [set(state.present(piece), plus(state.present(piece), many))];
    });
    const clocks = Array.from({ length: build.state.spawnSlots }, (__, slot) => {
      const spawn = level.spawns[slot];
      const first = spawn === undefined ? never : plus(state.live, period(build, spawn.first ?? spawn.every));
      return [set(state.spawnDue(slot), first), set(state.spawnMade(slot), 0)];
    });
    return { of: [index], body: [...placed, ...onCourse, ...clocks.flat()] };
  });
  return [
    ...gone,
    ...(listener.allCleared?.() ?? []),
    ...(courseLength === 0 ? [] : layCourse(build)),
    ...select(build.levelIndex, cases),
    ...(listener.clocksSet?.() ?? []),
  ];
}
