import type { SimulateFormat } from '../../outcome.js';

export interface SimulateCall {
  /** undefined: the usual number, or as many as the precision takes. */
  readonly sessions: number | undefined;
  /** undefined: the usual one, or that of the part that is gone on with. */
  readonly seed: number | undefined;
  readonly player: readonly string[] | undefined;
  readonly format: SimulateFormat;
  /** Whether sessions are worked out, and the turns that this may take for each player. */
  readonly exact: boolean;
  readonly turns: number | undefined;
  readonly world: string | undefined;
  /** The address of a queue whose workers play. */
  readonly queue: string | undefined;
  readonly workers: number | undefined;
  /** Half the width that intervals may have, 0 to 1. */
  readonly precision: number | undefined;
  readonly shard: Shard | undefined;
  /** Where to save what was played. */
  readonly out: string | undefined;
  /** A part to go on from. */
  readonly resume: string | undefined;
  /** How long it may play. */
  readonly seconds: number;
  readonly saveRuns: string | undefined;
  readonly saveSessions: string | undefined;
  readonly saveEvents: string | undefined;
}

export interface Shard {
  readonly shard: number;
  readonly shards: number;
}
