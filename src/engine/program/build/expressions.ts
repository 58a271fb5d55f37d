import {
  and,
  ask,
  binary,
  call,
  choose,
  constant,
  declare,
  get,
  give,
  isEqual,
  isMore,
  isNever,
  local,
  minus,
  not,
  plus,
  type Split,
  tableAt,
  truth,
  type Value,
} from '../../compile/representation.js';
import { isFixed, nthOf } from '../../compile/spelled-apart.js';
import {
  type Amount,
  type Duration,
  type IntervalForm,
  longestTimer,
  mostPresent,
  type Term,
} from '../form.js';
import type { Build } from './build.js';

/** A value of the form as one of the program. */
export function term(build: Build, of: Term): Value {
  const { form, state } = build;
  switch (of.op) {
    case 'dial':
      return { op: 'dial', dial: of.dial, value: of.value };
    case 'constant':
      return constant(of.value);
    case 'truth':
      return truth(of.value);
    case 'counter':
      return state.counter(of.counter);
    case 'level':
      return plus(state.level, 1);
    case 'lastLevel':
      return form.endless ? truth(false) : isEqual(state.level, form.levels.length - 1);
    case 'course':
      return form.cells.courseLength === 0 ? constant(0) : state.coursePassed;
    case 'levelValue':
      return tableAt(
        build.table(`levelValue${of.table}`, () => form.levelTables[of.table]!),
        build.levelIndex,
      );
    case 'present':
      return sum(of.pieces.map((piece) => state.present(piece)));
    case 'left':
      return sum(of.pieces.map((piece) => plus(state.present(piece), toCome(build, piece))));
    case 'timer':
      return choose(
        isNever(state.timer(of.timer)),
        0,
        binary('/', minus(state.timer(of.timer), state.clock(of.timer)), constant(1000)),
      );
    case 'guess':
      return binary('!=', { op: 'draw', place: constant(of.draw), split: undefined }, constant(0));
    case 'negative':
      return { op: 'negative', of: term(build, of.of) };
    case 'not':
      return not(term(build, of.of));
    case 'binary':
      return {
        op: 'binary',
        operator: of.operator,
        left: term(build, of.left),
        right: term(build, of.right),
      };
    case 'choose':
      return choose(term(build, of.test), term(build, of.yes), term(build, of.no));
    case 'call':
      return call(of.name, ...of.of.map((part) => term(build, part)));
  }
}

const sum = (values: readonly Value[]): Value =>
  values.length === 0 ? constant(0) : values.reduce((left, right) => plus(left, right));

/** How many of a piece the level's spawns have still to make; Infinity where one has no total. */
function toCome(build: Build, piece: number): Value {
  const { form, state } = build;
  const perLevel = form.levels.map(({ spawns }) =>
    sum(
      spawns.flatMap(({ piece: made, total }, slot) => {
        if (made !== piece) return [];
        if (typeof total === 'object')
          return [call('max', 0, minus(amount(build, total), state.spawnMade(slot)))];
        return [minus(constant(total), total === Number.POSITIVE_INFINITY ? 0 : state.spawnMade(slot))];
      }),
    ),
  );
  return perLevel.reduceRight((otherwise, value, level) =>
    choose(isEqual(build.levelIndex, level), value, otherwise),
  );
}

/** A whole number from 0 to `choices - 1` made of the next draw of a place. */
export const oneOf = (place: Value, choices: Value): Value =>
  nthOf({ op: 'draw', place, split: { kind: 'choices', of: [choices] } }, choices);

/** How long an interval lasts, in milliseconds; asks for a draw where there is a choice. */
export function interval(build: Build, { least, step, choices, draw, computed }: IntervalForm): Value {
  if (computed === undefined) {
    if (draw < 0) return constant(least);
    return plus(constant(least), binary('*', constant(step), oneOf(constant(draw), constant(choices))));
  }
  const first = milliseconds(build, term(build, computed.seconds));
  if (computed.upTo === undefined) return first;
  const upTo = milliseconds(build, term(build, computed.upTo));
  const split: Split = { kind: 'choices', of: [choicesOf(first, upTo, constant(step))] };
  return ask(rangeFunction(build), first, upTo, step, { op: 'draw', place: constant(draw), split });
}

/** The same for a clock, which is never due at the very moment when it is set: a millisecond at the least. */
export const period = (build: Build, form: IntervalForm): Value =>
  form.least === 0 ? call('max', 1, interval(build, form)) : interval(build, form);

/** How many are meant, where it may be computed: rounded, none at the least; what is no number is none. */
export function amount(build: Build, of: Amount, most = mostPresent): Value {
  if (typeof of === 'number') return constant(of);
  const name = build.once('howMany', () => {
    const [given, bound, whole] = [local('given'), local('bound'), local('whole')];
    const held = choose(isMore(get(whole), 0), call('min', get(whole), get(bound)), 0);
    return {
      parameters: [given, bound],
      body: [declare(whole, call('round', get(given))), give(held)],
    };
  });
  return ask(name, term(build, of), most);
}

/** Milliseconds, where their seconds may be computed: none at the least, a day at the most; what is no number is none. */
export function duration(build: Build, of: Duration): Value {
  if (typeof of === 'number') return constant(of);
  return amount(
    build,
    { op: 'binary', operator: '*', left: of, right: { op: 'constant', value: 1000 } },
    longestTimer,
  );
}

/** Computed seconds as whole milliseconds: at least one, at most a day; what is no number is one. */
export function milliseconds(build: Build, seconds: Value): Value {
  const wholeOf = (of: Value): Value => call('round', binary('*', of, constant(1000)));
  const held = (whole: Value): Value => choose(isMore(whole, 1), call('min', whole, longestTimer), 1);
  if (isFixed(seconds)) return held(wholeOf(seconds));
  const name = build.once('milliseconds', () => {
    const [given, whole] = [local('seconds'), local('whole')];
    return { parameters: [given], body: [declare(whole, wholeOf(get(given))), give(held(get(whole)))] };
  });
  return ask(name, seconds);
}

/** One of the moments of a computed range, by a draw; a range that is backwards has one. */
function rangeFunction(build: Build): string {
  return build.once('inRange', () => {
    const [least, most, step, drawn, choices] = [
      local('least'),
      local('most'),
      local('step'),
      local('drawn'),
      local('choices'),
    ];
    return {
      parameters: [least, most, step, drawn],
      body: [
        declare(choices, choicesOf(get(least), get(most), get(step))),
        give(plus(get(least), binary('*', get(step), nthOf(get(drawn), get(choices))))),
      ],
    };
  });
}

const choicesOf = (least: Value, most: Value, step: Value): Value =>
  plus(call('floor', binary('/', minus(call('max', least, most), least), step)), 1);

/** Whether what a piece needs to be met at all holds; `piece` is its number, known or not. */
export function canMeet(build: Build, piece: Value): Value {
  return build.form.pieces.reduceRight((otherwise: Value, { needs }, index) => {
    if (needs === undefined) return otherwise;
    const holds = term(build, needs);
    return choose(isEqual(piece, index), holds, otherwise);
  }, truth(true));
}

/** A condition, and what has to hold beside it. */
export const guard = (build: Build, condition: Term | undefined, ...others: readonly Value[]): Value =>
  and(...others, ...(condition === undefined ? [] : [term(build, condition)]));
