import { showExpression } from '../../../design/language/expression-parts.js';
import { largestNumber } from '../../../design/limits.js';
import type { Act, Computed } from '../../../design/model.js';
import { mergingOf } from '../../session/merging.js';
import { Build } from '../build/build.js';
import { term as termValue } from '../build/expressions.js';
import {
  type ActForm,
  type CounterForm,
  type Form,
  type LevelForm,
  mostPresent,
  type PieceForm,
  type SpawnForm,
  type Term,
  type TimerForm,
} from '../form.js';
import { type Range, rangeOf } from '../ranges.js';
import { heldSeconds, inCells, rounded } from './amounts.js';
import { type Lowering, spanIndex } from './lowering.js';

export function lowerCounters(lowering: Lowering): CounterForm[] {
  const { design } = lowering;
  return design.counters.map(({ name, start, min, max, keep, places, kind, words }): CounterForm => {
    const least = bound(lowering, min, places, -largestNumber);
    const most = bound(lowering, max, places, largestNumber);
    return {
      name,
      kind,
      words,
      places,
      start: lowering.term(inCells(start, kind, places)),
      min: least.held,
      max: most.held,
      bounds: boundsOf(least, most),
      keep: spanIndex(keep),
      merges: keep === 'forever' ? mergingOf(design, name) : undefined,
    };
  });
}

/** A bound in cells, as far as it is known; and its term where it is computed. What is no number bounds nothing. */
function bound(lowering: Lowering, of: Computed, places: number, none: number): Bound {
  if (typeof of === 'number') return { held: Math.round(of * 10 ** places), term: undefined };
  const term = lowering.term(rounded(inCells(of, 'number', places)));
  if (term.op !== 'constant') return { held: none, term };
  const held = Number.isNaN(term.value) ? none : term.value;
  return { held: Math.min(largestNumber, Math.max(-largestNumber, held)), term: undefined };
}

/** Where one bound is computed, the other is kept beside it: what both of them let be is wider than either. */
function boundsOf(least: Bound, most: Bound): CounterForm['bounds'] {
  if (least.term === undefined && most.term === undefined) return { min: undefined, max: undefined };
  const of = ({ held, term }: Bound): Term => term ?? { op: 'constant', value: held };
  return { min: of(least), max: of(most) };
}

interface Bound {
  readonly held: number;
  readonly term: Term | undefined;
}

/** Narrows the bounds of counters that are computed to all that they can be, counters in the order in which they read each other. */
export function narrowBounds(form: Form): CounterForm[] {
  const counters = [...form.counters];
  const narrowed = { ...form, counters };
  const build = new Build(narrowed, {});
  counters.forEach(({ bounds, ...counter }, index) => {
    if (bounds.min === undefined || bounds.max === undefined) return;
    const rangeIn = (of: Term): Range => rangeOf(termValue(build, of), narrowed);
    const held = (value: number, none: number): number =>
      Number.isNaN(value) ? none : Math.min(largestNumber, Math.max(-largestNumber, value));
    counters[index] = {
      ...counter,
      bounds,
      min: held(rangeIn(bounds.min)[0], -largestNumber),
      // Where they cross the min counts, which may then lie above the max.
      max: held(Math.max(rangeIn(bounds.max)[1], rangeIn(bounds.min)[1]), largestNumber),
    };
  });
  return counters;
}

/** Timers, and the clocks that some of them run by: screens by number, each list of them once. */
export function lowerTimers(lowering: Lowering): {
  readonly timers: TimerForm[];
  readonly clocks: (readonly number[])[];
} {
  const { design } = lowering;
  const live = design.screens.flatMap((screen, index) => (screen.live ? [index] : []));
  const clocks: (readonly number[])[] = [];
  /** The clock that counts time on some screens; -1: the one of live time. */
  const clockOf = (names: readonly string[]): number => {
    const on = [...new Set(names)].map((name) => lowering.screens.get(name)!).sort((a, b) => a - b);
    if (on.join() === live.join()) return -1;
    const known = clocks.findIndex((each) => each.join() === on.join());
    return known >= 0 ? known : clocks.push(on) - 1;
  };
  const timers = design.timers.map(
    (timer): TimerForm => ({
      name: timer.name,
      repeats: timer.kind === 'every',
      interval: lowering.interval(timer.interval, `timer ${timer.name}`),
      clockCell: clockOf(timer.screens),
      keep: spanIndex(timer.keep),
      event: lowering.event(timer.event),
      warn: timer.warn,
      warnCell: -1,
      warnEvent: timer.warn.length === 0 ? -1 : lowering.event(`${timer.name}.warned`),
    }),
  );
  return { timers, clocks };
}

