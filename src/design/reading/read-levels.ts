import type { z } from 'zod';
import type { Expression } from '../language/expression.js';
import type { Scope } from '../language/parse-expression.js';
import type { Dial, Level, Piece, Spawn } from '../model.js';
import { levelSchema } from '../schema.js';
import type { Path } from '../text/source.js';
import { dialsAlone, type Reading, type WrittenInterval } from './reading.js';

/** A level whose expressions are still to be read, since they may name anything. */
export interface UntimedLevel extends Omit<Level, 'spawns' | 'placed'> {
  readonly placed: readonly {
    readonly piece: string;
    readonly count: number | string;
    readonly path: Path;
  }[];
  readonly spawns: readonly (Omit<Spawn, 'every' | 'first' | 'atOnce' | 'total'> & {
    readonly every: WrittenInterval;
    readonly first: number | string | undefined;
    readonly atOnce: number | string | undefined;
    readonly total: number | string | undefined;
    readonly path: Path;
  })[];
}

export function readLevels(
  reading: Reading,
  section: unknown,
  pieces: readonly Pick<Piece, 'name'>[],
  dials: readonly Dial[],
): UntimedLevel[] {
  const names = pieces.map((each) => each.name);
  const written = (section ?? []) as readonly unknown[];
  if (section !== undefined && written.length === 0) {
    const remedy = 'Write at least one level, or leave the key out: then there is one level without spawns.';
    reading.fail('empty-list', { what: 'The list of levels', remedy }, ['levels']);
  }
  if (written.length === 0) return [bareLevel(reading)];
  const entries = written.map((value, index) => ({
    path: ['levels', index],
    entry: reading.parse(levelSchema, value ?? {}, ['levels', index], `The level ${index + 1}`),
  }));
  return entries.map(({ path, entry }, index): UntimedLevel => {
    if (entry?.name !== undefined) reading.claimText(entry.name, 'level', [...path, 'name']);
    if (entry?.endless === true && index < written.length - 1) {
      reading.fail('endless-not-last', { level: entry.name ?? `Level ${index + 1}` }, [...path, 'endless']);
    }
    const model = modelOf(reading, entry?.like, entries.slice(0, index), [...path, 'like']);
    const own = { entry, path };
    /** A level's own keys stand in for those of the level that it is like. */
    const from = <Key extends 'place' | 'spawn' | 'course'>(key: Key) =>
      entry?.[key] === undefined && model !== undefined ? model : own;
    const values = new Map([
      ...readValues(reading, model?.entry?.values, dials, [...(model?.path ?? path), 'values']),
      ...readValues(reading, entry?.values, dials, [...path, 'values']),
    ]);
    const placing = from('place');
    const placed = Object.entries(placing.entry?.place ?? {}).flatMap(([piece, count]) => {
      const at = [...placing.path, 'place', piece];
      return reading.known(piece, 'piece', names, at, true) ? [{ piece, count, path: at }] : [];
    });
    const spawning = from('spawn');
    const spawns = (spawning.entry?.spawn ?? []).flatMap((spawn, at): UntimedLevel['spawns'][0][] => {
      const spawnPath = [...spawning.path, 'spawn', at];
      if (!reading.known(spawn.piece, 'piece', names, [...spawnPath, 'piece'])) return [];
      return [
        {
          piece: spawn.piece,
          every: spawn.every,
          first: spawn.first,
          atOnce: spawn.atOnce,
          total: spawn.total,
          place: reading.source.placeOf(spawnPath),
          path: spawnPath,
        },
      ];
    });
    const travelled = from('course');
    const course = (travelled.entry?.course ?? []).flatMap((written, at) => {
      const [, times = '1', piece = written] = /^(\d+) x (.*)$/.exec(written) ?? [];
      if (!reading.known(piece, 'piece', names, [...travelled.path, 'course', at])) return [];
      return Array.from({ length: Math.min(Number(times), longestCourse + 1) }, () => piece);
    });
    if (course.length > longestCourse) {
      const details = { what: 'The course', found: course.length, from: 0, to: longestCourse };
      reading.fail('out-of-range', details, [...travelled.path, 'course']);
    }
    return {
      name: entry?.name ?? `Level ${index + 1}`,
      values,
      endless: entry?.endless ?? false,
      placed,
      spawns,
      course,
      place: reading.source.placeOf(path),
    };
  });
}

/** Pieces on one course. */
const longestCourse = 1000;

/** Reads how many pieces levels have, and when spawns make theirs appear. */
export function readSpawns(
  reading: Reading,
  levels: readonly UntimedLevel[],
  grid: number,
  scope: Scope,
): Level[] {
  return levels.map((level) => ({
    ...level,
    placed: level.placed.map(({ piece, count, path }) => ({
      piece,
      count: reading.computed(count, scope, path),
    })),
    spawns: level.spawns.map(({ path, atOnce, total, ...spawn }) => ({
      ...spawn,
      atOnce: atOnce === undefined ? undefined : reading.computed(atOnce, scope, [...path, 'atOnce']),
      total: total === undefined ? undefined : reading.computed(total, scope, [...path, 'total']),
      every: reading.period(spawn.every, grid, scope, [...path, 'every']),
      first:
        spawn.first === undefined ? undefined : reading.timed(spawn.first, grid, scope, [...path, 'first']),
    })),
  }));
}

interface WrittenLevel {
  readonly entry: z.output<typeof levelSchema> | undefined;
  readonly path: Path;
}

/** The level above that a level is like, itself completed by the one it is like. */
function modelOf(
  reading: Reading,
  like: string | undefined,
  above: readonly WrittenLevel[],
  path: Path,
): WrittenLevel | undefined {
  if (like === undefined) return undefined;
  const names = above.map(({ entry }, index) => entry?.name ?? `Level ${index + 1}`);
  if (!reading.known(like, 'level above this one', names, path)) return undefined;
  const found = above[names.indexOf(like)]!;
  const base =
    found.entry?.like === undefined
      ? undefined
      : above.find(({ entry }) => entry?.name === found.entry?.like);
  if (base === undefined || found.entry === undefined) return found;
  const entry = { ...base.entry, ...found.entry, values: { ...base.entry?.values, ...found.entry.values } };
  return { ...found, entry };
}

function readValues(
  reading: Reading,
  written: Readonly<Record<string, number | string>> | undefined,
  dials: readonly Dial[],
  path: Path,
): [string, Expression][] {
  const scope = dialsAlone({ dials: new Set(dials.map((dial) => dial.name)) });
  return Object.entries(written ?? {}).flatMap(([name, value]): [string, Expression][] => {
    if (name === 'last' || name === 'name') reading.failAtKey('reserved-name', { name }, [...path, name]);
    const read = reading.expression(value, scope, 'number', [...path, name]);
    return read === undefined ? [] : [[name, read]];
  });
}

const bareLevel = (reading: Reading): UntimedLevel => ({
  name: 'Level 1',
  values: new Map(),
  endless: false,
  placed: [],
  spawns: [],
  course: [],
  place: reading.source.placeOf([]),
});
