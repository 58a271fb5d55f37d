// One class: what can happen in a state and what it leads to.

import type { Footprint } from '../../engine/compile/footprint.js';
import { isOutside } from '../../engine/program/events.js';
import { footprintsOf, isMadeByEffects, sets } from '../../engine/program/footprints.js';
import {
  type Amount,
  type Form,
  levelOf,
  type Term,
  type TransitionForm,
} from '../../engine/program/form.js';
import { backendOf } from '../../engine/run/backend.js';
import { Machine } from '../../engine/run/machine.js';
import type { Probe } from '../../engine/run/probe.js';
import { type Cone, type Following, holds, isMade } from './cone.js';
import { type Domain, domainOf } from './domain.js';
import { type Compared, comparing, type Guess, Guesses, type Variant, variantOf } from './guesses.js';
import { type Kept, type Loosened, loosenedBy, readsLeftOut } from './loosen.js';
import { waitsOf } from './waits.js';

/** One thing that can happen, time left out: an outside event, or a clock that may be due at any moment. */
export interface Edge {
  /** To settle is what happens where something that is not followed has changed: guesses come out otherwise. */
  readonly kind: 'send' | 'timer' | 'spawn' | 'wait' | 'settle';
  /** The event, the timer, the spawn of the level, or the wait in milliseconds; 0 for what settles. */
  readonly index: number;
  /** Rules of the cone that a rest or chance keeps silent this time. */
  readonly silent: readonly number[];
  /** What is guessed of conditions that are not followed, in the order in which they are asked. */
  readonly guesses: readonly Guess[];
}

const kinds: readonly Edge['kind'][] = ['send', 'timer', 'spawn', 'wait', 'settle'];

/** Rules that may stay silent which are tried in every combination at one event. */
const mostSilenced = 6;

/** Different steps from state to state: the states hold which one led to them in 16 bits. */
export const mostEdges = 2 ** 16 - 1;

/**
 * The design with time left out: any event that a real game could report may come next, and every clock may be due at any
 * moment. This allows at least all that the timed game allows: grace that turns a hit away is the hit not happening, and a
 * rest is tried both ways. The rules themselves are run by the engine.
 */
export class UntimedGame {
  /** The design's form with guesses in place of what is not followed, where any of that is left out. */
  readonly form: Form;
  readonly loose: Loosened;
  readonly cone: Cone;
  readonly machine: Machine;
  readonly domain: Domain;
  readonly #edges: Edge[] = [];
  readonly #edgeIndex = new Map<string, number>();
  /** The edges of one thing that can happen, by a number for it and the screen. */
  readonly #offered = new Map<number, number[]>();
  /** By screen and level: what a game may report there, and the piece that must be present for it, or -1. */
  readonly #reportable: { readonly edges: readonly number[]; readonly present: number }[][] = [];
  /** What every cell holds at the first start; cells outside the cone go back to it before each event. */
  readonly #start: Float64Array;
  /** Whether the design itself makes a piece appear, anywhere; if not, that is left to the game. */
  readonly #isMade: readonly boolean[];
  /** `[level][piece]`: whether the piece can be there. */
  readonly #canBePresent: readonly (readonly boolean[])[];
  readonly #hasGrace: boolean;
  /** By screen, whether a transition of it waits for a condition of which something is guessed. */
  readonly #guessesOn: readonly boolean[];
  readonly #followsAll: boolean;
  /** The cells after the first start. */
  readonly #first: Float64Array;
  /** The cells of the machine without those that count how often draws were asked for. */
  readonly #state: Float64Array;
  #silent: readonly number[] = [];
  /** Whether the step under way has made an event that is heard after it. */
  #hasEmitted = false;
  readonly guesses = new Guesses();
  /** What each guess says of a counter in the state that the machine is in. */
  readonly #compared: readonly (() => Compared | undefined)[];
  /** Edges with the guesses that were made there, by the edge without. */
  readonly #variants = new Map<number, Variant>();
  /** Why less than the game allows was tried; undefined where all of it was. */
  narrowedBy: string | undefined;

