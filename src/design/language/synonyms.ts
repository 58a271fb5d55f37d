// Words of everyday speech for what a design calls otherwise.

type Words = readonly (readonly [ours: string, others: readonly string[]])[];

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
  [
    'add',
    ['increase', 'increment', 'plus', 'gain', 'give', 'subtract', 'decrease', 'decrement', 'minus', 'lose'],
  ],
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
export const takesAwayBy = (word: string): boolean =>
  ['subtract', 'decrease', 'decrement', 'minus', 'lose'].includes(word.toLowerCase());

/** The event, of those that are allowed, that one named in everyday words may stand for, such as `berry.taken` for `berry.collected`. */
export function eventFor(event: string, allowed: readonly string[]): string | undefined {
  const [subject, what = ''] = event.split('.') as [string, string?];
  const found = among(outcomes, what, (ours) => allowed.includes(`${subject}.${ours}`));
  return found === undefined ? undefined : `${subject}.${found}`;
}
