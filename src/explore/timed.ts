import type { Design } from '../design/model.js';
import { DesignError } from '../design/problem.js';
import { watchesNothing } from '../engine/carrier.js';
import type { Form } from '../engine/form.js';
import { formOf } from '../engine/lower.js';
import { type Edge, UntimedGame } from './game.js';
import { Packing } from './packing.js';
import { States } from './states.js';
import type { Sought } from './verdict.js';
import type { TimedStep } from './witness.js';
import { Zone } from './zone.js';

/** Zones of one state at the most: each new one is compared with all of them. */
const mostOfState = 60;

/** In the place of when a timer is due, that nothing has set it since: no whole number, so that nothing else is it. */
const unset = 0.5;

/** A timer whose time is followed, by its clock in the zones. */
interface TimedTimer {
  readonly timer: number;
  readonly clock: number;
  /** Milliseconds between which it fires after it was set. */
  readonly least: number;
  readonly most: number;
}

/** How fast pieces can be met by the fastest player: milliseconds for each piece that is sought, else 0. */
export type Paces = readonly number[];

export interface TimedOptions {
  /** Given these, no two pieces that are sought are met faster one after the other than they allow. */
  readonly paces?: Paces;
  /** Whether it follows all that rules, outcomes and timers depend on, not only what transitions do. */
  readonly followsAll?: boolean;
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
  readonly #timers: readonly TimedTimer[];
  readonly #attention: number;
  readonly #greatest: readonly number[];
  readonly #states: States;
  /** By node: its state, its zone, and where it came from. */
  readonly #rows: number[] = [];
  readonly #zones: Zone[] = [];
  readonly #parents: number[] = [];
  readonly #edges: number[] = [];
  /** By state, its nodes. */
  readonly #nodesOf: number[][] = [];
  readonly #paces: Paces | undefined;
  isCut = false;
  /** Whether a level began anew since it was last asked, which ends every attempt at its pieces. */
  #hasBegun = false;
  #node = -1;
  #edge = -1;

