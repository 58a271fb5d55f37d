import { type Design, spans } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { fromCell } from '../../engine/program/value.js';
import { watchesNothing } from '../../engine/run/probe.js';
import { UntimedGame } from '../abstraction/untimed-game.js';
import type { Search } from '../search/search.js';
import { realise, type Witness } from './witness.js';

/** A state from which what a game needs cannot be reached any more, shown by a session that leads there. */
export interface Trap {
  readonly screen: string;
  /** What the counters and pieces that count are there, in words. */
  readonly values: string;
  readonly witness: Witness;
}

/** Sessions that lead to where no ending can be reached, one for each screen. */
export function trapsOf(design: Design, search: Search, isOver: () => boolean): Trap[] {
  const { states } = search;
  const { form } = search.game;
  const hasEnding = design.screens.some(({ ending }) => ending !== undefined);
  if (!hasEnding || !isWhole(search)) return [];
  const lost = search.lostTo((state) => form.screens[state[0]!]!.ending, isOver) ?? [];
  const isLost = new Set(lost);
  // On a menu it counts where it begins there: what leads to it from play is told of play. Where all is lost from the start, play tells it.
  return shown(
    design,
    search,
    lost,
    (screen, row) =>
      form.screens[screen]!.live || (states.parents[row]! >= 0 && !isLost.has(states.parents[row]!)),
  );
}

/**
 * Sessions that lead to an ending from which no fresh start of a run can be reached any more, one for each ending, though from elsewhere one can.
 */
export function lostEndings(design: Design, search: Search, isOver: () => boolean): Trap[] {
  const { form } = search.game;
  if (!isWhole(search) || search.states.length > mostFollowed) return [];
  const begins = rowsThatBegin(search, isOver);
  if (begins === undefined || !begins.includes(1)) return [];
  const lost = search.lostTo((_, row) => begins[row] === 1, isOver) ?? [];
  return shown(design, search, lost, (screen) => form.screens[screen]!.ending);
}

/**
 * Sessions that lead, in one step, from where a win can still be reached within the run to where it cannot: one for each live screen. Screens
 * from which a run begins afresh are the end of one here; where play itself can begin one, nothing is told.
 */
export function lostWins(design: Design, search: Search, isOver: () => boolean): Trap[] {
  const { states, game } = search;
  const { form } = game;
  if (!isWhole(search) || states.length > mostFollowed) return [];
  const isWin = form.screens.map((_, screen) => design.screens[screen]!.ending === 'won');
  const isEnd = form.screens.map(
    (_, screen) =>
      form.screens[screen]!.ending ||
      form.transitions.some(({ from, index, fresh }) => index >= 0 && from === screen && fresh >= runSpan),
  );
  if (!isWin.includes(true) || form.screens.some(({ live }, screen) => live && isEnd[screen])) return [];
  const state = new Float64Array(game.width);
  const screenOf = (row: number): number => {
    states.read(row, state);
    return state[0]!;
  };
  const lost = search.lostTo(
    ([screen]) => isWin[screen!]!,
    isOver,
    ([screen]) => !isEnd[screen!]!,
  );
  if (lost === undefined) return [];
  const isLost = new Set(lost);
  // Where there is no win at all, that is told of the win.
  if (isLost.has(0) && !isEnd[screenOf(0)]!) return [];
  return shown(design, search, lost, (screen, row) => {
    const before = states.parents[row]!;
    return form.screens[screen]!.live && before >= 0 && !isLost.has(before) && !isEnd[screenOf(before)]!;
  });
}

const isWhole = ({ isCut, game }: Search): boolean => !isCut && game.narrowedBy === undefined;

/** The first of some states on each screen to which a session was found. */
function shown(
  design: Design,
  search: Search,
  rows: readonly number[],
  counts: (screen: number, row: number) => boolean,
): Trap[] {
  const { game, states } = search;
  const traps = new Map<number, Trap>();
  const state = new Float64Array(game.width);
  let tries = 0;
  for (const row of rows) {
    states.read(row, state);
    const screen = state[0]!;
    if (traps.has(screen) || !counts(screen, row) || tries++ > mostTries) continue;
    const witness = realise(design, game, search.pathToState(row), { arrives: true });
    game.write(state);
    if (witness !== undefined)
      traps.set(screen, { screen: game.form.screens[screen]!.name, values: valuesIn(game), witness });
  }
  return [...traps.values()];
}

/** For each state, 1 where the next step may begin a run afresh; undefined where that took too long to find out. */
function rowsThatBegin({ game, states }: Search, isOver: () => boolean): Uint8Array | undefined {
  const { form } = game;
  let begins = false;
  const follower = new UntimedGame(
    form,
    {
      ...watchesNothing,
      transition: (taken) => {
        const { index, fresh } = form.transitions[taken]!;
        if (index >= 0 && fresh >= runSpan) begins = true;
      },
    },
    false,
  );
  const found = new Uint8Array(states.length);
  const state = new Float64Array(game.width);
  const screens = screensThatBegin(form);
  for (let row = 0; row < states.length; row++) {
    if (row % 64 === 0 && isOver()) return undefined;
    states.read(row, state);
    if (!screens.has(state[0]!)) continue;
    follower.write(state);
    for (const edge of [...follower.clocks(), ...follower.reports()]) {
      begins = false;
      follower.write(state);
      try {
        follower.step(follower.edge(edge));
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
        continue;
      }
      if (!begins) continue;
      found[row] = 1;
      break;
    }
  }
  return found;
}

/** Screens on which an event may lead to a fresh start of a run before the next event: they have a way to one, or one that such a way may follow. */
function screensThatBegin({ design, transitions, events, eventIndex }: Form): Set<number> {
  const mayFollow = (index: number): boolean => {
    const heard = design.transitions[index]!.events;
    const kinds = heard.map((event) => events[eventIndex.get(event)!]!.kind);
    return heard.length === 0 || kinds.some((kind) => ['entered', 'own', 'appeared'].includes(kind));
  };
  const ways = new Set(
    design.transitions.flatMap((_, index) => (transitions[index]!.fresh >= runSpan ? [index] : [])),
  );
  for (const way of ways) {
    if (!mayFollow(way)) continue;
    design.transitions.forEach((_, index) => {
      const { to } = transitions[index]!;
      if (to < 0 || to === transitions[way]!.from) ways.add(index);
    });
  }
  return new Set([...ways].map((way) => transitions[way]!.from));
}

const runSpan = spans.indexOf('run');

/** States of which each next step is looked at, at the most. */
const mostFollowed = 20_000;

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
