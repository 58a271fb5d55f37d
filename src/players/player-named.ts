import type { Design, Player } from '../design/model.js';
import { unknownName } from '../design/problems/problem.js';

/** @throws UsageError for a player that the design does not have */
export function playerNamed({ players }: Pick<Design, 'players'>, name: string): Player {
  const player = players.find((each) => each.name === name);
  if (player !== undefined) return player;
  throw unknownName('player', name, players);
}
