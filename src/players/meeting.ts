import type { Interval, Player } from '../design/model.js';
import { placeKey } from '../engine/draw.js';
import type { DrawForm, Form } from '../engine/form.js';
import { successChance, threshold } from './chance.js';

/** Milliseconds that a player looks at a screen that is not live before it sends an input. */
export const thinkingTime = 1000;

/** How one player meets the pieces of one design; a list holds one entry for each piece unless it says otherwise. */
export interface Meeting {
  readonly player: Player;
  readonly meets: readonly ('sought' | 'arrives' | 'never')[];
  /** A draw below it succeeds. */
  readonly thresholds: readonly number[];
  /** Milliseconds that one attempt takes this player. */
  readonly attempts: readonly number[];
  /** Milliseconds until it is missed; Infinity: never. */
  readonly lasts: readonly number[];
  readonly leads: readonly { readonly least: number; readonly step: number; readonly choices: number }[];
  /** Successes that it takes before the first outcome. */
  readonly hits: readonly number[];
  /** A failed attempt is no outcome. */
  readonly again: readonly boolean[];
  readonly outcomeDraws: readonly DrawForm[];
  readonly leadDraws: readonly DrawForm[];
  /** For each screen, the inputs that something hears there. */
  readonly inputs: readonly (readonly number[])[];
  readonly inputDraws: readonly DrawForm[];
}

const drawFor = (name: string): DrawForm => ({ name, ...placeKey(name) });

const range = ({ least, most, grid }: Interval) => ({
  least,
  step: grid,
  choices: (most - least) / grid + 1,
});

/** Works out, once for each player, everything about meetings that does not change while it plays. */
export function meetingOf(form: Form, player: Player): Meeting {
  const { pieces, screens } = form.design;
  return {
    player,
    meets: pieces.map((piece) => piece.meets),
    thresholds: pieces.map((piece) => threshold(successChance(player.skill, piece.difficulty))),
    attempts: pieces.map((piece) => Math.max(1, Math.round(piece.takes * player.pace))),
    lasts: pieces.map((piece) => piece.lasts ?? Number.POSITIVE_INFINITY),
    hits: pieces.map((piece) => piece.hits),
    again: pieces.map((piece) => piece.again),
    leads: pieces.map((piece) => range(piece.lead)),
    outcomeDraws: pieces.map((piece) => drawFor(`outcome ${piece.name}`)),
    leadDraws: pieces.map((piece) => drawFor(`lead ${piece.name}`)),
    inputs: form.screens.map((screen) =>
      [...screen.handlers.keys()]
        .filter((event) => form.events[event]!.kind === 'input')
        .sort((a, b) => a - b),
    ),
    inputDraws: screens.map((screen) => drawFor(`input ${screen.name}`)),
  };
}
