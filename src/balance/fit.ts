import type { Design, Player } from '../design/model.js';
import { UsageError } from '../design/problems/problem.js';
import type { Form } from '../engine/program/form.js';
import { formOf } from '../engine/program/lower/lower.js';
import { fromDials } from '../engine/program/lower/lower-expression.js';
import { Tally } from '../measure/tally.js';
import { type LoggedEvent, LogPlay } from '../players/drivers/log-play.js';
import { meetingOf } from '../players/meeting/meeting.js';
import { choosePlayers, simulate } from '../simulate/simulate.js';
import { runShare, unitOf } from './figures/estimates.js';
import { betterChance, distributionOf } from './statistics/distribution.js';
import { type Estimate, shareDifference } from './statistics/intervals.js';
import { type Attempts, fitRasch } from './statistics/rasch.js';

/** One line of a playtest's log. */
export interface LogRow {
  readonly player: string;
  readonly session: number;
  /** Seconds since the session began. */
  readonly at: number;
  readonly event: string;
  /** False for a piece that was missed because nobody attended to it. */
  readonly isTried: boolean;
  /** Where it stands, for messages. */
  readonly file: string;
  readonly line: number;
}

export interface FitOptions {
  /** Sessions that are simulated of each player with the fitted values, to be compared with those that were played. */
  readonly sessions: number;
  readonly seed: number;
  /** Called now and then; what it throws ends the work. */
  readonly progress?: (() => void) | undefined;
}

export interface FittedValue {
  readonly name: string;
  readonly attempts: number;
  readonly successes: number;
  /** undefined where all attempts ended alike. */
  readonly estimate: Estimate | undefined;
  /** What the design says; undefined for a player that it does not have. */
  readonly design: number | undefined;
}

/** How what was played stands to what is simulated, for one player. */
export interface Likeness {
  readonly player: string;
  readonly sessions: number;
  readonly what: string;
  readonly unit: 'points' | 'seconds' | 'share';
  readonly played: number;
  readonly simulated: number;
  /** The chance that a run that was played has more than a simulated one; of a share, the difference. */
  readonly difference: Estimate;
  readonly isDifferent: boolean;
}

export interface Fit {
  readonly sessions: number;
  readonly events: number;
  readonly players: readonly FittedValue[];
  readonly pieces: readonly FittedValue[];
  /** Pieces whose outcomes do not follow skill against a difficulty that stays, and are left out. */
  readonly leftOut: readonly string[];
  readonly likeness: readonly Likeness[];
}

/**
 * Estimates skills and difficulties from what real players did, and says where the simulated players, with these values, still play
 * otherwise. An event counts as an attempt where it is a success or a failure of a piece whose outcome follows skill.
 *
 * @throws UsageError for events that the design does not have, or a log without attempts
 */
export function fitLog(design: Design, rows: readonly LogRow[], options: FitOptions): Fit {
  const form = formOf(design);
  mustBeKnown(form, rows);
  const names = [...new Set(rows.map(({ player }) => player))];
  const skilled = design.pieces.flatMap(({ hits, difficulty }, piece) =>
    hits === 1 && form.pieces[piece]!.weighted === undefined && typeof difficulty === 'number' ? [piece] : [],
  );
  const attempts = countAttempts(form, names, skilled, rows);
  if (attempts.length === 0)
    throw new UsageError(
      `The log holds no attempt at a piece: no event such as ${design.pieces[0]?.name ?? 'blossom'}.taken or .missed.`,
    );
  // Of no other piece is it asked.
  const difficulty = (piece: number): number => design.pieces[piece]!.difficulty as number;
  const fitted = fitRasch(
    names.length,
    design.pieces.length,
    attempts,
    (pieces) => pieces.reduce((sum, piece) => sum + difficulty(piece), 0) / pieces.length,
  );
  const sum = (key: 'player' | 'piece', index: number) => {
    const own = attempts.filter((each) => each[key] === index);
    const successes = own.reduce((total, each) => total + each.successes, 0);
    return { successes, attempts: own.reduce((total, each) => total + each.failures, successes) };
  };
  const players = names.map((name, index): FittedValue => {
    const known = design.players.find((each) => each.name === name);
    const skill = known && fromDials(known.skill, design.dials);
    return { name, ...sum('player', index), estimate: fitted.skills[index], design: skill };
  });
  const tried = skilled.filter((piece) => attempts.some((each) => each.piece === piece));
  const pieces = tried.map(
    (piece): FittedValue => ({
      name: design.pieces[piece]!.name,
      ...sum('piece', piece),
      estimate: fitted.difficulties[piece],
      design: difficulty(piece),
    }),
  );
  const asFitted = withDifficulties(design, pieces);
  return {
    sessions: new Set(rows.map((row) => `${row.player}\n${row.session}`)).size,
    events: rows.length,
    players,
    pieces,
    leftOut: design.pieces.filter((_, piece) => !skilled.includes(piece)).map(({ name }) => name),
    likeness: players.flatMap((player) => likenessOf(design, asFitted, player, rows, options)),
  };
}

