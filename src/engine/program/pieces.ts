import type { PieceData, Role } from '../../design/model.js';
import type { GameForm } from './form.js';

/** A piece of the design, as a game that draws and moves it needs it. */
export interface GamePiece {
  readonly name: string;
  readonly role: Role;
  /** What the design says of it for the game alone. */
  readonly data: PieceData;
  /** How meeting it can end; the last is what becomes of it when nobody comes. */
  readonly outcomes: readonly string[];
  /** Seconds that it waits for the player, if it appeared now; undefined: until it is met. */
  readonly lasts: number | undefined;
}

/** @param value works out one of the form's values */
export const piecesOf = (
  { pieces, events }: GameForm,
  value: (index: number) => number,
): readonly GamePiece[] =>
  pieces.map(({ name, role, outcomes, lasts, data }) => ({
    name,
    role,
    data,
    outcomes: outcomes.map((event) => events[event]!.name.slice(name.length + 1)),
    get lasts() {
      return typeof lasts === 'object' ? value(lasts.value) : lasts;
    },
  }));
