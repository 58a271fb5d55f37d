import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { fromDials } from '../../engine/program/lower/lower-expression.js';
import { fitRasch } from '../statistics/rasch.js';
import type { Attempts } from '../statistics/rasch-group.js';
import type { FitOptions, FittedPlayer, FittedValue } from './fitted.js';
import { covariatesOf, habitsOf } from './habits.js';
import { type Likeness, likenessOf } from './likeness.js';
import { endOfSession, type LogRow } from './playtest.js';
import { replayLog } from './replayed.js';

export interface Fit {
  readonly sessions: number;
  readonly events: number;
  readonly players: readonly FittedPlayer[];
  readonly pieces: readonly FittedValue[];
  /** Pieces whose outcomes do not follow skill against a difficulty that stays, and are left out. */
  readonly leftOut: readonly string[];
  readonly likeness: readonly Likeness[];
  /** Whether the log says which pieces were missed without a try; where it does not, skills come out too low. */
  readonly tellsTries: boolean;
}

/**
 * Estimates skills and difficulties from what real players did, and says where the simulated players, with these values, still play
 * otherwise. An event counts as an attempt where it is a success or a failure of a piece whose outcome follows skill.
 *
 * @throws UsageError for events that the design does not have, or a log without attempts
 * @example
 * const { players, likeness } = fitLog(design, readLog(text, 'playtest.csv'), { sessions: 1000, seed: 1 });
 */
export function fitLog(design: Design, rows: readonly LogRow[], options: FitOptions): Fit {
  const form = formOf(design);
  mustBeKnown(form, rows);
  const names = [...new Set(rows.map(({ player }) => player))];
  // A failed try of a piece that may be tried again is no event, so that a log shows its successes only.
  const skilled = design.pieces.flatMap(({ hits, difficulty, again }, piece) =>
    hits === 1 && !again && form.pieces[piece]!.weighted === undefined && typeof difficulty === 'number'
      ? [piece]
      : [],
  );
  const known = names.map((name) => design.players.find((each) => each.name === name));
  const replayed = names.map((name, player) =>
    replayLog(
      design,
      rows.filter((row) => row.player === name),
      known[player],
    ),
  );
  const attempts = replayed.flatMap(({ attempts }, player) =>
    attempts
      .filter(({ piece }) => skilled.includes(piece))
      .map((attempt): Attempts => ({ ...attempt, player, covariates: covariatesOf(attempt, known[player]) })),
  );
  if (attempts.length === 0)
    throw new UsageError(
      'nothing-there',
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
    return { successes, attempts: own.length };
  };
  const players = names.map((name, index): FittedPlayer => {
    const inDesign = known[index];
    return {
      name,
      ...sum('player', index),
      estimate: fitted.skills[index],
      design: inDesign && fromDials(inDesign.skill, design.dials),
      habits: habitsOf(inDesign, replayed[index]!, {
        slopes: fitted.slopes[index]!,
        spread: fitted.spreads[index],
      }),
    };
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
    events: rows.filter(({ event }) => event !== endOfSession).length,
    players,
    pieces,
    leftOut: design.pieces.filter((_, piece) => !skilled.includes(piece)).map(({ name }) => name),
    likeness: likenessOf(
      design,
      asFitted,
      players.map((fitted, index) => ({ fitted, played: replayed[index]!.runs })),
      options,
    ),
    tellsTries: rows.some(({ isTried }) => isTried !== undefined),
  };
}

/** @throws UsageError for the first event that is none of the design's */
function mustBeKnown(form: Form, rows: readonly LogRow[]): void {
  const stranger = rows.find(({ event }) => event !== endOfSession && !form.eventIndex.has(event));
  if (stranger === undefined) return;
  const outside = form.events
    .filter(({ kind }) => kind === 'outcome' || kind === 'input')
    .map(({ name }) => name);
  throw new UsageError(
    'unknown-name',
    `${stranger.file}:${stranger.line}: the design has no event "${stranger.event}"; it has ${outside.slice(0, 8).join(', ')}${outside.length > 8 ? ' and others' : ''}.`,
  );
}

function withDifficulties(design: Design, fitted: readonly FittedValue[]): Design {
  const pieces = design.pieces.map((piece) => {
    const found = fitted.find(({ name }) => name === piece.name)?.estimate;
    return found === undefined ? piece : { ...piece, difficulty: found.value };
  });
  return { ...design, pieces, fingerprint: `${design.fingerprint} fitted` };
}
