import type { Probe } from '../engine/carrier.js';
import type { Form, LevelForm } from '../engine/form.js';
import { carrierOf } from '../engine/generate.js';
import { isOutside, Machine } from '../engine/machine.js';
import { type Cone, coneOf, isMadeByEffects } from './cone.js';

/** One thing that can happen, time left out: an outside event, or a clock that may be due at any moment. */
export interface Edge {
  readonly kind: 'send' | 'timer' | 'spawn' | 'wait';
  /** The event, the timer, the spawn of the level, or the wait in milliseconds. */
  readonly index: number;
  /** Rules of the cone that a rest or chance keeps silent this time. */
  readonly silent: readonly number[];
}

/** Rules that may stay silent which are tried in every combination at one event. */
const mostSilenced = 6;

/**
 * The design with time left out: any event that a real game could report may come next, and every clock may be due at any
 * moment. This allows at least all that the timed game allows: grace that turns a hit away is the hit not happening, and a
 * rest is tried both ways. The rules themselves are run by the engine.
 */
export class UntimedGame {
  readonly cone: Cone;
  readonly machine: Machine;
  readonly #cells: readonly number[];
  /** Which entries of a state are timers, of which only whether they run is kept. */
  readonly #firstTimer: number;
  /** Which entries count what spawns have made. */
  readonly #firstMade: number;
  readonly #edges: Edge[] = [];
  readonly #edgeIndex = new Map<string, number>();
  /** What every cell holds at the first start; cells outside the cone go back to it before each event. */
  readonly #start: Float64Array;
  /** Whether the design itself makes a piece appear, anywhere; if not, that is left to the game. */
  readonly #isMade: readonly boolean[];
  /** `[level][piece]`: whether the piece can be there. */
  readonly #canBePresent: readonly (readonly boolean[])[];
  readonly #hasGrace: boolean;
  /** Whether levels past the list are all the same to the cone. */
  readonly #isLevelCapped: boolean;
  #silent: readonly number[] = [];
  /** Why less than the game allows was tried; undefined where all of it was. */
  narrowedBy: string | undefined;

