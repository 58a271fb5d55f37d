import type { Design } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Tally } from '../../measure/tally.js';
import { type LoggedEvent, LogPlay } from '../../players/drivers/log-play.js';
import { logarithm } from '../../players/meeting/chance.js';
import { meetingOf } from '../../players/meeting/meeting.js';
import { FinishedRuns } from './finished-runs.js';
import { endOfSession, type LogRow } from './playtest.js';

/** One try at a piece. */
export interface Attempt {
  readonly piece: number;
  readonly successes: 0 | 1;
  readonly failures: 0 | 1;
  /** The natural logarithm of which run of its session it was made in. */
  readonly practice: number;
  readonly session: number;
}

/** Plays the sessions of one player's log again, counts them as if they had been simulated, and tells each try that was made. */
export function replayLog(
  design: Design,
  rows: readonly LogRow[],
  tried: (attempt: Attempt) => void,
): FinishedRuns {
  const form = formOf(design);
  const tally = new Tally(form);
  const runs = new FinishedRuns(form);
  tally.onSession = (log) => runs.count(log);
  const player = { ...design.players[0]!, runs: 1000, learning: 0 };
  const played = rows.filter(({ event }) => event !== endOfSession);
  // A game that tells what appears owns presence; else the design's own spawns run.
  const ownsPresence = played.some(
    ({ event }) => form.events[form.eventIndex.get(event)!]!.kind === 'appeared',
  );
  const heard = ({ event, isTried }: LoggedEvent, session: number, runsEnded: number): void => {
    const { piece, kind } = form.events[event]!;
    if (kind !== 'outcome' || !isTried) return;
    const { success, failure } = form.pieces[piece]!;
    if (event !== success && event !== failure) return;
    const successes = event === success ? 1 : 0;
    const failures = successes === 1 ? 0 : 1;
    tried({ piece, successes, failures, practice: logarithm(runsEnded + 1), session });
  };
  const play = new LogPlay(form, meetingOf(form, player), tally, ownsPresence, heard);
  const bySession = new Map<number, { readonly events: LoggedEvent[]; end: number | undefined }>();
  for (const { session, at, event, isTried = true } of rows) {
    const own = bySession.get(session) ?? { events: [], end: undefined };
    bySession.set(session, own);
    const milliseconds = Math.round(at * 1000);
    if (event === endOfSession) own.end = milliseconds;
    else own.events.push({ event: form.eventIndex.get(event)!, at: milliseconds, isTried });
  }
  for (const [session, { events, end }] of bySession)
    play.replay(1, session, { events: events.sort((a, b) => a.at - b.at), end });
  return runs;
}
