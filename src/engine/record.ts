import { z } from 'zod';
import type { Design, Value } from '../design/model.js';
import { DesignError, type Problem, problem } from '../design/problem.js';
import { Session, type SessionOptions } from './session.js';

/** An outside event at its moment, or a random number as it was drawn. */
export type RecordLine =
  | { readonly at: number; readonly event: string; readonly beforeWaits?: boolean }
  | { readonly draw: string; readonly asked: number; readonly value: number };

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

interface RecordEnd {
  readonly at: number;
  readonly screen: string;
  readonly level: number;
  readonly counters: { readonly [name: string]: Value };
}

/** The record of a session up to now. */
export function recordOf(session: Session): SessionRecord {
  const { design, seed, spawns, kept } = session;
  return {
    design: design.fingerprint,
    seed,
    session: session.session,
    spawns,
    kept,
    lines: [...session.recorded],
    end: endOf(session),
  };
}

const endOf = (session: Session): RecordEnd => ({
  at: session.time,
  screen: session.screen,
  level: session.level,
  counters: session.counters,
});

const version = 1;

/** A record as JSON Lines: a head, one line for each event and draw, and the end. */
export function writeRecord(record: SessionRecord): string {
  const { lines, end, ...head } = record;
  return [{ record: version, ...head }, ...lines, { end }]
    .map((line) => `${JSON.stringify(line)}\n`)
    .join('');
}

const moment = z.number().int().min(0).max(1e12);
const whole = z
  .number()
  .int()
  .min(0)
  .max(2 ** 53 - 1);
const headSchema = z.strictObject({
  record: z.literal(version),
  design: z.string().max(100),
  seed: whole,
  session: whole,
  spawns: z.boolean(),
  kept: z.record(z.string(), z.union([z.number(), z.string(), z.boolean()])),
});
const lineSchema = z.union([
  z.strictObject({ at: moment, event: z.string().max(200), beforeWaits: z.boolean().optional() }),
  z.strictObject({
    draw: z.string().max(1000),
    asked: whole,
    value: z
      .number()
      .int()
      .min(0)
      .max(2 ** 32 - 1),
  }),
]);
const endSchema = z.strictObject({
  end: z.strictObject({
    at: moment,
    screen: z.string(),
    level: z.number().int(),
    counters: z.record(z.string(), z.union([z.number(), z.string(), z.boolean()])),
  }),
});

const mostLines = 1_000_000;

/**
 * Reads a record from JSON Lines.
 *
 * @throws DesignError with the line that is wrong
 */
export function readRecord(text: string, file = 'record'): SessionRecord {
  const rows = text.split('\n').map((row) => row.trim());
  while (rows.at(-1) === '') rows.pop();
  const fail = (line: number, reason: string): never => {
    throw new DesignError([problem('not-a-record', { reason }, { file, line, column: 1 })]);
  };
  if (rows.length === 0) fail(1, 'the file is empty');
  if (rows.length > mostLines) fail(mostLines, `it has more than ${mostLines} lines`);
  const read = <Schema extends z.ZodType>(index: number, schema: Schema, what: string): z.output<Schema> => {
    let value: unknown;
    try {
      value = JSON.parse(rows[index]!);
    } catch {
      return fail(index + 1, `line ${index + 1} is not JSON`);
    }
    const result = schema.safeParse(value, { jitless: true });
    return result.success ? result.data : fail(index + 1, `line ${index + 1} is not ${what}`);
  };
  const head = read(
    0,
    headSchema,
    'the head of a record, such as {"record":1,"design":"…","seed":1,"session":0,"spawns":true,"kept":{}}',
  );
  if (rows.length < 2) fail(1, 'it has no end');
  const { end } = read(rows.length - 1, endSchema, 'the end of a record');
  let before = 0;
  const lines = rows.slice(1, -1).map((_, index): RecordLine => {
    const line = read(index + 1, lineSchema, 'an event such as {"at":0,"event":"input.start"} or a draw');
    if ('draw' in line) return line;
    if (line.at < before) fail(index + 2, `line ${index + 2} goes back in time`);
    before = line.at;
    return line.beforeWaits === undefined
      ? { at: line.at, event: line.event }
      : { at: line.at, event: line.event, beforeWaits: line.beforeWaits };
  });
  if (end.at < before) fail(rows.length, 'its end comes before its last event');
  const { design, seed, session, spawns, kept } = head;
  return { design, seed, session, spawns, kept, lines, end };
}

/**
 * Plays a record again, draws as they were recorded.
 *
 * @param watch is given the session before its first event
 * @throws DesignError where the record belongs to another design, or ends otherwise than it says
 */
export function replay(
  design: Design,
  record: SessionRecord,
  watch?: (session: Session) => void,
  options: Pick<SessionOptions, 'carrier'> = {},
  file = 'record',
): Session {
  const place = { file, line: 1, column: 1 };
  if (record.design !== design.fingerprint) {
    throw new DesignError([
      problem('other-design', { recorded: record.design, found: design.fingerprint }, place),
    ]);
  }
  const { seed, spawns, kept } = record;
  const forced = new Map<string, number>();
  for (const line of record.lines) if ('draw' in line) forced.set(`${line.asked} ${line.draw}`, line.value);
  const session = new Session(design, { seed, session: record.session, spawns, kept, ...options }, forced);
  watch?.(session);
  for (const line of record.lines) {
    if ('event' in line) session.sendAt(line.event, line.at, line.beforeWaits === true);
  }
  session.advanceTo(record.end.at);
  const problems = differences(record.end, endOf(session)).map(
    ({ what, recorded, found }): Problem =>
      problem(
        'replay-differs',
        { what, recorded: String(recorded), found: String(found) },
        { ...place, line: record.lines.length + 2 },
      ),
  );
  if (problems.length > 0) throw new DesignError(problems);
  return session;
}

function differences(
  recorded: RecordEnd,
  found: RecordEnd,
): { what: string; recorded: unknown; found: unknown }[] {
  const pairs = [
    { what: 'screen', recorded: recorded.screen, found: found.screen },
    { what: 'level', recorded: recorded.level, found: found.level },
    ...Object.entries(found.counters).map(([what, value]) => ({
      what,
      recorded: recorded.counters[what],
      found: value,
    })),
  ];
  return pairs.filter((pair) => pair.recorded !== pair.found);
}
