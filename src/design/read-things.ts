import type { z } from 'zod';
import type { Expression, Scope, ValueType } from './expression.js';
import { visitExpression } from './expression-parts.js';
import {
  type Counter,
  type Dial,
  type Level,
  type Piece,
  type Role,
  roles,
  type Spawn,
  type Timer,
  type Value,
} from './model.js';
import { nameFault } from './names.js';
import { listed, type Names, type Reading } from './reading.js';
import { counterSchema, dialSchema, largestNumber, levelSchema, pieceSchema, timerSchema } from './schema.js';
import type { Path } from './source.js';

type Raw = Readonly<Record<string, unknown>>;

/** Reads each entry of a section by itself and takes its name; the entry is left out where it cannot be read. */
export function readNamed<Schema extends z.ZodType>(
  reading: Reading,
  section: unknown,
  key: string,
  kind: string,
  schema: Schema,
  names: Names = reading.names,
): { name: string; path: Path; entry: z.output<Schema> | undefined }[] {
  return Object.entries((section ?? {}) as Raw).flatMap(([name, value]) => {
    const path = [key, name];
    const claimed = reading.claim(name, kind, path, names);
    const entry = reading.parse(schema, value ?? {}, path, `${kind} ${name}`);
    return claimed ? [{ name, path, entry }] : [];
  });
}

export function readDials(reading: Reading, section: unknown): Dial[] {
  return readNamed(reading, section, 'dials', 'dial', dialSchema).map(({ name, path, entry }) => {
    const value = entry?.value ?? 0;
    const from = entry?.from ?? value;
    const to = entry?.to ?? value;
    if (from > to) reading.failAtKey('bad-order', { what: `The range of ${name}`, from, to }, path);
    else if (value < from || value > to) {
      reading.fail('out-of-range', { what: name, found: value, from, to }, [...path, 'value']);
    }
    return { name, value, from, to, place: reading.source.keyPlaceOf(path) };
  });
}

/** A counter whose start is still to be read: it may name dials and the counters above it. */
export interface UnstartedCounter extends Omit<Counter, 'start'> {
  readonly start: Value;
  readonly path: Path;
}

export function readCounters(reading: Reading, section: unknown): UnstartedCounter[] {
  return readNamed(reading, section, 'counters', 'counter', counterSchema).map(({ name, path, entry }) => {
    const { words = [], places = 0 } = entry ?? {};
    const kind = words.length > 0 ? 'words' : typeof entry?.start === 'boolean' ? 'flag' : 'number';
    const common = {
      name,
      kind,
      words,
      places,
      keep: entry?.keep ?? 'run',
      place: reading.source.keyPlaceOf(path),
      path,
    } as const;
    words.forEach((word, index) => {
      const fault = nameFault(word);
      if (fault !== undefined) reading.fail(fault, { name: word }, [...path, 'words', index]);
      else if (words.indexOf(word) < index)
        reading.fail('duplicate-key', { key: word }, [...path, 'words', index]);
    });
    if (kind !== 'number') {
      for (const key of ['min', 'max', 'places'] as const) {
        if (entry?.[key] === undefined) continue;
        const reason = kind === 'flag' ? 'a flag is true or false' : 'its words are all it can hold';
        reading.failAtKey(
          'either-or',
          { keys: [kind === 'flag' ? 'start' : 'words', key], where: `The counter ${name}`, reason },
          [...path, key],
        );
      }
      return {
        ...common,
        min: 0,
        max: kind === 'flag' ? 1 : words.length - 1,
        start: entry?.start ?? words[0]!,
      };
    }
    const bound = (key: 'min' | 'max' | 'start', none: number): number => {
      const value = entry?.[key];
      if (typeof value !== 'number') return none;
      if (Math.round(value * 10 ** places) / 10 ** places !== value) {
        const expected =
          places === 0 ? 'a whole number; places: 1 would keep one decimal' : `at most ${places} decimals`;
        reading.fail('wrong-type', { found: String(value), expected }, [...path, key]);
      }
      return value;
    };
    const largest = largestNumber / 10 ** places;
    const min = bound('min', -largest);
    const max = bound('max', largest);
    const start = bound('start', 0);
    if (min > max) reading.failAtKey('bad-order', { what: `The range of ${name}`, from: min, to: max }, path);
    else if (typeof entry?.start !== 'string' && (start < min || start > max)) {
      reading.fail('out-of-range', { what: `The start of ${name}`, found: start, from: min, to: max }, [
        ...path,
        'start',
      ]);
    }
    return { ...common, min, max, start: entry?.start ?? 0 };
  });
}

export function readStarts(reading: Reading, counters: readonly UnstartedCounter[], scope: Scope): Counter[] {
  return counters.map(({ path, start, ...counter }, index) => {
    const at = [...path, 'start'];
    const read = reading.expression(start, scope, typeOf(counter), at) ?? { kind: 'number', value: 0 };
    visitExpression(read, (part) => {
      if (part.kind !== 'counter' || counters.slice(0, index).some((each) => each.name === part.name)) return;
      reading.fail('start-order', { counter: counter.name, reads: part.name }, at);
    });
    return { ...counter, start: read };
  });
}

