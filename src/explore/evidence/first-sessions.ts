import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { Build } from '../../engine/program/build/build.js';
import { term } from '../../engine/program/build/expressions.js';
import type { Form, IntervalForm } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Tally } from '../../measure/tally.js';
import { Play } from '../../players/drivers/play.js';
import { type Meeting, meetingOf } from '../../players/meeting/meeting.js';
import { rangeOf } from '../abstraction/ranges.js';
import type { Fault } from './verdict.js';
import { inWords } from './witness.js';

/** Sessions of each of the design's players. */
const sessionsOfEach = 12;
const seed = 1;

/** What became of a few sessions. */
export interface FirstSessions {
  readonly faults: readonly Fault[];
  /** Transitions, by index, that some session took. */
  readonly taken: ReadonlySet<number>;
}

/**
 * The first sessions of the design's own players, and of two more at the shortest of their paces: one who never misses and one who always
 * does. A search that leaves counters out may pass over numbers that grow too large, and one in which a game may bring any piece over what
 * the design's own spawns are good for: a session that anybody can play shows both, whatever the search says.
 */
export function firstSessions(design: Design, isOver: () => boolean): FirstSessions {
  const form = formOf(design);
  const faults: Fault[] = [];
  const tally = new Tally(form);
  const extremes = [sureSkill, -sureSkill].map((skill) => ({
    ...design.players[0]!,
    skill,
    pace: shortestPace(design),
  }));
  const isCrowded = form.levels.some(({ spawns }) => spawns.some(({ every }) => isRapid(form, every)));
  for (const player of isCrowded ? design.players.slice(0, 1) : [...design.players, ...extremes]) {
    const meeting = meetingOf(form, player);
    const play = new Play(form, meeting, tally);
    let session = 0;
    try {
      for (; session < (isCrowded ? 1 : sessionsOfEach) && !isOver(); session++) play.play(seed, session);
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      const steps = stepsTo(form, meeting, session);
      faults.push({ problem: error.problems[0]!, witness: { steps, record: undefined } });
    }
  }
  const taken = design.transitions.flatMap((_, transition) =>
    tally.taken[transition]! > 0 ? [transition] : [],
  );
  return { faults, taken: new Set(taken) };
}

/** Whether pieces may come more than a hundred times a second, so that each session takes long. */
function isRapid(form: Form, { least, computed }: IntervalForm): boolean {
  if (computed === undefined) return least < 10;
  const [seconds] = rangeOf(term(new Build(form, {}), computed.seconds), form);
  return !(seconds >= 0.01);
}

/** A skill, in logits, with which no attempt fails that one in four hundred million would. */
const sureSkill = 20;

/** The pace of the fastest of the design's players. */
export const shortestPace = ({ players }: Design): number => Math.min(...players.map(({ pace }) => pace));

/** What happens in a session that ends in a fault, played once more by one who tells. */
function stepsTo(form: Form, meeting: Meeting, session: number): string[] {
  const events: { event: string; at: number }[] = [];
  const play = new Play(form, meeting, new Tally(form), undefined, (event, at) =>
    events.push({ event: form.events[event]!.name, at }),
  );
  try {
    play.play(seed, session);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
  }
  return inWords(events, play.now);
}
