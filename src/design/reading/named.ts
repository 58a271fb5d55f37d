import type { z } from 'zod';
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
