import { z } from 'zod';
import { DesignError } from '../../design/problems/problem.js';
import { recordVersion, type SessionRecord } from './record.js';
import { latestMoment, longestEvent, type RecordLine } from './record-line.js';
import { recordProblem } from './record-problems.js';

const moment = z.number().int().min(0).max(latestMoment);
const whole = z
  .number()
  .int()
  .min(0)
  .max(2 ** 53 - 1);
const keptSchema = z.record(z.string(), z.union([z.number(), z.string(), z.boolean()]));
const headSchema = z.strictObject({
  record: z.literal(recordVersion),
  design: z.string().max(100),
  seed: whole,
  session: whole,
  spawns: z.boolean(),
  kept: keptSchema,
});
const lineSchema = z.union([
  z.strictObject({ at: moment, kept: keptSchema }),
  z.strictObject({ at: moment, event: z.string().max(longestEvent), beforeWaits: z.boolean().optional() }),
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
    throw new DesignError([recordProblem('not-a-record', { reason }, { file, line, column: 1 })]);
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
    if ('kept' in line) return line;
    return line.beforeWaits === undefined
      ? { at: line.at, event: line.event }
      : { at: line.at, event: line.event, beforeWaits: line.beforeWaits };
  });
  if (end.at < before) fail(rows.length, 'its end comes before its last event');
  const { design, seed, session, spawns, kept } = head;
  return { design, seed, session, spawns, kept, lines, end };
}
