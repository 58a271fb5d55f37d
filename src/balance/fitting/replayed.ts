import type { Design, Player } from '../../design/model.js';
import type { Form } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { runColumns, runWidth, type SessionLog } from '../../measure/session-log.js';
import { Tally } from '../../measure/tally.js';
import { type LoggedEvent, LogPlay, type Moment } from '../../players/drivers/log-play.js';
import { careIn } from '../../players/meeting/care.js';
import { logarithm } from '../../players/meeting/chance.js';
import { meetingOf } from '../../players/meeting/meeting.js';
import { FinishedRuns } from './finished-runs.js';
import type { TimedAttempt } from './paces.js';
import { endOfSession, type LogRow } from './playtest.js';

/** One try at a piece. */
export interface Attempt {
  readonly piece: number;
  readonly successes: 0 | 1;
  readonly failures: 0 | 1;
  /** The natural logarithm of which run of its session it was made in. */
  readonly run: number;
  /** The same of which attempt of its run it was. */
  readonly nth: number;
  /** Whether what makes the player take care held. */
  readonly isCareful: boolean;
  readonly session: number;
}

/** What the log of one player shows. */
export interface Replayed {
  readonly runs: FinishedRuns;
  readonly attempts: readonly Attempt[];
  readonly timed: readonly TimedAttempt[];
  /** Lost runs after which the player could have played on, and those after which it left. */
  readonly lost: number;
  readonly left: number;
}

/**
 * Plays the sessions of one player's log again and counts them as if they had been simulated.
 *
 * @param player as the design has it; undefined for one that it does not have
 */
export function replayLog(design: Design, rows: readonly LogRow[], player: Player | undefined): Replayed {
  const form = formOf(design);
  const tally = new Tally(form);
  const runs = new FinishedRuns(form);
  const leaving = { lost: 0, left: 0 };
  tally.onSession = (log) => {
    runs.count(log);
    countLeaving(form, log, player?.runs ?? Number.POSITIVE_INFINITY, leaving);
  };
  const played = rows.filter(({ event }) => event !== endOfSession);
  // A game that tells what appears owns presence; else the design's own spawns run.
  const ownsPresence = played.some(
    ({ event }) => form.events[form.eventIndex.get(event)!]!.kind === 'appeared',
  );
  // What spawns in the design's own time need not be what the player had before it.
  const tellsPresence = ownsPresence || design.levels.every(({ spawns }) => spawns.length === 0);
  const watcher = new Watching(form, player, tellsPresence);
  // Stands where the driver asks for a player; all that matters was decided by whoever was logged.
  const anybody = { ...design.players[0]!, runs: 1000, learning: 0, paceLearning: 0 };
  const play = new LogPlay(form, meetingOf(form, anybody), tally, ownsPresence, watcher);
  const bySession = new Map<number, { readonly events: LoggedEvent[]; end: number | undefined }>();
  for (const { session, at, event, isTried = true } of rows) {
    const own = bySession.get(session) ?? { events: [], end: undefined };
    bySession.set(session, own);
    const milliseconds = Math.round(at * 1000);
    if (event === endOfSession) own.end = milliseconds;
    else own.events.push({ event: form.eventIndex.get(event)!, at: milliseconds, isTried });
  }
  for (const [session, { events, end }] of bySession)
    play.replay(1, session, { events: events.sort((a, b) => a.at - b.at), end });
  return { runs, attempts: watcher.attempts, timed: watcher.timed, ...leaving };
}

/** Counts the lost runs of a session that was not at its last run anyway, and whether the player left after one. */
function countLeaving(
  form: Form,
  { runs, columns }: SessionLog,
  most: number,
  into: { lost: number; left: number },
): void {
  for (let run = 0; run < Math.min(runs, most - 1); run++) {
    const ending = columns[run * runWidth + runColumns.ending]!;
    if (ending < 0 || form.design.screens[ending]!.ending !== 'lost') continue;
    into.lost++;
    if (run === runs - 1) into.left++;
  }
}

/** Gathers the attempts of a player, and the times of those that began as soon as the one before was over. */
class Watching {
  readonly attempts: Attempt[] = [];
  readonly timed: TimedAttempt[] = [];
  /** Since when the player has been busy without a break, in live time; where it is not known to be, undefined. */
  #busySince: { readonly session: number; readonly live: number; readonly transitions: number } | undefined;
  readonly #sought: readonly number[];
  readonly #isTimed: boolean;
  #isCareful: (() => boolean) | undefined;

  constructor(
    private readonly form: Form,
    private readonly player: Player | undefined,
    tellsPresence: boolean,
  ) {
    const { pieces } = form.design;
    // One that it leaves alone, or that cannot always be met, does not keep a player busy.
    this.#sought = pieces.flatMap(({ meets, needs, name, by }, piece) =>
      meets === 'sought' && needs === undefined && by === undefined && player?.style.get(name) !== 0
        ? [piece]
        : [],
    );
    this.#isTimed = tellsPresence && (player?.acts ?? []).every(({ takes }) => takes === 0);
  }

  heard({ event, isTried }: LoggedEvent, now: Moment, tried: number): void {
    const { piece, kind } = this.form.events[event]!;
    if (kind !== 'outcome' || !isTried) return;
    const { success, failure } = this.form.pieces[piece]!;
    // All sessions are played in the same cells.
    this.#isCareful ??= careIn(this.form, now.cells, this.player?.caution);
    const isCareful = this.#isCareful();
    const practice = logarithm(now.runsEnded + 1);
    if (event === success || event === failure) {
      const successes = event === success ? 1 : 0;
      this.attempts.push({
        piece,
        successes,
        failures: successes === 1 ? 0 : 1,
        run: practice,
        nth: logarithm(tried + 1),
        isCareful,
        session: now.session,
      });
    }
    const { takes, hits, again, meets } = this.form.design.pieces[piece]!;
    if (meets !== 'sought') return;
    const since = this.#busySince;
    const live = now.cells[this.form.cells.live]!;
    const isTimed =
      this.#isTimed && typeof takes === 'number' && hits === 1 && !again && !isCareful && since !== undefined;
    if (
      isTimed &&
      since.session === now.session &&
      since.transitions === now.transitions &&
      live > since.live
    )
      this.timed.push({ session: now.session, practice, took: live - since.live, takes });
    this.#busySince = { session: now.session, live, transitions: now.transitions };
  }

  settled({ cells, transitions }: Moment): void {
    if (this.#busySince === undefined) return;
    const { present } = this.form.cells;
    const waits = this.#sought.some((piece) => cells[present + piece]! > 0);
    if (!waits || transitions !== this.#busySince.transitions) this.#busySince = undefined;
  }
}
