import type { z } from 'zod';
import { isPlainMap } from '../problems/meant.js';
import type { Path } from '../text/source.js';
import type { Names, Reading } from './reading.js';

type Raw = Readonly<Record<string, unknown>>;

/** Reads each entry of a section by itself and takes its name; the entry is left out where it cannot be read. */
export function readNamed<Schema extends z.ZodType>(
  reading: Reading,
  section: unknown,
  key: string,
  kind: string,
  schema: Schema,
  names: Names = reading.names,
): { name: string; path: Path; written: unknown; entry: z.output<Schema> | undefined }[] {
  return Object.entries((section ?? {}) as Raw).flatMap(([name, value]) => {
    const path = [key, name];
    const claimed = reading.claim(name, kind, path, names);
    const entry = reading.parse(schema, value ?? {}, path, `The ${kind} ${name}`);
    return claimed ? [{ name, path, written: value, entry }] : [];
  });
}

/** Of an entry with mistakes, the keys without: what else reads them is no mistake as well. */
export function soundKeys<Schema extends z.ZodObject>(
  schema: Schema,
  value: unknown,
): Partial<z.output<Schema>> {
  const written = isPlainMap(value) ? (value as Raw) : {};
  const sound = Object.entries(schema.shape).flatMap(([key, of]) => {
    if (!Object.hasOwn(written, key)) return [];
    const read = (of as z.ZodType).safeParse(written[key], { jitless: true });
    return read.success ? [[key, read.data]] : [];
  });
  return Object.fromEntries(sound) as Partial<z.output<Schema>>;
}
