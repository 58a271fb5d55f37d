import { countersIn } from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { eventsIn } from '../../engine/record/record-line.js';
import { replay } from '../../engine/record/replay.js';
import type { Step } from '../../engine/run/step.js';
import type { Session } from '../../engine/session/design-session.js';
import { isMade, supplyEnds } from '../../explore/abstraction/cone.js';
import { inWords, type Witness } from '../../explore/evidence/witness.js';
import { outcomeEvents } from '../played-for.js';
import { isInput, writesOf } from '../uses.js';

/** How often the last step of a session is repeated, and for how many milliseconds of play. */
const mostRepeats = 60;
const mostTime = 600_000;

/** How many other events are tried in between, one after the other. */
const mostBetween = 8;

/**
 * Plays a session that is known, and then its last step over and over, until something is seen in a step; or, where that event needs
 * another before it does something again, the two in turn.
 *
 * @returns what was seen, and what was done until then; undefined where it is not seen, or the time allowed is over
 */
export function seenByRepeating<Seen>(
  design: Design,
  { record, steps }: Pick<Witness, 'record' | 'steps'>,
  see: (step: Step, session: Session) => Seen | undefined,
  isOver: () => boolean,
): { readonly seen: Seen; readonly steps: readonly string[] } | undefined {
  const last = lastOf(steps);
  if (record === undefined) return undefined;
  for (const between of [undefined, ...lettingAgain(design, last?.event).slice(0, mostBetween)]) {
    let seen: Seen | undefined;
    const watch = (session: Session): void => {
      session.listen((step) => {
        seen ??= see(step, session);
      });
    };
    try {
      const session = replay(design, record, watch, { isOver });
      const ends = session.time + mostTime;
      for (let repeats = 0; last !== undefined && seen === undefined && repeats < mostRepeats; repeats++) {
        const turn = between === undefined || repeats % 2 === 1 ? last : { event: between, pause: 0 };
        if (session.time + turn.pause > ends || !isSupplied(design, turn.event, session.present)) break;
        if (turn.event === undefined) session.advance(turn.pause);
        else session.send(turn.event);
      }
      if (seen !== undefined) return { seen, steps: inWords(eventsIn(session.recorded), session.time) };
    } catch (error) {
      // What ends in a fault is told as one; where the time allowed is over, nothing is told.
      if (!(error instanceof DesignError)) throw error;
      return undefined;
    }
  }
  return undefined;
}

/** Events that write what rules ask for before they do something at an event. */
function lettingAgain(design: Design, event: string | undefined): string[] {
  const { rules } = design;
  const outcomes = outcomeEvents(design);
  const asked = rules.flatMap(({ events, condition }) =>
    event !== undefined && events.includes(event) && condition !== undefined ? countersIn(condition) : [],
  );
  const writing = rules.filter(({ effects }) =>
    effects.some((effect) => writesOf(effect).some(({ name }) => asked.includes(name))),
  );
  return [...new Set(writing.flatMap(({ events }) => events))].filter(
    (each) => each !== event && (isInput(each) || outcomes.has(each)),
  );
}

/** The last step of a witness: an event, or milliseconds that pass. */
function lastOf(steps: readonly string[]): { readonly event?: string; readonly pause: number } | undefined {
  const [, event, seconds] = /^(?:\d+ x )?(?:(\w+\.\w+)|wait ([\d.]+))$/.exec(steps.at(-1) ?? '') ?? [];
  if (event !== undefined) return { event, pause: 0 };
  return seconds === undefined ? undefined : { pause: Math.round(1000 * Number(seconds)) };
}

/** Whether an event can happen once more: of a piece of which no more are made than there are, one must be there. */
export function isSupplied(
  design: Design,
  event: string | undefined,
  present: { readonly [piece: string]: number },
): boolean {
  const name = event?.split('.')[0] ?? '';
  const form = formOf(design);
  const piece = form.pieces.findIndex((each) => each.name === name);
  return piece < 0 || present[name]! > 0 || (isMade(form, piece) && !supplyEnds(form, piece));
}
