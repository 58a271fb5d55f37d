import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { isOutside } from '../../engine/program/events.js';
import { formOf } from '../../engine/program/lower/lower.js';
import type { SessionRecord } from '../../engine/record/record.js';
import { eventsIn } from '../../engine/record/record-line.js';
import { drawsOf, replay } from '../../engine/record/replay.js';
import type { Step } from '../../engine/run/step.js';
import { Session } from '../../engine/session/design-session.js';
import type { Sought } from './claim.js';
import type { SentEvent } from './passage.js';
import { endedAt, shows, type Witness } from './witness.js';

/** How far a session is played on, in milliseconds, and in what steps, to see whether what is sought comes by itself. */
const playedOn = 120_000;
const step = 100;

/** What was sent in a session, when it ended, and the draws that it had. */
interface Playback {
  readonly events: readonly SentEvent[];
  readonly end: number;
  readonly forced: ReadonlyMap<string, number>;
}

/** What sessions show on their way that were played for something else. Each is gone through once, the shortest first. */
export class KnownSessions {
  #shownIn: ReadonlyMap<string, SessionRecord> | undefined;

  constructor(
    private readonly design: Design,
    private readonly known: readonly Witness[],
  ) {}

  shown(sought: Exclude<Sought, { readonly transition: number }>): Witness | undefined {
    this.#shownIn ??= this.#goThrough();
    const record = this.#shownIn.get(keyOf(sought));
    return record && seenIn(this.design, record, playbackOf(record), sought);
  }

  #goThrough(): ReadonlyMap<string, SessionRecord> {
    const { design } = this;
    const { eventIndex } = formOf(design);
    const ruleIndex = new Map(design.rules.map(({ name }, rule) => [name, rule]));
    const found = new Map<string, SessionRecord>();
    const records = this.known.flatMap(({ record }) => record ?? []);
    for (const record of records.sort((a, b) => a.lines.length - b.lines.length)) {
      replay(design, record, (session) => {
        const see = ({ rules, name, reception }: Step): void => {
          const shown: Sought[] = rules.map((rule) => ({ rule: ruleIndex.get(rule)! }));
          shown.push({ level: session.level - 1 });
          if (reception === 'handled') shown.push({ event: eventIndex.get(name)! });
          for (const each of shown) if (!found.has(keyOf(each))) found.set(keyOf(each), record);
        };
        see(session.opening);
        session.listen(see);
      });
    }
    return found;
  }
}

const keyOf = (sought: Sought): string => Object.entries(sought).join();

const playbackOf = (record: SessionRecord): Playback => ({
  events: eventsIn(record.lines),
  end: record.end.at,
  forced: drawsOf(record),
});

/**
 * What is sought in sessions that showed something else: on their way, or one event or some time after their end; first of all after the
 * very start.
 */
export function foundIn(
  design: Design,
  known: readonly Witness[],
  sought: Sought,
  isOver: () => boolean,
): Witness | undefined {
  const sessions = known.flatMap(({ record, brings = [] }) =>
    record === undefined ? [] : [{ record, brings }],
  );
  const [first] = sessions;
  if (first === undefined) return undefined;
  const { record } = first;
  const start = { record: { ...record, lines: [], end: { ...record.end, at: 0 } }, brings: [] };
  const more = [undefined, ...outsideEvents(design, sought).map(once)];
  for (const { record: session, brings } of [start, ...sessions]) {
    const played = playbackOf(session);
    for (const goOn of more) {
      if (isOver()) return undefined;
      const found = seenIn(design, session, played, sought, goOn);
      if (isFounded(found, brings)) return found;
    }
  }
  return undefined;
}

/** How often one event is sent over and over, and how long it is waited for each time, in milliseconds. */
const mostRepeats = 40;
const longestWait = 60_000;

/**
 * What is sought in sessions that went as far as its screen and go on there with one event over and over, whenever it can happen: hits until
 * no lives are left, say, on a level that is far from the start.
 */
export function repeatedIn(
  design: Design,
  known: readonly Witness[],
  transition: number,
  isOver: () => boolean,
): Witness | undefined {
  const { from } = design.transitions[transition]!;
  const { events } = formOf(design);
  const over = events.flatMap(({ name, kind, isHeard }) =>
    isHeard && (kind === 'outcome' || kind === 'input') ? [name] : [],
  );
  for (const { record, brings = [] } of known) {
    if (record?.end.screen !== from) continue;
    for (const event of over) {
      if (isOver()) return undefined;
      const found = seenIn(design, record, playbackOf(record), { transition }, overAndOver(event));
      if (isFounded(found, brings)) return found;
    }
  }
  return undefined;
}

/** Whether a session brings no pieces but those of the one that it goes on from: whether others could be there, nobody has looked. */
const isFounded = (found: Witness | undefined, brings: readonly string[]): boolean =>
  found?.brings?.every((piece) => brings.includes(piece)) ?? false;

/** The events from outside that what is sought hears. */
function outsideEvents(design: Design, sought: Sought): string[] {
  const { events, eventIndex } = formOf(design);
  const heard =
    'transition' in sought
      ? design.transitions[sought.transition]!.events
      : 'rule' in sought
        ? design.rules[sought.rule]!.events
        : 'event' in sought
          ? [events[sought.event]!.name]
          : [];
  return heard.filter((event) => isOutside(events[eventIndex.get(event)!]!.kind));
}

/** What is done past the end of a session, until what is sought is shown. */
type GoOn = (session: Session, send: (event: string) => void, isShown: () => boolean) => void;

const once =
  (event: string): GoOn =>
  (_, send) =>
    send(event);

const overAndOver =
  (event: string): GoOn =>
  (session, send, isShown) => {
    for (let count = 0; count < mostRepeats && !isShown(); count++) {
      const latest = session.time + longestWait;
      while (!isShown() && session.time < latest && !session.possible.includes(event))
        session.advanceTo(session.time + step);
      if (isShown() || !session.possible.includes(event)) return;
      send(event);
      if (!isShown()) session.advanceTo(session.time + step);
    }
  };

/** Plays a session until something is shown; past its end it goes on as it is told, if it is, and time passes. */
export function seenIn(
  design: Design,
  options: { readonly seed: number; readonly session: number; readonly spawns: boolean },
  { events, end, forced }: Playback,
  sought: Sought,
  goOn?: GoOn,
): Witness | undefined {
  const session = new Session(design, options, forced);
  let shownAt: number | undefined;
  const see = (each: Step): void => {
    const isShown = 'level' in sought ? session.level === sought.level + 1 : shows(design, sought, each);
    if (isShown) shownAt ??= each.at;
  };
  see(session.opening);
  session.listen(see);
  const sent: SentEvent[] = [];
  const send = (each: SentEvent): void => {
    const { event, at, beforeWaits = false } = each;
    session.advanceTo(at, beforeWaits);
    if (shownAt !== undefined) return;
    sent.push(each);
    session.sendAt(event, at, beforeWaits);
  };
  try {
    for (const each of events) if (shownAt === undefined) send(each);
    if (shownAt === undefined) session.advanceTo(end);
    const sendNow = (event: string): void => send({ event, at: session.time });
    if (shownAt === undefined) goOn?.(session, sendNow, () => shownAt !== undefined);
    for (const until = session.time + playedOn; shownAt === undefined && session.time < until; )
      session.advanceTo(session.time + step);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    return undefined;
  }
  return shownAt === undefined ? undefined : endedAt(design, options, sent, shownAt, forced);
}
