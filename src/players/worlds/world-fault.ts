import type { Player } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { recordOf, type SessionRecord } from '../../engine/record/record.js';
import { gameOf } from '../../engine/session/design-session.js';

/** An outside event as it was sent. */
export interface SentLine {
  readonly event: string;
  readonly at: number;
  readonly beforeWaits: boolean;
}

/** A world's own code threw: in which session, at which moment, and what had happened until then. */
export class WorldFault extends UsageError {
  constructor(
    message: string,
    /** What the world had reported and the player pressed, replayable without the world. */
    readonly record: SessionRecord,
    override readonly cause: unknown,
  ) {
    super('bad-world', message);
    this.name = 'WorldFault';
  }
}

/** What a world threw at a moment of a session, with the session as it was then. */
export function worldFault(
  cause: unknown,
  form: Form,
  player: Player,
  { seed, session, at, lines }: { seed: number; session: number; at: number; lines: readonly SentLine[] },
): WorldFault {
  const again = gameOf(form.design).start({ seed, session });
  for (const { event, at: moment, beforeWaits } of lines) again.sendAt(event, moment, beforeWaits);
  again.advanceTo(Math.max(at, again.time), true);
  const { name, message, stack } = cause instanceof Error ? cause : new Error(String(cause));
  const where =
    stack
      ?.split('\n')
      .find((line) => /:\d+:\d+\)?$/.test(line))
      ?.trim() ?? '';
  return new WorldFault(
    `The world threw in session ${session} of ${player.name}, seed ${seed}, at ${at / 1000} s: ${name}: ${message} ${where}`.trim(),
    recordOf(again),
    cause,
  );
}
