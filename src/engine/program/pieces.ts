import type { Role } from '../../design/model.js';
import type { GameForm } from './form.js';

/** A piece of the design, as a game that draws and moves it needs it. */
export interface GamePiece {
  readonly name: string;
  readonly role: Role;
  /** How meeting it can end; the first is its success, the last its failure. */
  readonly outcomes: readonly string[];
  /** Seconds that it waits for the player; undefined: until it is met. */
  readonly lasts: number | undefined;
}

export const piecesOf = ({ pieces, events }: GameForm): readonly GamePiece[] =>
  pieces.map(({ name, role, outcomes, lasts }) => ({
    name,
    role,
    outcomes: outcomes.map((event) => events[event]!.name.slice(name.length + 1)),
    lasts,
  }));
