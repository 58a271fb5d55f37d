import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import { replay } from '../../engine/record/replay.js';
import { neverReported } from '../../explore/evidence/traps.js';
import type { Witness } from '../../explore/evidence/witness.js';
import { endingOf, outcomeEvents } from '../played-for.js';
import { isSupplied } from './repeated.js';

/** How many ways to play on are tried, and of how many events at the most. */
const mostWays = 3000;
const mostEvents = 40;

/**
 * Whether a session comes to an ending with whatever is met from there on, as a quiz does with every answer: each piece that can be met moves
 * the run on, and none leaves all as it was.
 */
export function endsAnyway(
  design: Design,
  { record }: Pick<Witness, 'record'>,
  isOver: () => boolean,
): boolean {
  if (record === undefined) return false;
  const never = neverReported(design);
  const outcomes = [...outcomeEvents(design)].filter((event) => !never.includes(event));
  /** States from where that is known. */
  const ending = new Set<string>();
  let ways = 0;
  const ends = (played: readonly string[], before: string): boolean => {
    if (ways++ > mostWays || played.length > mostEvents) return false;
    const session = replay(design, record, undefined, { isOver });
    for (const event of played) session.send(event);
    const { screen, counters, present } = session;
    if (endingOf(design, screen) !== undefined) return true;
    const here = JSON.stringify([screen, session.level, counters, present]);
    if (here === before) return false;
    if (ending.has(here)) return true;
    const next = outcomes.filter((event) => isSupplied(design, event, present));
    if (next.length === 0 || !next.every((event) => ends([...played, event], here))) return false;
    ending.add(here);
    return true;
  };
  try {
    return ends([], '');
  } catch (error) {
    // What ends in a fault is told as one.
    if (!(error instanceof DesignError)) throw error;
    return false;
  }
}
