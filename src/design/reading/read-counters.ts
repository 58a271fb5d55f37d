import type { z } from 'zod';
import type { ValueType } from '../language/expression.js';
import { visitExpression } from '../language/expression-parts.js';
import { nameFault } from '../language/names.js';
import type { Scope } from '../language/parse-expression.js';
import { largestNumber } from '../limits.js';
import { type Computed, type Counter, type Keep, spans, type Value } from '../model.js';
import { inOneLine, isPlainMap } from '../problems/meant.js';
import { counterSchema } from '../schema/things.js';
import type { Path } from '../text/source.js';
import { readNamed, soundKeys } from './named.js';
import type { Reading } from './reading.js';

/** A counter whose start and bounds are still to be read: they may name dials and the counters above it. */
export interface UnstartedCounter extends Omit<Counter, 'start' | 'min' | 'max'> {
  readonly start: Value;
  readonly min: number | string;
  readonly max: number | string;
  readonly path: Path;
}

export function readCounters(reading: Reading, section: unknown): UnstartedCounter[] {
  const starts = withStarts(withoutKeys(reading, section));
  return readNamed(reading, starts, 'counters', 'counter', counterSchema).map(
    ({ name, path, written, entry: whole }) => {
      const entry = whole ?? soundCounter(written);
      const { words = [], places = 0 } = entry;
      const kind = words.length > 0 ? 'words' : typeof entry.start === 'boolean' ? 'flag' : 'number';
      const common = {
        name,
        kind,
        words,
        places,
        keep: entry.keep ?? 'run',
        place: reading.source.keyPlaceOf(path),
        path,
      } as const;
      words.forEach((word, index) => {
        const fault = nameFault(word);
        if (fault !== undefined) reading.fail(fault, { name: word }, [...path, 'words', index]);
        else if (words.indexOf(word) < index)
          reading.fail(
            'duplicate-key',
            {
              key: word,
              line: reading.source.placeOf([...path, 'words', words.indexOf(word)]).line,
              isBlock: false,
            },
            [...path, 'words', index],
          );
      });
      if (kind !== 'number') {
        for (const key of ['min', 'max', 'places'] as const) {
          if (entry[key] === undefined) continue;
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
          start: entry.start ?? words[0]!,
        };
      }
      const bound = (key: 'min' | 'max' | 'start', none: number): number => {
        const value = entry[key];
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
      if (min > max)
        reading.failAtKey('bad-order', { what: `The range of ${name}`, from: min, to: max }, path);
      else if (whole !== undefined && typeof whole.start !== 'string' && (start < min || start > max)) {
        reading.fail('out-of-range', { what: `The start of ${name}`, found: start, from: min, to: max }, [
          ...path,
          'start',
        ]);
      }
      return {
        ...common,
        min: typeof entry.min === 'string' ? entry.min : min,
        max: typeof entry.max === 'string' ? entry.max : max,
        start: entry.start ?? 0,
      };
    },
  );
}

/** Of a counter with mistakes, what is none; without its words or its decimals, the rest of it says little. */
function soundCounter(written: unknown): Partial<z.output<typeof counterSchema>> {
  const sound = soundKeys(counterSchema, written);
  const lacks = (key: 'words' | 'places'): boolean =>
    isPlainMap(written) && Object.hasOwn(written, key) && sound[key] === undefined;
  return lacks('words') || lacks('places') ? {} : sound;
}

/** The counters of a section without what belongs inside the one above it: `lives: 3, min: 0`. */
function withoutKeys(reading: Reading, section: unknown): unknown {
  const kept: [string, unknown][] = [];
  for (const [key, value] of Object.entries((section ?? {}) as Record<string, unknown>)) {
    const isKey = key === 'min' || key === 'max' || (key === 'keep' && spans.includes(value as Keep));
    const above = kept.at(-1);
    if (!isKey || above === undefined || typeof value === 'object') kept.push([key, value]);
    else {
      const [name, start] = above;
      const own = inOneLine({ ...(typeof start === 'object' ? start : { start }), [key]: value });
      const instead = own && `${name}: ${own}`;
      reading.failAtKey('reserved-name', { name: key, instead }, ['counters', key]);
    }
  }
  return Object.fromEntries(kept);
}

/** A counter that is one value starts with it: `score: 3` is short for `score: { start: 3 }`. */
const withStarts = (section: unknown): unknown =>
  Object.fromEntries(
    Object.entries((section ?? {}) as Record<string, unknown>).map(([name, entry]) => [
      name,
      typeof entry === 'object' ? entry : { start: entry },
    ]),
  );

export function readStarts(reading: Reading, counters: readonly UnstartedCounter[], scope: Scope): Counter[] {
  return counters.map(({ path, start, min, max, ...counter }, index) => {
    const readsAbove = (read: Computed, key: 'start' | 'min' | 'max'): void => {
      if (typeof read === 'number') return;
      visitExpression(read, (part) => {
        if (part.kind !== 'counter' || counters.slice(0, index).some((each) => each.name === part.name))
          return;
        reading.fail('start-order', { counter: counter.name, key, reads: part.name }, [...path, key]);
      });
    };
    const at = [...path, 'start'];
    const read = reading.expression(start, scope, typeOf(counter), at) ?? { kind: 'number', value: 0 };
    const bounds = {
      min: reading.computed(min, scope, [...path, 'min']),
      max: reading.computed(max, scope, [...path, 'max']),
    };
    readsAbove(read, 'start');
    readsAbove(bounds.min, 'min');
    readsAbove(bounds.max, 'max');
    return { ...counter, ...bounds, start: read };
  });
}

/** What an expression must give to be written to a counter. */
export const typeOf = ({ kind, name }: Pick<Counter, 'kind' | 'name'>): ValueType =>
  kind === 'number' ? 'number' : kind === 'flag' ? 'truth value' : `word of ${name}`;
