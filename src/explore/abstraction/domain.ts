import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import { amountOf, footprintsOf, isMadeByEffects } from '../../engine/program/footprints.js';
import { type Amount, type Form, mostPresent } from '../../engine/program/form.js';
import { rangeOf } from '../../engine/program/ranges.js';
import { type Cone, holds } from './cone.js';
import { liveScreens } from './liveness.js';
import { type Saturation, saturationOf } from './saturation.js';
import { waitsOf } from './waits.js';

/** One number of a state of the search: a cell of the machine, and which values it can have there. */
export interface StatePart {
  readonly cell: number;
  /** Wide: any whole number up to 2^53. Choice: one of a few. Running: whether a timer runs is all that counts, 1 or 0. */
  readonly kind: 'value' | 'wide' | 'choice' | 'running';
  readonly least: number;
  /** How many values there are, from `least` on; of a choice, those in `choices`. */
  readonly size: number;
  readonly choices: readonly number[];
  /** What it is called where it may leave these values, as an unbounded counter may; undefined: it cannot. */
  readonly mayLeave: string | undefined;
}

/** A counter that saturates, by the numbers of its part and of the parts that remember which of its multiples were passed. */
interface SaturatedPart extends Saturation {
  readonly part: number;
  readonly memories: readonly { readonly part: number; readonly step: number }[];
}

/** The numbers that make up a state, and how larger ones are taken for smaller. */
export interface Domain {
  readonly parts: readonly StatePart[];
  readonly saturated: readonly SaturatedPart[];
  /** Parts that matter on some screens only, by whether they do on each; on the others they are taken for one value. */
  readonly idle: readonly {
    readonly parts: readonly { readonly part: number; readonly value: number }[];
    readonly matters: readonly boolean[];
  }[];
  /** The part of the level where all levels past the list are the same, or -1. */
  readonly cappedLevel: number;
  /** For each part that counts what a spawn has made, `[level]`: more than that does not count. */
  readonly madeCaps: ReadonlyMap<number, readonly number[]>;
}

/** Numbers of a part at the most, so that several parts share a word of 31 bits. */
const mostValues = 2 ** 31 - 1;

export function domainOf(form: Form, cone: Cone): Domain {
  const { cells: at, screens, levels } = form;
  const parts: StatePart[] = [];
  const value = (cell: number, least: number, size: number, mayLeave?: string): void => {
    parts.push({ cell, kind: 'value', least, size, choices: [], mayLeave });
  };
  const wide = (cell: number): void => {
    parts.push({
      cell,
      kind: 'wide',
      least: Number.NEGATIVE_INFINITY,
      size: Number.POSITIVE_INFINITY,
      choices: [],
      mayLeave: undefined,
    });
  };
  const choice = (cell: number, choices: readonly number[]): void => {
    parts.push({ cell, kind: 'choice', least: 0, size: choices.length, choices, mayLeave: undefined });
  };
  const waitsOn = (screen: number): number[] => waitsOf(form).on[screen]!.flat();
  const waits = ascending([0, ...screens.flatMap((_, screen) => waitsOn(screen))]);
  const isEndless = form.endless && cone.readsLevel;
  value(at.screen, 0, screens.length);
  value(at.level, 0, isEndless ? mostLevels : levels.length, isEndless ? 'the level' : undefined);
  choice(at.waited, waits);
  const idle = new Map<string, { parts: { part: number; value: number }[]; matters: boolean[] }>();
  const mattersOn = (part: number, value: number, on: ReadonlySet<number>): void => {
    const matters = screens.map((_, screen) => on.has(screen));
    const known = idle.get(matters.join());
    if (known === undefined) idle.set(matters.join(), { parts: [{ part, value }], matters });
    else known.parts.push({ part, value });
  };
  screens.forEach(({ backCell }, screen) => {
    if (backCell < 0) return;
    // Where a pause leads back to, and which waits were over there; how long it had lasted is left out with time.
    // Where it is entered from nowhere, as the first screen is at the start, it leads back to the first screen.
    const origins = form.transitions.flatMap(({ from, to }) => (to === screen && from >= 0 ? [from] : []));
    // The next way in sets both anew.
    const on = new Set(screensWithBack(form, screen));
    for (const part of [parts.length, parts.length + 1]) mattersOn(part, 0, on);
    choice(backCell, ascending([0, ...origins]));
    choice(backCell + 2, ascending([0, ...origins.flatMap(waitsOn)]));
  });
  const saturations = saturationOf(form, cone);
  const partOf = new Map<number, number>();
  for (const counter of cone.counters) {
    partOf.set(counter, parts.length);
    const [low, most] = heldBetween(form, cone, counter);
    const saturation = saturations.get(counter);
    // One that starts past what is told apart is taken back to there.
    const least = saturation === undefined ? low : Math.min(low, saturation.from);
    const last = saturation === undefined ? most : Math.min(most, saturation.from + saturation.every - 1);
    if (last - least >= mostValues || least < -mostValues) {
      wide(at.counters + counter);
      continue;
    }
    // The remainder of a milestone may lag behind where its rule does not run.
    const mayLag = saturation !== undefined && saturation.every > 1;
    value(at.counters + counter, least, last - least + 1, mayLag ? form.counters[counter]!.name : undefined);
  }
  for (const rule of cone.once) value(form.rules[rule]!.onceCell, 0, 2);
  const memories: { part: number; rule: number }[] = [];
  for (const rule of cone.memories) {
    const { passes, memoryCell, name } = form.rules[rule]!;
    memories.push({ part: parts.length, rule });
    if (passes === undefined) {
      value(memoryCell, 0, 2);
      continue;
    }
    const { kind, least, size } = parts[partOf.get(passes.counter)!]!;
    if (kind === 'wide') {
      wide(memoryCell);
      continue;
    }
    const first = Math.floor(least / passes.step);
    const count = Math.floor((least + size - 1) / passes.step) - first + 1;
    value(memoryCell, first, count, `what the rule "${name}" counts`);
  }
  for (const piece of cone.pieces) value(at.present + piece, 0, mostOf(form, piece) + 1);
  if (cone.readsCourse && at.courseLength > 0) {
    for (let cell = 0; cell < 2; cell++) value(at.course + cell, 0, at.courseLength + 1);
    for (let cell = 0; cell < at.courseLength; cell++)
      value(at.course + 2 + cell, -1, form.pieces.length + 1);
  }
  const madeCaps = new Map<number, readonly number[]>();
  if (cone.countsMade) {
    for (let slot = 0; slot < at.spawnMade - at.spawnDue; slot++) {
      const caps = levels.map(({ spawns }) => finite(spawns[slot]?.most ?? 0));
      madeCaps.set(parts.length, caps);
      value(at.spawnMade + slot, 0, Math.max(...caps) + 1);
    }
  }
  for (const timer of cone.timers)
    parts.push({
      cell: at.timers + timer,
      kind: 'running',
      least: 0,
      size: 2,
      choices: [],
      mayLeave: undefined,
    });
  const saturated = [...saturations].map(([counter, saturation]): SaturatedPart => {
    const own = memories.flatMap(({ part, rule }) => {
      const { passes } = form.rules[rule]!;
      return passes?.counter === counter ? [{ part, step: passes.step }] : [];
    });
    return { ...saturation, part: partOf.get(counter)!, memories: own };
  });
  const live = liveScreens(form, cone);
  parts.forEach(({ cell, kind, least }, part) => {
    const on = live.get(cell);
    if (on !== undefined && kind !== 'choice') mattersOn(part, kind === 'wide' ? 0 : least, on);
  });
  return {
    parts,
    saturated,
    madeCaps,
    idle: [...idle.values()],
    cappedLevel: form.endless && !cone.readsLevel ? 1 : -1,
  };
}

