// What a problem of a file is answered with: how what was meant is written.

import { closest, hasNameForm } from '../language/names.js';
import { counterFor, eventFor, keyFor, takesAwayBy } from '../language/synonyms.js';
import { elsewhere } from './elsewhere.js';
import { inOneLine } from './meant.js';
import { entryNeededAs, entrySending, type MissingEntry } from './missing.js';
import type { ProblemDetails } from './problem-details.js';

/** Names that a message lists. */
const mostListed = 20;

/** A list in a message, cut short where it is long. */
export const list = (words: readonly string[]): string => {
  if (words.length === 0) return 'none';
  const more = words.length - mostListed;
  return more <= 1 ? words.join(', ') : `${words.slice(0, mostListed).join(', ')} and ${more} more`;
};

const allOf = (allowed: readonly string[]): string =>
  allowed.length === 0 ? 'The design names none yet.' : `Allowed here: ${list(allowed)}.`;

/** "did you mean" where something allowed is close, else the whole list of what is allowed. */
function orClosest(found: string, allowed: readonly string[]): string {
  const near = closest(found, allowed);
  return near === undefined ? allOf(allowed) : `Did you mean ${near}?`;
}

/** For a key that is none: what it asks for, or stands for. */
export function keyRemedy({ key, allowed, where, role }: ProblemDetails['unknown-key']): string {
  if (/^\/[/*]/.test(key)) return 'A comment begins with #, not with // or /*.';
  const advice = elsewhere(key, allowed, where, role);
  if (advice !== undefined) return advice;
  const meant = keyFor(key, allowed);
  if (meant === undefined) return orClosest(key, allowed);
  return meant === 'add' && takesAwayBy(key)
    ? 'Write add with a negative amount, such as add: { lives: -1 }.'
    : `Write ${meant}.`;
}

/** A step in other words, as it is written. */
export function stepFor(found: string): string | undefined {
  const [, event, times] = /^([a-z]\w*\.\w+) ?[x*] ?(\d+)$/i.exec(found) ?? [];
  if (event !== undefined) return `Write ${times} x ${event}.`;
  const [, seconds] =
    /^(?:wait|sleep|pause|after)[ (]*(\d+(?:\.\d+)?) ?(?:s|seconds?)?\)?$/i.exec(found) ?? [];
  return seconds && `Write wait ${seconds}.`;
}

/** The other lines on which the same stands, as the end of what a problem is answered with. */
export const otherLines = (lines: readonly number[] = []): string =>
  lines.length === 0
    ? ''
    : ` The same on line${lines.length === 1 ? '' : 's'} ${list(lines.map(String)).replace(/, (?=\d+$)/, ' and ')}.`;

/** For a name that nothing has, or something of another kind: what was meant, in words, or the entry that is missing. */
export function nameAnswer({
  name,
  kind,
  allowed,
  is,
  event,
}: ProblemDetails['unknown-name']): string | MissingEntry {
  if (kind === 'screen' && everyScreen.has(name)) return `Write a list of screens: [${list(allowed)}].`;
  if (kind === 'counter' && secondsOf.has(name))
    return 'For the seconds of a timer, write timer and its name, such as timer.dusk.';
  const near = (kind === 'counter' ? counterFor(name, allowed) : undefined) ?? closest(name, allowed);
  if (near !== undefined) return `Did you mean ${near}?`;
  if (kind === 'level value')
    return `Add it to the values of the levels, such as values: { ${name}: 10 }. ${allOf(allowed)}`;
  return (is === undefined ? entryNeededAs(kind, name, event) : undefined) ?? allOf(allowed);
}

export function nameRemedy(details: ProblemDetails['unknown-name']): string {
  const answer = nameAnswer(details);
  if (typeof answer === 'string') return answer;
  const { allowed } = details;
  return `Add it ${under(answer)}${allowed.length === 0 ? '' : ` ${allOf(allowed)}`}`;
}

const under = ({ section, name, entry }: MissingEntry): string =>
  `under ${section}, such as ${name}: ${inOneLine(entry)}.`;

const everyScreen: ReadonlySet<string> = new Set(['*', 'any', 'all', 'every', 'anywhere', 'everywhere']);
const secondsOf: ReadonlySet<string> = new Set(['time', 'timer', 'clock', 'seconds', 'elapsed', 'now']);

/** What was meant; else what can happen to the same thing, where it is known, or the entry that is missing. */
export function eventAnswer({ event, allowed, of }: ProblemDetails['unknown-event']): string | MissingEntry {
  const meant = eventFor(event, allowed);
  if (meant !== undefined) return `Write ${meant}.`;
  const several = event.split(/ or | *\|\|? *| *, */);
  if (several.length > 1 && several.every((each) => allowed.includes(each)))
    return `Write a list: [${several.join(', ')}].`;
  if (event === 'always') return 'Leave when out; a rule with if alone fires as soon as that holds.';
  const [subject, what] = event.split('.') as [string, string?];
  const own = allowed.filter((each) => each.startsWith(`${subject}.`));
  if (own.length > 0) return orClosest(event, own);
  const near = closest(event, allowed);
  if (near !== undefined) return `Did you mean ${near}?`;
  const known = allOf(allowed);
  if (what === undefined && hasNameForm(event))
    return `Write input.${event} if the player gives it. ${known}`;
  const missing = of === undefined ? undefined : entrySending(event, of);
  return eventsOf.get(subject)?.(allowed) ?? missing ?? known;
}

export function eventRemedy(details: ProblemDetails['unknown-event']): string {
  const answer = eventAnswer(details);
  return typeof answer === 'string' ? answer : `Add ${answer.name} ${under(answer)}`;
}

const entered = (allowed: readonly string[]): string =>
  `Each screen has an event, such as ${allowed.find((each) => each.endsWith('.entered')) ?? 'play.entered'}.`;

/** What happens to what is no thing of the design. */
const eventsOf: ReadonlyMap<string, (allowed: readonly string[]) => string> = new Map([
  [
    'level',
    (allowed: readonly string[]) =>
      `A level begins when its screen is entered and ends by a transition with level: next, whose do is for what happens then. ${entered(allowed)}`,
  ],
  ['game', entered],
  ['run', entered],
  ['session', entered],
  [
    'player',
    (allowed: readonly string[]) =>
      `Pieces say what happens to the player, such as ${allowed.find((each) => each.endsWith('.hit')) ?? 'wasp.hit'}.`,
  ],
]);
