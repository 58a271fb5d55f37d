// One class: what it visits, and what can be asked of it afterwards, is the same table of states.

import type { Design } from '../../design/model.js';
import type { Problem } from '../../design/problems/problem.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { watchesNothing } from '../../engine/run/probe.js';
import { addDoubts, type Doubts, noDoubts } from '../abstraction/every-way.js';
import type { Kept } from '../abstraction/loosen.js';
import { Packing } from '../abstraction/packing.js';
import { type Edge, UntimedGame } from '../abstraction/untimed-game.js';
import type { Sought } from '../evidence/claim.js';
import type { UntimedPath } from '../evidence/passage.js';
import { type Expander, expanderOf, MachineExpander } from './expander.js';
import { Notes, unseen } from './first-occurrences.js';
import type { Limits } from './limits.js';
import { mark, States } from './states.js';
import { unboundedIn, whatMultiplies } from './what-multiplies.js';

export interface SearchOptions {
  /** Whether it follows all that rules, outcomes and timers depend on, not only what transitions do. */
  readonly followsAll?: boolean;
  /** Counters, by index, that are followed as well, every value of them kept apart. */
  readonly exact?: readonly number[];
  /** Where it is given, counters and pieces that conditions alone ask for are left out unless they are among these. */
  readonly kept?: Kept | undefined;
  /** Whether code may be written for it; true unless said otherwise. */
  readonly canWrite?: boolean;
  /** States past which it stops once rules, outcomes, timers and levels are all found; unless it is given, it goes through all that there are. */
  readonly enough?: number;
}

/** States for which there is room at each start of the written code. */
const batch = 1 << 14;

/** Where there can be no more states than so many, most of them never are: a search comes to its end, whatever can grow past what it keeps apart. */
export const fewThereCanBe = 4_000_000;

/**
 * States below which a search whose parts could grow past what is kept apart goes on to see whether they do: one that follows all it should,
 * and one of many that follow less.
 */
const fewestEndless = { followingAll: 20_000, followingLess: 1_000 } as const;

/**
 * The search itself: every state that the design can be in with time left out, those with the fewest outside events first. All that
 * clocks lead to belongs to the same layer; what is reported leads to the next.
 */
export class Search {
  readonly game: UntimedGame;
  readonly states: States;
  readonly notes: Notes;
  /** The first state of each layer: the states that take as many outside events as there are layers before. */
  readonly layers: number[] = [];
  readonly #expander: Expander;
  /** Whether there are only so many states, by what each part of them can be. */
  readonly #hasEnd: boolean;
  readonly #enough: number;
  /** Whether it follows all that rules, outcomes and timers depend on. */
  readonly followsAll: boolean;
  /** By level: the first state that is on it, as far as the states were looked through; -1: none. */
  readonly #firstOn: Int32Array;
  #looked = 0;
  /** The first state of the layer that is gone on from. */
  #next = 0;
  /** Where that layer ends, once it is known what time alone leads to; undefined before. */
  #end: number | undefined;
  /** The first state of the layer that is still to be gone on from: by time alone, or once the end is known, by all else. */
  #row = 0;
  /** How many states it was last to visit at the most. */
  #most = 0;
  /** What was said of so many states. */
  #helped: { readonly states: number; readonly help: string } | undefined;
  /** Whether it stopped before it had visited every state. */
  isCut = false;
  /** Whether it stopped with all found that it could be asked for, since no end of states was in sight. */
  isEndless = false;
  /** Whether it was the time allowed that stopped it. */
  isLate = false;

