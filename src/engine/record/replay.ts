import type { Design } from '../../design/model.js';
import { DesignError, type Problem } from '../../design/problems/problem.js';
import { Session, type SessionOptions } from '../session/design-session.js';
import { endOf, type RecordEnd, type SessionRecord } from './record.js';
import { recordProblem } from './record-problems.js';

/**
 * Plays a record again, draws as they were recorded.
 *
 * @param watch is given the session before its first event
 * @throws DesignError where the record belongs to another design, or ends otherwise than it says
 * @example
 * replay(design, readRecord(text)).counter('score'); // as it was when the record ended
 */
export function replay(
  design: Design,
  record: SessionRecord,
  watch?: (session: Session) => void,
  options: Pick<SessionOptions, 'backend' | 'isOver'> = {},
  file = 'record',
): Session {
  const place = { file, line: 1, column: 1 };
  if (record.design !== design.fingerprint) {
    throw new DesignError([
      recordProblem('other-design', { recorded: record.design, found: design.fingerprint }, place),
    ]);
  }
  const { seed, spawns, kept } = record;
  const session = new Session(
    design,
    { seed, session: record.session, spawns, kept, ...options },
    drawsOf(record),
  );
  watch?.(session);
  for (const line of record.lines) {
    if ('event' in line) session.sendAt(line.event, line.at, line.beforeWaits === true);
    else if ('kept' in line) session.takeKept(line.kept, line.at);
  }
  session.advanceTo(record.end.at);
  const problems = differences(record.end, endOf(session)).map(
    ({ what, recorded, found }): Problem =>
      recordProblem(
        'replay-differs',
        { what, recorded: String(recorded), found: String(found) },
        { ...place, line: record.lines.length + 2 },
      ),
  );
  if (problems.length > 0) throw new DesignError(problems);
  return session;
}

/** The draws of a record, by `asked name`, as a session takes them. */
export const drawsOf = ({ lines }: SessionRecord): ReadonlyMap<string, number> =>
  new Map(
    lines.flatMap((line): [string, number][] =>
      'draw' in line ? [[`${line.asked} ${line.draw}`, line.value]] : [],
    ),
  );

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
