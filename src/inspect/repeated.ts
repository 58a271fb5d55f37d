import type { Design } from '../design/model.js';
import { DesignError } from '../design/problems/problem.js';
import { formOf } from '../engine/program/lower/lower.js';
import { replay } from '../engine/record/replay.js';
import type { Step } from '../engine/run/step.js';
import type { Session } from '../engine/session/design-session.js';
import { isMade, supplyEnds } from '../explore/abstraction/cone.js';
import type { Witness } from '../explore/evidence/witness.js';

/** How often the last step of a session is repeated, and for how many milliseconds of play. */
const mostRepeats = 60;
const mostTime = 600_000;

/**
 * Plays a session that is known, and then its last step over and over, until something is seen in a step.
 *
 * @returns what was seen, and what was done until then; undefined where it is not seen, or the time allowed is over
 */
export function seenByRepeating<Seen>(
  design: Design,
  { record, steps }: Pick<Witness, 'record' | 'steps'>,
  see: (step: Step, session: Session) => Seen | undefined,
  isOver: () => boolean,
): { readonly seen: Seen; readonly steps: readonly string[] } | undefined {
  if (record === undefined) return undefined;
  let seen: Seen | undefined;
  const watch = (session: Session): void => {
    session.listen((step) => {
      seen ??= see(step, session);
    });
  };
  const last = lastOf(steps);
  let repeats = 0;
  try {
    const session = replay(design, record, watch, { isOver });
    const ends = session.time + mostTime;
    for (; last !== undefined && seen === undefined && repeats < mostRepeats; repeats++) {
      if (session.time + last.pause > ends || !isSupplied(design, last.event, session.present)) break;
      if (last.event === undefined) session.advance(last.pause);
      else session.send(last.event);
    }
  } catch (error) {
    // What ends in a fault is told as one; where the time allowed is over, nothing is told.
    if (!(error instanceof DesignError)) throw error;
  }
  if (seen === undefined) return undefined;
  if (repeats === 0 || last === undefined) return { seen, steps };
  const { event, pause } = last;
  const again =
    event === undefined
      ? `wait ${(repeats * pause) / 1000}`
      : repeats === 1
        ? event
        : `${repeats} x ${event}`;
  return { seen, steps: [...steps, again] };
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
