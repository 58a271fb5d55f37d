import type { Design } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import type { Sought } from '../evidence/claim.js';
import type { TimedStep } from '../evidence/passage.js';
import { countingAlso, doubtIn, leavesOut, shownBy } from '../evidence/refine.js';
import { type Judgement, onlyWithoutTime, unreachable, zonesFor } from '../evidence/verdict.js';
import type { Limits } from '../search/limits.js';
import { type Reply, Widening } from '../search/widening.js';
import { type Paces, type TimedOptions, TimedSearch } from './timed-search.js';

/** Zones that one search visits at the most that leaves things out. */
const mostZones = 5_000;

/** Asks searches that keep time, and else follow as little as a question needs, as those of a `Refiner` do without time. */
export class TimedRefiner {
  readonly #widening: Widening<TimedSearch>;
  #whole: TimedSearch | undefined;

  constructor(
    private readonly design: Design,
    private readonly options: TimedOptions,
    private readonly limits: Limits,
  ) {
    this.#widening = new Widening(
      design,
      (kept) => new TimedSearch(design, { ...options, kept }),
      limits.isOver,
    );
  }

  /** The search that leaves nothing out, made once and as far as it has gone. */
  get whole(): TimedSearch {
    this.#whole ??= new TimedSearch(this.design, this.options);
    return this.#whole;
  }

  /** @returns undefined where this tells nothing */
  on(sought: Sought): Judgement | undefined {
    return this.#answer<Judgement>(
      sought,
      (search) => unreachable(onlyWithoutTime, search),
      (search, path) => shownBy(this.design, search, path, sought),
    );
  }

  /** The search by which nothing comes to something in time; undefined where something may. */
  outOfTime(sought: Sought): TimedSearch | undefined {
    return this.#answer<TimedSearch>(
      sought,
      (search) => search,
      (search, path) => doubtIn(search, path) ?? uncountedOn(search, path),
    );
  }

  /**
   * @param never the answer where all was gone through and it never came up
   * @param ask asked of the way to it where it did
   */
  #answer<Answer>(
    sought: Sought,
    never: (search: TimedSearch) => Answer,
    ask: (search: TimedSearch, path: readonly TimedStep[]) => Reply<Answer> | undefined,
  ): Answer | undefined {
    const { mostStates, isOver } = this.limits;
    return this.#widening.answer<Answer>((search) => {
      const unasked = leavesOut(search, sought);
      if (unasked !== undefined) return unasked;
      search.run(Math.min(mostStates, mostZones), isOver, [sought]);
      if (!search.cameTo(sought)) return search.isSure ? { answer: never(search) } : undefined;
      const path = search.pathTo(sought);
      return path && ask(search, path);
    });
  }
}

/** The pieces that a way is about although their number is not followed; undefined: none. */
function uncountedOn({ game }: TimedSearch, path: readonly TimedStep[]): Reply<never> | undefined {
  const sent = path.flatMap(({ edge }) => (edge.kind === 'send' ? [game.pieceOf(edge)] : []));
  return countingAlso(sent.filter((piece) => game.loose.uncounted.has(piece)));
}

/**
 * Finds the search by which no player takes a transition in time, who meets one piece that is sought after another and never misses;
 * undefined where one may, or where that was not found out.
 */
export function playersClock(
  design: Design,
  paces: Paces,
  limits: Limits,
): (transition: number) => TimedSearch | undefined {
  const { mostStates, isOver } = limits;
  const refiner = new TimedRefiner(design, { paces }, limits);
  const hasPaces = paces.some((each) => each > 0);
  return (transition) => {
    if (!hasPaces || isOver() || !refiner.whole.hasClocks) return undefined;
    const { whole } = refiner;
    const sought = { transition };
    whole.run(zonesFor(mostStates), isOver, [sought]);
    if (whole.cameTo(sought)) return undefined;
    const search = whole.isSure ? whole : refiner.outOfTime(sought);
    return search?.enters(formOf(design).transitions[transition]!.from) ? search : undefined;
  };
}