  constructor(
    design: Design,
    { followsAll = false, exact = [], kept, canWrite = true, enough }: SearchOptions = {},
  ) {
    const form = formOf(design);
    this.#enough = enough ?? Number.POSITIVE_INFINITY;
    this.#firstOn = new Int32Array(form.levels.length).fill(-1);
    this.followsAll = followsAll;
    const notes = new Notes(form);
    this.notes = notes;
    // The machine begins inside the game's constructor, before there is anything else to note it.
    let machine: MachineExpander | undefined;
    this.game = new UntimedGame(
      form,
      {
        ...watchesNothing,
        rule: (rule) => {
          if (notes.firedFrom[rule] !== unseen) return;
          notes.hasNew = true;
          notes.firedFrom[rule] = machine?.row ?? -1;
          notes.firedBy[rule] = machine?.at ?? -1;
        },
        transition: (transition) => {
          machine?.noteTransition(transition);
          // The first chain of all runs before the game has its machine; it begins on the first level.
          notes.leave(machine?.level ?? 0, machine?.row ?? -1, machine?.at ?? -1);
          if (notes.takenFrom[transition] !== unseen) return;
          notes.hasNew = true;
          notes.takenFrom[transition] = machine?.row ?? -1;
          notes.takenBy[transition] = machine?.at ?? -1;
        },
      },
      { followsAll, exact, kept },
    );
    this.states = new States(new Packing(this.game.domain), false);
    this.#hasEnd =
      this.states.packing.combinations <= fewThereCanBe ||
      this.game.domain.parts.every(({ kind, mayLeave }) => kind !== 'wide' && mayLeave === undefined);
    machine = new MachineExpander(this.game, this.states, notes);
    this.#expander = expanderOf(this.game, this.states, notes, canWrite && kept === undefined) ?? machine;
  }

  /** Goes on to the end, or until something that is sought is found. */
  run(
    { mostStates, isOver }: Limits,
    progress?: ((states: number) => void) | undefined,
    sought?: Sought,
  ): void {
    const { game, states } = this;
    this.#most = mostStates;
    const fewest = game.loose.kept === undefined ? fewestEndless.followingAll : fewestEndless.followingLess;
    if (this.isCut && states.length < mostStates) this.isCut = this.isLate || this.isEndless;
    if (states.length === 0) {
      const state = new Float64Array(game.width);
      game.begin();
      game.read(state);
      states.add(state, -1, -1);
    }
    while (this.#next < states.length && !this.isCut) {
      if (sought !== undefined && this.pathTo(sought) !== undefined) break;
      const mayBeEndless = !this.#hasEnd && states.length >= fewest;
      if (mayBeEndless && this.game.cone.exact.length === 0 && this.#foundAll()) {
        this.isCut = true;
        this.isEndless = true;
        break;
      }
      if (this.layers.at(-1) !== this.#next) this.layers.push(this.#next);
      if (this.#end === undefined) {
        this.#expand(Number.POSITIVE_INFINITY, true, mostStates, isOver, progress);
        if (this.isCut) break;
        this.#end = states.length;
        this.#row = this.#next;
      }
      this.#expand(this.#end, false, mostStates, isOver, progress);
      if (this.isCut) break;
      this.#next = this.#end;
      this.#end = undefined;
    }
    progress?.(states.length);
  }

  /** Whether all that it could be asked for was found, so that it need not go on for ever. */
  #foundAll(): boolean {
    return this.notes.takenFrom.every((row) => row !== unseen) && this.#foundParts();
  }

