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
  ['clear', ['remove', 'destroy', 'delete', 'kill']],
  ['spawn', ['create', 'make', 'spawns', 'spawner']],
  ['popup', ['message', 'text', 'show', 'display']],
  ['grace', ['invincible', 'invulnerable', 'shield', 'protect', 'immune']],
  ['emit', ['send', 'fire', 'trigger', 'raise', 'dispatch']],
  ['place', ['pieces', 'items', 'contains', 'objects', 'things', 'collectibles', 'enemies']],
  ['at', ['position', 'place', 'corner', 'anchor', 'location', 'where']],
  ['as', ['icon', 'icons', 'style', 'format', 'type', 'kind']],
  ['of', ['player', 'who']],
  ['measure', ['metric', 'what', 'figure']],
  ['atLeast', ['min', 'minimum', 'above', 'least']],
  ['atMost', ['max', 'maximum', 'below', 'most']],
  ['skill', ['ability', 'strength']],
  ['counters', ['variables', 'vars', 'stats', 'scores', 'score', 'lives']],
  ['pieces', ['items', 'objects', 'entities', 'things', 'enemies', 'collectibles', 'hazards', 'sprites']],
  ['screens', ['scenes', 'states', 'menus']],
  ['transitions', ['flow', 'edges', 'links']],
  ['rules', ['events', 'triggers', 'actions', 'scoring', 'logic']],
  ['hud', ['ui', 'display', 'interface', 'overlay']],
  ['targets', ['goals', 'balance', 'objectives']],
  ['players', ['bots', 'personas', 'agents']],
];