const ascending = (values: readonly number[]): number[] => [...new Set(values)].sort((a, b) => a - b);

/**
 * Where it matters which screen one was entered from: there, and wherever a way leads back to it, at once or over others. All that leads to
 * such a screen is one itself, so that what is remembered is not lost on the way; entering the screen anew forgets it.
 */
function screensWithBack({ transitions, screens }: Form, screen: number): number[] {
  const live = new Set([screen]);
  for (let known = 0; known < live.size; ) {
    known = live.size;
    for (const { from, to, index } of transitions) {
      if (index < 0) continue;
      const leads =
        to < 0
          ? transitions.some((each) => each.to === from && live.has(each.from))
          : to !== screen && live.has(to);
      if (leads) live.add(from);
    }
  }
  return screens.flatMap((_, other) => (live.has(other) ? [other] : []));
}

/** Levels that an endless game is followed through where the number itself counts. */
const mostLevels = 2 ** 20;

const finite = (count: number): number => (Number.isFinite(count) ? count : 0);

/** What a counter can hold, as its start and its writes have it. */
function heldBetween(form: Form, cone: Cone, counter: number): readonly [number, number] {
  const { min, max, start, bounds } = form.counters[counter]!;
  // Where a bound is computed, what is written may be held at anything that it can be.
  if (bounds.min !== undefined || bounds.max !== undefined) return [min, max];
  let [least, most] = rangeOf(term(new Build(form, {}), start), form);
  const footprints = footprintsOf(form);
  for (const { writes } of [
    ...cone.rules.map((rule) => footprints.rules[rule]!),
    ...footprints.transitions,
  ]) {
    for (const write of writes) {
      if (write.first !== form.cells.counters + counter) continue;
      const { adds, amount } = amountOf(write);
      const [low, high] = rangeOf(amount, form);
      if (adds) {
        if (!(low >= 0)) least = min;
        if (!(high <= 0)) most = max;
      } else {
        least = Math.min(least, low);
        most = Math.max(most, high);
      }
    }
  }
  const held = (value: number, otherwise: number): number =>
    Number.isNaN(value) ? otherwise : Math.min(max, Math.max(min, Math.round(value)));
  return [held(Math.floor(least), min), held(Math.ceil(most), max)];
}

/** How many a number of pieces can be, where it may be computed. */
function mostMeant(form: Form, of: Amount): number {
  if (typeof of === 'number') return of;
  const [, most] = rangeOf(term(new Build(form, {}), of), form);
  return Number.isNaN(most) ? mostPresent : Math.min(mostPresent, Math.max(0, Math.round(most)));
}

/** How many of a piece can be present at once. */
function mostOf(form: Form, piece: number): number {
  const isMade = form.levels.some((level) => holds(level, piece));
  if (!isMade || isMadeByEffects(form, piece)) return mostPresent;
  const most = form.levels.map(({ placed, spawns, course }) => {
    const own = spawns.filter((spawn) => spawn.piece === piece);
    const atStart = mostMeant(form, placed[piece]!) + course.filter((each) => each === piece).length;
    const inAll = own.reduce((sum, { total }) => sum + mostMeant(form, total), atStart);
    return Math.min(inAll, Math.max(atStart, ...own.map(({ atOnce }) => mostMeant(form, atOnce))));
  });
  return Math.min(mostPresent, Math.max(...most));
}
