import type { Value } from '../../design/model.js';
import type { GameSession } from '../session/session.js';
import type { RecordLine } from './record-line.js';

/** A session as it can be replayed, and how it ended. */
export interface SessionRecord {
  /** The fingerprint of the design that it was made with. */
  readonly design: string;
  readonly seed: number;
  readonly session: number;
  readonly spawns: boolean;
  /** What the counters that are kept forever held at the start. */
  readonly kept: { readonly [counter: string]: Value };
  readonly lines: readonly RecordLine[];
  readonly end: RecordEnd;
}

export interface RecordEnd {
  readonly at: number;
  readonly screen: string;
  readonly level: number;
  readonly counters: { readonly [name: string]: Value };
}

/**
 * The record of a session up to now.
 *
 * @example
 * const text = writeRecord(recordOf(session)); // JSON Lines, for a file or a bug report
 */
export function recordOf(session: GameSession): SessionRecord {
  const { fingerprint, seed, spawns, kept } = session;
  return {
    design: fingerprint,
    seed,
    session: session.session,
    spawns,
    kept,
    lines: [...session.recorded],
    end: endOf(session),
  };
}

export const endOf = (session: GameSession): RecordEnd => ({
  at: session.time,
  screen: session.screen,
  level: session.level,
  counters: session.counters,
});

/** The version of records that are written and read. */
export const recordVersion = 1;

/** A record as JSON Lines: a head, one line for each event and draw, and the end. */
export function writeRecord(record: SessionRecord): string {
  const { lines, end, ...head } = record;
  return [{ record: recordVersion, ...head }, ...lines, { end }]
    .map((line) => `${JSON.stringify(line)}\n`)
    .join('');
}
