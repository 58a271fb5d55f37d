import { DesignError } from '../../design/problems/problem.js';
import { clockKinds } from '../../engine/program/clock-kinds.js';
import { levelOf } from '../../engine/program/form.js';
import { backendOf } from '../../engine/run/backend.js';
import { type DrawSource, keyedDraws, sessionKey } from '../../engine/run/draw.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import { Machine } from '../../engine/run/machine.js';
import type { Guess } from '../abstraction/guesses.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';

/** A way through the untimed game: edges from the first start, each but the last with the state that it led to. */
export type UntimedPath = readonly { readonly edge: Edge; readonly state: Float64Array | undefined }[];

/** A step of such a way, with the milliseconds of live time that pass before it. */
export type TimedStep = UntimedPath[0] & { readonly pause: number };

/** An event and the moment at which it is sent. */
export interface SentEvent {
  readonly at: number;
  readonly event: string;
  readonly beforeWaits?: boolean;
}

/** When what is sent, and when that ends. */
export interface Timetable {
  readonly events: readonly SentEvent[];
  readonly end: number;
  /** Draws of rules that fire by chance, as the path needs them, by `asked name`. */
  readonly forced: ReadonlyMap<string, number>;
}

/** The seed of sessions that are made as witnesses. */
export const witnessSeed = 1;

/** Says whether a part of a condition that a search guesses holds. */
type Decide = (part: number, cells: Float64Array) => boolean;

/**
 * A machine that goes a way and notes the events that it sends. Rules fire by chance as the way needs them, which is noted; all other draws are
 * those of the witness's seed.
 */
export function wayfarer(game: UntimedGame, spawns: boolean, decide?: Decide) {
  const form = decide === undefined ? game.concrete : game.form;
  const keyed = keyedDraws(form, sessionKey(witnessSeed, 0));
  const chances = new Set(form.rules.map((rule) => rule.draw));
  const forced = new Map<string, number>();
  let silenced: readonly number[] = [];
  const draws: DrawSource = (draw, asked) => {
    if (decide !== undefined && draw >= game.loose.first)
      return decide(draw - game.loose.first, machine.cells) ? 1 : 0;
    if (!chances.has(draw)) return keyed(draw, asked);
    const value = game.draws(draw, silenced);
    forced.set(`${asked} ${form.draws[draw]!.name}`, value);
    return value;
  };
  const machine = new Machine(form, { draws, spawns, makeBackend: backendOf(form, undefined, false) });
  const { cells } = machine;
  const events: SentEvent[] = [];
  return {
    machine,
    events,
    /** Keeps some rules silent, of those that need not fire. */
    silence(rules: readonly number[]): void {
      silenced = rules;
    },
    advance(milliseconds: number): void {
      const to = cells[form.cells.now]! + milliseconds;
      while (machine.isDue(to)) machine.fire();
      machine.elapse(to);
    },
    /** Sends an event once neither grace nor a rest stands in its way. */
    send(event: number): void {
      this.advance(game.obstacle(cells, event, silenced));
      events.push({ at: cells[form.cells.now]!, event: form.events[event]!.name });
      machine.send(event);
    },
    get timetable(): Timetable {
      return { events, end: cells[form.cells.now]!, forced };
    },
  };
}

/**
 * Parts of conditions that a way takes to hold, or not to, though in the engine they are the other way round; by their numbers among what is
 * guessed, each once, in the order of the way. Past the first of them, the engine is taken on as if it were as guessed.
 */
export function wrongGuesses(game: UntimedGame, path: UntimedPath): number[] {
  const wrong = new Set<number>();
  let planned: readonly Guess[] = [];
  let terms: Evaluator | undefined;
  const decide = (part: number, cells: Float64Array): boolean => {
    if (terms === undefined) {
      terms = new Evaluator(game.concrete, cells.subarray(0, game.concrete.cells.size));
      for (const each of game.loose.guessed) terms.add(each);
    }
    const holds = terms.value(part) !== 0;
    const [next, ...others] = planned;
    if (next?.part !== part) return holds;
    planned = others;
    if (next.holds !== holds) wrong.add(part);
    return next.holds;
  };
  schedule(game, path, false, {
    decide,
    begins: ({ guesses }) => {
      planned = guesses;
    },
  });
  return [...wrong];
}

/** How a way is gone. */
interface Passage {
  readonly decide?: Decide;
  /** Told of each step before it is taken. */
  readonly begins?: (edge: Edge) => void;
  /** Whether it goes on where a state does not come out as the search said. */
  readonly strays?: boolean;
}

/** When each event of the path is to be sent; undefined where the states do not come out as the search said. */
export function schedule(
  game: UntimedGame,
  path: UntimedPath | readonly TimedStep[],
  spawns: boolean,
  { decide, begins, strays = false }: Passage = {},
): Timetable | undefined {
  const { form } = game;
  const way = wayfarer(game, spawns, decide);
  const { machine } = way;
  const { cells } = machine;
  const found = new Float64Array(game.width);
  machine.begin();
  try {
    for (const step of path) {
      const { edge, state } = step;
      const { kind, index, silent } = edge;
      way.silence(silent);
      begins?.(edge);
      if ('pause' in step && step.pause > 0 && kind === 'send') way.advance(step.pause);
      if (kind === 'send') way.send(index);
      else if (kind === 'settle') machine.settle();
      else if (kind === 'spawn' && !spawns) {
        way.send(form.pieces[levelOf(form, cells).spawns[index]!.piece]!.appeared);
      } else {
        if (!passUntil(machine, kind, index)) return undefined;
      }
      if (state !== undefined && !strays) {
        game.read(found, cells);
        if (!game.agree(found, state, spawns)) return undefined;
      }
    }
  } catch (error) {
    // A fault at the end may be what is claimed; the session that confirms it will tell.
    if (!(error instanceof DesignError)) throw error;
  }
  return way.timetable;
}

/**
 * Lets time pass until one clock has fired, and all that are due before it; those that come after it at the same moment are still
 * to come. False where it is not going to fire at the moment at which it is due now.
 */
export function passUntil(machine: Machine, kind: Edge['kind'], index: number): boolean {
  const { form, cells } = machine;
  const at = form.cells;
  const dueAt = (): number => {
    if (kind === 'wait') return cells[at.entered]! + index;
    if (kind === 'spawn') return cells[at.now]! + cells[at.spawnDue + index]! - cells[at.live]!;
    const { length } = form.timers;
    const { warnCell, clockCell } = form.timers[index % length]!;
    return cells[at.now]! + cells[index < length ? at.timers + index : warnCell]! - cells[clockCell]!;
  };
  const due = dueAt();
  if (!(due >= cells[at.now]!)) return false;
  while (machine.isDue(due) && due < Number.POSITIVE_INFINITY) {
    const isIt =
      machine.dueIndex === index && machine.dueKind === clockKinds[kind as keyof typeof clockKinds];
    machine.fire();
    if (isIt) return true;
  }
  return false;
}
