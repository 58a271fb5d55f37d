import { comparisonsIn } from '../../design/language/expression-parts.js';
import type { Design, Effect, Transition } from '../../design/model.js';
import { rangeIn } from '../../explore/abstraction/ranges.js';
import { addedBy, madeBy, writesOf } from '../uses.js';

/** Too few of the one piece that raises a counter. */
export interface Shortage {
  readonly counter: string;
  readonly event: string;
  readonly piece: string;
  /** The most of it that any level has. */
  readonly count: number;
  /** Whether it could as well stay, as a place does that things are brought to. */
  readonly couldStay: boolean;
}

/** Why a transition that waits for a counter to rise may wait in vain: one piece raises it, and each of those does so once. */
export function shortageFor(design: Design, { condition }: Transition): Shortage | undefined {
  for (const { left } of comparisonsIn(condition, ['>=', '>', '=='])) {
    const found = left.kind === 'counter' ? shortageOf(design, left.name) : undefined;
    if (found !== undefined) return found;
  }
  return undefined;
}

function shortageOf(design: Design, counter: string): Shortage | undefined {
  const { rules, transitions, pieces } = design;
  const writes = (effects: readonly Effect[]): boolean =>
    effects.some((effect) => writesOf(effect).some(({ name }) => name === counter));
  const raising = rules.filter(({ effects }) =>
    addedBy(effects).some(({ name, amount }) => name === counter && rangeIn(design, amount)[1] > 0),
  );
  const isSet = [...rules, ...transitions].some(({ effects }) =>
    effects.some((effect) => effect.kind === 'set' && writes([effect])),
  );
  const [event, ...others] = new Set(raising.flatMap(({ events }) => events));
  const isAlone = raising.every(({ events }) => events.length > 0) && others.length === 0;
  if (event === undefined || !isAlone || isSet || transitions.some(({ effects }) => writes(effects)))
    return undefined;
  const [name, outcome] = event.split('.') as [string, string];
  const piece = pieces.find((each) => each.name === name);
  const count = supplyOf(design, name);
  if (piece === undefined || !piece.ends.includes(outcome) || count === undefined) return undefined;
  const couldStay = !['collectible', 'hazard', 'foe'].includes(piece.role);
  return { counter, event, piece: name, count, couldStay };
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