/** Words of which one must be chosen. */
const choices: Words = [
  ['true', ['yes', 'on']],
  ['false', ['no', 'off']],
  ['won', ['win', 'wins', 'victory', 'success', 'winner', 'good']],
  [
    'lost',
    ['lose', 'loses', 'loss', 'fail', 'failed', 'failure', 'dead', 'death', 'gameover', 'defeat', 'bad'],
  ],
  ['over', ['end', 'ended', 'finish', 'finished', 'done', 'true', 'yes']],
  ['icons', ['heart', 'hearts', 'icon', 'dots', 'symbols']],
  ['digits', ['number', 'numbers', 'counter', 'digit', 'score']],
  ['clock', ['timer', 'time', 'countdown', 'seconds']],
  ['bar', ['progress', 'gauge', 'meter']],
  ['length', ['duration', 'time', 'playtime', 'seconds']],
  ['score', ['averagescore', 'meanscore', 'medianscore', 'points', 'finalscore']],
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

/** The word, of those that are allowed, that another stands for, such as `top-right` for "top right". */
export function wordFor(written: unknown, allowed: readonly string[]): string | undefined {
  const plain = (word: string): string => word.toLowerCase().replaceAll(/[^a-z]/g, '');
  const isWord = typeof written === 'string' && written.length <= longestPhrase;
  if (!isWord && written !== true) return undefined;
  const found = plain(String(written));
  const other = (word: string): string => word.split('-').reverse().join('');
  return (
    allowed.find((word) => plain(word) === found || other(word) === found) ??
    among(choices, found, (ours) => allowed.includes(ours))
  );
}

/** Characters of a text that are looked through for a phrase. */
const longestPhrase = 100;

/** Effects as people say them: the words, and the effect with what stands at their places. */
const saidEffects: readonly (readonly [words: RegExp, effect: (a: string, b: string) => string])[] = [
  [
    /^(?:add|give|gain|increase|plus) (\d+) (?:to )?(\w+)$/i,
    (amount, counter) => `{ add: { ${counter}: ${amount} } }`,
  ],
  [/^(\w+) ?\+ ?(\d+)$/, (counter, amount) => `{ add: { ${counter}: ${amount} } }`],
  [
    /^(?:lose|subtract|remove|minus|take) (\d+) (?:from )?(\w+)$/i,
    (amount, counter) => `{ add: { ${counter}: -${amount} } }`,
  ],
  [/^(\w+) ?- ?(\d+)$/, (counter, amount) => `{ add: { ${counter}: -${amount} } }`],
  [/^set (\w+) (?:to )?(\d+)$/i, (counter, amount) => `{ set: { ${counter}: ${amount} } }`],
  [/^reset (\w+)$/i, (counter) => `{ set: { ${counter}: 0 } }`],
  [/^play (\w+)$/i, (cue) => `{ cue: ${cue} }`],
  [/^(cue|emit|start|stop|spawn|clear|popup|grace) ([\w.]+)$/, (effect, of) => `{ ${effect}: ${of} }`],
];

/** An effect in words, or an assignment as other languages write it, as the effect that it stands for. */
function effectFor(written: string): string | undefined {
  for (const [words, effect] of saidEffects) {
    const [, first, second = ''] = words.exec(written.trim()) ?? [];
    if (first !== undefined) return effect(first, second);
  }
  const [, counter, sign, amount] = /^\s*(\w+)\s*([-+]?=|\+\+|--)\s*(.*?)\s*;?\s*$/.exec(written) ?? [];
  if (counter === undefined || !hasNameForm(counter)) return undefined;
  if (sign === '++' || sign === '--')
    return amount === '' ? `{ add: { ${counter}: ${sign[0] === '-' ? -1 : 1} } }` : undefined;
  if (amount === undefined || !/^[\w. ]+$/.test(amount)) return undefined;
  if (sign === '=') return `{ set: { ${counter}: ${amount} } }`;
  const taken = /^[\w.]+$/.test(amount) ? `-${amount}` : `-(${amount})`;
  return `{ add: { ${counter}: ${sign === '-=' ? taken : amount} } }`;
}

/** A text where a list is wanted, as the list that it stands for; undefined where that is not known. */
export function listFor(written: unknown, wanted: string, keysOfItem: readonly string[]): string | undefined {
  if (typeof written !== 'string' || written.length > longestPhrase) return undefined;
  if (wanted.startsWith('a list of events')) return /^[\w. ]+$/.test(written) ? `[${written}]` : undefined;
  const item = mapFor(written, keysOfItem);
  return item && `[${item}]`;
}

/** The key that a number alone stands for, by a key that only such a map has. */
const numberKeys: readonly (readonly [ownKey: string, key: string])[] = [
  ['countdown', 'countdown'],
  ['step', 'value'],
  ['patience', 'skill'],
];

/** A word or a number where a map of some keys is wanted, as the map that it stands for; undefined where that is not known. */
export function mapFor(written: unknown, keysOfMap: readonly string[]): string | undefined {
  if (typeof written === 'number') {
    const key = numberKeys.find(([ownKey]) => keysOfMap.includes(ownKey))?.[1];
    return key && `{ ${key}: ${written} }`;
  }
  if (typeof written !== 'string' || written.length > longestPhrase) return undefined;
  const [, minutes, seconds] = /^\s*(\d{1,3}):([0-5]\d)\s*$/.exec(written) ?? [];
  if (minutes !== undefined && keysOfMap.includes('countdown'))
    return `{ countdown: ${Number(minutes) * 60 + Number(seconds)} }`;
  if (keysOfMap.includes('cue')) return effectFor(written);
  if (keysOfMap.includes('live')) return `{ text: ${JSON.stringify(written)} }`;
  const [, piece, every] =
    /^\s*(\w+) (?:every|each) (\d+(?:\.\d+)?)\s*(?:s|seconds)?\s*$/.exec(written) ?? [];
  if (piece !== undefined && keysOfMap.includes('piece')) return `{ piece: ${piece}, every: ${every} }`;
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

/** Words that stand for the same counter. */
const counters: readonly (readonly string[])[] = [
  ['score', 'points', 'point', 'pts', 'total'],
  ['lives', 'life', 'hearts', 'heart', 'health', 'hp', 'hitpoints', 'tries'],
  ['best', 'high', 'highscore', 'hiscore', 'record'],
];
const alike = (name: string): readonly string[] =>
  counters.find((words) => words.includes(name.toLowerCase().replace('_', ''))) ?? [];

/** The counter, of those that are allowed, that may be meant by another word for it, such as `score` by `points`. */
export const counterFor = (name: string, allowed: readonly string[]): string | undefined =>
  allowed.find((each) => alike(name).includes(each.toLowerCase()));

/** Whether a name is one for what a run is lost without. */
export const isStake = (name: string): boolean => alike(name).includes('lives');
