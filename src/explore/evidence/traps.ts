import { type Design, spans } from '../../design/model.js';
import type { Form } from '../../engine/program/form.js';
import { fromCell } from '../../engine/program/value.js';
import { type Probe, watchesNothing } from '../../engine/run/probe.js';
import { comesOf, type Doubts, noDoubts } from '../abstraction/every-way.js';
import { UntimedGame } from '../abstraction/untimed-game.js';
import type { Search } from '../search/search.js';
import { doubtIn, overdrawn, type Refiner } from './refine.js';
import { realise, type Witness } from './witness.js';

/** A state from which what a game needs cannot be reached any more, shown by a session that leads there. */
export interface Trap {
  readonly screen: string;
  /** What the counters and pieces that count are there, in words. */
  readonly values: string;
  readonly witness: Witness;
}

/** Where sessions are looked for, and how far. */
export interface Ground {
  readonly design: Design;
  readonly search: Search;
  /** Asked where the search did not go through all states. */
  readonly refiner: Refiner;
  readonly isOver: () => boolean;
}

/** What has to be reached from every state of a search. */
interface Need {
  isGoal(state: Float64Array, row: number): boolean;
  /** Whether a way may lead on from a state; any may unless it is given. */
  mayPass?(state: Float64Array): boolean;
  /** Whether it counts that it cannot be reached from a screen. */
  isAskedOn(screen: number): boolean;
  /** Of the states on such a screen from which it cannot be reached, whether this is one to tell; each is unless it is given. */
  isTold?(screen: number, row: number, isLost: ReadonlySet<number>): boolean;
}

/** Sessions that lead to where no ending can be reached, one for each screen; undefined where that was not found out. */
export function trapsOf(ground: Ground): Trap[] | undefined {
  const { design } = ground;
  if (!design.screens.some(({ ending }) => ending !== undefined)) return [];
  return lostFrom(ground, Number.POSITIVE_INFINITY, ({ game: { form }, states }) => ({
    isGoal: ([screen]) => form.screens[screen!]!.ending,
    isAskedOn: () => true,
    // On a menu it counts where it begins there: what leads to it from play is told of play. Where all is lost from the start, play tells it.
    isTold: (screen, row, isLost) =>
      form.screens[screen]!.live || (states.parents[row]! >= 0 && !isLost.has(states.parents[row]!)),
  }));
}

/**
 * Sessions that lead to an ending from which no fresh start of a run can be reached any more, one for each ending, though from elsewhere one
 * can; undefined where that was not found out.
 */
export function lostEndings(ground: Ground): Trap[] | undefined {
  return lostFrom(ground, mostFollowed, (search, doubts, upTo) => {
    const begins = rowsThatBegin(search, ground.isOver, doubts, upTo);
    if (begins === undefined) return undefined;
    if (!begins.any) return 'nothing';
    return {
      isGoal: (_, row) => begins.rows[row] === 1,
      isAskedOn: (screen) => search.game.form.screens[screen]!.ending,
    };
  });
}

/**
 * Sessions that lead, in one step, from where a win can still be reached within the run to where it cannot: one for each live screen. Screens
 * from which a run begins afresh are the end of one here; where play itself can begin one, nothing is told. Undefined where that was not
 * found out.
 */
export function lostWins(ground: Ground): Trap[] | undefined {
  const { design } = ground;
  const { form } = ground.search.game;
  const isWin = design.screens.map(({ ending }) => ending === 'won');
  const isEnd = form.screens.map(
    ({ ending }, screen) =>
      ending ||
      form.transitions.some(({ from, index, fresh }) => index >= 0 && from === screen && fresh >= runSpan),
  );
  if (!isWin.includes(true) || form.screens.some(({ live }, screen) => live && isEnd[screen])) return [];
  const never = neverReported(ground.design).map((name) => form.eventIndex.get(name));
  return lostFrom(ground, mostFollowed, (search) => {
    const { states, game } = search;
    const state = new Float64Array(game.width);
    const isReported = (row: number): boolean => {
      const { kind, index } = search.edge(states.edges[row]!);
      return kind !== 'send' || !never.includes(index);
    };
    const isEndAt = (row: number): boolean => {
      states.read(row, state);
      return isEnd[state[0]!]!;
    };
    return {
      isGoal: ([screen]) => isWin[screen!]!,
      mayPass: ([screen]) => !isEnd[screen!]!,
      isAskedOn: (screen) => form.screens[screen]!.live,
      isTold: (_, row, isLost) => {
        const before = states.parents[row]!;
        // Where there is no win at all, that is told of the win.
        if (isLost.has(0) && !isEndAt(0)) return false;
        return before >= 0 && !isLost.has(before) && !isEndAt(before) && isReported(row);
      },
    };
  });
}

/**
 * What no game has a reason to report: failures of pieces that wait for the player until they are met and may be tried again, that these are
 * gone, and that those are which no outcome takes away.
 */
export const neverReported = ({ pieces }: Design): string[] =>
  pieces.flatMap(({ name, meets, again, lasts, outcomes, ends }) => {
    const waits = meets === 'sought' && again && lasts === undefined;
    return [
      ...(waits && outcomes.length === 2 ? [`${name}.${outcomes[1]!.name}`] : []),
      ...(waits || ends.length === 0 ? [`${name}.gone`] : []),
    ];
  });