  constructor(design: Design, { paces, followsAll = false }: TimedOptions = {}) {
    const form = formOf(design);
    this.#paces = paces;
    this.game = new UntimedGame(
      form,
      {
        ...watchesNothing,
        transition: (transition) => this.#note(`transition ${transition}`),
        rule: (rule) => this.#note(`rule ${rule}`),
        allCleared: () => {
          this.#hasBegun = true;
        },
      },
      followsAll,
    );
    this.#timers = timedTimers(form, this.game.cone.timers);
    const clocks = this.#timers.length + (paces === undefined ? 0 : 1);
    this.#attention = paces === undefined ? -1 : clocks;
    this.#greatest = [
      0,
      ...this.#timers.map(({ most }) => most),
      ...(paces === undefined ? [] : [Math.max(...paces)]),
    ];
    this.#states = new States(new Packing(this.game.domain), true);
  }

  /** Whether any timer keeps time, so that there is something to find out. */
  get hasClocks(): boolean {
    return this.#timers.length > 0;
  }

  /** Whether some node is on a screen. */
  enters(screen: number): boolean {
    const state = new Float64Array(this.game.width);
    for (let row = 0; row < this.#states.length; row++) {
      this.#states.read(row, state);
      if (state[0] === screen) return true;
    }
    return false;
  }

  /** Whether something was come to; a level counts where some state is on it. */
  cameTo(sought: Sought): boolean {
    return this.#first.has(keyOf(sought));
  }

  #note(key: string): void {
    if (!this.#first.has(key)) this.#first.set(key, { node: this.#node, edge: this.#edge });
  }

  /** @param most zones that are visited at the most */
  run(most: number): void {
    const { game } = this;
    const state = new Float64Array(game.width);
    game.read(state);
    this.#add(state, Zone.start(this.#greatest.length - 1), -1, -1);
    for (let node = 0; node < this.#zones.length; node++) {
      if (this.#zones.length >= most || this.isCut) {
        this.isCut = true;
        return;
      }
      this.#visit(node, state);
    }
  }

  #visit(node: number, state: Float64Array): void {
    const { game } = this;
    const { machine, form } = game;
    const { cells } = machine;
    const at = form.cells;
    this.#node = node;
    this.#edge = -1;
    this.#write(node, state);
    this.#note(`level ${Math.min(state[1]!, form.levels.length - 1)}`);
    const zone = this.#zones[node]!.copy();
    const running = this.#timers.filter(({ timer }) => cells[at.timers + timer] === unset);
    if (form.screens[cells[at.screen]!]!.live) {
      zone.elapse();
      for (const { clock, most } of running) zone.atMost(clock, most);
    }
    for (const edge of [...game.clocks(), ...game.reports()]) {
      const after = zone.copy();
      const taken = game.edge(edge);
      if (!this.#allow(taken, after)) continue;
      this.#edge = edge;
      this.#hasBegun = false;
      this.#write(node, state);
      try {
        if (game.take(taken)) this.#note(`event ${game.eventOf(taken.kind, taken.index)}`);
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
        continue;
      }
      for (const { timer, clock } of this.#timers) {
        const due = cells[at.timers + timer]!;
        if (due === Number.POSITIVE_INFINITY) after.free(clock);
        else if (due !== unset) after.reset(clock);
      }
      if (this.#hasBegun && this.#attention > 0) after.reset(this.#attention);
      after.loosen(this.#greatest);
      game.read(state);
      this.#add(state, after, node, edge);
    }
  }

  /** The state of a node in the machine, timers that run marked as not set since. */
  #write(node: number, state: Float64Array): void {
    const { game } = this;
    const { cells } = game.machine;
    this.#states.read(this.#rows[node]!, state);
    game.write(state);
    for (const { timer } of this.#timers) {
      const cell = game.form.cells.timers + timer;
      if (cells[cell] !== Number.POSITIVE_INFINITY) cells[cell] = unset;
    }
  }

  /** Keeps the readings in which something can happen, and lets the attention begin anew; false where there are none. */
  #allow({ kind, index }: Edge, zone: Zone): boolean {
    const { form } = this.game;
    if (kind === 'timer') {
      const { length } = form.timers;
      const timed = this.#timers.find(({ timer }) => timer === index % length);
      if (timed === undefined) return true;
      const warned = index < length ? 0 : form.timers[timed.timer]!.warn[0]!;
      return zone.atLeast(timed.clock, Math.max(0, timed.least - warned));
    }
    if (kind !== 'send' || this.#paces === undefined) return true;
    const { piece } = form.events[index]!;
    if (piece < 0 || index !== form.pieces[piece]!.success || this.#paces[piece] === 0) return true;
    if (!zone.atLeast(this.#attention, this.#paces[piece]!)) return false;
    zone.reset(this.#attention);
    return true;
  }

  #add(state: Float64Array, zone: Zone, parent: number, edge: number): void {
    const before = this.#states.length;
    const known = this.#states.add(state, -1, -1);
    if (known < 0 && this.#states.length === before) {
      this.isCut = true;
      return;
    }
    const row = known < 0 ? before : known;
    this.#nodesOf[row] ??= [];
    const nodes = this.#nodesOf[row]!;
    if (nodes.some((node) => this.#zones[node]!.includes(zone))) return;
    if (nodes.length >= mostOfState) this.isCut = true;
    nodes.push(this.#zones.length);
    this.#rows.push(row);
    this.#zones.push(zone);
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
      this.#states.read(this.#rows[node]!, state);
      return { edge: this.game.edge(this.#edges[node]!), state, from: this.#parents[node]! };
    });
    if (first.edge < 0) return this.#timesOf(steps);
    return this.#timesOf([
      ...steps,
      { edge: this.game.edge(first.edge), state: undefined, from: first.node },
    ]);
  }

  /** Solves the differences between the steps' moments, earliest first, by relaxing them until nothing moves (Bellman 1958). */
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
    /** `[later, earlier, least]`: the moment of one step is at least so long after another's. */
    const bounds: [number, number, number][] = [];
    const setAt = new Map(this.#timers.map(({ timer }) => [timer, 0]));
    steps.forEach(({ edge, from }, index) => {
      const step = index + 1;
      this.#write(from, state);
      bounds.push([step, step - 1, 0]);
      const running = this.#timers.filter(({ timer }) => cells[at.timers + timer] === unset);
      if (game.form.screens[cells[at.screen]!]!.live) {
        for (const { timer, most } of running) bounds.push([setAt.get(timer)!, step, -most]);
      } else bounds.push([step - 1, step, 0]);
      if (edge.kind === 'timer') {
        const timed = this.#timers.find(({ timer }) => timer === edge.index);
        if (timed !== undefined) bounds.push([step, setAt.get(timed.timer)!, timed.least]);
      }
      try {
        game.take(edge);
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
      }
      for (const { timer } of this.#timers) if (cells[at.timers + timer] !== unset) setAt.set(timer, step);
    });
    const moments = new Float64Array(steps.length + 1);
    for (let round = 0; round <= steps.length + 1; round++) {
      let moved = false;
      for (const [later, earlier, least] of bounds) {
        if (moments[earlier]! + least <= moments[later]!) continue;
        moments[later] = moments[earlier]! + least;
        moved = true;
      }
      if (!moved) {
        return steps.map(({ edge, state: reached }, index) => ({
          edge,
          state: reached,
          pause: moments[index + 1]! - moments[index]!,
        }));
      }
    }
    return undefined;
  }
}

/** Timers whose time can be followed: they run by live time, for a fixed or a random interval, and nothing changes their seconds. */
function timedTimers(form: Form, timers: readonly number[]): TimedTimer[] {
  const changed = new Set(
    [...form.rules, ...form.transitions].flatMap(({ effects }) =>
      effects.flatMap((effect) => (effect.op === 'timerWrite' ? [effect.timer] : [])),
    ),
  );
  return timers
    .filter(
      (timer) =>
        form.timers[timer]!.clockCell === form.cells.live &&
        form.timers[timer]!.interval.computed === undefined &&
        !changed.has(timer),
    )
    .map((timer, index): TimedTimer => {
      const { least, step, choices } = form.timers[timer]!.interval;
      return { timer, clock: index + 1, least, most: least + step * (choices - 1) };
    });
}
