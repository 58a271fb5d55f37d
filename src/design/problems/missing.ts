// Entries that would give what a design names and lacks.

import { nameFault } from '../language/names.js';
import { isStake } from '../language/synonyms.js';
import { type Role, roles } from '../model.js';

/** An entry of a section, by its name. */
export interface MissingEntry {
  readonly section: string;
  readonly name: string;
  readonly entry: object;
}

type Given = readonly [section: string, entry: object];

const byKind: ReadonlyMap<string, Given> = new Map([
  ['counter', ['counters', { start: 0 }]],
  ['counter or timer', ['counters', { start: 0 }]],
  ['piece', ['pieces', { is: 'collectible' }]],
  ['piece or group', ['pieces', { is: 'collectible' }]],
  ['timer', ['timers', { countdown: 30 }]],
  ['screen', ['screens', {}]],
  ['player', ['players', { skill: 0 }]],
]);

/** By what is heard of it, where that is no outcome of a role. */
const byEvent: ReadonlyMap<string, Given> = new Map([
  ['appeared', ['pieces', { is: 'collectible' }]],
  ['gone', ['pieces', { is: 'collectible' }]],
  ['ended', ['timers', { countdown: 30 }]],
  ['ticked', ['timers', { every: 5 }]],
  ['entered', ['screens', {}]],
]);

/** A stake of nothing would be lost before it began. */
const stake: Given = ['counters', { start: 3, min: 0 }];

/** The entry that a name lacks, by what it is needed as; an event that is heard of it says more. */
export function entryNeededAs(
  kind: string,
  name: string,
  event: string | undefined,
): MissingEntry | undefined {
  const usual = kind === 'counter' && isStake(name) ? stake : byKind.get(kind);
  return entryOf(name, (event && givenBy(event)) || usual);
}

/** The entry that would send an event of something that is not there. */
export const entrySending = (event: string, of: string): MissingEntry | undefined =>
  entryOf(of, givenBy(event));

const entryOf = (name: string, given: Given | undefined): MissingEntry | undefined =>
  given && nameFault(name) === undefined ? { section: given[0], name, entry: given[1] } : undefined;

function givenBy(event: string): Given | undefined {
  const what = event.split('.')[1] ?? '';
  const role = (Object.keys(roles) as Role[]).find(
    (each) => roles[each].success === what || roles[each].failure === what,
  );
  return role === undefined ? byEvent.get(what) : ['pieces', { is: role }];
}
