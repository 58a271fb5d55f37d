import type { Design, Value } from '../design/model.js';
import { fits } from './value.js';

/** The part of the web's Storage that a session uses. */
export interface KeepStorage {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
}

export const storageKey = (design: Design): string => `jocus ${design.title}`;

/** What a storage, or a record, gives for the counters that are kept forever; what does not fit them is left out. */
export function keptValues(
  design: Design,
  {
    storage,
    kept,
  }: { readonly storage?: KeepStorage; readonly kept?: { readonly [counter: string]: Value } },
): { [counter: string]: Value } {
  let found: unknown = kept;
  try {
    if (found === undefined && storage !== undefined)
      found = JSON.parse(storage.getItem(storageKey(design)) ?? '{}');
  } catch {
    // A storage that is damaged or forbidden counts as empty.
  }
  const read: { [counter: string]: Value } = {};
  for (const counter of design.counters) {
    const value = (found as Record<string, unknown> | null | undefined)?.[counter.name];
    if (counter.keep === 'forever' && fits(counter, value)) read[counter.name] = value;
  }
  return read;
}
