import type { Design, Value } from '../design/model.js';
import { fits } from './value.js';

/** The part of the web's Storage that a session uses. */
export interface KeepStorage {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
}

export const storageKey = (design: Design): string => `jocus ${design.title}`;

interface Kept {
  readonly storage?: KeepStorage;
  readonly kept?: { readonly [counter: string]: Value };
}

/** What a storage, or a record, holds; one that is damaged or forbidden counts as empty. */
function readStorage(design: Design, { storage, kept }: Kept): Record<string, unknown> {
  if (kept !== undefined || storage === undefined) return { ...kept };
  try {
    return { ...JSON.parse(storage.getItem(storageKey(design)) ?? '{}') };
  } catch {
    return {};
  }
}

/** The counters that are kept forever, as far as what is stored fits them. */
export function keptValues(design: Design, from: Kept): { [counter: string]: Value } {
  const stored = readStorage(design, from);
  const read: { [counter: string]: Value } = {};
  for (const counter of design.counters) {
    const value = stored[counter.name];
    if (counter.keep === 'forever' && fits(counter, value)) read[counter.name] = value;
  }
  return read;
}

/** The best lists, as far as what is stored fits them. */
export function keptLists(design: Design, from: Kept): Map<string, number[]> {
  const stored = readStorage(design, from);
  return new Map(
    design.lists.map(({ name, length }) => {
      const values: unknown = stored[name];
      const numbers = Array.isArray(values) ? values.filter((value) => Number.isFinite(value)) : [];
      return [name, numbers.sort((a, b) => b - a).slice(0, length)];
    }),
  );
}
