// One class: zones, what may happen next and the moments of a way all read the same clocks.

import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { watchesNothing } from '../../engine/run/probe.js';
import { stepEveryWay } from '../abstraction/every-way.js';
import type { Kept } from '../abstraction/loosen.js';
import { Packing } from '../abstraction/packing.js';
import { type Edge, UntimedGame } from '../abstraction/untimed-game.js';
import { waitsOf } from '../abstraction/waits.js';
import type { Sought } from '../evidence/claim.js';
import type { TimedStep } from '../evidence/passage.js';
import { States } from '../search/states.js';
import {
  type Cooldown,
  holdsIn,
  isEnded,
  isSet,
  orderOf,
  type TimedTimer,
  timedTimers,
  type Urgent,
  unset,
  untouched,
} from './clocks.js';
import { type DifferenceConstraint, earliestMoments } from './difference-constraints.js';
import { Zone } from './zone.js';

/** Zones of one state at the most: each new one is compared with all of them. */
const mostOfState = 60;
/** The same where the time of play is counted, so that no two moments are alike. */
const mostByTime = 1000;

/** Nodes that are visited before it is looked whether all that is sought was come to. */
const visitsBetweenLooks = 64;

/** How fast pieces can be met by the fastest player: milliseconds for each piece that is sought, else 0. */
export type Paces = readonly number[];

/** How long the fastest player attends to a piece before a step that is a success at it; 0 for all other steps. */
export function paceOf({ events, pieces }: Form, paces: Paces, { kind, index }: Edge): number {
  if (kind !== 'send') return 0;
  const { piece } = events[index]!;
  return piece >= 0 && index === pieces[piece]!.success ? paces[piece]! : 0;
}

export interface TimedOptions {
  /** Given these, no two pieces that are sought are met faster one after the other than they allow. */
  readonly paces?: Paces;
  /** Whether a clock that nothing sets counts the time of play, so that {@link TimedSearch.leastTime} can be told. */
  readonly countsTime?: boolean;
  /** Whether it follows all that rules, outcomes and timers depend on, not only what transitions do. */
  readonly followsAll?: boolean;
  /** Where it is given, counters and pieces that conditions alone ask for are left out unless they are among these. */
  readonly kept?: Kept | undefined;
}

const keyOf = (sought: Sought): string => Object.entries(sought)[0]!.join(' ');

/**
 * Visits what the design can come to when its timers keep time: every state of the untimed game, with the zones of clock
 * readings in which it can be. Everything else may still happen at any moment, so that what is not found here cannot be.
 */
export class TimedSearch {
  readonly game: UntimedGame;
  /** By what was come to, such as `transition 3`: the node and the edge that first came to it. */
  readonly #first = new Map<string, { readonly node: number; readonly edge: number }>();
  /** By event, what it is called among these. */
  readonly #eventKeys: readonly string[];
  /** What the clocks of its zones show. */
  readonly timers: readonly TimedTimer[];
  /** The clock that shows how long a live screen was on, for its waits; -1: no live screen has any. */
  readonly screenClock: number;
  readonly holds: readonly Cooldown[];
  /** The clock that shows for how long the player has attended to something else; -1: none does. */
  readonly attention: number;
  /** The clock that counts the time of play; -1: none does. */
  readonly #total: number;
  readonly #greatest: readonly number[];
  readonly states: States;
  /** By node: its state, its zone, and where it came from. */
  readonly #rows: number[] = [];
  readonly #zones: Zone[] = [];
  readonly #parents: number[] = [];
  readonly #edges: number[] = [];
  /** By state, its nodes, but for those whose zone another of them includes. */
  readonly #nodesOf: number[][] = [];
  /** Rests and graces that the very first chain set. */
  readonly #heldFirst: readonly Cooldown[];
  readonly #paces: Paces | undefined;
  isCut = false;
  /** What happened in the step that is being taken, and the rests that must have been over for it. */
  readonly #happened: string[] = [];
  readonly #ended: Cooldown[] = [];
  /** Whether a level began anew since it was last asked, which ends every attempt at its pieces. */
  #hasBegun = false;
  /** The cells of the state that is being visited, before each step from it. */
  readonly #before: Float64Array;
  #node = -1;
  #edge = -1;
  /** Nodes of which what clocks lead to was visited, and what can be reported; and those that take no more events than the last of these. */
  #clocked = 0;
  #reported = 0;
  #layer = 0;
  /** Room for the zone of the node that is being visited, for what of it allows a step, and for what the step makes of that. */
  readonly #here: Zone;
  readonly #allowed: Zone;
  readonly #after: Zone;
  /** Room for a state, once it has begun. */
  #state: Float64Array | undefined;