  constructor(
    readonly form: Form,
    probe: Probe,
    followsRules: boolean,
  ) {
    this.cone = coneOf(form, followsRules);
    this.machine = new Machine(form, {
      draws: (draw) => this.draws(draw, this.#silent),
      probe,
      makeCarrier: carrierOf(form, undefined, true),
    });
    const at = form.cells;
    const { cone } = this;
    const counted = [
      at.screen,
      at.level,
      at.waited,
      // Where a pause leads back to, and which waits were over there; how long it had lasted is left out with time.
      ...form.screens.flatMap(({ backCell }) => (backCell < 0 ? [] : [backCell, backCell + 2])),
      ...cone.counters.map((counter) => at.counters + counter),
      ...cone.once.map((rule) => form.rules[rule]!.onceCell),
      ...cone.memories.map((rule) => form.rules[rule]!.memoryCell),
      ...cone.pieces.map((piece) => at.present + piece),
      ...(cone.readsCourse ? Array.from({ length: at.courseLength + 2 }, (_, cell) => at.course + cell) : []),
    ];
    this.#firstMade = counted.length;
    const stateCells = [
      ...counted,
      ...(cone.countsMade
        ? Array.from({ length: at.spawnMade - at.spawnDue }, (_, slot) => at.spawnMade + slot)
        : []),
    ];
    this.#firstTimer = stateCells.length;
    this.#cells = [...stateCells, ...cone.timers.map((timer) => at.timers + timer)];
    this.#isMade = form.pieces.map(
      (_, piece) => isMadeByEffects(form, piece) || form.levels.some((level) => holds(level, piece)),
    );
    this.#canBePresent = form.levels.map((level) =>
      form.pieces.map(
        (_, piece) => !this.#isMade[piece] || isMadeByEffects(form, piece) || holds(level, piece),
      ),
    );
    this.#hasGrace = [...form.rules, ...form.transitions].some(
      (each) => each.effects.some((effect) => effect.op === 'grace') || ('grace' in each && each.grace > 0),
    );
    // Within one chain, a rule fires by chance each time or never here; the game may have it both ways.
    for (const index of cone.uncertain) {
      const { chance, events, name } = form.design.rules[index]!;
      if (chance < 1 && (events.length === 0 || events.some((event) => this.#follows(event)))) {
        this.narrowedBy ??= `the rule "${name}" may be asked for its chance several times in one chain`;
      }
    }
    // A hit that grace turns away is left out here, yet it leaves a piece of the course behind.
    if (cone.readsCourse && this.#hasGrace) this.narrowedBy ??= 'grace may let a player pass on a course';
    this.#isLevelCapped = form.endless && !this.cone.readsLevel;
    this.machine.begin();
    this.#start = this.machine.cells.slice();
  }

  get width(): number {
    return this.#cells.length;
  }

  edge(index: number): Edge {
    return this.#edges[index]!;
  }

  /** The state of the machine, as far as it counts. */
  read(into: Float64Array, cells: Float64Array = this.machine.cells): void {
    for (let index = 0; index < this.#cells.length; index++) {
      const value = cells[this.#cells[index]!]!;
      if (index === 1 && this.#isLevelCapped) into[index] = Math.min(value, this.form.levels.length - 1);
      else into[index] = index < this.#firstTimer ? value : value === Number.POSITIVE_INFINITY ? 0 : 1;
    }
  }

  /** Puts the machine into a state, all clocks running afresh, no rest and no grace under way. */
  write(state: Float64Array): void {
    const { cells } = this.machine;
    cells.set(this.#start);
    for (let index = 0; index < this.#cells.length; index++) {
      const value = state[index]!;
      cells[this.#cells[index]!] =
        index < this.#firstTimer ? value : value === 0 ? Number.POSITIVE_INFINITY : 1;
    }
    cells[this.form.cells.graceEnds] = 0;
    for (const { restCell } of this.form.rules) if (restCell >= 0) cells[restCell] = 0;
  }

  /** Everything that can happen in the state that the machine is in. */
  edges(): number[] {
    const { form, cone, machine } = this;
    const { cells } = machine;
    const at = form.cells;
    const screenIndex = cells[at.screen]!;
    const screen = form.screens[screenIndex]!;
    const level = Math.min(cells[at.level]!, form.levels.length - 1);
    const found: number[] = [];
    form.events.forEach(({ kind, piece, presence }, event) => {
      if (!isOutside(kind)) return;
      const tracked = piece >= 0 && cone.pieces.includes(piece);
      if (!screen.handlers.has(event) && !(tracked && screen.live)) return;
      if (!cone.events.has(event) && !tracked) return;
      if (kind !== 'input') {
        if (!screen.live || !this.#canBePresent[level]![piece]) return;
        if (tracked && presence <= 0 && cells[at.present + piece] === 0) return;
        // What the design makes appear does so by spawns, below, and effects; the rest is the game's to report.
        if (kind === 'appeared' && this.#isMade[piece]) return;
        if (kind === 'gone' && !this.#mayGo(piece) && !screen.handlers.has(event)) return;
      }
      this.#offer(found, 'send', event, screenIndex);
    });
    for (const timer of cone.timers) {
      if (!screen.timers.includes(timer) || cells[at.timers + timer] === Number.POSITIVE_INFINITY) continue;
      this.#offer(found, 'timer', timer, screenIndex);
      // A timer that runs may warn at any moment, as often as it likes: more than the game allows, never less.
      const { warnCell, warnEvent } = form.timers[timer]!;
      if (warnCell >= 0 && cone.events.has(warnEvent)) {
        this.#offer(found, 'timer', form.timers.length + timer, screenIndex);
      }
    }
    if (screen.live) {
      form.levels[level]!.spawns.forEach(({ piece, atOnce, total }, slot) => {
        const counts = cone.pieces.includes(piece) || cone.events.has(form.pieces[piece]!.appeared);
        if (!counts || cells[at.spawnMade + slot]! >= total || cells[at.present + piece]! >= atOnce) return;
        this.#offer(found, 'spawn', slot, screenIndex);
      });
    }
    const wait = screen.waits.find((each) => each > cells[at.waited]!);
    if (wait !== undefined) this.#offer(found, 'wait', wait, screenIndex);
    return found;
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
    for (const silent of this.#silences(screen)) {
      const key = `${kind} ${index} ${silent}`;
      let known = this.#edgeIndex.get(key);
      if (known === undefined) {
        known = this.#edges.length;
        this.#edges.push({ kind, index, silent });
        this.#edgeIndex.set(key, known);
      }
      found.push(known);
    }
  }

  /**
   * Every combination of rules that could stay silent after something on a screen, none first: the screen's own, and those
   * that what follows could set off once a transition has led elsewhere.
   */
  #silences(screen: number): number[][] {
    const { form, cone } = this;
    const { rules } = form.design;
    const name = form.screens[screen]!.name;
    const able = cone.uncertain.filter((rule) => {
      const { screens, events } = rules[rule]!;
      return screens.includes(name) || events.length === 0 || events.some((event) => this.#follows(event));
    });
    if (able.length > mostSilenced) {
      this.narrowedBy ??= 'too many rules with a rest or a chance can fire on one screen to try every case';
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

  /** Whether two states are the same; without spawns, how many they made stays behind and does not count. */
  agree(found: Float64Array, expected: Float64Array, spawns: boolean): boolean {
    return found.every((value, index) => {
      const isMade = index >= this.#firstMade && index < this.#firstTimer;
      return (isMade && !spawns) || value === expected[index];
    });
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

  /** Lets one thing happen in the state that the machine is in. */
  take({ kind, index, silent }: Edge): void {
    const { machine, form } = this;
    this.#silent = silent;
    for (const rule of silent) {
      const { restCell } = form.rules[rule]!;
      if (restCell >= 0) machine.cells[restCell] = Number.POSITIVE_INFINITY;
    }
    if (kind === 'send') machine.send(index);
    else if (kind === 'timer') machine.fireTimer(index);
    else if (kind === 'spawn') machine.fireSpawn(index);
    else machine.fireWait(index);
  }
}

/** Whether a level places or spawns a piece, or has it on its course. */
const holds = ({ placed, spawns, course }: LevelForm, piece: number): boolean =>
  placed[piece]! > 0 || course.includes(piece) || spawns.some((spawn) => spawn.piece === piece);
