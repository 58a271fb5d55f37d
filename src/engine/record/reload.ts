import type { Reception } from '../run/reception.js';
import { eventsIn, type RecordLine } from './record-line.js';

/** What a session must take for its record to be played in it. */
interface Replayable {
  sendAt(event: string, at: number, beforeWaits: boolean): Reception;
  takeKept(kept: Extract<RecordLine, { readonly kept: object }>['kept'], at: number): void;
  advanceTo(at: number): void;
}

/** Plays what was recorded, at its moments; gives what became of each event. */
export function playAgain(session: Replayable, lines: readonly RecordLine[], to: number): Reception[] {
  const receptions: Reception[] = [];
  for (const line of lines) {
    if ('event' in line) receptions.push(session.sendAt(line.event, line.at, line.beforeWaits === true));
    else if ('kept' in line) session.takeKept(line.kept, line.at);
  }
  session.advanceTo(to);
  return receptions;
}

/** What another design makes of the same events, in words. */
export function differences(
  lines: readonly RecordLine[],
  before: readonly Reception[],
  after: readonly Reception[],
): string {
  const events = eventsIn(lines);
  const differing = events.flatMap(({ at, event }, index) =>
    before[index] === after[index]
      ? []
      : [`${event} at ${at / 1000} s was ${before[index]} and is ${after[index]}`],
  );
  const played = `${events.length} events were played again under the new design`;
  if (differing.length === 0) return `${played}.`;
  const shown = differing.slice(0, mostDiffering).join('; ');
  const more = differing.length > mostDiffering ? `; and ${differing.length - mostDiffering} more` : '';
  return `${played}, which takes ${differing.length} of them otherwise: ${shown}${more}.`;
}

const mostDiffering = 3;
