import type { Design } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import type { Sought } from '../evidence/claim.js';
import type { TimedStep } from '../evidence/passage.js';
import { doubtIn, overdrawn } from '../evidence/refine.js';
import { type Judgement, onlyWithoutTime, reached, unreachable, zonesFor } from '../evidence/verdict.js';
import { realise } from '../evidence/witness.js';
import type { Limits } from '../search/limits.js';
import { type Reply, Widening } from '../search/widening.js';
import { type Paces, type TimedOptions, TimedSearch } from './timed-search.js';

/** Zones that one search visits at the most that leaves things out. */
const mostZones = 5_000;

/** Asks searches that keep time, and else follow as little as a question needs, as those of a `Refiner` do without time. */
export class TimedRefiner {
  readonly #widening: Widening<TimedSearch>;

  constructor(
    private readonly design: Design,
    options: TimedOptions,
    private readonly limits: Limits,
  ) {
    this.#widening = new Widening(
      design,
      (kept) => new TimedSearch(design, { ...options, kept }),
      limits.isOver,
    );
  }

  /** @returns undefined where this tells nothing */
  on(sought: Sought): Judgement | undefined {
    return this.#answer<Judgement>(
      sought,
      (search) => unreachable(onlyWithoutTime, search),
      (search, path) => {
        const witness = realise(this.design, search.game, path, sought);
        if (witness === undefined) return doubtIn(search, path);
        return overdrawn(search, witness) ?? { answer: reached(witness) };
      },
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
      search.run(Math.min(mostStates, mostZones), isOver, [sought]);
      if (!search.cameTo(sought)) return search.isSure ? { answer: never(search) } : undefined;
      const path = search.pathTo(sought);
      return path && ask(search, path);
    });
  }
}

/** The pieces that a way is about although their number is not followed; undefined: none. */
function uncountedOn(search: TimedSearch, path: readonly TimedStep[]): Reply<never> | undefined {
  const { events, pieces: all } = search.game.form;
  const { uncounted } = search.game.loose;
  const pieces = new Set(
    path.flatMap(({ edge: { kind, index } }) => {
      const piece = kind === 'send' ? events[index]!.piece : -1;
      return all[piece] !== undefined && uncounted.has(piece) ? [piece] : [];
    }),
  );
  return pieces.size === 0 ? undefined : { more: { counters: new Set(), pieces } };
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
  let whole: TimedSearch | undefined;
  const refiner = new TimedRefiner(design, { paces }, limits);
  const searchWithout = (sought: Sought): TimedSearch | undefined => {
    whole ??= new TimedSearch(design, { paces });
    if (!whole.hasClocks) return undefined;
    whole.run(zonesFor(mostStates), isOver, [sought]);
    if (whole.cameTo(sought)) return undefined;
    return whole.isSure ? whole : refiner.outOfTime(sought);
  };
  const hasPaces = paces.some((each) => each > 0);
  return (transition) => {
    const search = hasPaces && !isOver() ? searchWithout({ transition }) : undefined;
    const { from } = formOf(design).transitions[transition]!;
    return search?.enters(from) ? search : undefined;
  };
}
