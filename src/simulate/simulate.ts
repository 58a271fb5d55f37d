import type { Design, Player } from '../design/model.js';
import { plainPlayer } from '../design/plain-player.js';
import { DesignError, UsageError } from '../design/problems/problem.js';
import type { Form } from '../engine/program/form.js';
import { formOf } from '../engine/program/lower/lower.js';
import type { BackendName } from '../engine/run/backend.js';
import type { SessionLog } from '../measure/session-log.js';
import { Tally } from '../measure/tally.js';
import { Deciding } from '../players/drivers/deciding.js';
import type { Decide } from '../players/drivers/decision-context.js';
import { Play, type Sent } from '../players/drivers/play.js';
import { WorldPlay } from '../players/drivers/world-play.js';
import { meetingOf } from '../players/meeting/meeting.js';
import { playerNamed } from '../players/player-named.js';
import type { World } from '../players/worlds/world.js';

/** A player that is a function: it decides what to seek and which inputs to send; how well it meets pieces is its skill. */
export interface DecidingPlayer extends Partial<Omit<Player, 'name' | 'style' | 'inputs' | 'place'>> {
  readonly name: string;
  readonly decide: Decide;
}

export interface SimulateOptions {
  /** Sessions of each player, from 1. */
  readonly sessions: number;
  /** A whole number from 0 to 2^53 - 1. */
  readonly seed: number;
  /** The first of these sessions; 0 unless it is given. Session i of a seed is the same whatever is played with it. */
  readonly first?: number | undefined;
  /** The players' names, or players that are functions; all of the design's unless given. */
  readonly players?: readonly (string | DecidingPlayer)[] | undefined;
  readonly backend?: BackendName | undefined;
  /** What the players play in; the meeting model of the design unless it is given. */
  readonly world?: World | undefined;
  /** Called now and then with how many sessions are done, of all players together; what it throws ends the simulation. */
  readonly progress?: ((done: number) => void) | undefined;
  /** Called after each session; the log is only good until it returns. */
  readonly onSession?: ((player: string, log: SessionLog) => void) | undefined;
  /**
   * Called for each outside event of the sessions, in milliseconds of session time, and with whether the player tried: a piece that was missed because nobody attended to it was not. It is slower than without.
   */
  readonly onEvent?:
    | ((player: string, session: number, event: string, at: number, isTried: boolean) => void)
    | undefined;
  /** Called for each event that the world reports and the design does not know. */
  readonly onUnknownReport?: ((event: string) => void) | undefined;
}

/** Sessions from one on, of each player. */
export interface Simulation {
  readonly design: Design;
  readonly seed: number;
  readonly first: number;
  readonly sessions: number;
  readonly players: readonly { readonly player: Player; readonly tally: Tally }[];
}

export const mostSessions = 10_000_000;
const sessionsBetweenReports = 100;

/**
 * Plays the same sessions with each player. Session i of a seed is the same on any machine.
 *
 * @throws UsageError for a player that the design does not have, or a number out of its range
 * @throws DesignError where a session runs into rules without end or a number past 2^53
 * @throws WorldFault where the world's code throws
 * @example
 * const { players } = simulate(design, { sessions: 1000, seed: 1 });
 */
export function simulate(design: Design, options: SimulateOptions): Simulation {
  const { sessions, seed, first = 0, progress } = options;
  checkRange(sessions, seed, first);
  const chosen = choosePlayers(design, options.players);
  const form = formOf(design);
  const players = chosen.map(({ player, decide }, index) => {
    const tally = new Tally(form);
    const { onSession } = options;
    if (onSession !== undefined) tally.onSession = (log) => onSession(player.name, log);
    const play = playOf(form, player, decide, tally, options);
    for (let session = first; session < first + sessions; session++) {
      playOne(play, seed, session, player.name);
      const done = session - first + 1;
      if (done % sessionsBetweenReports === 0) progress?.(index * sessions + done);
    }
    tally.onSession = undefined;
    return { player, tally };
  });
  return { design, seed, first, sessions, players };
}

/**
 * @param first the first of the sessions
 * @throws UsageError
 */
export function checkRange(sessions: number, seed: number, first = 0): void {
  if (!Number.isInteger(sessions) || sessions < 1 || sessions > mostSessions) {
    throw new UsageError(
      'bad-argument',
      `The number of sessions is a whole number from 1 to ${mostSessions}, not ${sessions}.`,
    );
  }
  if (!Number.isSafeInteger(seed) || seed < 0) {
    throw new UsageError('bad-argument', `The seed is a whole number from 0 to 2^53 - 1, not ${seed}.`);
  }
  if (!Number.isInteger(first) || first < 0 || first + sessions > mostSessions) {
    throw new UsageError(
      'bad-argument',
      `The first session is a whole number from 0, and the last is below ${mostSessions}; found ${first}, and ${sessions} sessions.`,
    );
  }
}

interface Playing {
  play(seed: number, session: number): void;
}

function playOf(
  form: Form,
  player: Player,
  decide: Decide | undefined,
  tally: Tally,
  { backend, world, onEvent, onUnknownReport }: SimulateOptions,
): Playing {
  const meeting = meetingOf(form, player, decide);
  // It only ever tells of the session that is played.
  let playing: Play | WorldPlay;
  const sent: Sent | undefined =
    onEvent &&
    ((event, at, _, isTried) =>
      onEvent(player.name, playing.log.session, form.events[event]!.name, at, isTried));
  if (world !== undefined) {
    playing = new WorldPlay(form, meeting, tally, world, { sent, unknown: onUnknownReport });
    return playing;
  }
  playing = new Play(form, meeting, tally, backend, sent, (...of) => new Deciding(...of));
  return playing;
}

function playOne(play: Playing, seed: number, session: number, player: string): void {
  try {
    play.play(seed, session);
  } catch (error) {
    if (error instanceof DesignError)
      throw new DesignError(error.problems, `Session ${session} of ${player}, seed ${seed},`);
    throw error;
  }
}

/** @throws UsageError for a player that the design does not have */
export function choosePlayers(
  design: Design,
  names: SimulateOptions['players'],
): readonly { readonly player: Player; readonly decide: Decide | undefined }[] {
  if (names === undefined) return design.players.map((player) => ({ player, decide: undefined }));
  return names.map((name) => {
    if (typeof name !== 'string') {
      const { decide, ...given } = name;
      const place = { file: design.file, line: 1, column: 1 };
      // What it seeks and sends is for the function to say.
      const { style, acts, inputs } = plainPlayer;
      return { player: { ...plainPlayer, ...given, style, acts, inputs, place }, decide };
    }
    return { player: playerNamed(design, name), decide: undefined };
  });
}