  constructor(design: Design, { paces, countsTime = false, followsAll = false, kept }: TimedOptions = {}) {
    const form = formOf(design);
    // Written once: they are asked for at every step.
    const keysOf = (what: string, { length }: { length: number }) =>
      Array.from({ length }, (_, index) => `${what} ${index}`);
    const keys = { transition: keysOf('transition', form.transitions), rule: keysOf('rule', form.rules) };
    this.#eventKeys = keysOf('event', form.events);
    this.#paces = paces;
    this.game = new UntimedGame(
      form,
      {
        ...watchesNothing,
        transition: (transition) => this.#happened.push(keys.transition[transition]!),
        rule: (rule) => {
          this.#happened.push(keys.rule[rule]!);
          const hold = this.holds?.find((each) => each.rule === rule);
          if (hold !== undefined && this.game.machine.cells[hold.cell] === untouched) this.#ended.push(hold);
        },
        allCleared: () => {
          this.#hasBegun = true;
        },
      },
      { followsAll, followsGrace: true, kept },
    );
    this.timers = timedTimers(form, this.game.cone.timers);
    const waits = form.screens.flatMap(({ live }, screen) => (live ? waitsOf(form).on[screen]!.flat() : []));
    const greatest = [0, ...this.timers.map(({ most }) => most)];
    this.screenClock = waits.length === 0 ? -1 : greatest.push(Math.max(...waits)) - 1;
    this.attention = paces === undefined ? -1 : greatest.push(Math.max(...paces)) - 1;
    this.#total = countsTime ? greatest.push(Number.POSITIVE_INFINITY) - 1 : -1;
    // Whether a player is fast enough seldom hangs on rests and graces: they may be over at any moment then, for speed.
    this.holds = paces === undefined || countsTime ? holdsIn(this.game, greatest) : [];
    this.#greatest = greatest;
    this.#here = Zone.start(greatest.length - 1);
    this.#allowed = Zone.start(greatest.length - 1);
    this.#after = Zone.start(greatest.length - 1);
    const { cells } = this.game.machine;
    this.#before = new Float64Array(cells.length);
    this.#heldFirst = this.holds.filter((hold) => isSet(hold, cells));
    this.states = new States(new Packing(this.game.domain), true);
  }

  /** Whether any timer, wait, rest or grace keeps time, so that there is something to find out. */
  get hasClocks(): boolean {
    return this.timers.length + this.holds.length > 0 || this.screenClock > 0;
  }

  /** Whether what it did not come to cannot be: it went through all that it follows, and nothing that it depends on was left out. */
  get isSure(): boolean {
    const { cone, narrowedBy } = this.game;
    return !this.isCut && cone.timerRead === undefined && narrowedBy === undefined;
  }

  /** How many zones were found. */
  get zones(): number {
    return this.#zones.length;
  }