export function lowerPieces(lowering: Lowering): PieceForm[] {
  const { design } = lowering;
  const term = (of: Computed | undefined) => (typeof of === 'object' ? lowering.term(of) : undefined);
  return design.pieces.map((piece): PieceForm => {
    const { name, role, difficulty, takes, lasts, lead, returns, needs, outcomes, staysOnCourse, place } =
      piece;
    const { success, isSkilled, by } = piece;
    const events = outcomes.map((outcome) => lowering.event(`${name}.${outcome.name}`));
    const weights = outcomes.map(({ weight }) => weight && lowering.term(weight));
    return {
      name,
      role,
      lasts:
        typeof lasts === 'object' ? { value: lowering.shows(heldSeconds(lasts)) } : lasts && lasts / 1000,
      data: piece.data,
      computed: {
        difficulty: term(difficulty),
        takes: term(takes),
        lasts: term(lasts),
        lead: 'seconds' in lead ? lowering.computed(lead) : undefined,
        returns: returns !== undefined && 'seconds' in returns ? lowering.computed(returns) : undefined,
      },
      place,
      outcomes: events,
      appeared: lowering.event(`${name}.appeared`),
      gone: lowering.event(`${name}.gone`),
      needs: needs && lowering.term(needs),
      success: success === undefined ? -1 : lowering.event(`${name}.${success}`),
      by: by === undefined ? -1 : lowering.event(by),
      isSkilled,
      staysOnCourse,
      failure: events.at(-1)!,
      weighted: weights.every((weight) => weight !== undefined)
        ? events.flatMap((each, index) =>
            isSkilled && outcomes[index]!.name === success ? [] : [{ event: each, weight: weights[index]! }],
          )
        : undefined,
    };
  });
}

/** An act, told from others by its input and its condition. */
export const actKey = ({ input, condition }: Act): string =>
  condition === undefined ? input : `${input} if ${showExpression(condition)}`;

export function lowerActs(lowering: Lowering): ActForm[] {
  const { players } = lowering.design;
  const acts = new Map(players.flatMap(({ acts: own }) => own.map((act) => [actKey(act), act])));
  return [...acts].map(([key, { input, condition }]) => ({
    key,
    event: lowering.event(input),
    condition: condition && lowering.term(condition),
  }));
}

export function lowerLevels(lowering: Lowering): LevelForm[] {
  const { design } = lowering;
  return design.levels.map((level): LevelForm => {
    const nth = new Map<string, number>();
    const spawns = level.spawns.map((spawn): SpawnForm => {
      // A spawn is known by its level, its piece and which of that piece it is, so that a new line moves no other draw.
      const number = (nth.get(spawn.piece) ?? 0) + 1;
      nth.set(spawn.piece, number);
      // One that is an expression goes on, since it may be more later, even where dials alone are in it.
      const { total: written = Number.POSITIVE_INFINITY } = spawn;
      const total = typeof written === 'number' ? written : lowering.term(written);
      return {
        piece: lowering.pieces.get(spawn.piece)!,
        every: lowering.interval(spawn.every, `spawn ${level.name} ${spawn.piece} ${number}`),
        first: spawn.first && lowering.interval(spawn.first, `first ${level.name} ${spawn.piece} ${number}`),
        atOnce: spawn.atOnce === undefined ? mostPresent : lowering.amount(spawn.atOnce),
        total,
        most: typeof total === 'number' ? total : mostPresent,
      };
    });
    const placed = design.pieces.map(({ name }) =>
      lowering.amount(level.placed.find((each) => each.piece === name)?.count ?? 0),
    );
    const course = level.course.map((piece) => lowering.pieces.get(piece)!);
    return { name: level.name, placed, spawns, course };
  });
}