/** What an expression must give to be written to a counter. */
export const typeOf = ({ kind, name }: Pick<Counter, 'kind' | 'name'>): ValueType =>
  kind === 'number' ? 'number' : kind === 'flag' ? 'truth value' : `word of ${name}`;

const timerKinds = ['countdown', 'every', 'after'] as const;

export function readTimers(reading: Reading, section: unknown, grid: number): Timer[] {
  return readNamed(reading, section, 'timers', 'timer', timerSchema).map(({ name, path, entry }) => {
    const given = timerKinds.filter((kind) => entry?.[kind] !== undefined);
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
      interval: reading.interval(entry?.[kind] ?? 1, grid, [...path, kind]),
      keep: entry?.keep ?? 'level',
      warn: readWarnings(reading, name, kind, entry?.countdown ?? 0, entry?.warn, [...path, 'warn']),
      event: `${name}.${kind === 'every' ? 'ticked' : 'ended'}`,
      place: reading.source.keyPlaceOf(path),
    };
  });
}

function readWarnings(
  reading: Reading,
  name: string,
  kind: Timer['kind'],
  countdown: number,
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
    if (each >= countdown && kind === 'countdown') {
      reading.fail('out-of-range', { what: 'A warning', found: each, from: 0.001, to: countdown }, path);
    }
  }
  return seconds.map((each) => reading.duration(each, path)).sort((a, b) => b - a);
}

/** Appearance to arrival where a piece says nothing. */
const defaultLead = 2000;
const defaultTakes = 1000;

/** A piece whose `needs` is still to be read, since it may name anything. */
export interface UnneededPiece extends Omit<Piece, 'needs'> {
  readonly needs: { readonly text: string | boolean; readonly path: Path } | undefined;
}

export function readPieces(reading: Reading, section: unknown, grid: number): UnneededPiece[] {
  const written = readNamed(reading, section, 'pieces', 'piece', pieceSchema);
  const byName = new Map(written.map((each) => [each.name, each]));
  const inCircle = new Set<string>();

  /** The chain of pieces that one is like, itself first; cut where it closes a circle. */
  function chain(name: string): string[] {
    const seen: string[] = [];
    for (
      let at: string | undefined = name;
      at !== undefined && byName.has(at);
      at = byName.get(at)?.entry?.like
    ) {
      if (seen.includes(at)) {
        if (!inCircle.has(at)) {
          const circle = seen.slice(seen.indexOf(at));
          for (const each of circle) inCircle.add(each);
          reading.fail('like-cycle', { chain: [...circle, at] }, ['pieces', at, 'like']);
        }
        break;
      }
      seen.push(at);
    }
    return seen;
  }

  const pieces = written.map(({ name, path, entry }): UnneededPiece => {
    if (entry?.like !== undefined) reading.known(entry.like, 'piece', byName.keys(), [...path, 'like']);
    const chained = chain(name).map((each) => byName.get(each)!);
    const first = <Value>(
      pick: (own: NonNullable<typeof entry>) => Value | undefined,
    ): { value: Value; path: Path } | undefined => {
      for (const { entry: own, path: ownPath } of chained) {
        const value = own === undefined ? undefined : pick(own);
        if (value !== undefined) return { value, path: ownPath };
      }
      return undefined;
    };
    const role: Role = first((own) => own.is)?.value ?? 'collectible';
    if (
      entry !== undefined &&
      first((own) => own.is) === undefined &&
      chained.every((each) => each.entry !== undefined && !inCircle.has(each.name))
    ) {
      reading.failAtKey('missing-key', { key: 'is', where: `The piece ${name}` }, path);
    }
    const groups = chained.flatMap(({ entry: own, path: ownPath }) =>
      own?.in === undefined ? [] : listed(own.in, [...ownPath, 'in']),
    );
    const takes = first((own) => own.takes);
    const lasts = first((own) => own.lasts);
    const lead = first((own) => own.lead);
    const ends = first((own) => own.ends);
    const needs = first((own) => own.needs);
    const { success, failure, stays } = roles[role];
    const outcomes = [...new Set([success, failure])];
    return {
      name,
      role,
      answersTo: [...new Set([name, ...groups.map((each) => each.name), role])],
      meets: first((own) => own.meets)?.value ?? roles[role].meets,
      difficulty: first((own) => own.difficulty)?.value ?? 0,
      takes: takes === undefined ? defaultTakes : reading.duration(takes.value, [...takes.path, 'takes']),
      lasts: lasts === undefined ? undefined : reading.duration(lasts.value, [...lasts.path, 'lasts']),
      lead: reading.interval(lead?.value ?? defaultLead / 1000, grid, [...(lead?.path ?? path), 'lead']),
      again: first((own) => own.again)?.value ?? false,
      ends:
        ends === undefined
          ? outcomes.filter((outcome) => !stays.includes(outcome))
          : listed(ends.value, [...ends.path, 'ends']).flatMap(({ name: outcome, path: at }) =>
              reading.known(outcome, `outcome of a ${role}`, outcomes, at) ? [outcome] : [],
            ),
      needs: needs === undefined ? undefined : { text: needs.value, path: [...needs.path, 'needs'] },
      place: reading.source.keyPlaceOf(path),
    };
  });
  claimGroups(reading, written);
  return pieces;
}

