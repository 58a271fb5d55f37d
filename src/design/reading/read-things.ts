import type { Expression } from '../language/expression.js';
import { visitExpression } from '../language/expression-parts.js';
import type { Scope } from '../language/parse-expression.js';
import type { Counter, Dial, Piece, Screen, Timer } from '../model.js';
import { dialSchema, timerSchema } from '../schema/things.js';
import type { Path } from '../text/source.js';
import { readNamed } from './named.js';
import { typeOf } from './read-counters.js';
import type { UntimedLevel } from './read-levels.js';
import type { Reading, WrittenInterval } from './reading.js';
import { screenNames } from './things.js';

export function readDials(reading: Reading, section: unknown): Dial[] {
  return readNamed(reading, section, 'dials', 'dial', dialSchema).map(({ name, path, entry }) => {
    const value = entry?.value ?? 0;
    const from = entry?.from ?? value;
    const to = entry?.to ?? value;
    if (from > to) reading.failAtKey('bad-order', { what: `The range of ${name}`, from, to }, path);
    else if (value < from || value > to) {
      reading.fail('out-of-range', { what: name, found: value, from, to }, [...path, 'value']);
    }
    const step = entry?.step;
    if (step !== undefined && step > to - from) {
      const details = { what: `The step of ${name}`, found: step, from: 0, to: to - from };
      reading.fail('out-of-range', details, [...path, 'step']);
    }
    return { name, value, from, to, step, place: reading.source.keyPlaceOf(path) };
  });
}

const timerKinds = ['countdown', 'every', 'after'] as const;

/** A timer whose interval and screens are still to be read, since they may name anything. */
export interface UntimedTimer extends Omit<Timer, 'interval' | 'screens'> {
  readonly written: WrittenInterval;
  readonly onScreens: string | readonly string[] | undefined;
  readonly path: Path;
}

export function readTimers(reading: Reading, section: unknown): UntimedTimer[] {
  return readNamed(reading, section, 'timers', 'timer', timerSchema).map(({ name, path, written, entry }) => {
    // What else is wrong with a timer does not change which event it sends.
    const keys: unknown[] = typeof written === 'object' && written !== null ? Object.keys(written) : [];
    const given = timerKinds.filter((kind) => keys.includes(kind));
    const kind = given[0] ?? 'countdown';
    if (entry !== undefined && given.length === 0) {
      reading.failAtKey('needs-one-of', { keys: timerKinds, where: `The timer ${name}` }, path);
    } else if (given.length > 1) {
      reading.failAtKey(
        'either-or',
        { keys: given, where: `The timer ${name}`, reason: 'a timer has one way to run' },
        path,
      );
    }
    return {
      name,
      kind,
      keep: entry?.keep ?? 'level',
      warn: readWarnings(reading, name, kind, entry?.countdown ?? 0, entry?.warn, [...path, 'warn']),
      event: `${name}.${kind === 'every' ? 'ticked' : 'ended'}`,
      place: reading.source.keyPlaceOf(path),
      written: entry?.[kind] ?? 1,
      onScreens: entry?.screens,
      path,
    };
  });
}

/** Reads how long timers run and on which screens; without any named, on those that are live. */
export function readTimes(
  reading: Reading,
  timers: readonly UntimedTimer[],
  grid: number,
  scope: Scope,
  screens: readonly Screen[],
): Timer[] {
  const live = screens.filter((screen) => screen.live).map((screen) => screen.name);
  return timers.map(({ written, onScreens, path, ...timer }) => ({
    ...timer,
    interval: reading.period(written, grid, scope, [...path, timer.kind]),
    screens: onScreens === undefined ? live : screenNames(reading, onScreens, screens, [...path, 'screens']),
  }));
}

function readWarnings(
  reading: Reading,
  name: string,
  kind: Timer['kind'],
  countdown: number | string,
  written: number | readonly number[] | undefined,
  path: Path,
): number[] {
  if (written === undefined) return [];
  if (kind !== 'countdown') {
    reading.failAtKey(
      'either-or',
      { keys: ['warn', kind], where: `The timer ${name}`, reason: 'only a countdown warns' },
      path,
    );
  }
  const seconds = typeof written === 'number' ? [written] : written;
  for (const each of seconds) {
    if (typeof countdown === 'number' && each >= countdown && kind === 'countdown') {
      reading.fail('out-of-range', { what: 'A warning', found: each, from: 0.001, to: countdown }, path);
    }
  }
  return seconds.map((each) => reading.duration(each, path)).sort((a, b) => b - a);
}

/** What expressions may name, once everything that has a name is read. */
export function scopeOf(things: {
  dials: readonly Dial[];
  counters: readonly Pick<Counter, 'name' | 'kind' | 'words'>[];
  timers: readonly UntimedTimer[];
  pieces: readonly Pick<Piece, 'answersTo'>[];
  levels: readonly UntimedLevel[];
}): Scope {
  const values = new Set(things.levels.flatMap((level) => [...level.values.keys()]));
  const lacking = (value: string) =>
    things.levels.filter((level) => !level.values.has(value)).map((level) => level.name);
  return {
    counters: new Set(things.counters.map((each) => each.name)),
    types: new Map(things.counters.map((each) => [each.name, typeOf(each)])),
    words: new Map(things.counters.map((each) => [each.name, each.words])),
    dials: new Set(things.dials.map((each) => each.name)),
    timers: new Set(things.timers.map((each) => each.name)),
    pieces: new Set(things.pieces.flatMap((each) => each.answersTo)),
    levelValues: new Map([...values].map((value) => [value, lacking(value)])),
  };
}

/** The first timer that an expression reads, or undefined. */
export function timerIn(expression: Expression | undefined): string | undefined {
  let found: string | undefined;
  if (expression !== undefined) {
    visitExpression(expression, (part) => {
      if (part.kind === 'timer') found ??= part.name;
    });
  }
  return found;
}
