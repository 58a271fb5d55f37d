import type { Design } from '../../design/model.js';
import { both, type Kept, keepsNothing, readBy } from '../abstraction/loosen.js';
import type { Limits } from '../search/limits.js';
import { Search } from '../search/search.js';
import type { Sought } from './claim.js';
import { type UntimedPath, wrongGuess } from './passage.js';
import { type Fault, type Judgement, reached, unreachable } from './verdict.js';
import { realise, type Witness } from './witness.js';

/** States that one search visits at the most that leaves things out. */
const mostVisited = 100_000;

/**
 * Asks searches that follow as little as a question needs: first none of what conditions alone read, which a game may then have either way.
 * What such a search comes to is played by the engine; where the engine has a condition the other way round, the next search follows what that
 * one reads (counterexample-guided abstraction refinement; Clarke, Grumberg, Jha, Lu and Veith 2000).
 */
export class Refiner {
  readonly #searches = new Map<string, Search>();
  readonly #known = new Map<string, Judgement | undefined>();

  constructor(
    private readonly design: Design,
    private readonly followsAll: boolean,
    private readonly limits: Limits,
  ) {}

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
    return this.answer<Judgement>((search) => {
      this.#run(search, sought);
      const path = search.pathTo(sought);
      if (path === undefined)
        return isSure(search) ? { answer: unreachable(why(search), search) } : undefined;
      const witness = realise(design, search.game, path, sought);
      if (witness === undefined) return doubtIn(search, path);
      return this.overdrawn(search, witness) ?? { answer: reached(witness) };
    });
  }

  /** Asks one search after the other, each of which follows more, until one answers; undefined where none does. */
  answer<Answer>(ask: (search: Search) => Reply<Answer> | undefined): Answer | undefined {
    for (let kept = keepsNothing; !this.limits.isOver(); ) {
      const search = this.#searchWith(kept);
      const reply = ask(search);
      if (reply === undefined) return undefined;
      if ('answer' in reply) return reply.answer;
      const wider = both(kept, reply.more);
      if (wider.counters.size + wider.pieces.size === kept.counters.size + kept.pieces.size) return undefined;
      kept = wider;
    }
    return undefined;
  }

  /** The same for what has to be known of every state: only searches are asked that went through all of theirs, and met no fault. */
  answerWhole<Answer>(ask: (search: Search) => Reply<Answer> | undefined): Answer | undefined {
    return this.answer<Answer>((search) => {
      this.#run(search);
      if (search.doubt() !== undefined) return undefined;
      const [fault] = search.faults;
      return fault === undefined ? ask(search) : doubtIn(search, fault.path);
    });
  }

  /** Sessions that end in a fault, or none where no session does; undefined where that was not found out. */
  faults(): readonly Fault[] | undefined {
    return this.answer<readonly Fault[]>((search) => {
      this.#run(search);
      for (const { problem, path } of search.faults) {
        const witness = realise(this.design, search.game, path, { fault: problem.code });
        if (witness !== undefined)
          return this.overdrawn(search, witness) ?? { answer: [{ problem, witness }] };
      }
      if (search.doubt() !== undefined) return undefined;
      const [fault] = search.faults;
      return fault === undefined ? { answer: [] } : doubtIn(search, fault.path);
    });
  }

  /** The pieces that a session has more of than there are, since the search that it comes from did not count them; undefined: none. */
  overdrawn({ game }: Search, { brings = [] }: Witness): { readonly more: Kept } | undefined {
    const { form, loose } = game;
    const pieces = [...loose.uncounted].filter((piece) => brings.includes(form.pieces[piece]!.name));
    return pieces.length === 0 ? undefined : { more: { counters: new Set(), pieces: new Set(pieces) } };
  }

  #run(search: Search, sought?: Sought): void {
    const { mostStates, isOver } = this.limits;
    search.run({ mostStates: Math.min(mostStates, mostVisited), isOver }, undefined, sought);
  }

  /** The one search that keeps just so much, as far as it has gone. */
  #searchWith(kept: Kept): Search {
    const key = [kept.counters, kept.pieces].map((all) => [...all].sort((a, b) => a - b).join()).join(' ');
    const { design, followsAll } = this;
    const search = this.#searches.get(key) ?? new Search(design, { followsAll, kept });
    this.#searches.set(key, search);
    return search;
  }
}

/** What a search answers, or what the next one has to follow as well. */
type Reply<Answer> = { readonly answer: Answer } | { readonly more: Kept };

/** What the first guess of a way reads that the engine has otherwise; undefined where there is none. */
export function doubtIn({ game }: Search, path: UntimedPath): { readonly more: Kept } | undefined {
  const wrong = wrongGuess(game, path);
  return wrong === undefined ? undefined : { more: readBy(game.loose, [wrong]) };
}

/** Whether what such a search did not find is nowhere: it went through all its states, and none of them ends in a fault. */
const isSure = (search: Search): boolean => search.doubt() === undefined && search.faults.length === 0;