export function readNeeds(reading: Reading, pieces: readonly UnneededPiece[], scope: Scope): Piece[] {
  return pieces.map((piece) => {
    const { needs } = piece;
    return {
      ...piece,
      needs:
        needs === undefined ? undefined : reading.expression(needs.text, scope, 'truth value', needs.path),
    };
  });
}

/** A group is named by the pieces in it; the first mention takes the name. */
function claimGroups(
  reading: Reading,
  written: readonly { path: Path; entry: { in?: string | string[] | undefined } | undefined }[],
): void {
  const groups = new Set<string>();
  for (const { path, entry } of written) {
    for (const { name, path: at } of listed(entry?.in ?? [], [...path, 'in'])) {
      if (Object.hasOwn(roles, name)) continue;
      if (!groups.has(name)) reading.claim(name, 'group', at);
      groups.add(name);
    }
  }
}

export function readLevels(
  reading: Reading,
  section: unknown,
  pieces: readonly Pick<Piece, 'name'>[],
  dials: readonly Dial[],
  grid: number,
): Level[] {
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
  return entries.map(({ path, entry }, index): Level => {
    if (entry?.name !== undefined) reading.claimText(entry.name, 'level', [...path, 'name']);
    if (entry?.endless === true && index < written.length - 1) {
      reading.fail('endless-not-last', { level: entry.name ?? `Level ${index + 1}` }, [...path, 'endless']);
    }
    const model = modelOf(reading, entry?.like, entries.slice(0, index), [...path, 'like']);
    const own = { entry, path };
    /** A level's own keys stand in for those of the level that it is like. */
    const from = <Key extends 'place' | 'spawn'>(key: Key) =>
      entry?.[key] === undefined && model !== undefined ? model : own;
    const values = new Map([
      ...readValues(reading, model?.entry?.values, dials, [...(model?.path ?? path), 'values']),
      ...readValues(reading, entry?.values, dials, [...path, 'values']),
    ]);
    const placing = from('place');
    const placed = Object.entries(placing.entry?.place ?? {}).flatMap(([piece, count]) =>
      reading.known(piece, 'piece', names, [...placing.path, 'place', piece], true) ? [{ piece, count }] : [],
    );
    const spawning = from('spawn');
    const spawns = (spawning.entry?.spawn ?? []).flatMap((spawn, at): Spawn[] => {
      const spawnPath = [...spawning.path, 'spawn', at];
      if (!reading.known(spawn.piece, 'piece', names, [...spawnPath, 'piece'])) return [];
      return [
        {
          piece: spawn.piece,
          every: reading.interval(spawn.every, grid, [...spawnPath, 'every']),
          first:
            spawn.first === undefined ? undefined : reading.duration(spawn.first, [...spawnPath, 'first']),
          atOnce: spawn.atOnce,
          total: spawn.total,
          place: reading.source.placeOf(spawnPath),
        },
      ];
    });
    return {
      name: entry?.name ?? `Level ${index + 1}`,
      values,
      endless: entry?.endless ?? false,
      placed,
      spawns,
      place: reading.source.placeOf(path),
    };
  });
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
  const none = new Set<string>();
  const scope: Scope = {
    counters: none,
    types: new Map(),
    words: new Map(),
    dials: new Set(dials.map((dial) => dial.name)),
    timers: none,
    pieces: none,
    levelValues: new Map(),
  };
  return Object.entries(written ?? {}).flatMap(([name, value]): [string, Expression][] => {
    if (name === 'last' || name === 'name') reading.failAtKey('reserved-name', { name }, [...path, name]);
    const read = reading.expression(value, scope, 'number', [...path, name]);
    return read === undefined ? [] : [[name, read]];
  });
}

const bareLevel = (reading: Reading): Level => ({
  name: 'Level 1',
  values: new Map(),
  endless: false,
  placed: [],
  spawns: [],
  place: reading.source.placeOf([]),
});

/** What expressions may name, once everything that has a name is read. */
export function scopeOf(things: {
  dials: readonly Dial[];
  counters: readonly Pick<Counter, 'name' | 'kind' | 'words'>[];
  timers: readonly Timer[];
  pieces: readonly Pick<Piece, 'answersTo'>[];
  levels: readonly Level[];
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