  /** Reads the state of a node, and gives the zone with which it was come to. */
  node(index: number, into: Float64Array): Zone {
    this.states.read(this.#rows[index]!, into);
    return this.#zones[index]!;
  }

  /** Whether some node is on a screen. */
  enters(screen: number): boolean {
    const state = new Float64Array(this.game.width);
    for (let row = 0; row < this.states.length; row++) {
      this.states.read(row, state);
      if (state[0] === screen) return true;
    }
    return false;
  }

  /** Whether something was come to; a level counts where some state is on it. */
  cameTo(sought: Sought): boolean {
    return this.#first.has(keyOf(sought));
  }

  #noteAll(): void {
    for (const key of this.#happened.splice(0))
      if (!this.#first.has(key)) this.#first.set(key, { node: this.#node, edge: this.#edge });
  }

  /**
   * Goes on from where it stopped.
   *
   * @param most zones that are visited at the most
   * @param until what it is done for: it stops once all of it was come to; all that there is unless it is given
   */
  run(most: number, isOver: () => boolean, until?: readonly Sought[]): void {
    const open = until?.map(keyOf);
    const isDone = (): boolean => open?.every((key) => this.#first.has(key)) ?? false;
    this.#state ??= this.#begin();
    while (!isDone()) {
      if (this.#reported === this.#layer) {
        // All that clocks lead to takes no event more; what is reported takes one.
        for (; this.#clocked < this.#zones.length; this.#clocked++) {
          if (this.#isFull(most, isOver)) return;
          this.#visit(this.#clocked, this.#state, true);
        }
        if (this.#layer === this.#zones.length) return;
        this.#layer = this.#zones.length;
        continue;
      }
      const stop = Math.min(this.#layer, this.#reported + visitsBetweenLooks);
      for (; this.#reported < stop; this.#reported++) {
        if (this.#isFull(most, isOver)) return;
        this.#visit(this.#reported, this.#state, false);
      }
    }
  }

  /**
   * The least time of play, in milliseconds, after which transitions can be taken, by index: zones are visited by how soon they can be
   * come to. Those that were not settled before there were too many zones are left out.
   *
   * @param goals stops as soon as one transition of each of these sets cannot be taken sooner any more
   * @param most zones that are visited at the most
   */
  leastTime(
    goals: readonly (readonly number[])[],
    most: number,
    isOver: () => boolean,
  ): ReadonlyMap<number, number> {
    const least = new Map<number, number>();
    const soonestOf = (goal: readonly number[]): number =>
      Math.min(...goal.map((transition) => least.get(transition) ?? Number.POSITIVE_INFINITY));
    const state = this.#begin();
    const waiting = new Map<number, number[]>([[0, [0]]]);
    while (waiting.size > 0) {
      const soonest = Math.min(...waiting.keys());
      if (goals.every((goal) => soonestOf(goal) <= soonest)) break;
      const nodes = waiting.get(soonest)!;
      waiting.delete(soonest);
      for (const node of nodes) {
        if (this.#isFull(most, isOver)) return new Map([...least].filter(([, time]) => time <= soonest));
        const known = this.#zones.length;
        for (const isClocks of [true, false]) {
          this.#visit(node, state, isClocks, (zone, taken) => {
            const time = zone.least(this.#total);
            for (const transition of taken)
              if (time < (least.get(transition) ?? Number.POSITIVE_INFINITY)) least.set(transition, time);
          });
        }
        for (let next = known; next < this.#zones.length; next++) {
          const time = this.#zones[next]!.least(this.#total);
          waiting.set(time, [...(waiting.get(time) ?? []), next]);
        }
      }
    }
    return least;
  }

  /** Adds the first start, which the machine is still at, and gives room for a state. */
  #begin(): Float64Array {
    const state = new Float64Array(this.game.width);
    this.game.read(state);
    const start = Zone.start(this.#greatest.length - 1);
    this.#holdOn(start);
    this.#noteAll();
    this.#add(state, start, -1, -1);
    return state;
  }

  #isFull(most: number, isOver: () => boolean): boolean {
    this.isCut ||= this.#zones.length >= most || isOver();
    return this.isCut;
  }

  #visit(
    node: number,
    state: Float64Array,
    isClocks: boolean,
    told?: (zone: Zone, transitions: readonly number[]) => void,
  ): void {
    const { game } = this;
    const { machine, form } = game;
    const { cells } = machine;
    const at = form.cells;
    this.#node = node;
    this.#edge = -1;
    this.#write(node, state);
    this.#before.set(cells);
    this.#happened.push(`level ${Math.min(state[1]!, form.levels.length - 1)}`);
    this.#noteAll();
    const zone = this.#here;
    zone.become(this.#zones[node]!);
    const urgent = this.#urgent();
    if (form.screens[cells[at.screen]!]!.live) {
      zone.elapse();
      for (const { clock, most } of urgent) zone.atMost(clock, most);
    }
    for (const edge of isClocks ? game.clocks() : game.reports()) {
      const allowed = this.#allowed;
      const after = this.#after;
      allowed.become(zone);
      const taken = game.edge(edge);
      if (!this.#allow(taken, allowed, urgent)) continue;
      const prepare = (): void => {
        after.become(allowed);
        this.#hasBegun = false;
        this.#ended.length = 0;
        this.#happened.length = 0;
        cells.set(this.#before);
      };
      stepEveryWay(game, taken, prepare, (happened, fault) => {
        if (fault !== undefined) return;
        this.#edge = game.withGuesses(edge);
        const event = happened ? game.eventOf(taken.kind, taken.index) : -1;
        if (event >= 0) this.#happened.push(this.#eventKeys[event]!);
        if (!this.#ended.every(({ clock, duration }) => after.atLeast(clock, duration))) return;
        told?.(
          after,
          this.#happened.flatMap((key) => (key.startsWith('transition ') ? [Number(key.slice(11))] : [])),
        );
        this.#noteAll();
        this.#setClocks(after);
        game.read(state);
        this.#add(state, after, node, this.#edge);
      });
    }
  }

  /** Lets the clocks of a zone show what the step that the machine has just taken made of them. */
  #setClocks(after: Zone): void {
    const { form, machine } = this.game;
    const { cells } = machine;
    const at = form.cells;
    this.#holdOn(after);
    for (const { timer, clock, most, standsOn } of this.timers) {
      const due = cells[at.timers + timer]!;
      if (due === Number.POSITIVE_INFINITY) after.free(clock);
      else if (due !== unset) after.reset(clock);
      else if (standsOn.has(this.#before[at.screen]!) || standsOn.has(cells[at.screen]!)) {
        // How much of it is over where it stands still is anyone's guess, but not more than all.
        after.free(clock);
        after.atMost(clock, most);
      }
    }
    if (this.screenClock > 0) {
      const isLive = form.screens[cells[at.screen]!]!.live;
      const entered = cells[at.entered]!;
      // Back on a screen, how long it had been on is anyone's guess.
      if (!isLive || Number.isNaN(entered)) after.free(this.screenClock);
      else if (entered !== unset) after.reset(this.screenClock);
    }
    if (this.#hasBegun && this.attention > 0) after.reset(this.attention);
    after.loosen(this.#greatest);
  }

  /** Lets rests and graces that were set begin, and forgets those that a fresh start ended. */
  #holdOn(zone: Zone): void {
    const { cells } = this.game.machine;
    for (const hold of this.holds) {
      const { clock, duration } = hold;
      if (isSet(hold, cells)) zone.reset(clock);
      else if (isEnded(hold, cells)) {
        zone.free(clock);
        zone.atLeast(clock, duration);
      }
    }
  }

  /** What must happen by some reading of a clock in the state of the machine, in the order in which it does where several are due. */
  #urgent(): Urgent[] {
    const { form, machine } = this.game;
    const { cells } = machine;
    const at = form.cells;
    const screen = form.screens[cells[at.screen]!]!;
    const timers = this.timers.flatMap(({ timer, clock, most }): Urgent[] =>
      cells[at.timers + timer] === unset && screen.timers.includes(timer)
        ? [{ order: timer, clock, most }]
        : [],
    );
    const wait = this.game.nextWait();
    if (this.screenClock < 0 || wait === undefined || !screen.live) return timers;
    return [...timers, { order: form.timers.length, clock: this.screenClock, most: wait }];
  }

  /** The state of a node in the machine, timers that run marked as not set since. */
  #write(node: number, state: Float64Array): void {
    const { game } = this;
    const { cells } = game.machine;
    this.states.read(this.#rows[node]!, state);
    game.write(state);
    for (const { timer } of this.timers) {
      const cell = game.form.cells.timers + timer;
      if (cells[cell] !== Number.POSITIVE_INFINITY) cells[cell] = unset;
    }
    for (const { cell } of this.holds) cells[cell] = untouched;
    cells[game.form.cells.entered] = unset;
    for (const { backCell } of game.form.screens) if (backCell >= 0) cells[backCell + 1] = Number.NaN;
  }

  /**
   * Keeps the readings in which something can happen, before which nothing else is due at the same moment, and lets the attention
   * begin anew; false where there are none.
   */
  #allow(edge: Edge, zone: Zone, urgent: readonly Urgent[]): boolean {
    const { form } = this.game;
    const { kind, index } = edge;
    const { length } = form.timers;
    const order = orderOf(edge, length);
    for (const { order: other, clock, most } of urgent)
      if (other < order && !zone.atMost(clock, most - 1)) return false;
    for (const { rule, clock, duration } of this.holds) {
      if (edge.silent.includes(rule) && !zone.atMost(clock, duration - 1)) return false;
      if (rule < 0 && this.#isHit(edge) && !zone.atLeast(clock, duration)) return false;
    }
    if (kind === 'timer') {
      const timed = this.timers.find(({ timer }) => timer === index % length);
      if (timed === undefined) return true;
      const warned = index < length ? 0 : form.timers[timed.timer]!.warn[0]!;
      return zone.atLeast(timed.clock, Math.max(0, timed.least - warned));
    }
    if (kind === 'wait') {
      const own = urgent.find(({ clock }) => clock === this.screenClock);
      return own === undefined || zone.atLeast(own.clock, own.most);
    }
    const takes = this.#paces === undefined ? 0 : paceOf(form, this.#paces, edge);
    if (takes === 0) return true;
    if (!zone.atLeast(this.attention, takes)) return false;
    zone.reset(this.attention);
    return true;
  }

  #isHit({ kind, index }: Edge): boolean {
    return kind === 'send' && this.game.form.events[index]!.turnedAway;
  }

  #add(state: Float64Array, zone: Zone, parent: number, edge: number): void {
    const row = this.states.numberOf(state);
    if (row < 0) {
      this.isCut = true;
      return;
    }
    this.#nodesOf[row] ??= [];
    const nodes = this.#nodesOf[row]!;
    const zones = this.#zones;
    // The newest first, which includes it most often.
    for (let at = nodes.length - 1; at >= 0; at--) if (zones[nodes[at]!]!.includes(zone)) return;
    if (nodes.length >= (this.#total < 0 ? mostOfState : mostByTime)) this.isCut = true;
    let left = 0;
    for (const node of nodes) if (!zone.includes(zones[node]!)) nodes[left++] = node;
    nodes.length = left;
    nodes.push(zones.length);
    this.#rows.push(row);
    this.#zones.push(zone.copy());
    this.#parents.push(parent);
    this.#edges.push(edge);
  }

  /**
   * The way to the first time that something happened, with the live time that passes before each step; undefined where there is
   * none, or where no whole milliseconds fit.
   */
  pathTo(sought: Sought): TimedStep[] | undefined {
    const first = this.#first.get(keyOf(sought));
    if (first === undefined || first.node < 0) return undefined;
    const nodes: number[] = [];
    for (let node = first.node; node > 0; node = this.#parents[node]!) nodes.unshift(node);
    const steps = nodes.map((node) => {
      const state = new Float64Array(this.game.width);
      this.states.read(this.#rows[node]!, state);
      return { edge: this.game.edge(this.#edges[node]!), state, from: this.#parents[node]! };
    });
    if (first.edge < 0) return this.#timesOf(steps);
    return this.#timesOf([
      ...steps,
      { edge: this.game.edge(first.edge), state: undefined, from: first.node },
    ]);
  }

  /** Gathers what the steps' moments must be apart, and solves it. */
  #timesOf(
    steps: readonly {
      readonly edge: Edge;
      readonly state: Float64Array | undefined;
      readonly from: number;
    }[],
  ): TimedStep[] | undefined {
    const { game } = this;
    const { cells } = game.machine;
    const at = game.form.cells;
    const state = new Float64Array(game.width);
    const bounds: DifferenceConstraint[] = [];
    /** By clock, the step that last set it. */
    const setAt = new Map(this.#greatest.map((_, clock): [number, number] => [clock, 0]));
    // What rests or gives grace at the very start was set by the first chain; all else is over.
    for (const hold of this.holds) if (!this.#heldFirst.includes(hold)) setAt.delete(hold.clock);
    steps.forEach(({ edge, from }, index) => {
      const step = index + 1;
      this.#write(from, state);
      bounds.push([step, step - 1, 0]);
      const urgent = this.#urgent();
      const screen = cells[at.screen]!;
      const order = orderOf(edge, game.form.timers.length);
      if (game.form.screens[screen]!.live) {
        for (const { order: other, clock, most } of urgent)
          bounds.push([setAt.get(clock) ?? step, step, -(other < order ? most - 1 : most)]);
      } else bounds.push([step - 1, step, 0]);
      if (edge.kind === 'timer') {
        const timed = this.timers.find(({ timer }) => timer === edge.index);
        const since = timed && setAt.get(timed.clock);
        if (since !== undefined) bounds.push([step, since, timed!.least]);
      }
      if (edge.kind === 'wait') {
        const own = urgent.find(({ clock }) => clock === this.screenClock);
        const since = own && setAt.get(own.clock);
        if (since !== undefined) bounds.push([step, since, own!.most]);
      }
      for (const { rule, clock, duration } of this.holds) {
        const since = setAt.get(clock);
        if (since === undefined) continue;
        if (edge.silent.includes(rule)) bounds.push([since, step, 1 - duration]);
        if (rule < 0 && this.#isHit(edge)) bounds.push([step, since, duration]);
      }
      this.#ended.length = 0;
      try {
        game.step(edge);
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
      }
      for (const { clock, duration } of this.#ended) {
        const since = setAt.get(clock);
        if (since !== undefined) bounds.push([step, since, duration]);
      }
      for (const hold of this.holds) {
        if (isSet(hold, cells)) setAt.set(hold.clock, step);
        else if (isEnded(hold, cells)) setAt.delete(hold.clock);
      }
      for (const { timer, clock, standsOn } of this.timers) {
        if (cells[at.timers + timer] !== unset) setAt.set(clock, step);
        else if (standsOn.has(screen) || standsOn.has(cells[at.screen]!)) setAt.delete(clock);
      }
      if (Number.isNaN(cells[at.entered]!)) setAt.delete(this.screenClock);
      else if (cells[at.entered] !== unset) setAt.set(this.screenClock, step);
    });
    const moments = earliestMoments(bounds, steps.length + 1);
    return (
      moments &&
      steps.map(({ edge, state: reached }, index) => ({
        edge,
        state: reached,
        pause: moments[index + 1]! - moments[index]!,
      }))
    );
  }
}
