import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { recordOf, type SessionRecord } from '../../engine/record/record.js';
import { replay } from '../../engine/record/replay.js';
import type { Step } from '../../engine/run/step.js';
import { Session } from '../../engine/session/design-session.js';
import { isMade } from '../abstraction/cone.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import type { Claim } from './claim.js';
import {
  passUntil,
  type SentEvent,
  schedule,
  type TimedStep,
  type Timetable,
  type UntimedPath,
  wayfarer,
  witnessSeed,
} from './passage.js';

/** A session that shows that something can happen. */
export interface Witness {
  /** In the words of a test of the design, such as `['input.start', '12 x blossom.taken', 'wait 2']`. */
  readonly steps: readonly string[];
  /** Absent where the session ends in a fault. */
  readonly record: SessionRecord | undefined;
  /** Pieces that the design makes appear itself, and that the session has before they do: the game brings them. */
  readonly brings?: readonly string[];
}

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
  const ways = [false, true].flatMap((strays) =>
    game.cone.countsMade
      ? [
          { spawns: false, strays },
          { spawns: true, strays },
        ]
      : [{ spawns: false, strays }],
  );
  for (const { spawns, strays } of ways) {
    // Where something else happens on the way, such as another timer that ends first, it may come to the same all the same.
    if (strays && (found !== undefined || 'arrives' in claim)) break;
    const timetable = schedule(game, path, spawns, { strays });
    const witness = timetable === undefined ? undefined : confirm(design, timetable, spawns, claim);
    // What the design's own spawns lead to says more than what a game that brings pieces could.
    if (witness?.brings?.length === 0) return witness;
    // On a way that strays, nobody has looked whether what a game brings could be there.
    if (!strays) found ??= witness;
  }
  return found ?? ('arrives' in claim ? undefined : shownBySpawns(design, game, path, claim));
}

/** Plays the timetable in a session of its own, checks the claim at its last step, and replays the record. */
function confirm(
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
  const brought = new Set<string>();
  try {
    play(design, session, events, end, brought);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    const holds = 'fault' in claim && error.problems.some((each) => each.code === claim.fault);
    return holds ? { steps, record: undefined, brings: [...brought] } : undefined;
  }
  if ('fault' in claim) return undefined;
  const isShown =
    'level' in claim ? session.level === claim.level + 1 : last.some((step) => shows(design, claim, step));
  if (!isShown) return undefined;
  const record = recordOf(session);
  replay(design, record);
  return { steps, record, brings: [...brought] };
}

/**
 * Sends events to a session up to its end.
 *
 * @param brought gets the pieces that the design makes appear itself and that the session had before
 */
function play(
  design: Design,
  session: Session,
  events: readonly SentEvent[],
  end: number,
  brought: Set<string>,
): void {
  const form = formOf(design);
  const made = form.pieces.map((_, piece) => isMade(form, piece));
  for (const { at, event, beforeWaits = false } of events) {
    session.advanceTo(at, beforeWaits);
    const { piece, kind } = form.events[form.eventIndex.get(event)!]!;
    const name = form.pieces[piece]?.name;
    if (name !== undefined && made[piece] && (kind === 'appeared' || session.present[name] === 0))
      brought.add(name);
    session.sendAt(event, at, beforeWaits);
  }
  session.advanceTo(end);
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
  const brought = new Set<string>();
  play(design, session, events, end, brought);
  const record = recordOf(session);
  replay(design, record);
  return { steps: inWords(events, end), record, brings: [...brought] };
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

/** Clocks that fire while a piece is waited for, at the most. */
const mostFired = 1000;

/**
 * A session of a way with the design's own spawns, if they suffice: its events are sent in their order, each outcome once a piece of its kind is
 * there, and what the way claims is looked for at the end.
 */
export function shownBySpawns(
  design: Design,
  game: UntimedGame,
  path: UntimedPath | readonly TimedStep[],
  claim: Claim,
): Witness | undefined {
  const { form } = game;
  const way = wayfarer(game, true);
  const { machine } = way;
  machine.begin();
  try {
    for (const { edge } of path) {
      const { kind, index, silent } = edge;
      way.silence(silent);
      if (kind === 'timer' || kind === 'wait') {
        if (!passUntil(machine, kind, index)) return undefined;
        continue;
      }
      // Pieces come by themselves here, and what has settled has done so.
      if (kind === 'spawn' || kind === 'settle') continue;
      const { kind: what, piece } = form.events[index]!;
      if (what === 'appeared') continue;
      for (let fired = 0; piece >= 0 && machine.cells[form.cells.present + piece] === 0; fired++) {
        if (fired === mostFired || !machine.peek()) return undefined;
        machine.fire();
      }
      way.send(index);
    }
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    return undefined;
  }
  const witness = confirm(design, way.timetable, true, claim);
  return witness?.brings?.length === 0 ? witness : undefined;
}
