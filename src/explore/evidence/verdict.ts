import type { Design } from '../../design/model.js';
import type { Place, Problem } from '../../design/problems/problem.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import type { Limits } from '../search/limits.js';
import type { Search } from '../search/search.js';
import type { States } from '../search/states.js';
import type { TimedSearch } from '../timed/timed-search.js';
import type { Sought } from './claim.js';
import { realise, type Witness } from './witness.js';

export type Verdict = 'reached' | 'unreachable' | 'undecided';

export const isDecided = ({ verdict }: { readonly verdict: Verdict }): boolean => verdict !== 'undecided';

/**
 * Every state that a game can be in, as far as it counts: nothing that can happen leads out of it. What a proof rests on, for a checker
 * that trusts neither the search nor the engine.
 */
export interface ClosedSet {
  readonly game: UntimedGame;
  readonly states: States;
}

/** A verdict with what it rests on. */
export interface Judgement {
  readonly verdict: Verdict;
  readonly assumes: Assumption;
  /**
   * The verdict on any order of events. It differs where the players are assumed: then some order of events comes to it (the witness
   * shows one), but none that they can keep.
   */
  readonly inAnyOrder: Verdict;
  /** For what some order of events reaches: a session, replayed by the engine, whose last moment shows it. */
  readonly witness: Witness | undefined;
  /** For the others: why. */
  readonly reason: string | undefined;
  /** For what is unreachable. */
  readonly closed: ClosedSet | undefined;
}

/** A chain without end, a number past 2^53 and the like, met on the way. */
export interface Fault {
  readonly problem: Problem;
  /** Undefined where no session was found that runs into it. */
  readonly witness: Witness | undefined;
}

export interface TransitionVerdict extends Judgement {
  readonly from: string;
  readonly to: string;
  /** Where it stands in the file's list, from 0. */
  readonly index: number;
  /** For an unreachable one that was ready to go: the earlier transition that goes first, or one of several that do. */
  readonly preemptedBy: number | undefined;
  /**
   * Pieces that the design makes appear itself and of which the witness has more than that, or sooner, where no session of simulated players
   * came to the transition either: it takes a game that brings them.
   */
  readonly brings: readonly string[];
  readonly place: Place;
}

/** The verdict on anything else of a design that may or may not happen. */
export interface PartVerdict extends Judgement {
  readonly kind: 'rule' | 'outcome' | 'timer' | 'screen' | 'level';
  /** As reports call it: an outcome by its event, such as `blossom.taken`. */
  readonly name: string;
  /** For a rule that never fires although its event and its condition come: the earlier rule, by index, that always goes first. */
  readonly shadowedBy: number | undefined;
  readonly place: Place;
}

/** What a verdict assumes, by its key, in words. */
export const assumptions = {
  'any order': 'any order of events that a real game could report, and any time between them',
  players: "one attention, the shortest pace of the design's players, and luck in all they try",
} as const;

type Assumption = keyof typeof assumptions;

const ofAnyOrder = (verdict: Verdict) => ({ verdict, assumes: 'any order', inAnyOrder: verdict }) as const;

export const unreachable = (reason: string, closed: ClosedSet): Judgement => ({
  ...ofAnyOrder('unreachable'),
  witness: undefined,
  reason,
  closed,
});

export const reached = (witness: Witness): Judgement => ({
  ...ofAnyOrder('reached'),
  witness,
  reason: undefined,
  closed: undefined,
});

const undecided = (reason: string): Judgement => ({
  ...ofAnyOrder('undecided'),
  witness: undefined,
  reason,
  closed: undefined,
});

/** Zones cost more than states: each is compared with others, and its bounds are kept tight. */
export const zonesFor = (mostStates: number): number => Math.min(20_000, 2 * mostStates);

/** Says why no state of a search comes to something. */
export type Why = (search: Search) => string;

/** How the reason of a verdict begins that is open because of a fault. */
export const faultFirst = 'some sessions end in a fault first';

/** Searches that follow less, with time left out and with it. */
export interface Refiners {
  readonly untimed: { on(sought: Sought, why: Why): Judgement | undefined };
  readonly timed: { readonly whole: TimedSearch; on(sought: Sought): Judgement | undefined };
}

/** Why something never happens to which there is a way when time is left out. */
export const onlyWithoutTime =
  'there is a way only when time is left out; when timers, waits and rests keep time, it never happens';

/** Judges what one search was asked for; where leaving time out says too much, timers keep time in a second search. */
export class Judge {
  /** Whether something was not found that visiting more states may find. */
  wantsMore = false;

  constructor(
    private readonly design: Design,
    readonly search: Search,
    private readonly limits: Limits,
    /** What real sessions end in before they could come to anything else. */
    private readonly faults: readonly Fault[],
    /** Asked where the search leaves something open. */
    private readonly refiners: Refiners,
    /** Asked before that for a session which happens to show it. */
    private readonly shown: (sought: Sought) => Witness | undefined,
  ) {}

  /** Why what no search found may still exist, where sessions end in a fault. */
  get #faulty(): string | undefined {
    const fault = this.faults.find(({ witness }) => witness !== undefined);
    return fault && `${faultFirst}: ${fault.problem.message.replace(/\.$/, '')}`;
  }

  /** Whether the time allowed is over. */
  get isOver(): () => boolean {
    return this.limits.isOver;
  }

  /** @param why called for what no state of the search comes to */
  on(sought: Sought, why: Why): Judgement {
    const { design, search } = this;
    const path = search.pathTo(sought);
    if (path === undefined) {
      const doubt = search.doubt() ?? this.#faulty;
      if (doubt === undefined) return unreachable(why(search), search);
      const refined = this.#refined(sought, why, doubt);
      this.wantsMore ||= !isDecided(refined);
      return refined;
    }
    if (this.limits.isOver())
      return undecided('the limit on time was reached before a session was found that shows it');
    const witness = realise(design, search.game, path, sought);
    return witness === undefined ? this.#withTime(sought, why) : reached(witness);
  }

  /** The verdict on something that there is a way to when time is left out, but that was not shown to be real. */
  #withTime(sought: Sought, why: Why): Judgement {
    const { design, limits } = this;
    const timed = this.refiners.timed.whole;
    timed.run(zonesFor(limits.mostStates), limits.isOver, [sought]);
    if (!timed.cameTo(sought) && timed.isSure && this.#faulty === undefined)
      return unreachable(onlyWithoutTime, timed);
    const path = timed.pathTo(sought);
    const witness = path && realise(design, timed.game, path, sought);
    return witness === undefined
      ? this.#refined(
          sought,
          why,
          'there is a way when time is left out, but no session was found that keeps time',
        )
      : reached(witness);
  }

  #refined(sought: Sought, why: Why, doubt: string): Judgement {
    const witness = this.shown(sought);
    if (witness !== undefined) return reached(witness);
    const refined = this.refiners.untimed.on(sought, why) ?? this.refiners.timed.on(sought);
    return refined === undefined || (refined.verdict === 'unreachable' && this.#faulty !== undefined)
      ? undecided(doubt)
      : refined;
  }
}