/** @throws UsageError for the first event that is none of the design's */
function mustBeKnown(form: Form, rows: readonly LogRow[]): void {
  const stranger = rows.find(({ event }) => !form.eventIndex.has(event));
  if (stranger === undefined) return;
  const outside = form.events
    .filter(({ kind }) => kind === 'outcome' || kind === 'input')
    .map(({ name }) => name);
  throw new UsageError(
    `${stranger.file}:${stranger.line}: the design has no event "${stranger.event}"; it has ${outside.slice(0, 8).join(', ')}${outside.length > 8 ? ' and others' : ''}.`,
  );
}

function countAttempts(
  form: Form,
  names: readonly string[],
  skilled: readonly number[],
  rows: readonly LogRow[],
): Attempts[] {
  const counts = new Map<string, { player: number; piece: number; successes: number; failures: number }>();
  for (const { player, event, isTried } of rows) {
    if (!isTried) continue;
    const index = form.eventIndex.get(event)!;
    const { piece, kind } = form.events[index]!;
    if (kind !== 'outcome' || !skilled.includes(piece)) continue;
    const { success, failure } = form.pieces[piece]!;
    if (index !== success && index !== failure) continue;
    const key = `${player}\n${piece}`;
    const own = counts.get(key) ?? { player: names.indexOf(player), piece, successes: 0, failures: 0 };
    counts.set(key, own);
    if (index === success) own.successes++;
    else own.failures++;
  }
  return [...counts.values()];
}

function withDifficulties(design: Design, fitted: readonly FittedValue[]): Design {
  const pieces = design.pieces.map((piece) => {
    const found = fitted.find(({ name }) => name === piece.name)?.estimate;
    return found === undefined ? piece : { ...piece, difficulty: found.value };
  });
  return { ...design, pieces, fingerprint: `${design.fingerprint} fitted` };
}

/** Runs that fewer sessions than this hold say nothing of how they are spread. */
const fewestSessions = 5;

function likenessOf(
  design: Design,
  asFitted: Design,
  fitted: FittedValue,
  rows: readonly LogRow[],
  { sessions, seed, progress }: FitOptions,
): Likeness[] {
  const { name, estimate } = fitted;
  if (estimate === undefined) return [];
  const own = rows.filter(({ player }) => player === name);
  const played = replayLog(design, own);
  if (played.sessions < fewestSessions || played.runs === 0) return [];
  const like: Player = {
    ...(design.players.find((each) => each.name === name) ?? choosePlayers(design, undefined)[0]!.player),
    name,
    skill: estimate.value,
    learning: 0,
  };
  const { tally } = simulate({ ...asFitted, players: [like] }, { sessions, seed, progress }).players[0]!;
  const common = { player: name, sessions: played.sessions };
  const spreads = (['score', 'runTime'] as const).flatMap((spread): Likeness[] => {
    const unit = unitOf(design, spread);
    const [one, other] = [
      distributionOf(played.spreads[spread], unit),
      distributionOf(tally.spreads[spread], unit),
    ];
    const difference = betterChance(played.spreads[spread], tally.spreads[spread]);
    if (one === undefined || other === undefined || difference === undefined) return [];
    return [
      {
        ...common,
        what: spread === 'score' ? 'median score' : 'median length of a run',
        unit: spread === 'score' ? 'points' : 'seconds',
        played: one.p50,
        simulated: other.p50,
        difference,
        isDifferent: difference.low > 0.5 || difference.high < 0.5,
      },
    ];
  });
  const endings = design.screens.flatMap(({ name: screen, ending }, index): Likeness[] => {
    const [one, other] = [runShare(played, played.endings, index), runShare(tally, tally.endings, index)];
    if (ending === undefined || one === undefined || other === undefined) return [];
    const difference = shareDifference(one, other);
    return [
      {
        ...common,
        what: `runs that end on ${screen}`,
        unit: 'share',
        played: one.value,
        simulated: other.value,
        difference,
        isDifferent: difference.low > 0 || difference.high < 0,
      },
    ];
  });
  return [...spreads, ...endings];
}

/** Plays the sessions of a log again, and counts them as if they had been simulated. */
function replayLog(design: Design, rows: readonly LogRow[]): Tally {
  const form = formOf(design);
  const tally = new Tally(form);
  const player = { ...design.players[0]!, runs: 1000, learning: 0 };
  // A game that tells what appears owns presence; else the design's own spawns run.
  const ownsPresence = rows.some(
    ({ event }) => form.events[form.eventIndex.get(event)!]!.kind === 'appeared',
  );
  const play = new LogPlay(form, meetingOf(form, player), tally, ownsPresence);
  const bySession = new Map<number, LoggedEvent[]>();
  for (const { session, at, event } of rows) {
    const events = bySession.get(session) ?? [];
    bySession.set(session, events);
    events.push({ event: form.eventIndex.get(event)!, at: Math.round(at * 1000) });
  }
  let index = 0;
  for (const events of bySession.values())
    play.replay(
      1,
      index++,
      [...events].sort((a, b) => a.at - b.at),
    );
  return tally;
}
