import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import type { Form, Term } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { rangeOf } from '../../engine/program/ranges.js';
import { Play } from '../../players/drivers/play.js';
import { type Meeting, meetingOf } from '../../players/meeting/meeting.js';
import { seenIn } from './known-sessions.js';
import type { SentEvent } from './passage.js';
import type { Fault } from './verdict.js';
import { inWords, type Witness } from './witness.js';

/** Sessions of each of the design's players. */
const sessionsOfEach = 12;
const seed = 1;

/** What became of a few sessions. */
export interface FirstSessions {
  readonly faults: readonly Fault[];
  /** By the index of a transition, the first session that took it. */
  readonly taken: ReadonlyMap<number, PlayedSession>;
  /** Whether only one was played, since each takes long: what it did not come to says nothing. */
  readonly isOne: boolean;
}

/** A session of a simulated player, which can be played again. */
export interface PlayedSession {
  readonly meeting: Meeting;
  readonly session: number;
}

/**
 * The first sessions of the design's own players, and of two more at the shortest of their paces: one who never misses and one who always
 * does. A search that leaves counters out may pass over numbers that grow too large, and one in which a game may bring any piece over what
 * the design's own spawns are good for: a session that anybody can play shows both, whatever the search says.
 */
export function firstSessions(design: Design, isOver: () => boolean): FirstSessions {
  const form = formOf(design);
  const faults: Fault[] = [];
  const extremes = [sureSkill, -sureSkill].map((skill) => ({
    ...design.players[0]!,
    skill,
    pace: shortestPace(design),
  }));
  const taken = new Map<number, PlayedSession>();
  const isCrowded = isRapid(form);
  for (const player of isCrowded ? design.players.slice(0, 1) : [...design.players, ...extremes]) {
    const meeting = meetingOf(form, player);
    let session = 0;
    const play = new Play(form, meeting, {
      count: (log) => {
        for (let at = 0; at < design.transitions.length; at++)
          if (log.taken[at]! > 0 && !taken.has(at)) taken.set(at, { meeting, session });
      },
    });
    try {
      for (; session < (isCrowded ? 1 : sessionsOfEach) && !isOver(); session++) play.play(seed, session);
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      const { events, end } = toldBy(form, meeting, session);
      faults.push({
        problem: error.problems[0]!,
        witness: { steps: inWords(events, end), record: undefined },
      });
    }
  }
  return { faults, taken, isOne: isCrowded };
}

/** A played session as a witness of a transition that it takes, up to the moment when it does. */
export function witnessOf(
  design: Design,
  { meeting, session: nth }: PlayedSession,
  transition: number,
): Witness | undefined {
  const { events, end } = toldBy(formOf(design), meeting, nth);
  const options = { seed, session: nth, spawns: true };
  return seenIn(design, options, { events, end, forced: new Map() }, { transition });
}

/** Whether pieces may come, return or be tried more than a hundred times a second, so that each session takes long. */
function isRapid(form: Form): boolean {
  const maySink = (seconds: Term | undefined) =>
    seconds !== undefined && !(rangeOf(term(new Build(form, {}), seconds), form)[0] >= 0.01);
  return (
    form.levels.some(({ spawns }) =>
      spawns.some(({ every: { least, computed } }) => (computed ? maySink(computed.seconds) : least < 10)),
    ) || form.pieces.some(({ computed }) => maySink(computed.takes) || maySink(computed.returns?.seconds))
  );
}

/** A skill, in logits, with which no attempt fails that one in four hundred million would. */
const sureSkill = 20;

/** The pace of the fastest of the design's players. */
export const shortestPace = ({ players }: Design): number =>
  Math.min(...players.map(({ pace, timing }) => pace * timing.least));

/** A session played once more by one who tells, up to its end or a fault. */
function toldBy(form: Form, meeting: Meeting, session: number) {
  const events: SentEvent[] = [];
  const told = (event: number, at: number, beforeWaits: boolean) =>
    events.push({ event: form.events[event]!.name, at, beforeWaits });
  const play = new Play(form, meeting, { count: () => undefined }, undefined, told);
  try {
    play.play(seed, session);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
  }
  return { events, end: play.now };
}
