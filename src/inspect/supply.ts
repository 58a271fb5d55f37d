import { comparisonsIn } from '../design/language/expression-parts.js';
import type { Design, Transition } from '../design/model.js';
import { rangeIn } from '../explore/abstraction/ranges.js';
import { madeBy, putsBack, type Uses } from './uses.js';

/** Too few of the one piece that raises a counter. */
export interface Shortage {
  readonly counter: string;
  readonly event: string;
  readonly piece: string;
  /** The most of it that any level has. */
  readonly count: number;
  /** Whether it could as well stay, as a place does that things are brought to. */
  readonly couldStay: boolean;
  /** Whether it stands on a course, which a fresh start of the level begins again. */
  readonly isOnCourse: boolean;
}

/** Why a transition that waits for a counter to rise may wait in vain: one piece raises it, and each of those does so once. */
export function shortageFor(design: Design, uses: Uses, { condition }: Transition): Shortage | undefined {
  for (const { left } of comparisonsIn(condition, ['>=', '>', '=='])) {
    const found = left.kind === 'counter' ? shortageOf(design, uses, left.name) : undefined;
    if (found !== undefined) return found;
  }
  return undefined;
}

function shortageOf(design: Design, { writes }: Uses, counter: string): Shortage | undefined {
  const own = writes.filter((write) => write.counter === counter);
  const raising = own.filter(({ kind, amount }) => kind === 'add' && rangeIn(design, amount)[1] > 0);
  const heard = raising.map(({ rule, place }) => {
    if (rule !== undefined) return rule.events;
    const way = design.transitions.find((each) => each.place === place);
    // Where a level begins afresh, its pieces are there again.
    const isOnLevel = way !== undefined && way.level === undefined && !putsBack(way, 'level');
    return isOnLevel ? way.events : [];
  });
  const [event, ...others] = new Set(heard.flat());
  const isAlone = heard.every((events) => events.length > 0) && others.length === 0;
  const isOtherwise = own.some(
    (write) => write.kind === 'set' || (write.rule === undefined && !raising.includes(write)),
  );
  if (event === undefined || !isAlone || isOtherwise) return undefined;
  const [name, outcome] = event.split('.') as [string, string];
  const piece = design.pieces.find((each) => each.name === name);
  const count = supplyOf(design, name);
  if (piece === undefined || !piece.ends.includes(outcome) || count === undefined) return undefined;
  const couldStay = !['collectible', 'hazard', 'foe'].includes(piece.role);
  const isOnCourse = design.levels.some(({ course }) => course.includes(name));
  return { counter, event, piece: name, count, couldStay, isOnCourse };
}

/** The most of a piece that a level places and spawns; undefined where there is no end of them. */
function supplyOf({ levels, rules, transitions }: Design, piece: string): number | undefined {
  const isMade = [...rules, ...transitions].some((each) => madeBy(each).includes(piece));
  const counts = levels.map(({ placed, spawns, course }) =>
    [
      ...placed.flatMap((each) => (each.piece === piece ? [each.count] : [])),
      ...spawns.flatMap((each) => (each.piece === piece ? [each.total] : [])),
      ...course.flatMap((each) => (each === piece ? [1] : [])),
    ].map((each) => (typeof each === 'number' ? each : Number.POSITIVE_INFINITY)),
  );
  const most = Math.max(...counts.map((each) => each.reduce((sum, count) => sum + count, 0)));
  return isMade || !Number.isFinite(most) ? undefined : most;
}
