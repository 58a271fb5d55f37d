// The build for browsers runs in Node too, and asks neither for a Buffer of its own.
import { type CsvError, parse } from 'csv-parse/browser/esm/sync';
import { endOfSession, type LogRow } from '../../balance/fitting/playtest.js';
import { UsageError } from '../../design/problems/problem.js';
import { readRecord } from '../../engine/record/read-record.js';

const columns = ['player', 'session', 'at', 'event'] as const;

/**
 * Reads a log of played sessions, one line for each event: CSV with a line of names (`player,session,at,event`, `at` in seconds), or
 * JSON Lines with the same keys; or the record of one session, such as a game saves. A column `tried` marks with 0 what was missed
 * without a try, and an event `end` when the player left; other columns are passed over.
 *
 * @param which how many logs were read before this one, so that their sessions are not taken for these
 * @throws UsageError with the line, what was found and what is allowed; DesignError for a record that is broken
 * @example
 * readLog('player,session,at,event\nMira,1,2.4,blossom.taken\n', 'playtest.csv');
 */
export function readLog(text: string, file: string, which = 0): LogRow[] {
  const first = which * sessionsOfLog;
  if (text.startsWith('{"record":')) return readSessionRecord(text, file, first);
  const isLines = /\.(jsonl|ndjson)$/i.test(file) || text.trimStart().startsWith('{');
  const records = isLines ? readLines(text, file) : readCsv(text, file);
  if (records.length === 0)
    throw new UsageError(
      'bad-file',
      `${file} holds no events; give a log with the columns ${columns.join(', ')}.`,
    );
  return records.map(({ record, line }) => {
    const number = (name: 'session' | 'at'): number => {
      const value = Number(record[name]);
      if (String(record[name]).trim() === '' || !Number.isFinite(value) || value < 0 || value > most[name])
        throw new UsageError(
          'bad-file',
          `${file}:${line}: ${name} is "${String(record[name])}"; it must be a number from 0 to ${most[name]}${name === 'at' ? ', in seconds since the session began' : ''}.`,
        );
      return value;
    };
    return {
      player: String(record.player),
      session: first + number('session'),
      at: number('at'),
      event: String(record.event),
      isTried: record.tried === undefined ? undefined : !['0', 'false'].includes(String(record.tried)),
      file,
      line,
    };
  });
}

/** Numbers of sessions, and seconds of one: a day. */
const most = { session: 1e9, at: 86_400 } as const;

/** More than a log can number. */
const sessionsOfLog = 1e9 + 1;

/** Whoever played a session of which there is only the record. */
const somebody = 'player';

function readSessionRecord(text: string, file: string, session: number): LogRow[] {
  const { lines, end } = readRecord(text, file);
  if (end.at > most.at * 1000)
    throw new UsageError(
      'bad-file',
      `${file} is of a session that lasts ${end.at / 1000} s; at most ${most.at} s are read.`,
    );
  const left = {
    player: somebody,
    session,
    at: end.at / 1000,
    event: endOfSession,
    isTried: undefined,
    file,
    line: lines.length + 2,
  };
  const events = lines.flatMap((line, index): LogRow[] =>
    'event' in line
      ? [
          {
            player: somebody,
            session,
            at: line.at / 1000,
            event: line.event,
            isTried: undefined,
            file,
            line: index + 2,
          },
        ]
      : [],
  );
  return [...events, left];
}

interface Read {
  readonly record: Readonly<Record<(typeof columns)[number] | 'tried', unknown>>;
  readonly line: number;
}

function readCsv(text: string, file: string): Read[] {
  try {
    const read = parse(text, { columns: true, info: true, skip_empty_lines: true, trim: true, bom: true });
    return (read as unknown as { record: Read['record']; info: { lines: number } }[]).map(
      ({ record, info }) => {
        mustHaveAll(record, file, 1);
        return { record, line: info.lines };
      },
    );
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw new UsageError('bad-file', `${file} is no CSV: ${(error as CsvError).message}.`);
  }
}

function readLines(text: string, file: string): Read[] {
  return text.split('\n').flatMap((written, index): Read[] => {
    if (written.trim() === '') return [];
    let record: unknown;
    try {
      record = JSON.parse(written);
    } catch {
      throw new UsageError(
        'bad-file',
        `${file}:${index + 1}: this line is no JSON; give one object in each line.`,
      );
    }
    mustHaveAll(record, file, index + 1);
    return [{ record: record as Read['record'], line: index + 1 }];
  });
}

function mustHaveAll(record: unknown, file: string, line: number): void {
  const has = typeof record === 'object' && record !== null ? Object.keys(record) : [];
  const lacking = columns.filter((name) => !has.includes(name));
  if (lacking.length > 0)
    throw new UsageError(
      'bad-file',
      `${file}:${line}: ${lacking.join(', ')} ${lacking.length === 1 ? 'is' : 'are'} missing; each event needs ${columns.join(', ')}.`,
    );
}
