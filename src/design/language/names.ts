import { distance, closest as nearest } from 'fastest-levenshtein';

/** Words of the expression language and of the test script, which no counter, piece or screen may be called. */
const reserved = new Set(
  'level course present left timer screen input back min max abs floor ceil round and or not true false wait expect x event'.split(
    ' ',
  ),
);

/** Words of JavaScript that its parser takes for no name, so that no expression could use it. */
const keywords = new Set(
  'break case catch class const continue debugger default delete do else enum export extends finally for function if import in instanceof new null return super switch this throw try typeof var void while with'.split(
    ' ',
  ),
);

/** Whether a text is written as a name is; some that are may still be words of the language. */
export const hasNameForm = (text: string): boolean => /^[A-Za-z][A-Za-z0-9_]{0,63}$/.test(text);

/**
 * The name that a text of one or several words gives: `storm gust` and `storm-gust` become `stormGust`, and `café` `cafe`. A text with
 * anything else in it that no name can hold stays as it is, without the blanks around it.
 */
export function nameFrom(text: string): string {
  const plain = text
    .normalize('NFD')
    .replace(/[\p{M}'’]/gu, '')
    .trim();
  if (!/^[\w\s-]*$/.test(plain)) return text.trim();
  const [first = '', ...more] = plain.match(/\w+/g) ?? [];
  return [first, ...more.map((word) => word.slice(0, 1).toUpperCase() + word.slice(1))].join('');
}

export type NameFault = 'bad-name' | 'reserved-name';

/** What is wrong with a name, or undefined where it may be used. */
export function nameFault(name: string): NameFault | undefined {
  if (!hasNameForm(name)) return 'bad-name';
  return reserved.has(name) || keywords.has(name) ? 'reserved-name' : undefined;
}

/** Keys that every JavaScript object answers to. They are refused everywhere, so that no look-up can meet them. */
export const isForbiddenKey = (key: string): boolean => key in Object.prototype || key === 'prototype';

/** The allowed word that a misspelt one most likely meant, or undefined where none is near. */
export function closest(found: string, allowed: readonly string[]): string | undefined {
  if (allowed.length === 0 || found.length > 64) return undefined;
  const near = nearest(found, allowed as string[]);
  return distance(found, near) <= Math.max(1, Math.floor((found.length + 1) / 3)) ? near : undefined;
}

export const article = (name: unknown): string => (/^[aeiou]/i.test(String(name)) ? 'an' : 'a');
export const withArticle = (name: string): string => `${article(name)} ${name}`;