  constructor(
    readonly concrete: Form,
    probe: Probe,
    { kept, ...following }: Following & { readonly kept?: Kept | undefined } = {},
  ) {
    this.#followsAll = following.followsAll === true;
    this.loose = loosenedBy(concrete, kept, following);
    const { form, cone } = this.loose;
    this.form = form;
    this.cone = cone;
    const machineOf = (of: Form): Machine =>
      new Machine(of, {
        draws: (draw) =>
          draw < this.loose.first ? this.draws(draw, this.#silent) : this.#guess(draw - this.loose.first),
        probe: kept === undefined ? probe : this.#noting(probe),
        makeBackend: backendOf(of, undefined, true),
      });
    this.machine = machineOf(form);
    this.#state = this.machine.cells.subarray(0, form.cells.asked);
    this.#compared = comparing(this.loose, this.machine.cells);
    this.domain = domainOf(form, cone);
    this.#isMade = form.pieces.map((_, piece) => isMade(form, piece));
    this.#canBePresent = form.levels.map((level) =>
      form.pieces.map(
        (_, piece) => !this.#isMade[piece] || isMadeByEffects(form, piece) || holds(level, piece),
      ),
    );
    this.#hasGrace =
      footprintsOf(form).writes.some((write) => sets(write, form.cells.graceEnds)) ||
      form.transitions.some(({ grace }) => grace !== 0);
    this.#guessesOn = form.screens.map(({ conditionTransitions }) =>
      conditionTransitions.some(
        (index) => form.transitions[index]!.condition !== concrete.transitions[index]!.condition,
      ),
    );
    if (waitsOf(form).isOpen)
      this.narrowedBy ??= 'a wait grows with the number of a level that has no last one';
    // Within one chain, a rule fires by chance each time or never here; the game may have it both ways.
    for (const index of cone.uncertain) {
      const { chance, events, name } = form.design.rules[index]!;
      if (chance < 1 && (events.length === 0 || events.some((event) => this.#follows(event)))) {
        this.narrowedBy ??= `the rule "${name}" may be asked for its chance several times in one chain`;
      }
    }
    // A hit that grace turns away is left out here, yet it leaves a piece of the course behind.
    if (cone.readsCourse && this.#hasGrace) this.narrowedBy ??= 'grace may let a player pass on a course';
    // There is one first start, which takes no guess.
    const first = form === concrete ? this.machine : machineOf(concrete);
    first.begin();
    this.#first = first.cells.slice();
    this.machine.cells.set(this.#first);
    this.#start = this.machine.cells.slice();
    // Pieces that are not counted never stand in the way of a spawn.
    form.pieces.forEach((_, piece) => {
      if (!cone.pieces.includes(piece)) this.#start[form.cells.present + piece] = 0;
    });
  }

  get width(): number {
    return this.domain.parts.length;
  }

  edge(index: number): Edge {
    return this.#edges[index]!;
  }

  /** The state of the machine, as far as it counts. */
  read(into: Float64Array, cells: Float64Array = this.machine.cells): void {
    const { parts, saturated, madeCaps, idle, cappedLevel } = this.domain;
    const last = this.form.levels.length - 1;
    for (let index = 0; index < parts.length; index++) {
      const { cell, kind } = parts[index]!;
      const value = cells[cell]!;
      into[index] = kind === 'running' ? (value === Number.POSITIVE_INFINITY ? 0 : 1) : value;
    }
    for (const { parts: of, matters } of idle) {
      if (matters[into[0]!]!) continue;
      for (const { part, value } of of) into[part] = value;
    }
    if (cappedLevel >= 0) into[cappedLevel] = Math.min(into[cappedLevel]!, last);
    const level = Math.min(into[1]!, last);
    for (const [part, caps] of madeCaps) into[part] = Math.min(into[part]!, caps[level]!);
    for (const { part, from, every, memories } of saturated) {
      let past = Math.floor((into[part]! - from) / every);
      for (const memory of memories)
        past = Math.min(past, Math.floor((into[memory.part]! * memory.step) / every));
      if (past <= 0) continue;
      into[part] = into[part]! - past * every;
      for (const memory of memories) into[memory.part] = into[memory.part]! - (past * every) / memory.step;
    }
  }

  /** Puts the machine into a state, all clocks running afresh, no rest and no grace under way. */
  write(state: Float64Array): void {
    const { cells } = this.machine;
    const { parts } = this.domain;
    cells.set(this.#start);
    for (let index = 0; index < parts.length; index++) {
      const { cell, kind } = parts[index]!;
      const value = state[index]!;
      cells[cell] = kind === 'running' && value === 0 ? Number.POSITIVE_INFINITY : value;
    }
    cells[this.form.cells.graceEnds] = 0;
    for (const { restCell } of this.form.rules) if (restCell >= 0) cells[restCell] = 0;
  }

  /** Whether a condition, or a part of one, reads what is not followed. */
  isGuessed(condition: Term): boolean {
    const { kept } = this.loose;
    return kept !== undefined && readsLeftOut(condition, kept);
  }

  /** Puts the machine at the first start. */
  begin(): void {
    this.machine.cells.set(this.#first);
  }

  /** What a game may report in the state that the machine is in. */
  reports(): number[] {
    const { cells } = this.machine;
    const at = this.form.cells;
    const { length } = this.form.levels;
    const screen = cells[at.screen]!;
    // What may be reported on a menu is the same whatever the level.
    const level = this.form.screens[screen]!.live ? Math.min(cells[at.level]!, length - 1) : 0;
    const found: number[] = [];
    this.#reportable[screen * length + level] ??= this.#reportableOn(screen, level);
    for (const { edges, present } of this.#reportable[screen * length + level]!) {
      if (present >= 0 && cells[at.present + present] === 0) continue;
      for (const edge of edges) found.push(edge);
    }
    return found;
  }

  #reportableOn(screen: number, level: number) {
    return this.form.events.flatMap(({ piece, presence }, event) => {
      if (!this.mayReport(event, screen, level)) return [];
      const isCounted = presence <= 0 && this.cone.pieces.includes(piece);
      return [{ edges: this.#edgesOf('send', event, screen), present: isCounted ? piece : -1 }];
    });
  }

  /** Whether a game may report an event on a screen and a level, of pieces that are counted only while they are present. */
  mayReport(event: number, screenIndex: number, level: number): boolean {
    const { form, cone } = this;
    const { kind, piece } = form.events[event]!;
    const screen = form.screens[screenIndex]!;
    if (!isOutside(kind)) return false;
    const isCounted = piece >= 0 && cone.pieces.includes(piece);
    const isAsked = isCounted || (this.#followsAll && kind === 'outcome');
    if (!screen.handlers.has(event) && !(isAsked && screen.live)) return false;
    if (!cone.events.has(event) && !isCounted) return false;
    if (kind === 'input') return true;
    if (!screen.live || !this.#canBePresent[level]![piece]) return false;
    // What the design makes appear does so by spawns, and effects; the rest is the game's to report.
    if (kind === 'appeared' && this.#isMade[piece]) return false;
    return kind !== 'gone' || this.#mayGo(piece) || screen.handlers.has(event);
  }

  /** Clocks that may be due in the state that the machine is in. */
  clocks(): number[] {
    const { form, cone } = this;
    const { cells } = this.machine;
    const at = form.cells;
    const screenIndex = cells[at.screen]!;
    const screen = form.screens[screenIndex]!;
    const level = Math.min(cells[at.level]!, form.levels.length - 1);
    const found: number[] = [];
    for (const timer of cone.timers) {
      if (!screen.timers.includes(timer) || cells[at.timers + timer] === Number.POSITIVE_INFINITY) continue;
      this.#offer(found, 'timer', timer, screenIndex);
      // A timer that runs may warn at any moment, as often as it likes: more than the game allows, never less.
      if (this.mayWarn(timer)) this.#offer(found, 'timer', form.timers.length + timer, screenIndex);
    }
    if (screen.live) {
      form.levels[level]!.spawns.forEach(({ piece, atOnce, total }, slot) => {
        if (!this.countsSpawns(piece)) return;
        // Whether one is shut by a bound that is computed, the engine says.
        const isShut = (count: number, bound: Amount): boolean => typeof bound === 'number' && count >= bound;
        if (isShut(cells[at.spawnMade + slot]!, total) || isShut(cells[at.present + piece]!, atOnce)) return;
        this.#offer(found, 'spawn', slot, screenIndex);
      });
    }
    const wait = this.nextWait();
    if (wait !== undefined) this.#offer(found, 'wait', wait, screenIndex);
    if (this.#guessesOn[screenIndex]!) this.#offer(found, 'settle', 0, screenIndex);
    return found;
  }

  /** The shortest wait of the screen that the machine is on that is not over yet. */
  nextWait(): number | undefined {
    const { cells } = this.machine;
    const at = this.form.cells;
    const level = Math.min(cells[at.level]!, this.form.levels.length - 1);
    return waitsOf(this.form).on[cells[at.screen]!]![level]!.find((each) => each > cells[at.waited]!);
  }

  mayWarn(timer: number): boolean {
    const { warnCell, warnEvent } = this.form.timers[timer]!;
    return warnCell >= 0 && this.cone.events.has(warnEvent);
  }

  /** Whether a piece's appearing counts. */
  countsSpawns(piece: number): boolean {
    return this.cone.pieces.includes(piece) || this.cone.events.has(this.form.pieces[piece]!.appeared);
  }

  /** Whether a piece may go without an outcome: what grace turns away, and what cannot be met when it is. */
  #mayGo(piece: number): boolean {
    const { outcomes } = this.form.pieces[piece]!;
    const { needs, meets, lasts } = this.form.design.pieces[piece]!;
    const isTurnedAway = outcomes.some((event) => this.form.events[event]!.turnedAway);
    const isLeft = needs !== undefined && (meets === 'arrives' || lasts !== undefined);
    return isLeft || (this.#hasGrace && isTurnedAway);
  }

  #offer(found: number[], kind: Edge['kind'], index: number, screen: number): void {
    const key = (index * kinds.length + kinds.indexOf(kind)) * this.form.screens.length + screen;
    let edges = this.#offered.get(key);
    if (edges === undefined) {
      edges = this.#edgesOf(kind, index, screen);
      this.#offered.set(key, edges);
    }
    for (const edge of edges) found.push(edge);
  }

  #edgesOf(kind: Edge['kind'], index: number, screen: number): number[] {
    const found: number[] = [];
    for (const silent of this.silences(screen, this.eventOf(kind, index))) {
      const key = `${kind} ${index} ${silent}`;
      let known = this.#edgeIndex.get(key);
      if (known === undefined) {
        if (this.#edges.length > mostEdges) {
          this.narrowedBy ??= 'there are too many different steps to try them all';
          return found;
        }
        known = this.#edges.length;
        this.#edges.push({ kind, index, silent, guesses: [] });
        this.#edgeIndex.set(key, known);
      }
      found.push(known);
    }
    return found;
  }

  /** The event that a step begins with, or -1. */
  eventOf(kind: Edge['kind'], index: number): number {
    const { timers } = this.form;
    if (kind === 'send') return index;
    if (kind !== 'timer') return -1;
    return index < timers.length ? timers[index]!.event : timers[index - timers.length]!.warnEvent;
  }

  /**
   * Every combination of rules that could stay silent after an event on a screen, none first: those that hear it there, and those
   * that what follows could set off, there or where a transition has led.
   */
  silences(screen: number, event: number): number[][] {
    const { form, cone } = this;
    const { rules } = form.design;
    const handler = form.screens[screen]!.handlers.get(event);
    const able = cone.uncertain.filter((rule) => {
      const { events } = rules[rule]!;
      const isFirst = handler?.rules.includes(rule) === true;
      return isFirst || events.length === 0 || events.some((each) => this.#follows(each));
    });
    if (able.length > mostSilenced) {
      this.narrowedBy ??= 'too many rules with a rest or a chance can fire at one event to try every case';
    }
    const sets: number[][] = [[]];
    for (const rule of able.slice(0, mostSilenced)) {
      for (const set of sets.slice()) sets.push([...set, rule]);
    }
    return sets;
  }

  /** Whether an event is one that something else sets off, so that it may happen more than once in one chain. */
  #follows(event: string): boolean {
    const { kind } = this.form.events[this.form.eventIndex.get(event)!]!;
    return kind === 'entered' || kind === 'own' || kind === 'appeared';
  }

  /** The piece that something which can happen in the state of the machine is about, or -1. */
  pieceOf({ kind, index }: Edge): number {
    if (kind === 'send') return this.form.events[index]!.piece;
    return kind === 'spawn' ? levelOf(this.form, this.machine.cells).spawns[index]!.piece : -1;
  }

  /** Whether two states are the same; without spawns, how many they made stays behind and does not count. */
  agree(found: Float64Array, expected: Float64Array, spawns: boolean): boolean {
    return found.every(
      (value, part) => (this.domain.madeCaps.has(part) && !spawns) || value === expected[part],
    );
  }

  /** Milliseconds of live time until neither grace nor the rest of a rule that should fire stands in an event's way. */
  obstacle(cells: Float64Array, event: number, silent: readonly number[]): number {
    const { form, cone } = this;
    const at = form.cells;
    const handler = form.screens[cells[at.screen]!]!.handlers.get(event);
    const awaited = cone.uncertain.filter(
      (rule) => form.rules[rule]!.restCell >= 0 && handler?.rules.includes(rule) && !silent.includes(rule),
    );
    const ends = awaited.map((rule) => cells[form.rules[rule]!.restCell]!);
    if (form.events[event]!.turnedAway) ends.push(cells[at.graceEnds]!);
    return Math.max(0, ...ends.map((end) => end - cells[at.live]!));
  }

  /** The draws that keep some rules silent and let all others fire; intervals come out shortest. */
  draws(draw: number, silent: readonly number[]): number {
    return silent.some((rule) => this.form.rules[rule]!.draw === draw) ? 2 ** 32 - 1 : 0;
  }

  #guess(part: number): number {
    const { settling, same } = this.loose;
    const compared = this.#compared[part]!();
    // What still waits to be heard is not seen here: without any of it, these cells are all that a step goes on from.
    if (!settling.has(part) || this.#hasEmitted) return this.guesses.make(part, compared);
    return this.guesses.make(part, compared, { same: same[part]!, state: this.#state });
  }

  /** Notes as well whether a step has made an event that is heard after it. */
  #noting(probe: Probe): Probe {
    const { form, cone } = this;
    const { rules, transitions } = footprintsOf(form);
    const emits = ({ pushes }: Footprint): boolean =>
      pushes.some(({ event }) => event.op !== 'constant' || cone.events.has(event.value));
    const emitting = rules.map(emits);
    const leading = form.transitions.map(
      ({ to }, index) =>
        emits(transitions[index]!) || (to >= 0 && cone.events.has(form.screens[to]!.enteredEvent)),
    );
    const putBack = form.transitions.map((transition) => startsAfter(form, transition));
    return {
      ...probe,
      rule: (rule) => {
        this.#hasEmitted ||= emitting[rule]!;
        this.guesses.changed();
        probe.rule(rule);
      },
      transition: (transition) => {
        this.#hasEmitted ||= leading[transition]!;
        this.guesses.goOn(putBack[transition]!);
        probe.transition(transition);
      },
    };
  }

  /** Lets one thing happen in the state that the machine is in, and says whether it did. */
  step({ kind, index, silent, guesses }: Edge): boolean {
    const { machine, form } = this;
    this.#silent = silent;
    this.guesses.plan(guesses);
    this.#hasEmitted = false;
    for (const rule of silent) {
      const { restCell } = form.rules[rule]!;
      if (restCell >= 0) machine.cells[restCell] = Number.POSITIVE_INFINITY;
    }
    if (kind === 'send') return machine.send(index) !== 'ignored';
    if (kind === 'timer') machine.fireTimer(index);
    else if (kind === 'spawn') machine.fireSpawn(index);
    else if (kind === 'settle') machine.settle();
    else machine.fireWait(index);
    return true;
  }

  /** The number of the edge that the last step took, with the guesses that it made. */
  withGuesses(edge: number): number {
    const { made, isTooMany } = this.guesses;
    if (isTooMany) this.narrowedBy ??= 'one event may set off too much of what is left out';
    if (made.length === 0) return edge;
    const variant = variantOf(this.#variants, edge, made);
    if (variant.edge >= 0) return variant.edge;
    if (this.#edges.length > mostEdges) {
      this.narrowedBy ??= 'there are too many different steps to try them all';
      return edge;
    }
    variant.edge = this.#edges.push({ ...this.edge(edge), guesses: made }) - 1;
    return variant.edge;
  }
}

/** What counters hold that a transition has put back, by counter. */
const startsAfter = ({ counters }: Form, { fresh }: TransitionForm): ReadonlyMap<number, number> =>
  new Map(
    counters.flatMap(({ keep, start, min, max }, counter) =>
      fresh >= keep &&
      start.op === 'constant' &&
      Number.isInteger(start.value) &&
      start.value >= min &&
      start.value <= max
        ? [[counter, start.value] as const]
        : [],
    ),
  );
