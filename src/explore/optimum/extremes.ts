import type { Design } from '../../design/model.js';
import type { Form } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { fromCell } from '../../engine/program/value.js';
import { eventsIn } from '../../engine/record/record-line.js';
import { replay } from '../../engine/record/replay.js';
import { watchesNothing } from '../../engine/run/probe.js';
import { supplyEnds } from '../abstraction/cone.js';
import { UntimedGame } from '../abstraction/untimed-game.js';
import type { TransitionVerdict } from '../evidence/verdict.js';
import { realise, type Witness } from '../evidence/witness.js';
import type { Limits } from '../search/limits.js';
import { Search } from '../search/search.js';
import { type Paces, TimedSearch } from '../timed/timed-search.js';
import { canSum, SumSearch, sumGame } from './score-bounds.js';
import { SoonestSearch } from './soonest.js';

/** The lowest and the highest that a counter can be, time left out. */
export interface Extreme {
  readonly value: number;
  /** Undefined where no session was found that comes to it in real time: none comes further, but perhaps none as far. */
  readonly witness: Witness | undefined;
}

export interface ScoreRange {
  readonly counter: string;
  /** Undefined: it can grow, or fall, without end, or the search was cut before it found out. */
  readonly lowest: Extreme | undefined;
  readonly highest: Extreme | undefined;
  /** Whether some steps can be gone round and round, and the score is higher after each. */
  readonly growsForEver: boolean;
  /** Pieces of which this takes no more to be met than the levels have. */
  readonly supply: readonly string[];
}

/** States that are visited for it at the most: first a few, in which most scores turn out to grow for ever. */
const rounds = [2000, 100_000] as const;

/** What the score of a design can come to; undefined where it has none that is a number, or where that was not found out. */
export function scoreRange(design: Design, { mostStates, isOver }: Limits): ScoreRange | undefined {
  const index = design.counters.findIndex(({ name, kind }) => name === design.score && kind === 'number');
  if (index < 0 || isOver()) return undefined;
  const game = sumGame(formOf(design), index);
  if (canSum(game, index)) return rangeOfSums(design, game, index);
  const search = new Search(design, { exact: [index] });
  // Courses are followed by the machine itself, which takes its time; what reads a timer is not told without time.
  if (search.game.cone.readsCourse || search.game.cone.timerRead !== undefined) return undefined;
  for (const most of rounds) {
    search.run({ mostStates: Math.min(most, mostStates), isOver });
    if (search.isLate) return undefined;
    const range = rangeIn(design, search, index);
    if (range.growsForEver || !search.isCut) return range;
    if (most >= mostStates) break;
  }
  return undefined;
}

/** The range of a score that nothing but what adds to it reads. */
function rangeOfSums(design: Design, game: UntimedGame, index: number): ScoreRange | undefined {
  const counter = game.form.counters[index]!;
  const [lowest, highest] = ([-1, 1] as const).map((sign) => new SumSearch(game, index, sign).furthest());
  if (lowest === undefined && highest === undefined) return undefined;
  const extreme = (found: typeof lowest): Extreme | undefined => {
    if (found === undefined || found === 'endless') return undefined;
    const value = Number(fromCell(counter, found.value));
    const witness = found.path && realise(design, game, found.path, { arrives: true });
    const isShown =
      witness?.record !== undefined && replay(design, witness.record).counters[counter.name] === value;
    return { value, witness: isShown ? witness : undefined };
  };
  return {
    counter: counter.name,
    lowest: extreme(lowest),
    highest: extreme(highest),
    growsForEver: highest === 'endless',
    supply: supplyOf(game),
  };
}

function rangeIn(design: Design, search: Search, index: number): ScoreRange {
  const { states, game } = search;
  const { form } = game;
  const part = game.domain.parts.findIndex(({ cell }) => cell === form.cells.counters + index);
  const state = new Float64Array(game.width);
  let [lowest, highest] = [-1, -1];
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let row = 0; row < states.length; row++) {
    states.read(row, state);
    const value = state[part]!;
    if (value < least) [least, lowest] = [value, row];
    if (value > most) [most, highest] = [value, row];
  }
  const isWhole = search.doubt() === undefined;
  const extreme = (row: number, value: number): Extreme => ({
    value: Number(fromCell(form.counters[index]!, value)),
    witness: realise(design, game, search.pathToState(row), { arrives: true }),
  });
  const counter = design.score!;
  // What a min or a max holds is known even where the search was cut.
  const { min, max } = form.counters[index]!;
  return {
    counter,
    lowest: isWhole || least === min ? extreme(lowest, least) : undefined,
    highest: isWhole || most === max ? extreme(highest, most) : undefined,
    growsForEver: !isWhole && grows(search, part, highest, boundlessFrom(form, index)),
    supply: supplyOf(game),
  };
}

