import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { clockKinds } from '../../engine/program/clock-kinds.js';
import { levelOf } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { recordOf, type SessionRecord } from '../../engine/record/record.js';
import { replay } from '../../engine/record/replay.js';
import { backendOf } from '../../engine/run/backend.js';
import { type DrawSource, keyedDraws, sessionKey } from '../../engine/run/draw.js';
import { Machine } from '../../engine/run/machine.js';
import type { Step } from '../../engine/run/step.js';
import { Session } from '../../engine/session/design-session.js';
import { isMade } from '../abstraction/cone.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';
import type { Claim } from './claim.js';

/** A session that shows that something can happen. */
export interface Witness {
  /** In the words of a test of the design, such as `['input.start', '12 x blossom.taken', 'wait 2']`. */
  readonly steps: readonly string[];
  /** Absent where the session ends in a fault. */
  readonly record: SessionRecord | undefined;
  /** Pieces that the design makes appear itself, and that the session has before they do: the game brings them. */
  readonly brings?: readonly string[];
}

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

interface Timetable {
  readonly events: readonly SentEvent[];
  readonly end: number;
  /** Draws of rules that fire by chance, as the path needs them, by `asked name`. */
  readonly forced: ReadonlyMap<string, number>;
}

const witnessSeed = 1;

/**
 * Turns an untimed path into a session in whole milliseconds and lets the engine play it. Time passes only where the path
 * asks for it: until a timer or a wait is over, and out of a grace or a rest that would stand in the way.
 *
 * @returns undefined where no such session was found
 */
export function realise(
  design: Design,
  game: UntimedGame,
  path: UntimedPath | readonly TimedStep[],
  claim: Claim,
): Witness | undefined {
  let found: Witness | undefined;
  for (const spawns of game.cone.countsMade ? [false, true] : [false]) {
    const timetable = schedule(game, path, spawns);
    const witness = timetable === undefined ? undefined : confirm(design, timetable, spawns, claim);
    // What the design's own spawns lead to says more than what a game that brings pieces could.
    if (witness?.brings?.length === 0) return witness;
    found ??= witness;
  }
  return found;
}

/**
 * A machine that goes a way and notes the events that it sends. Rules fire by chance as the way needs them, which is noted; all other draws are
 * those of the witness's seed.
 */
export function wayfarer(game: UntimedGame, spawns: boolean) {
  const { form } = game;
  const keyed = keyedDraws(form, sessionKey(witnessSeed, 0));
  const chances = new Set(form.rules.map((rule) => rule.draw));
  const forced = new Map<string, number>();
  let silenced: readonly number[] = [];
  const draws: DrawSource = (draw, asked) => {
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

/** When each event of the path is to be sent; undefined where the states do not come out as the search said. */
function schedule(
  game: UntimedGame,
  path: UntimedPath | readonly TimedStep[],
  spawns: boolean,
): Timetable | undefined {
  const { form } = game;
  const way = wayfarer(game, spawns);
  const { machine } = way;
  const { cells } = machine;
  const found = new Float64Array(game.width);
  machine.begin();
  try {
    for (const step of path) {
      const { edge, state } = step;
      const { kind, index, silent } = edge;
      way.silence(silent);
      if ('pause' in step && step.pause > 0 && kind === 'send') way.advance(step.pause);
      if (kind === 'send') way.send(index);
      else if (kind === 'spawn' && !spawns) {
        way.send(form.pieces[levelOf(form, cells).spawns[index]!.piece]!.appeared);
      } else {
        if (!passUntil(machine, kind, index)) return undefined;
      }
      if (state !== undefined) {
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

/** Plays the timetable in a session of its own, checks the claim at its last step, and replays the record. */
export function confirm(
  design: Design,
  { events, end, forced }: Timetable,
  spawns: boolean,
  claim: Claim,
): Witness | undefined {
  const session = new Session(design, { seed: witnessSeed, spawns }, forced);
  // All that happens at the last moment: of several clocks due then, the one that is claimed need not be the last.
  const last: Step[] = [session.opening];
  session.listen((step) => {
    if (last[0]!.at !== step.at) last.length = 0;
    last.push(step);
  });
  const steps = inWords(events, end);
  let brings: readonly string[];
  try {
    brings = play(design, session, events, end);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    const holds = 'fault' in claim && error.problems.some((each) => each.code === claim.fault);
    return holds ? { steps, record: undefined } : undefined;
  }
  if ('fault' in claim) return undefined;
  const isShown =
    'level' in claim ? session.level === claim.level + 1 : last.some((step) => shows(design, claim, step));
  if (!isShown) return undefined;
  const record = recordOf(session);
  replay(design, record);
  return { steps, record, brings };
}

/** Sends events to a session up to its end, and gives the pieces that the design makes appear itself and that the session had before. */
function play(design: Design, session: Session, events: readonly SentEvent[], end: number): string[] {
  const form = formOf(design);
  const made = form.pieces.map((_, piece) => isMade(form, piece));
  const brings = new Set<string>();
  for (const { at, event, beforeWaits = false } of events) {
    session.advanceTo(at, beforeWaits);
    const { piece, kind } = form.events[form.eventIndex.get(event)!]!;
    const name = form.pieces[piece]?.name;
    if (name !== undefined && made[piece] && (kind === 'appeared' || session.present[name] === 0))
      brings.add(name);
    session.sendAt(event, at, beforeWaits);
  }
  session.advanceTo(end);
  return [...brings];
}

/** Whether a step of a session shows what is claimed. */
export function shows(
  design: Design,
  claim: Exclude<Claim, { readonly fault: string } | { readonly level: number }>,
  { transitions, rules, name, reception }: Step,
): boolean {
  if ('arrives' in claim) return true;
  if ('rule' in claim) return rules.includes(design.rules[claim.rule]!.name);
  if ('event' in claim) return name === formOf(design).events[claim.event]!.name && reception === 'handled';
  const { from, index } = design.transitions[claim.transition]!;
  return transitions.some((each) => each.from === from && each.index === index);
}

/** Plays events once more, no further than to a moment, as a witness of what is seen then. */
export function endedAt(
  design: Design,
  options: { readonly seed: number; readonly session: number; readonly spawns: boolean },
  events: readonly SentEvent[],
  end: number,
  forced: ReadonlyMap<string, number>,
): Witness {
  const session = new Session(design, options, forced);
  const brings = play(design, session, events, end);
  const record = recordOf(session);
  replay(design, record);
  return { steps: inWords(events, end), record, brings };
}

/** A timetable as the steps of a test, repeats counted. */
export function inWords(events: readonly SentEvent[], end: number): string[] {
  const words: string[] = [];
  let now = 0;
  let repeats = 0;
  const wait = (to: number): void => {
    if (to > now) words.push(`wait ${(to - now) / 1000}`);
    now = to;
  };
  events.forEach(({ at, event }, index) => {
    wait(at);
    repeats++;
    const next = events[index + 1];
    if (next?.event === event && next.at === at) return;
    words.push(repeats === 1 ? event : `${repeats} x ${event}`);
    repeats = 0;
  });
  wait(end);
  return words;
}
