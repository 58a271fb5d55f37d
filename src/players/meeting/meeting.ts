import type { Interval, Player } from '../../design/model.js';
import type { DrawForm, Form } from '../../engine/program/form.js';
import { placeKey } from '../../engine/run/draw.js';
import type { Decide } from '../drivers/decision-context.js';
import { logarithm, successChance, threshold } from './chance.js';

/** How one player meets the pieces of one design; a list holds one entry for each piece unless it says otherwise. */
export interface Meeting {
  readonly player: Player;
  readonly meets: readonly ('sought' | 'arrives' | 'never')[];
  /** What decides in place of the player's style and inputs. */
  readonly decide: Decide | undefined;
  /** A draw below it succeeds: for each piece, and for a player that learns for each piece of each of its runs. */
  readonly thresholds: readonly number[];
  /** How much each is sought; 0: it is left alone. */
  readonly weights: readonly number[];
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
  /** For each screen, the inputs that the player may choose there, each as often as it is there. */
  readonly inputs: readonly (readonly number[])[];
  readonly inputDraws: readonly DrawForm[];
}

const drawFor = (name: string): DrawForm => ({ name, ...placeKey(name) });

const range = ({ least, most, grid }: Interval) => ({
  least,
  step: grid,
  choices: (most - least) / grid + 1,
});

/** The skill of a player in one of its runs, from 0: the power law of practice (Newell and Rosenbloom 1981), on the odds of a success. */
export const skillIn = ({ skill, learning }: Player, run: number): number =>
  learning === 0 ? skill : skill + learning * logarithm(run + 1);

/** Works out, once for each player, everything about meetings that does not change while it plays. */
export function meetingOf(form: Form, player: Player, decide?: Decide): Meeting {
  const { pieces, screens } = form.design;
  return {
    player,
    meets: pieces.map((piece) => piece.meets),
    decide,
    thresholds: Array.from({ length: player.learning === 0 ? 1 : player.runs }, (_, run) =>
      pieces.map(({ difficulty }) => threshold(successChance(skillIn(player, run), difficulty))),
    ).flat(),
    weights: pieces.map(({ name }) => player.style.get(name) ?? 1),
    attempts: pieces.map((piece) => Math.max(1, Math.round(piece.takes * player.pace))),
    lasts: pieces.map((piece) => piece.lasts ?? Number.POSITIVE_INFINITY),
    hits: pieces.map((piece) => piece.hits),
    again: pieces.map((piece) => piece.again),
    leads: pieces.map((piece) => range(piece.lead)),
    outcomeDraws: pieces.map((piece) => drawFor(`outcome ${piece.name}`)),
    leadDraws: pieces.map((piece) => drawFor(`lead ${piece.name}`)),
    inputs: form.screens.map((screen, index) => {
      const heard = [...screen.handlers.keys()]
        .filter((event) => form.events[event]!.kind === 'input')
        .sort((a, b) => a - b);
      const chosen = player.inputs.get(screens[index]!.name);
      if (chosen === undefined) return heard;
      return heard.flatMap((event) => Array<number>(chosen.get(form.events[event]!.name) ?? 0).fill(event));
    }),
    inputDraws: screens.map((screen) => drawFor(`input ${screen.name}`)),
  };
}