const supplyOf = ({ form, cone }: UntimedGame): string[] =>
  cone.pieces.filter((piece) => supplyEnds(form, piece)).map((piece) => form.pieces[piece]!.name);

/** From which value on no condition tells one value of a counter from a higher one; undefined where there is none. */
function boundlessFrom(form: Form, counter: number): number | undefined {
  const { domain, cone } = new UntimedGame(form, watchesNothing);
  // What nothing reads is told apart by nothing.
  if (!cone.counters.includes(counter)) return Number.NEGATIVE_INFINITY;
  const part = domain.parts.findIndex(({ cell }) => cell === form.cells.counters + counter);
  return domain.saturated.find((each) => each.part === part)?.from;
}

/**
 * Whether on the way to a state there was one alike in all but the score, which was lower, and past all that conditions ask of it: what led from
 * one to the other can be gone over again and again.
 */
function grows(search: Search, part: number, row: number, from: number | undefined): boolean {
  if (from === undefined) return false;
  const { states, game } = search;
  const last = new Float64Array(game.width);
  const before = new Float64Array(game.width);
  states.read(row, last);
  for (let at = states.parents[row]!; at >= 0; at = states.parents[at]!) {
    states.read(at, before);
    const isAlike = before.every((value, index) => index === part || value === last[index]);
    if (isAlike && before[part]! >= from && before[part]! < last[part]!) return true;
  }
  return false;
}

/** How soon an ending can come. */
export interface EndingReach {
  readonly screen: string;
  /** The fewest outside events after which it was found to come, and the session that shows it. */
  readonly events: number;
  readonly witness: Witness;
  /** Outside events before which no session comes to it; fewer than `events` where the search was cut before it found out more. */
  readonly leastEvents: number;
  /**
   * Milliseconds of play before which even the fastest of the design's players does not come to it; undefined: not found out. The
   * least where the zones of all clocks settle it, else what meeting pieces alone takes.
   */
  readonly leastTime: number | undefined;
}

/** Zones that are visited for the least times at the most. */
const mostZones = 1000;

/** For each ending that is reached, the way with the fewest events of those to it that were found. */
export function endingsOf(
  design: Design,
  flow: Search,
  transitions: readonly TransitionVerdict[],
  paces: Paces,
  isOver: () => boolean,
): EndingReach[] {
  const reached = design.screens.flatMap(({ name, ending }, screen) => {
    if (ending === undefined) return [];
    const ways = transitions.flatMap(({ to }, at) => (to === name ? [at] : []));
    const [best] = ways
      .flatMap((way) => transitions[way]!.witness ?? [])
      .map((witness) => ({ screen: name, witness, events: eventsOf(witness) }))
      .sort((a, b) => a.events - b.events);
    return best === undefined ? [] : [{ screen, ways, best }];
  });
  if (reached.length === 0) return [];
  const search = new TimedSearch(design, { paces, countsTime: true });
  const { cone } = search.game;
  const least =
    cone.timerRead === undefined
      ? search.leastTime(
          reached.map(({ ways }) => ways),
          mostZones,
          isOver,
        )
      : new Map<number, number>();
  const isTold = ({ ways }: { readonly ways: readonly number[] }): boolean =>
    ways.some((way) => least.has(way));
  const bounds =
    reached.every(isTold) || isOver() ? undefined : new SoonestSearch(formOf(design), paces).times();
  return reached.map(({ screen, ways, best }): EndingReach => {
    const times = ways.flatMap((way) => least.get(way) ?? []);
    // That it takes no time at all says nothing.
    const leastTime = (times.length === 0 ? bounds?.get(screen) : Math.min(...times)) || undefined;
    const leastEvents = Math.min(best.events, ...ways.map((way) => flow.leastEvents(way)));
    return { ...best, leastEvents, leastTime };
  });
}

const eventsOf = ({ record }: Witness): number => eventsIn(record?.lines ?? []).length;
