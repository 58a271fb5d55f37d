// Values in the wrong form: what they stand for, as the value that should be there and as text for a message.

import { stringify } from 'yaml';
import { hasNameForm, isForbiddenKey } from '../language/names.js';

type Raw = Readonly<Record<string, unknown>>;

/** Characters of what is written out in a message. */
const longest = 120;

export const isPlainMap = (value: unknown): value is Raw =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A value as YAML on one line; undefined where it is too long for a message. */
export function inOneLine(value: unknown): string | undefined {
  // Nobody waits for thousands of lines to be written that are too long anyway.
  if (typeof value === 'object' && value !== null && Object.keys(value).length > longest) return undefined;
  const options = { collectionStyle: 'flow', lineWidth: 0, aliasDuplicateObjects: false } as const;
  const text = stringify(value, options).trim().replaceAll('[ ', '[').replaceAll(' ]', ']');
  return text.length <= longest && !text.includes('\n') ? text : undefined;
}

/** A percentage as the number that it stands for; undefined where a text is none. */
export function percentIn(text: string): string | undefined {
  const [, percent] = /^\s*(\d+(?:\.\d+)?)\s*%\s*$/.exec(text) ?? [];
  return percent && String(Number(percent) / 100);
}

/**
 * How to measure what a target names: a counter of the design, an ending, or that runs are won; undefined where it is none of these.
 *
 * @param kind what the design has by that name
 */
export function measureIn(found: string, kind: string | undefined): string | undefined {
  if (kind === 'counter')
    return `measure: score, and let the design say which counter that is, with the line score: ${found}`;
  if (kind === 'screen') return `measure: ending, screen: ${found}`;
  return /^(?:won|lost|(?:wins?|loss|losses|success|completion|game ?over)(?:[ _-]?rate)?)$/i.test(found)
    ? 'measure: ending, screen: NAME, with the name of the ending'
    : undefined;
}

/** What an entry holds that stands in a list by its name alone, by section. */
const byName: { readonly [section: string]: unknown } = {
  counters: 0,
  screens: {},
  players: {},
  pieces: { is: 'collectible' },
  timers: { countdown: 60 },
  dials: { value: 10 },
};

/**
 * The entries by name of a section that was written as a list: of names, of maps that hold a name, or of maps of one key; undefined where it
 * is none of these.
 */
export function mapFromList(section: string, list: readonly unknown[]): Raw | undefined {
  const entries = list.map((item): [string, unknown] | undefined => {
    if (typeof item === 'string') return [item, byName[section]];
    if (!isPlainMap(item)) return undefined;
    const { name, id, ...rest } = item;
    const own = name ?? id;
    if (typeof own === 'string') return [own, rest];
    const [only, ...more] = Object.entries(item);
    return more.length === 0 ? only : undefined;
  });
  const isKnown = entries.every(
    (entry) =>
      entry !== undefined && hasNameForm(entry[0]) && !isForbiddenKey(entry[0]) && entry[1] !== undefined,
  );
  return isKnown && list.length > 0 ? Object.fromEntries(entries as [string, unknown][]) : undefined;
}

/** How an item of a list is made of a key and its value, by a key that only such items have. */
const items: readonly (readonly [ownKey: string, made: (key: string, value: unknown) => Raw])[] = [
  ['cue', (key, value) => ({ [key]: value })],
  ['tenths', (key, value) => (isPlainMap(value) ? { show: key, ...value } : { show: key, at: value })],
  ['measure', (key, value) => ({ measure: key, ...(isPlainMap(value) ? value : { from: value }) })],
  ['atOnce', (key, value) => ({ piece: key, ...(isPlainMap(value) ? value : { every: value }) })],
  ['name', (key, value) => ({ name: key, ...(isPlainMap(value) ? value : {}) })],
];

/**
 * The list that a map stands for where a list is wanted, for a message.
 *
 * @param keys those that an item of the list may have
 */
export function listFromMap(map: Raw, keys: readonly string[]): string | undefined {
  const entries = Object.entries(map);
  if (entries.length === 0) return undefined;
  const isItem = !keys.includes('cue') && entries.every(([key]) => keys.includes(key));
  const made = items.find(([ownKey]) => keys.includes(ownKey))?.[1];
  if (!isItem && made === undefined) return undefined;
  const list = isItem ? [map] : entries.map(([key, value]) => made!(key, value));
  const first = list.length > 1 ? inOneLine(list.slice(0, 1)) : undefined;
  return inOneLine(list) ?? (first && `a list, which begins with ${first.slice(1, -1).trim()}`);
}

/** How many of each of a list of pieces, as the map that is wanted in its place, for a message. */
export function countsIn(list: readonly unknown[]): string | undefined {
  if (list.length === 0 || !list.every((each) => typeof each === 'string' && hasNameForm(each)))
    return undefined;
  const counts = new Map<unknown, number>();
  for (const each of list) counts.set(each, (counts.get(each) ?? 0) + 1);
  return `{ ${[...counts].map(([name, count]) => `${name}: ${count}`).join(', ')} }`;
}

/** Comparisons of counters with values, as the map that is wanted in their place, for a message. */
export function valuesIn(written: unknown): string | undefined {
  const pairs = (Array.isArray(written) ? written : [written]).map((each) =>
    typeof each === 'string' ? /^\s*(\w[\w.]*)\s*(?:===?|=|:| is )\s*([\w.-]+)\s*$/.exec(each) : null,
  );
  if (pairs.length === 0 || pairs.includes(null)) return undefined;
  return `{ ${pairs.map((pair) => `${pair![1]}: ${pair![2]}`).join(', ')} }`;
}
