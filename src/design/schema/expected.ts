import type { z } from 'zod';
import { listFor, mapFor, wordFor } from '../language/synonyms.js';
import { countsIn, inOneLine, isPlainMap, listFromMap, mapFromList, valuesIn } from '../problems/meant.js';
import { keysOf } from './keys.js';

/** What is written in the place of a value that is wrong. */
export function expectedFor(schema: z.ZodType, issue: z.core.$ZodIssue): string {
  const { input, message } = issue;
  if (issue.code === 'invalid_value') return wordFor(input, issue.values.map(String)) ?? message;
  if (
    Array.isArray(input) &&
    message.startsWith('a condition') &&
    input.every((each) => typeof each === 'string')
  )
    return input.join(' and ');
  if (issue.code !== 'invalid_type') return message;
  if (issue.expected === 'boolean') return wordFor(input, ['true', 'false']) ?? message;
  const path = issue.path as (string | number)[];
  if (issue.expected === 'array') {
    const item = keysOf(schema, [...path, 0]);
    return (isPlainMap(input) ? listFromMap(input, item) : listFor(input, message, item)) ?? message;
  }
  if (issue.expected === 'record') return mapInstead(input, message, path);
  const keys = issue.expected === 'object' ? keysOf(schema, path) : [];
  return keys.length === 0 ? message : (mapFor(input, keys) ?? `{ } with keys of these: ${firstOf(keys)}`);
}

/** A map of what is written as a list, or as a comparison. */
function mapInstead(input: unknown, message: string, path: readonly (string | number)[]): string {
  if (message.startsWith('counters with their')) return valuesIn(input) ?? message;
  if (message.startsWith('pieces with how many') && Array.isArray(input)) return countsIn(input) ?? message;
  if (message.startsWith('outcomes with their')) return countsIn([input].flat()) ?? message;
  const map =
    Array.isArray(input) && path.length === 0 ? mapFromList(message.split(' ')[0]!, input) : undefined;
  return (map && inOneLine(map)) ?? message;
}

/** The first few keys, in words. */
const firstOf = (keys: readonly string[]): string => {
  const shown = keys.slice(0, 6);
  return `${shown.join(', ')}${keys.length > shown.length ? ' and others' : ''}`;
};