  /** The same of rules, and where it follows all of them, of outcomes, timers and levels. */
  #foundParts(): boolean {
    const { form, cone } = this.game;
    const { rules } = form.design;
    const { firedFrom, leftFrom } = this.notes;
    const outcomes = form.events.flatMap(({ kind }, event) => (kind === 'outcome' ? [event] : []));
    const events = [...outcomes, ...form.timers.map(({ event }) => event)];
    return (
      // A rule that keeps a foe's health was not written, so that nobody asks for it.
      cone.rules.every((rule) => firedFrom[rule] !== unseen || rules[rule]!.healthOf !== undefined) &&
      (!this.followsAll ||
        (events.every((event) => this.#firstEdgeTo(event) >= 0) &&
          form.levels.every((_, level) => this.#stateOnLevel(level) >= 0 || leftFrom[level] !== unseen)))
    );
  }

  /** Goes on from the states of the layer, as far as the limits allow; where these end it, the next call goes on from there. */
  #expand(
    to: number,
    isClocks: boolean,
    most: number,
    isOver: () => boolean,
    progress: ((states: number) => void) | undefined,
  ): void {
    const { states } = this;
    while (this.#row < Math.min(to, states.length)) {
      this.isLate ||= isOver();
      const isFull = this.isLate || states.length >= most;
      if (isFull || (states.length >= this.#enough && this.#foundParts())) {
        this.isCut = true;
        return;
      }
      states.reserve(batch);
      const until = states.length < this.#enough ? Math.min(most, this.#enough) : most;
      this.#row = this.#expander.expand(this.#row, to, isClocks, until);
      progress?.(states.length);
    }
  }

  edge(index: number): Edge {
    return this.#expander.edge(index);
  }

  /** The fewest outside events that lead to a state. */
  eventsTo(row: number): number {
    let low = 0;
    let high = this.layers.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.layers[middle]! <= row) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /**
   * States from which none of a kind can be reached, nearest to the start first; undefined where that took too long to find out.
   * Goes through the states backwards, again and again, until no more of them turn out to lead there.
   *
   * @param mayPass whether a way may lead on from a state; any may unless it is given
   * @param doubts where they are given, a way counts only if it leads there whatever is not followed; what others hang on is put down there
   * @param upTo how many states are gone through; of the others each is taken to lead there
   */
  lostTo(
    isGoal: (state: Float64Array, row: number) => boolean,
    isOver: () => boolean,
    mayPass: (state: Float64Array) => boolean = () => true,
    doubts?: Doubts,
    upTo = this.states.length,
  ): number[] | undefined {
    const { states, game } = this;
    const state = new Float64Array(game.width);
    const { words } = states.packing;
    const isSafe = new Uint8Array(states.length);
    const bits = states.bits && new Int32Array(states.bits.length);
    const save = (row: number): void => {
      isSafe[row] = 1;
      if (bits !== undefined) mark(bits, states.packed[row * words]!);
    };
    const isMarked =
      bits === undefined
        ? (key: Int32Array): boolean => isSafe[states.find(key)] === 1
        : ([key]: Int32Array): boolean => (bits[key! >>> 5]! & (1 << (key! & 31))) !== 0;
    for (let row = 0; row < states.length; row++) {
      if (row < upTo) states.read(row, state);
      if (row >= upTo || isGoal(state, row)) save(row);
    }
    for (let sweep = 0; sweep < mostSweeps; sweep++) {
      let found = false;
      const own = doubts && noDoubts();
      for (let row = upTo - 1; row >= 0; row--) {
        if (row % 1024 === 0 && isOver()) return undefined;
        if (isSafe[row] === 1) continue;
        states.read(row, state);
        if (!mayPass(state) || !this.#expander.leads(row, isMarked, own)) continue;
        save(row);
        found = true;
      }
      if (found) continue;
      if (own !== undefined) addDoubts(own, doubts!);
      return [...isSafe.subarray(0, upTo).keys()].filter((row) => isSafe[row] === 0);
    }
    return undefined;
  }

  /** How many of the first states all steps were followed from, and none that a game could take was left out; 0 where that is not known. */
  get followed(): number {
    const { cone, narrowedBy } = this.game;
    const isNarrow = narrowedBy !== undefined || cone.timerRead !== undefined || this.states.unfit >= 0;
    return isNarrow ? 0 : this.#next;
  }

  /** Events that were possible on a screen. */
  seenOn(screen: number): ReadonlySet<number> {
    return this.#expander.seenOn(screen);
  }

  /** The way to the first time that something happened, or undefined; what does at the very start has an empty way. */
  pathTo(sought: Sought): UntimedPath | undefined {
    const { notes } = this;
    if ('transition' in sought)
      return this.#pathBy(notes.takenFrom[sought.transition]!, notes.takenBy[sought.transition]!);
    if ('rule' in sought) return this.#pathBy(notes.firedFrom[sought.rule]!, notes.firedBy[sought.rule]!);
    if ('event' in sought) return this.#pathToEvent(sought.event);
    const row = this.#stateOnLevel(sought.level);
    if (row >= 0) return this.pathToState(row);
    return this.#pathBy(notes.leftFrom[sought.level]!, notes.leftBy[sought.level]!);
  }

  /** Outside events before which a transition is not taken; of one that was not found, those of the layers that were gone through whole. */
  leastEvents(transition: number): number {
    const path = this.pathTo({ transition });
    if (path !== undefined) return path.filter(({ edge }) => edge.kind === 'send').length;
    return this.isCut ? this.layers.length - 1 : Number.POSITIVE_INFINITY;
  }

  #pathToEvent(event: number): UntimedPath | undefined {
    const edge = this.#firstEdgeTo(event);
    return edge < 0 ? undefined : this.pathOver(this.notes.offeredFrom[edge]!, edge);
  }

  /** The edge over which an event was first possible, or -1. */
  #firstEdgeTo(event: number): number {
    const { offeredFrom } = this.notes;
    let best = -1;
    for (let edge = 0; edge < offeredFrom.length; edge++) {
      if (offeredFrom[edge]! < 0) continue;
      const { kind, index } = this.edge(edge);
      if (this.game.eventOf(kind, index) !== event) continue;
      if (best < 0 || offeredFrom[edge]! < offeredFrom[best]!) best = edge;
    }
    return best;
  }

  /** The first state on a level, or -1; each state is looked at once, however often this is asked. */
  #stateOnLevel(level: number): number {
    const { states, game } = this;
    const state = new Float64Array(game.width);
    const last = game.form.levels.length - 1;
    for (; this.#looked < states.length; this.#looked++) {
      states.read(this.#looked, state);
      const at = Math.min(state[1]!, last);
      if (this.#firstOn[at] === -1) this.#firstOn[at] = this.#looked;
    }
    return this.#firstOn[level]!;
  }

  /** The way to a state and over one edge from there. */
  #pathBy(row: number, edge: number): UntimedPath | undefined {
    if (row === unseen) return undefined;
    return row < 0 ? [] : this.pathOver(row, edge);
  }

  pathOver(row: number, edge: number): UntimedPath {
    return [...this.pathToState(row), { edge: this.edge(edge), state: undefined }];
  }

  /** The way to a state, every state on it named. */
  pathToState(row: number): UntimedPath {
    const { states, game } = this;
    return states.pathTo(row).map(({ edge: taken, state }): { edge: Edge; state: Float64Array } => {
      const after = new Float64Array(game.width);
      states.read(state, after);
      return { edge: this.edge(taken), state: after };
    });
  }

  get faults(): { readonly problem: Problem; readonly path: UntimedPath }[] {
    return this.notes.faults.map(({ problem, row, edge }) => ({ problem, path: this.pathOver(row, edge) }));
  }

  /** What would settle what a limit on states left open, or what makes them so many. */
  #help(): string {
    if (this.#helped?.states === this.states.length) return this.#helped.help;
    const unbounded = unboundedIn(this.game);
    const large = unbounded.length > 0 || this.isEndless ? '' : whatMultiplies(this.game, this.states);
    const multiplies = large === '' ? '' : `; what multiplies most: ${large}`;
    const help =
      unbounded.length === 0
        ? multiplies
        : `; a narrow min and max for ${unbounded.join(' and ')} would leave fewer`;
    this.#helped = { states: this.states.length, help };
    return help;
  }

  /**
   * Why what was not found may still exist; undefined where it cannot.
   *
   * @param isFar whether it was not to go on, since it would not come to an end
   */
  doubt(isFar = false): string | undefined {
    const { cone, narrowedBy, domain } = this.game;
    if (this.isLate) return 'the limit on time was reached';
    if (this.isCut) {
      const help = this.#help();
      if (this.isEndless) return `no end of states was found${help}`;
      return `${isFar ? 'there are too many states to visit them all' : `the limit of ${this.#most.toLocaleString('en')} states was hit`}${help}`;
    }
    if (this.states.unfit >= 0)
      return `${domain.parts[this.states.unfit]!.mayLeave} can grow past what the search keeps apart; a min and max would settle it`;
    if (cone.timerRead !== undefined)
      return `it depends on the seconds of timer.${cone.timerRead}, and time was left out of the search`;
    return narrowedBy;
  }
}

/** Times that all states are gone through to find those from which nothing leads to an ending. */
const mostSweeps = 100;