/** Sessions that lead to where something that is needed can no longer be reached, one for each screen; undefined where that was not found out. */
function lostFrom(
  { design, search, refiner, isOver }: Ground,
  most: number,
  needIn: (
    search: Search,
    doubts: Doubts | undefined,
    upTo: number | undefined,
  ) => Need | 'nothing' | undefined,
): Trap[] | undefined {
  /** The states that count from which it cannot be reached, and those of them that are told. */
  const lostIn = (
    of: Search,
    doubts?: Doubts,
    upTo?: number,
  ): Record<'asked' | 'told', number[]> | undefined => {
    const need = needIn(of, doubts, upTo);
    if (need === 'nothing') return { asked: [], told: [] };
    const lost = need && of.lostTo(need.isGoal, isOver, need.mayPass, doubts, upTo);
    if (need === undefined || lost === undefined) return undefined;
    const isLost = new Set(lost);
    const state = new Float64Array(of.game.width);
    const screenOf = (row: number): number => {
      of.states.read(row, state);
      return state[0]!;
    };
    const asked = lost.filter((row) => need.isAskedOn(screenOf(row)));
    return { asked, told: asked.filter((row) => need.isTold?.(screenOf(row), row, isLost) ?? true) };
  };
  if (search.doubt() === undefined && search.states.length <= most) {
    const found = lostIn(search);
    return found && shown(design, search, found.told);
  }
  // What leads nowhere else is lost, however much there is besides.
  const near = lostIn(search, undefined, Math.min(search.followed, mostNear));
  const shownNear = near === undefined ? [] : shown(design, search, near.told);
  if (shownNear.length > 0) return shownNear;
  return refiner.answerWhole<Trap[]>((of) => {
    const doubts = noDoubts();
    const atMost = lostIn(of, doubts);
    if (atMost === undefined) return undefined;
    if (atMost.asked.length === 0) return { answer: [] };
    const found = lostIn(of);
    if (found === undefined) return undefined;
    const traps = shown(design, of, found.told);
    for (const { witness } of traps) {
      const missing = overdrawn(of, witness);
      if (missing !== undefined) return missing;
    }
    if (traps.length > 0) return { answer: traps };
    if (doubts.counters.size + doubts.pieces.size > 0) return { more: doubts };
    return doubtIn(of, of.pathToState(atMost.asked[0]!));
  });
}

/** The first of some states on each screen to which a session was found. */
function shown(design: Design, search: Search, rows: readonly number[]): Trap[] {
  const { game, states } = search;
  const traps = new Map<number, Trap>();
  const state = new Float64Array(game.width);
  let tries = 0;
  for (const row of rows) {
    states.read(row, state);
    const screen = state[0]!;
    if (traps.has(screen) || tries++ > mostTries) continue;
    const witness = realise(design, game, search.pathToState(row), { arrives: true });
    game.write(state);
    if (witness !== undefined)
      traps.set(screen, { screen: game.form.screens[screen]!.name, values: valuesIn(game), witness });
  }
  return [...traps.values()];
}

/**
 * For each state, 1 where the next step may begin a run afresh, and whether any may; undefined where that took too long to find out.
 *
 * @param doubts where they are given, it has to do so whatever is not followed; what it hangs on is put down there
 */
function rowsThatBegin(
  { game, states }: Search,
  isOver: () => boolean,
  doubts: Doubts | undefined,
  upTo = states.length,
): { readonly rows: Uint8Array; readonly any: boolean } | undefined {
  const { form } = game;
  let begins = false;
  const probe: Probe = {
    ...watchesNothing,
    transition: (taken) => {
      const { index, fresh } = form.transitions[taken]!;
      if (index >= 0 && fresh >= runSpan) begins = true;
    },
  };
  const follower = new UntimedGame(game.concrete, probe, { kept: game.loose.kept });
  const prepare = (): void => {
    begins = false;
    follower.write(state);
  };
  let any = false;
  const isBegun = (): boolean => {
    any ||= begins;
    return begins;
  };
  const rows = new Uint8Array(states.length);
  const state = new Float64Array(game.width);
  const screens = screensThatBegin(form);
  for (let row = 0; row < upTo; row++) {
    if (row % 64 === 0 && isOver()) return undefined;
    states.read(row, state);
    if (!screens.has(state[0]!)) continue;
    follower.write(state);
    const edges = [...follower.clocks(), ...follower.reports()];
    if (edges.some((edge) => comesOf(follower, follower.edge(edge), prepare, isBegun, doubts))) rows[row] = 1;
  }
  return { rows, any };
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

/** The same where a search did not go through all there are. */
const mostNear = 5000;

/** States that a session is looked for to, before the others are given up. */
const mostTries = 50;

/** What counts in the state that the machine is in: counters, and how many pieces are present. */
function valuesIn({ cone, domain, form, machine }: UntimedGame): string {
  const at = form.cells;
  const screen = machine.cells[at.screen]!;
  const isRead = (cell: number): boolean =>
    domain.idle.every(
      ({ parts, matters }) =>
        matters[screen]! || parts.every(({ part }) => domain.parts[part]!.cell !== cell),
    );
  const followed = cone.counters.filter((counter) => isRead(at.counters + counter));
  const counters = followed.map((counter) => {
    const { name } = form.counters[counter]!;
    return `${name} ${fromCell(form.counters[counter]!, machine.cells[at.counters + counter]!)}`;
  });
  const there = cone.pieces.filter((piece) => isRead(at.present + piece));
  const pieces = there.map(
    (piece) => `${machine.cells[at.present + piece]} ${form.pieces[piece]!.name} present`,
  );
  const all = [...counters, ...pieces];
  return all.length === 0 ? 'whatever it holds' : all.join(', ');
}
