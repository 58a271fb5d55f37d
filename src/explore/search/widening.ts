import type { Design } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { both, type Kept, keepsNothing, sizeOf } from '../abstraction/loosen.js';
import { isLarge } from './what-multiplies.js';

/** What a search answers, or what the next one has to follow as well. */
export type Reply<Answer> = { readonly answer: Answer } | { readonly more: Kept };

/** Searches of one kind that follow more and more, each made once and kept as far as it has gone. */
export class Widening<Search> {
  readonly #searches = new Map<string, Search>();

  constructor(
    private readonly design: Design,
    private readonly make: (kept: Kept) => Search,
    private readonly isOver: () => boolean,
  ) {}

  /** Asks one search after the other, each of which follows more, until one answers; undefined where none does. */
  answer<Answer>(ask: (search: Search) => Reply<Answer> | undefined): Answer | undefined {
    for (let kept = keepsNothing; !this.isOver(); ) {
      const reply = ask(this.#searchWith(kept));
      if (reply === undefined) return undefined;
      if ('answer' in reply) return reply.answer;
      const wider = both(kept, this.#fewOf(reply.more, kept));
      if (sizeOf(wider) === sizeOf(kept)) return undefined;
      kept = wider;
    }
    return undefined;
  }

  /** What is to be followed as well, first without counters that can hold very many values: it may do without. */
  #fewOf(more: Kept, kept: Kept): Kept {
    const few = {
      ...more,
      counters: new Set([...more.counters].filter((counter) => !isLarge(formOf(this.design), counter))),
    };
    return sizeOf(both(kept, few)) > sizeOf(kept) ? few : more;
  }

  #searchWith(kept: Kept): Search {
    const key = [kept.counters, kept.pieces].map((all) => [...all].sort((a, b) => a - b).join()).join(' ');
    const search = this.#searches.get(key) ?? this.make(kept);
    this.#searches.set(key, search);
    return search;
  }
}
