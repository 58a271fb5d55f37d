import type { z } from 'zod';
import type { Expression } from '../language/expression.js';
import { levelName, mostLevels } from '../language/level-name.js';
import type { Scope } from '../language/parse-expression.js';
import type { Dial, Level, Piece, Spawn } from '../model.js';
import { levelSchema } from '../schema/levels.js';
import type { Path } from '../text/source.js';
import { soundKeys } from './named.js';
import { dialsAlone, type Reading, type Written, type WrittenInterval } from './reading.js';

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

/** Levels, those that one entry gives by a count written out. */
export function readLevels(
  reading: Reading,
  section: unknown,
  pieces: readonly Pick<Piece, 'name'>[],
  dials: readonly Dial[],
): UntimedLevel[] {
  const names = pieces.map((each) => each.name);
  const isList = Array.isArray(section);
  const written: readonly unknown[] = isList ? section : section === undefined ? [] : [section];
  if (section !== undefined && written.length === 0) {
    const remedy = 'Write at least one level, or leave the key out: then there is one level without spawns.';
    reading.fail('empty-list', { what: 'The list of levels', remedy }, ['levels']);
  }
  if (written.length === 0) return [bareLevel(reading)];
  const levels: WrittenLevel[] = [];
  written.forEach((value, index) => {
    const path: Path = isList ? ['levels', index] : ['levels'];
    const entry =
      reading.parse(levelSchema, value ?? {}, path, `Level ${levels.length + 1}`) ??
      soundKeys(levelSchema, value);
    const model = modelOf(reading, entry.like, levels, [...path, 'like']);
    const count = countOf(reading, entry, path);
    const first = levels.length + 1;
    if (first + count - 1 > mostLevels && first <= mostLevels) {
      const details = { what: 'The number of levels', found: first + count - 1, from: 1, to: mostLevels };
      reading.fail('out-of-range', details, path);
    }
    for (let nth = 0; nth < count && levels.length < mostLevels; nth++) {
      const name = levelName(entry.name, levels.length + 1, nth, count);
      if (entry.name !== undefined) reading.claimText(name, 'level', [...path, 'name']);
      levels.push({
        ...model,
        ...placesOf(entry, path),
        name,
        values: valuesOf(model, entry, nth, path),
        path,
      });
    }
    if (entry.endless === true && index < written.length - 1)
      reading.fail('endless-not-last', { level: levels.at(-1)!.name }, [...path, 'endless']);
    else if (entry.endless === true) levels[levels.length - 1] = { ...levels.at(-1)!, endless: true };
  });
  return levels.map((level): UntimedLevel => {
    const { name, place, spawn, course: line, path, endless = false } = level;
    const placed = Object.entries(place?.value ?? {}).flatMap(([piece, count]) => {
      const at = [...place!.path, piece];
      return reading.known(piece, 'piece', names, at, true) ? [{ piece, count, path: at }] : [];
    });
    const spawns = (spawn?.value ?? []).flatMap((each, at): UntimedLevel['spawns'][0][] => {
      const spawnPath = [...spawn!.path, at];
      if (!reading.known(each.piece, 'piece', names, [...spawnPath, 'piece'])) return [];
      return [
        {
          piece: each.piece,
          every: each.every,
          first: each.first,
          atOnce: each.atOnce,
          total: each.total,
          place: reading.source.placeOf(spawnPath),
          path: spawnPath,
        },
      ];
    });
    const course = (line?.value ?? []).flatMap((written, at) => {
      const [, times = '1', piece = written] = /^(\d+) x (.*)$/.exec(written) ?? [];
      if (!reading.known(piece, 'piece', names, [...line!.path, at])) return [];
      return Array.from({ length: Math.min(Number(times), longestCourse + 1) }, () => piece);
    });
    if (course.length > longestCourse) {
      const details = { what: 'The course', found: course.length, from: 0, to: longestCourse };
      reading.fail('out-of-range', details, line!.path);
    }
    return {
      name,
      values: readValues(reading, level.values, dials),
      endless,
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

type LevelEntry = z.output<typeof levelSchema>;

/** One level with all that it has of itself, and of the level that it is like. */
interface WrittenLevel {
  readonly name: string;
  readonly path: Path;
  readonly endless?: boolean | undefined;
  readonly values: ReadonlyMap<string, Written<number | string>>;
  readonly place?: Written<NonNullable<LevelEntry['place']>>;
  readonly spawn?: Written<NonNullable<LevelEntry['spawn']>>;
  readonly course?: Written<NonNullable<LevelEntry['course']>>;
}

/** A level's own keys, which stand in for those of the level that it is like. */
function placesOf({ place, spawn, course }: LevelEntry, path: Path) {
  return {
    ...(place && { place: { value: place, path: [...path, 'place'] } }),
    ...(spawn && { spawn: { value: spawn, path: [...path, 'spawn'] } }),
    ...(course && { course: { value: course, path: [...path, 'course'] } }),
  };
}

function valuesOf(
  model: WrittenLevel | undefined,
  { values = {} }: LevelEntry,
  nth: number,
  path: Path,
): WrittenLevel['values'] {
  const own = Object.entries(values).map(([name, value]): [string, Written<number | string>] => {
    const at = [...path, 'values', name];
    return [
      name,
      Array.isArray(value) ? { value: value[nth] ?? 0, path: [...at, nth] } : { value, path: at },
    ];
  });
  return new Map([...(model?.values ?? []), ...own]);
}

/** How many levels an entry gives: its count, or as many as its lists of values are long. */
function countOf(reading: Reading, { count, values = {} }: LevelEntry, path: Path): number {
  const lists = Object.entries(values).flatMap(([name, value]) =>
    Array.isArray(value) ? [{ name, length: value.length }] : [],
  );
  const many = count ?? lists[0]?.length ?? 1;
  for (const { name, length } of lists) {
    if (length === many) continue;
    const expected = `${many} values, one for each of these levels`;
    reading.fail('wrong-type', { found: `${length} values`, expected }, [...path, 'values', name]);
  }
  return many;
}

/** The level above that a level is like. */
function modelOf(
  reading: Reading,
  like: string | undefined,
  above: readonly WrittenLevel[],
  path: Path,
): WrittenLevel | undefined {
  if (like === undefined) return undefined;
  const names = above.map(({ name }) => name);
  if (!reading.known(like, 'level above this one', names, path)) return undefined;
  const { endless, ...found } = above[names.indexOf(like)]!;
  return found;
}

function readValues(
  reading: Reading,
  written: WrittenLevel['values'],
  dials: readonly Dial[],
): Map<string, Expression> {
  const scope = dialsAlone({ dials: new Set(dials.map((dial) => dial.name)) });
  return new Map(
    [...written].map(([name, { value, path }]): [string, Expression] => {
      if (name === 'last' || name === 'name') reading.failAtKey('reserved-name', { name }, path);
      const read = reading.expression(value, scope, 'number', path);
      // One with a mistake is no value that is lacking.
      return [name, read ?? { kind: 'number', value: 1 }];
    }),
  );
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
