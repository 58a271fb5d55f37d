import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { formOf } from '../../engine/program/lower/lower.js';
import type { SessionRecord } from '../../engine/record/record.js';
import type { Step } from '../../engine/run/step.js';
import { Session } from '../../engine/session/design-session.js';
import type { Sought } from './claim.js';
import { endedAt, type SentEvent, shows, type Witness } from './witness.js';

/** How far a session is played on, in milliseconds, and in what steps, to see whether what is sought comes by itself. */
const playedOn = 120_000;
const step = 100;

/**
 * What is sought in sessions that showed something else: on their way, or one event or some time after their end; first of all after the
 * very start.
 */
export function foundIn(design: Design, known: readonly Witness[], sought: Sought): Witness | undefined {
  const [first] = known.flatMap(({ record }) => record ?? []);
  if (first === undefined) return undefined;
  const start: SessionRecord = { ...first, lines: [], end: { ...first.end, at: 0 } };
  for (const record of [start, ...known.map((witness) => witness.record)]) {
    const found = record && (along(design, record, sought, undefined) ?? after(design, record, sought));
    if (found !== undefined) return found;
  }
  return undefined;
}

/** The events from outside that what is sought hears, each sent once the session is over; else time alone. */
function after(design: Design, record: SessionRecord, sought: Sought): Witness | undefined {
  const { events, eventIndex } = formOf(design);
  const heard =
    'transition' in sought
      ? design.transitions[sought.transition]!.events
      : 'rule' in sought
        ? design.rules[sought.rule]!.events
        : 'event' in sought
          ? [events[sought.event]!.name]
          : [];
  for (const event of heard) {
    if (!['input', 'outcome', 'appeared', 'gone'].includes(events[eventIndex.get(event)!]!.kind)) continue;
    const found = along(design, record, sought, event);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** Plays a record until something is shown; then sends one event more, if there is one, and lets time pass. */
function along(
  design: Design,
  { seed, session: nth, spawns, lines, end }: SessionRecord,
  sought: Sought,
  more: string | undefined,
): Witness | undefined {
  const forced = new Map(
    lines.flatMap((line): [string, number][] =>
      'draw' in line ? [[`${line.asked} ${line.draw}`, line.value]] : [],
    ),
  );
  const session = new Session(design, { seed, session: nth, spawns }, forced);
  let shownAt: number | undefined;
  const see = (each: Step): void => {
    const isShown = 'level' in sought ? session.level === sought.level + 1 : shows(design, sought, each);
    if (isShown) shownAt ??= each.at;
  };
  see(session.opening);
  session.listen(see);
  const sent: SentEvent[] = [];
  const send = (event: string, at: number): void => {
    session.advanceTo(at);
    if (shownAt !== undefined) return;
    sent.push({ at, event });
    session.sendAt(event, at, false);
  };
  try {
    for (const line of lines) if (shownAt === undefined && 'event' in line) send(line.event, line.at);
    if (shownAt === undefined) session.advanceTo(end.at);
    if (shownAt === undefined && more !== undefined) send(more, session.time);
    for (const until = session.time + playedOn; shownAt === undefined && session.time < until; )
      session.advanceTo(session.time + step);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    return undefined;
  }
  return shownAt === undefined
    ? undefined
    : endedAt(design, { seed, session: nth, spawns }, sent, shownAt, forced);
}
