import type { Design } from '../../design/model.js';
import { type Kept, readBy, readByRule } from '../abstraction/loosen.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import type { Limits } from '../search/limits.js';
import { fewThereCanBe, Search } from '../search/search.js';
import { isLarge } from '../search/what-multiplies.js';
import { type Reply, Widening } from '../search/widening.js';
import type { Sought } from './claim.js';
import { type TimedStep, type UntimedPath, wrongGuesses } from './passage.js';
import { type Fault, type Judgement, reached, unreachable } from './verdict.js';
import { realise, type Witness } from './witness.js';

/** States that one search visits at the most that leaves things out; and where it has to go through all of them to tell anything. */
const mostVisited = 100_000;
const mostInAll = 50_000;

/** The same where there can only be so many that it is likely to come to its end. */
const mostOfFew = 400_000;

/**
 * Asks searches that follow as little as a question needs: first none of what conditions alone read, which a game may then have either way.
 * What such a search comes to is played by the engine; where the engine has a condition the other way round, the next search follows what that
 * one reads (counterexample-guided abstraction refinement; Clarke, Grumberg, Jha, Lu and Veith 2000).
 */
export class Refiner {
  readonly #widening: Widening<Search>;
  readonly #known = new Map<string, Judgement | undefined>();

  constructor(
    private readonly design: Design,
    followsAll: boolean,
    private readonly limits: Limits,
  ) {
    this.#widening = new Widening(design, (kept) => new Search(design, { followsAll, kept }), limits.isOver);
  }

  /**
   * @param why called for what no state of the search comes to
   * @returns undefined where this tells nothing
   */
  on(sought: Sought, why: (search: Search) => string): Judgement | undefined {
    const key = JSON.stringify(sought);
    if (!this.#known.has(key)) this.#known.set(key, this.#ask(sought, why));
    return this.#known.get(key);
  }

  #ask(sought: Sought, why: (search: Search) => string): Judgement | undefined {
    const { design } = this;
    return this.#widening.answer<Judgement>((search) => {
      const unasked = leavesOut(search, sought);
      if (unasked !== undefined) return unasked;
      this.#run(search, sought);
      const path = search.pathTo(sought);
      if (path === undefined) return whole(search, () => ({ answer: unreachable(why(search), search) }));
      return shownBy(design, search, path, sought);
    });
  }

  /** The same for what has to be known of every state: only searches are asked that went through all of theirs, and met no fault. */
  answerWhole<Answer>(ask: (search: Search) => Reply<Answer> | undefined): Answer | undefined {
    return this.#widening.answer<Answer>((search) => {
      this.#run(search);
      return whole(search, () => turnedIn(search) ?? ask(search));
    });
  }

  /** Sessions that end in a fault, or none where no session does; undefined where that was not found out. */
  faults(): readonly Fault[] | undefined {
    return this.#widening.answer<readonly Fault[]>((search) => {
      this.#run(search);
      for (const { problem, path } of search.faults) {
        const witness = realise(this.design, search.game, path, { fault: problem.code });
        if (witness !== undefined) return overdrawn(search, witness) ?? { answer: [{ problem, witness }] };
      }
      return whole(search, () => turnedIn(search) ?? { answer: [] });
    });
  }

  #run(search: Search, sought?: Sought): void {
    const { mostStates, isOver } = this.limits;
    const isFew = search.states.packing.combinations <= fewThereCanBe;
    const most = Math.min(mostStates, isFew ? mostOfFew : sought === undefined ? mostInAll : mostVisited);
    search.run({ mostStates: most, isOver }, undefined, sought);
  }
}

/** A search, timed or not, by the game that it goes through. */
interface SearchOf {
  readonly game: UntimedGame;
}

/** What a search tells that went through all its states, if none of them ends in a fault: where one does, the next follows what its way takes for granted. */
function whole<Answer>(search: Search, tell: () => Reply<Answer> | undefined): Reply<Answer> | undefined {
  if (search.doubt() !== undefined) return undefined;
  const [fault] = search.faults;
  return fault === undefined ? tell() : doubtIn(search, fault.path);
}

/** What the next search has to follow, where one leaves out a rule that is sought. */
export const leavesOut = ({ game }: SearchOf, sought: Sought): { readonly more: Kept } | undefined =>
  'rule' in sought && !game.cone.rules.includes(sought.rule)
    ? { more: readByRule(game.loose, sought.rule) }
    : undefined;

/** What the next search has to follow, where a step of one could have gone in a circle, which may be a fault. */
function turnedIn({ game }: SearchOf): { readonly more: Kept } | undefined {
  const { turned } = game.guesses;
  return turned.size === 0 ? undefined : { more: readBy(game.loose, turned) };
}

/** The verdict that a way shows once the engine has gone it, or what the next search has to follow since the engine cannot. */
export function shownBy(
  design: Design,
  search: SearchOf,
  path: UntimedPath | readonly TimedStep[],
  sought: Sought,
): Reply<Judgement> | undefined {
  const witness = realise(design, search.game, path, sought);
  if (witness === undefined) return doubtIn(search, path);
  return overdrawn(search, witness) ?? { answer: reached(witness) };
}

/** What a guess of a way reads that the engine has otherwise, of several one that reads few values; undefined where there is none. */
export function doubtIn({ game }: SearchOf, path: UntimedPath): { readonly more: Kept } | undefined {
  const reads = wrongGuesses(game, path).map((guess) => readBy(game.loose, [guess]));
  const few = reads.find(({ counters }) => [...counters].every((counter) => !isLarge(game.form, counter)));
  const more = few ?? reads[0];
  return more && { more };
}

/** The pieces that a session has more of than there are, since the search that it comes from did not count them; undefined: none. */
export function overdrawn({ game }: SearchOf, { brings = [] }: Witness): { readonly more: Kept } | undefined {
  const { form, loose } = game;
  return countingAlso([...loose.uncounted].filter((piece) => brings.includes(form.pieces[piece]!.name)));
}

/** Asks that the next search counts some pieces as well; undefined: there are none. */
export const countingAlso = (pieces: readonly number[]): { readonly more: Kept } | undefined =>
  pieces.length === 0 ? undefined : { more: { counters: new Set(), pieces: new Set(pieces) } };
