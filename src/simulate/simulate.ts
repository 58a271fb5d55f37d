import type { Design, Player } from '../design/model.js';
import { DesignError, UsageError } from '../design/problem.js';
import type { CarrierName } from '../engine/carrier.js';
import { chooseCarrier } from '../engine/generate.js';
import { formOf } from '../engine/lower.js';
import { canWriteOut, generatedPlay } from '../players/generated-play.js';
import { meetingOf } from '../players/meeting.js';
import { Play } from '../players/play.js';
import { emptyTally, type Tally } from '../players/tally.js';
import type { World } from '../players/world.js';
import { WorldPlay } from '../players/world-play.js';

export interface SimulateOptions {
  /** Sessions of each player, from 1. */
  readonly sessions: number;
  /** A whole number from 0 to 2^53 - 1. */
  readonly seed: number;
  /** The players' names; all of the design's unless given. */
  readonly players?: readonly string[] | undefined;
  readonly carrier?: CarrierName | undefined;
  /** What the players play in; the meeting model of the design unless it is given. */
  readonly world?: World | undefined;
  /** Called now and then with how many sessions are done, of all players together. */
  readonly progress?: ((done: number, all: number) => void) | undefined;
}

export interface Simulation {
  readonly design: Design;
  readonly seed: number;
  readonly sessions: number;
  readonly players: readonly { readonly player: Player; readonly tally: Tally }[];
}

export const mostSessions = 10_000_000;
const sessionsBetweenReports = 500;

/**
 * Plays the same sessions with each player. Session i of a seed is the same on any machine.
 *
 * @throws UsageError for a player that the design does not have, or a number out of its range
 * @throws DesignError where a session runs into rules without end or a number past 2^53
 */
export function simulate(design: Design, options: SimulateOptions): Simulation {
  const { sessions, seed, carrier, world, progress } = options;
  if (!Number.isInteger(sessions) || sessions < 1 || sessions > mostSessions) {
    throw new UsageError(
      `The number of sessions is a whole number from 1 to ${mostSessions}, not ${sessions}.`,
    );
  }
  if (!Number.isSafeInteger(seed) || seed < 0) {
    throw new UsageError(`The seed is a whole number from 0 to 2^53 - 1, not ${seed}.`);
  }
  const chosen = choosePlayers(design, options.players);
  const form = formOf(design);
  const players = chosen.map((player, index) => {
    const tally = emptyTally(form);
    const meeting = meetingOf(form, player);
    const chosenCarrier = chooseCarrier(carrier);
    const isWrittenOut = chosenCarrier === 'generated' && canWriteOut(form);
    const play =
      world !== undefined
        ? new WorldPlay(form, meeting, tally, world)
        : isWrittenOut
          ? generatedPlay(form, meeting, tally)
          : new Play(form, meeting, tally, chosenCarrier);
    for (let session = 0; session < sessions; session++) {
      playOne(play, seed, session, player.name);
      if ((session + 1) % sessionsBetweenReports === 0)
        progress?.(index * sessions + session + 1, chosen.length * sessions);
    }
    return { player, tally };
  });
  return { design, seed, sessions, players };
}

function playOne(
  play: { play(seed: number, session: number): void },
  seed: number,
  session: number,
  player: string,
): void {
  try {
    play.play(seed, session);
  } catch (error) {
    if (error instanceof DesignError)
      throw new DesignError(error.problems, `Session ${session} of ${player}, seed ${seed},`);
    throw error;
  }
}

function choosePlayers(design: Design, names: readonly string[] | undefined): readonly Player[] {
  if (names === undefined) return design.players;
  return names.map((name) => {
    const player = design.players.find((each) => each.name === name);
    if (player !== undefined) return player;
    const known = design.players.map((each) => each.name).join(', ');
    throw new UsageError(`The design has no player "${name}"; it has ${known}.`);
  });
}
