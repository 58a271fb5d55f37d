// What is missing in a design that names it, and how it is given.

import { closest, nameFault } from '../language/names.js';
import { counterFor, isStake } from '../language/synonyms.js';
import type { ProblemDetails } from './problem-details.js';

/** An entry of a section that would give what is missing. */
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

/** By what is heard of it. */
const byEvent: ReadonlyMap<string, Given> = new Map([
  ['taken', ['pieces', { is: 'collectible' }]],
  ['missed', ['pieces', { is: 'collectible' }]],
  ['hit', ['pieces', { is: 'hazard' }]],
  ['avoided', ['pieces', { is: 'hazard' }]],
  ['beaten', ['pieces', { is: 'foe' }]],
  ['reached', ['pieces', { is: 'checkpoint' }]],
  ['passed', ['pieces', { is: 'prop' }]],
  ['appeared', ['pieces', { is: 'collectible' }]],
  ['gone', ['pieces', { is: 'collectible' }]],
  ['ended', ['timers', { countdown: 30 }]],
  ['ticked', ['timers', { every: 5 }]],
  ['entered', ['screens', {}]],
]);

/** A stake of nothing would be lost before it began. */
const stake: Given = ['counters', { start: 3, min: 0 }];

const outcomeOf = (event: string | undefined): string => event?.split('.')[1] ?? '';

/** The entry that a name lacks; undefined where another name is more likely meant, or it is known otherwise. */
export function missingName({
  name,
  kind,
  allowed,
  is,
  event,
}: ProblemDetails['unknown-name']): MissingEntry | undefined {
  if (is !== undefined || nameFault(name) !== undefined || nearestName(name, kind, allowed) !== undefined)
    return undefined;
  const usual = kind === 'counter' && isStake(name) ? stake : byKind.get(kind);
  const given = byEvent.get(outcomeOf(event)) ?? usual;
  return given && { section: given[0], name, entry: given[1] };
}

/** The name that is most likely meant by one that nothing has. */
export const nearestName = (name: string, kind: string, allowed: readonly string[]): string | undefined =>
  (kind === 'counter' ? counterFor(name, allowed) : undefined) ?? closest(name, allowed);

/** The entry that would send an event of something that is not there. */
export function missingSender({
  event,
  allowed,
  of,
}: ProblemDetails['unknown-event']): MissingEntry | undefined {
  const given = byEvent.get(outcomeOf(event));
  if (of === undefined || given === undefined || nameFault(of) !== undefined) return undefined;
  return closest(event, allowed) === undefined ? { section: given[0], name: of, entry: given[1] } : undefined;
}
