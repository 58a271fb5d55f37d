import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { formOf } from '../../src/engine/program/lower/lower.js';
import { runRows } from '../../src/formats/tables/rows.js';
import {
  DesignError,
  readDesign,
  readRecord,
  recordOf,
  replay,
  Session,
  type SessionRecord,
  writeRecord,
} from '../../src/index.js';
import { Tally } from '../../src/measure/tally.js';
import { Play } from '../../src/players/drivers/play.js';
import { meetingOf } from '../../src/players/meeting/meeting.js';
import { changed, demo } from '../support/designs.js';
import { designText, drive, happenings } from '../support/generated-designs.js';
import { runs } from '../support/runs.js';

function played(): Session {
  const session = new Session(demo(), { seed: 77, session: 3 });
  session.send('input.start');
  for (const pause of [900, 2100, 4000, 1300]) {
    session.advance(pause);
    session.send('blossom.taken');
  }
  session.send('wasp.hit');
  session.send('no.such');
  session.advance(3210);
  return session;
}

const look = (session: Session) => ({
  time: session.time,
  screen: session.screen,
  level: session.level,
  counters: session.counters,
  present: session.present,
  ignored: session.ignored,
});

const codeOf = (run: () => unknown): string => {
  try {
    run();
  } catch (error) {
    if (error instanceof DesignError) return error.problems[0]!.code;
    throw error;
  }
  return 'none';
};

describe('a record', () => {
  test('is JSON Lines, and replays to the same states after it was written and read', () => {
    const session = played();
    const text = writeRecord(recordOf(session));
    for (const line of text.trimEnd().split('\n')) expect(() => JSON.parse(line)).not.toThrow();
    const again = replay(demo(), readRecord(text));
    expect(look(again)).toEqual(look(session));
    expect(recordOf(again)).toEqual(recordOf(session));
  });

  test('of any session of any design replays to the same states on either backend', () => {
    fc.assert(
      fc.property(designText, happenings, fc.integer({ min: 0 }), (text, happened, seed) => {
        const design = readDesign(text);
        const fault = codeOf(() => {
          const session = new Session(design, { seed });
          drive(session, happened);
          const record = readRecord(writeRecord(recordOf(session)));
          for (const backend of ['printed', 'interpreted'] as const) {
            expect(look(replay(design, record, undefined, { backend }))).toEqual(look(session));
          }
        });
        expect(['none', 'endless-chain', 'number-too-large', 'no-next-level', 'too-many-pieces']).toContain(
          fault,
        );
      }),
      runs(200),
    );
  });

  test('of a simulated player replays to the score that the player made', () => {
    const design = demo();
    const form = formOf(design);
    const seed = 21;
    for (let index = 0; index < 5; index++) {
      const tally = new Tally(form);
      const events: { event: string; at: number; beforeWaits: boolean }[] = [];
      const meeting = meetingOf(form, { ...design.players[1]!, runs: 1 });
      const play = new Play(form, meeting, tally, 'printed', (event, at, beforeWaits) => {
        events.push({ event: form.events[event]!.name, at, beforeWaits });
      });
      play.play(seed, index);
      const session = new Session(design, { seed, session: index });
      for (const { event, at, beforeWaits } of events) session.sendAt(event, at, beforeWaits);
      const [run] = runRows(design, 'regular', play.log);
      expect(session.counter('score')).toBe(run!.score);
      expect(replay(design, recordOf(session)).screen).toBe(run!.ending);
    }
  });

  test('holds its draws, so that other draws give another session', () => {
    const record = recordOf(played());
    const forced: SessionRecord = {
      ...record,
      lines: record.lines.map((line) => ('draw' in line ? { ...line, value: 2 ** 32 - 1 } : line)),
    };
    const present = (of: SessionRecord): unknown => {
      const seen: unknown[] = [];
      codeOf(() =>
        replay(demo(), of, (session) =>
          session.listen(({ at, cause }) => cause === 'spawn' && seen.push(at)),
        ),
      );
      return seen;
    };
    expect(present(forced)).not.toEqual(present(record));
  });
});

describe('a record that cannot be used', () => {
  const text = writeRecord(recordOf(played()));
  const lines = text.trimEnd().split('\n');

  test.each([
    ['empty', ''],
    ['not JSON', 'hello\n'],
    ['a head only', `${lines[0]}\n`],
    ['without an end', lines.slice(0, -1).join('\n')],
    ['cut in the middle of a line', text.slice(0, text.length / 2)],
    ['of another version', text.replace('{"record":1', '{"record":2')],
    ['back in time', text.replace('{"at":900,', '{"at":900000,')],
    ['with an event that is a number', text.replace('"event":"input.start"', '"event":7')],
    ['with a draw out of range', text.replace(/"value":\d+/, '"value":4294967296')],
    ['with an unknown key', text.replace('{"at":0,', '{"__proto__":1,"at":0,')],
  ])('%s', (_, damaged) => {
    expect(codeOf(() => replay(demo(), readRecord(damaged, 'damaged.jsonl')))).toBe('not-a-record');
  });

  test('from another design', () => {
    const other = readDesign(changed('grace: 1', 'grace: 2'));
    expect(codeOf(() => replay(other, readRecord(text)))).toBe('other-design');
  });

  test('with an end that does not come out', () => {
    const session = played();
    const record = recordOf(session);
    const wrong = { ...record, end: { ...record.end, counters: { ...record.end.counters, score: 1 } } };
    expect(codeOf(() => replay(demo(), wrong))).toBe('replay-differs');
  });
});
