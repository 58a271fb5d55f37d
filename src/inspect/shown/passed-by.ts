import { comparisonsIn } from '../../design/language/expression-parts.js';
import type { Counter, Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { eventsIn } from '../../engine/record/record-line.js';
import { replay } from '../../engine/record/replay.js';
import { Session } from '../../engine/session/design-session.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import { inWords, type Witness } from '../../explore/evidence/witness.js';
import { outcomeEvents } from '../played-for.js';
import { addedBy, isInput } from '../uses.js';
import { isSupplied } from './repeated.js';

/** Events of a way past a number, values that are tried on it, and seconds that one of its events is waited for. */
const mostEvents = 100;
const mostValues = 2000;
const mostWaited = 10;

/** A session in which a counter passes a number without having been it. */
export interface PassedBy {
  readonly before: number;
  readonly after: number;
  readonly steps: readonly string[];
}

/** How much an event adds to a counter, where that is one number. */
interface Move {
  readonly event: string;
  readonly amount: number;
}

/**
 * Plays a session on from where a screen is entered, until a counter steps over a number.
 *
 * @param wanted gives the number on a level, from 1
 * @returns undefined where no such session was found, or the time allowed is over
 */
export function passedBy(
  design: Design,
  counter: Counter,
  screen: string,
  entered: Pick<Witness, 'record'>,
  wanted: (level: number) => number | undefined,
  isOver: () => boolean,
): PassedBy | undefined {
  const { record } = entered;
  try {
    const session =
      record === undefined
        ? new Session(design, { seed: 1, spawns: false, isOver })
        : replay(design, record, undefined, { isOver });
    const number = wanted(session.level);
    if (session.screen !== screen || number === undefined) return undefined;
    const from = Number(session.counters[counter.name]);
    const way = wayPast(movesOf(design, counter, screen), boundsOf(design, counter), from, number);
    if (way === undefined) return undefined;
    const events = eventsIn(session.recorded);
    let [before, value] = [from, from];
    for (const { event, amount } of way) {
      before = value;
      value = held(before + amount, boundsOf(design, counter));
      if (!isSupplied(design, event, session.present)) return undefined;
      // Grace or a rest may stand in its way at first.
      for (let waited = 0; waited < mostWaited && session.send(event) !== 'handled'; waited++)
        session.advance(1000);
      events.push({ at: session.time, event });
      if (session.counters[counter.name] !== value || session.screen !== screen) return undefined;
    }
    return { before, after: value, steps: inWords(events, session.time) };
  } catch (error) {
    // What ends in a fault is told as one.
    if (!(error instanceof DesignError)) throw error;
    return undefined;
  }
}

const held = (value: number, { min, max }: { readonly min: number; readonly max: number }): number =>
  Math.max(min, Math.min(max, value));

/** What meeting a piece, and pressing an input, adds to a counter on a screen. */
function movesOf(design: Design, { name }: Counter, screen: string): Move[] {
  const outcomes = outcomeEvents(design);
  const amounts = new Map<string, number>();
  for (const { events, screens, condition, effects } of design.rules) {
    if (!screens.includes(screen) || condition !== undefined) continue;
    for (const each of addedBy(effects)) {
      if (each.name !== name) continue;
      const [least, most] = rangeIn(design, each.amount);
      for (const event of events)
        if (outcomes.has(event) || isInput(event))
          amounts.set(event, least === most ? (amounts.get(event) ?? 0) + least : Number.NaN);
    }
  }
  return [...amounts].flatMap(([event, amount]) =>
    amount === 0 || Number.isNaN(amount) ? [] : [{ event, amount }],
  );
}

/** The fewest moves that lead past a number and never to it. */
function wayPast(
  moves: readonly Move[],
  bounds: { readonly min: number; readonly max: number },
  from: number,
  number: number,
): readonly Move[] | undefined {
  const isBelow = from < number;
  const ways = new Map<number, readonly Move[]>([[from, []]]);
  if (from === number) return undefined;
  for (const [value, way] of ways) {
    if (way.length >= mostEvents || ways.size > mostValues) return undefined;
    for (const move of moves) {
      const next = held(value + move.amount, bounds);
      if (next === number || ways.has(next)) continue;
      const longer = [...way, move];
      if (next > number === isBelow) return longer;
      ways.set(next, longer);
    }
  }
  return undefined;
}

/** Whether some condition asks whether a counter is past a number. */
export const asksPast = ({ transitions, rules }: Design, counter: string, isUp: boolean): boolean =>
  [...transitions, ...rules].some(({ condition }) =>
    comparisonsIn(condition, isUp ? ['>=', '>'] : ['<=', '<']).some(
      ({ left }) => left.kind === 'counter' && left.name === counter,
    ),
  );
