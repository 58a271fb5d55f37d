// Words of everyday speech for what a design calls otherwise.

import { roles } from '../model.js';
import { hasNameForm } from './names.js';
import { roleFor } from './roles.js';

type Words = readonly (readonly [ours: string, others: readonly string[]])[];

/** Words for `add` that take away. */
const losses = ['subtract', 'decrease', 'decrement', 'minus', 'lose'];

const keys: Words = [
  ['do', ['then', 'action', 'actions', 'effect', 'effects', 'perform']],
  ['when', ['on', 'event', 'events', 'trigger']],
  ['if', ['condition', 'where', 'only', 'while']],
  ['is', ['type', 'kind', 'role']],
  ['start', ['initial', 'value', 'begin', 'default', 'init']],
  ['min', ['minimum', 'lowest', 'least']],
  ['max', ['maximum', 'highest', 'most', 'limit', 'cap']],
  ['keep', ['scope', 'persist', 'lifetime']],
  ['show', ['display', 'counter', 'value']],
  ['every', ['interval', 'repeat', 'period']],
  ['countdown', ['duration', 'seconds', 'length', 'time']],
  ['to', ['goto', 'target', 'next', 'screen']],
  ['from', ['source', 'screen']],
  ['text', ['message', 'caption', 'title', 'label']],
  ['add', ['increase', 'increment', 'plus', 'gain', 'give', ...losses]],
  ['cue', ['sound', 'play']],
];

const outcomes: Words = [
  [
    'taken',
    ['collected', 'picked', 'picked_up', 'got', 'eaten', 'grabbed', 'gathered', 'caught', 'touched', 'hit'],
  ],
  ['hit', ['touched', 'collided', 'collision', 'hurt', 'struck', 'bumped', 'crashed', 'damaged', 'taken']],
  ['reached', ['arrived', 'entered', 'touched', 'taken', 'hit']],
  ['beaten', ['killed', 'defeated', 'destroyed', 'dead']],
  ['missed', ['lost', 'expired', 'escaped', 'failed']],
  ['avoided', ['dodged', 'evaded', 'missed', 'passed']],
  ['ended', ['finished', 'done', 'expired', 'over', 'timeout', 'elapsed', 'zero', 'ticked']],
  ['ticked', ['tick', 'fired', 'repeated', 'elapsed', 'ended']],
  ['entered', ['shown', 'started', 'opened', 'begun', 'reached']],
];

const among = (words: Words, word: string, allowed: (ours: string) => boolean): string | undefined =>
  words.find(([ours, others]) => allowed(ours) && others.includes(word.toLowerCase()))?.[0];

/** The key, of those that are allowed, that an everyday word may stand for. */
export const keyFor = (word: string, allowed: readonly string[]): string | undefined =>
  among(keys, word, (ours) => allowed.includes(ours));

/** Whether a word for `add` takes away. */
export const takesAwayBy = (word: string): boolean => losses.includes(word.toLowerCase());

/** A word or a number where a map of some keys is wanted, as the map that it stands for; undefined where that is not known. */
export function mapFor(written: unknown, keysOfMap: readonly string[]): string | undefined {
  if (typeof written === 'number' && keysOfMap.includes('countdown')) return `{ countdown: ${written} }`;
  if (typeof written !== 'string') return undefined;
  const [, from, to] = /^\s*(\w+)\s*(?:->|→|=>)\s*(\w+)\s*$/.exec(written) ?? [];
  if (from !== undefined && keysOfMap.includes('from')) return `{ from: ${from}, to: ${to}, when: input.go }`;
  if (!hasNameForm(written)) return undefined;
  const role = Object.hasOwn(roles, written) ? written : roleFor(written);
  if (keysOfMap.includes('is') && role !== undefined && !role.includes(' ')) return `{ is: ${role} }`;
  if (keysOfMap.includes('piece')) return `{ piece: ${written}, every: 2 }`;
  return keysOfMap.includes('show') ? `{ show: ${written} }` : undefined;
}

/** The event, of those that are allowed, that one named in everyday words may stand for, such as `berry.taken` for `berry.collected`. */
export function eventFor(event: string, allowed: readonly string[]): string | undefined {
  const [subject, what = ''] = event.split('.') as [string, string?];
  const found = among(outcomes, what, (ours) => allowed.includes(`${subject}.${ours}`));
  return found === undefined ? undefined : `${subject}.${found}`;
}
