import type { z } from 'zod';
import type { Events } from '../language/events.js';
import type { Scope } from '../language/parse-expression.js';
import type { Act, Computed, Piece, Player, Screen } from '../model.js';
import { plainPlayer } from '../plain-player.js';
import { playerSchema } from '../schema/players.js';
import type { Path } from '../text/source.js';
import { readNamed } from './named.js';
import { dialsAlone, type Names, type Reading } from './reading.js';
import type { Things } from './things.js';

/** Who plays where a design names nobody: one to whom it is new, one who plays now and then, one who knows it well. */
const usualPlayers = [
  { ...plainPlayer, name: 'newcomer', skill: -1, pace: 1.3, runs: 2 },
  { ...plainPlayer, name: 'regular', runs: 3 },
  { ...plainPlayer, name: 'veteran', skill: 1, runs: 4 },
];

export function readPlayers(
  reading: Reading,
  section: unknown,
  { pieces, scope, grid }: Things & { readonly grid: number },
  screens: readonly Screen[],
  events: Events,
): Player[] {
  // Players have a space of names of their own: nothing in a rule can name one.
  const names: Names = new Map();
  const players = readNamed(reading, section, 'players', 'player', playerSchema, names).map(
    ({ name, path, entry }): Player => {
      const seconds = (key: 'patience' | 'thinks'): number =>
        entry?.[key] === undefined ? plainPlayer[key] : reading.duration(entry[key], [...path, key]);
      return {
        name,
        skill: readSkill(reading, entry?.skill, scope, [...path, 'skill']),
        pace: entry?.pace ?? plainPlayer.pace,
        runs: entry?.runs ?? plainPlayer.runs,
        patience: seconds('patience'),
        thinks: seconds('thinks'),
        learning: entry?.learning ?? plainPlayer.learning,
        paceLearning: entry?.paceLearning ?? plainPlayer.paceLearning,
        practice: entry?.practice ?? plainPlayer.practice,
        spread: entry?.spread ?? plainPlayer.spread,
        paceSpread: entry?.paceSpread ?? plainPlayer.paceSpread,
        caution: readCaution(reading, entry?.caution, scope, [...path, 'caution']),
        quits: entry?.quits ?? plainPlayer.quits,
        timing: readTiming(reading, entry?.timing, grid, [...path, 'timing']),
        style: readStyle(reading, entry?.style ?? {}, pieces, [...path, 'style']),
        acts: readActs(reading, entry?.acts ?? {}, scope, events, [...path, 'acts']),
        inputs: readInputs(reading, entry?.inputs ?? {}, screens, events, [...path, 'inputs']),
        place: reading.source.keyPlaceOf(path),
      };
    },
  );
  if (players.length > 0) return players;
  const place = reading.source.placeOf([]);
  return usualPlayers.map((player) => ({ ...player, place }));
}

function readTiming(
  reading: Reading,
  timing: readonly [number, number] | undefined,
  grid: number,
  path: Path,
): Player['timing'] {
  if (timing === undefined) return plainPlayer.timing;
  const [least, most] = timing;
  if (least > most) reading.fail('bad-order', { what: 'timing', from: least, to: most }, path);
  return { least, most, grid };
}

function readCaution(
  reading: Reading,
  written: z.output<typeof playerSchema>['caution'],
  scope: Scope,
  path: Path,
): Player['caution'] {
  if (written === undefined) return undefined;
  const { if: condition, pace = 1, skill = 0 } = written;
  const read = reading.expression(condition, scope, 'truth value', [...path, 'if']);
  return read && { condition: read, pace, skill };
}

/** A player is the same person on every level, so that its skill reads dials alone. */
function readSkill(
  reading: Reading,
  written: number | string | undefined,
  scope: Scope,
  path: Path,
): Computed {
  if (written === undefined) return plainPlayer.skill;
  const skill = reading.computed(written, dialsAlone(scope), path);
  reading.mustNotRead(skill, ['level', 'lastLevel', 'course'], 'dial', scope, path);
  return skill;
}

function readActs(
  reading: Reading,
  written: NonNullable<z.output<typeof playerSchema>['acts']>,
  scope: Scope,
  events: Events,
  path: Path,
): Act[] {
  const inputs = events.all().filter((event) => event.startsWith('input.'));
  return Object.entries(written).flatMap(([input, act]): Act[] => {
    const at = [...path, input];
    if (!reading.known(input, 'input', inputs, at, true)) return [];
    if (typeof act === 'number')
      return [{ input, every: reading.duration(act, at), condition: undefined, takes: 0 }];
    return [
      {
        input,
        every: reading.duration(act.every, [...at, 'every']),
        condition:
          act.if === undefined ? undefined : reading.expression(act.if, scope, 'truth value', [...at, 'if']),
        takes: reading.duration(act.takes ?? 0, [...at, 'takes']),
      },
    ];
  });
}

/** Weights by piece; one that is named itself goes before its groups. */
function readStyle(
  reading: Reading,
  written: Readonly<Record<string, number>>,
  pieces: readonly Piece[],
  path: Path,
): Map<string, number> {
  const known = pieces.flatMap(({ answersTo }) => answersTo);
  const weights = new Map<string, number>();
  const named = Object.entries(written).filter(([name]) =>
    reading.known(name, 'piece or group', new Set(known), [...path, name], true),
  );
  const groupsFirst = [...named].sort(([a], [b]) => Number(isPiece(pieces, a)) - Number(isPiece(pieces, b)));
  for (const [name, weight] of groupsFirst) {
    for (const piece of pieces) if (piece.answersTo.includes(name)) weights.set(piece.name, weight);
  }
  return weights;
}

const isPiece = (pieces: readonly Piece[], name: string): boolean =>
  pieces.some((piece) => piece.name === name);

function readInputs(
  reading: Reading,
  written: Readonly<Record<string, string | Readonly<Record<string, number>>>>,
  screens: readonly Screen[],
  events: Events,
  path: Path,
): Map<string, Map<string, number>> {
  const inputs = events.all().filter((event) => event.startsWith('input.'));
  const screenNames = screens.map(({ name }) => name);
  const chosen = new Map<string, Map<string, number>>();
  for (const [screen, choice] of Object.entries(written)) {
    const at = [...path, screen];
    if (!reading.known(screen, 'screen', screenNames, at, true)) continue;
    const weights = typeof choice === 'string' ? { [choice]: 1 } : choice;
    const isKnown = ([input]: [string, number]): boolean =>
      typeof choice === 'string'
        ? reading.known(input, 'input', inputs, at)
        : reading.known(input, 'input', inputs, [...at, input], true);
    chosen.set(screen, new Map(Object.entries(weights).filter(isKnown)));
  }
  return chosen;
}
