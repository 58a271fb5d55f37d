import type { Value } from '../../design/model.js';

/** What a player that is a function receives when it has something to decide. */
export interface DecisionContext {
  readonly screen: string;
  readonly isLive: boolean;
  /** Milliseconds of session time. */
  readonly time: number;
  /** How many of its runs came to an ending. */
  readonly runsEnded: number;
  /** From 1. */
  readonly level: number;
  readonly counters: { readonly [name: string]: Value };
  /** Pieces that wait for the player and can be met, the one there longest first, with milliseconds until each is missed. */
  readonly waiting: readonly { readonly piece: string; readonly missedIn: number }[];
  /** Inputs that something hears, on a screen that is not live. */
  readonly inputs: readonly string[];
}

/**
 * What a player does: on a live screen the name of a piece that waits, on any other one of the inputs. Undefined: nothing, until
 * something happens.
 */
export type Decide = (situation: DecisionContext) => string | undefined;
