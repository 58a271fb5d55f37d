import type { Design } from '../../design/model.js';
import { fromCell } from '../../engine/program/value.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import type { Search } from '../search/search.js';
import { realise, type Witness } from './witness.js';

/** A state from which no ending can be reached, shown by a session that leads there. */
export interface Trap {
  readonly screen: string;
  /** What the counters and pieces that count are there, in words. */
  readonly values: string;
  readonly witness: Witness;
}

/** Sessions that lead to where no ending can be reached, one for each screen. */
export function trapsOf(design: Design, search: Search, isOver: () => boolean): Trap[] {
  const { game, states } = search;
  const { form } = game;
  const hasEnding = design.screens.some(({ ending }) => ending !== undefined);
  if (!hasEnding || search.isCut || game.narrowedBy !== undefined) return [];
  const lost = search.lostTo((state) => form.screens[state[0]!]!.ending, isOver);
  const traps = new Map<number, Trap>();
  const state = new Float64Array(game.width);
  let tries = 0;
  for (const row of lost ?? []) {
    states.read(row, state);
    const screen = state[0]!;
    if (traps.has(screen) || !form.screens[screen]!.live || tries++ > mostTries) continue;
    const witness = realise(design, game, search.pathToState(row), { arrives: true });
    game.write(state);
    if (witness !== undefined)
      traps.set(screen, { screen: form.screens[screen]!.name, values: valuesIn(game), witness });
  }
  return [...traps.values()];
}

/** States that a session is looked for to, before the others are given up. */
const mostTries = 50;

/** What counts in the state that the machine is in: counters, and how many pieces are present. */
function valuesIn({ cone, form, machine }: UntimedGame): string {
  const at = form.cells;
  const counters = cone.counters.map((counter) => {
    const { name } = form.counters[counter]!;
    return `${name} ${fromCell(form.counters[counter]!, machine.cells[at.counters + counter]!)}`;
  });
  const pieces = cone.pieces.map(
    (piece) => `${machine.cells[at.present + piece]} ${form.pieces[piece]!.name} present`,
  );
  const all = [...counters, ...pieces];
  return all.length === 0 ? 'whatever it holds' : all.join(', ');
}
