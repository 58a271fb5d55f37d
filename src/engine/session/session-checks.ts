import { UsageError } from '../../design/problems/problem.js';
import { latestMoment, longestEvent } from '../record/record-line.js';

/** A day. */
const longestAdvance = 86_400_000;
/** Clocks that fire between two looks at whether the time is over. */
export const firedBetween = 1000;
/** A page's first frame can be stamped a moment before the script that asked for it. */
const longestBack = 1000;

/**
 * The time that a call lets pass; a little below 0 counts as 0.
 *
 * @throws UsageError
 */
export function passedTime(milliseconds: number): number {
  if (milliseconds >= -longestBack && milliseconds <= longestAdvance) return Math.max(0, milliseconds);
  throw new UsageError(
    'bad-argument',
    `Time passes by 0 to ${longestAdvance} milliseconds a call, not by ${milliseconds}.`,
  );
}

export function mustBeMoment(at: number): void {
  if (!Number.isSafeInteger(at) || at < 0 || at > latestMoment)
    throw new UsageError(
      'bad-argument',
      `A moment is a whole number of milliseconds from 0 to ${latestMoment}, not ${at}.`,
    );
}

export function mustBeEvent(name: unknown): void {
  if (typeof name !== 'string' || name.length > longestEvent)
    throw new UsageError(
      'bad-argument',
      `An event is a text of at most ${longestEvent} characters, such as blossom.taken, not ${typeof name === 'string' ? `one of ${name.length}` : String(name)}.`,
    );
}

/** Characters of a contact's id, at the most. */
const longestId = 100;

export function mustBeContact(contact: unknown): void {
  const isId = typeof contact === 'number' || (typeof contact === 'string' && contact.length <= longestId);
  if (contact !== undefined && !isId)
    throw new UsageError(
      'bad-argument',
      `The id of a contact is a number or a text of at most ${longestId} characters.`,
    );
}

export function checkWhole(what: string, value: number): void {
  if (!Number.isSafeInteger(value) || value < 0) {
    throw new UsageError('bad-argument', `A ${what} is a whole number from 0 to 2^53 - 1, not ${value}.`);
  }
}
