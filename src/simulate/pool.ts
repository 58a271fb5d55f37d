import type { pool } from 'workerpool';
import type { Design } from '../design/model.js';
import { errorOf, type Refusal, refusalOf } from '../design/problems/refusal.js';
import type { TallyData } from '../measure/tally.js';
import { type Chunk, playChunk, type WorkerPool } from './worker-pool.js';

/** What comes back from a worker. */
type Answer = { readonly tallies: readonly TallyData[] } | Refusal;

/** What a worker of the pool can do. */
export const methods = {
  play(design: Design, chunk: Chunk): Answer {
    try {
      return { tallies: playChunk(cached(design), chunk) };
    } catch (error) {
      return refusalOf(error);
    }
  },
};

let last: { readonly key: string; readonly design: Design } | undefined;

/** The design as it came first, so that it is lowered and written out once. */
function cached(design: Design): Design {
  const key = JSON.stringify([design.fingerprint, design.written]);
  if (last?.key !== key) last = { key, design };
  return last.design;
}

/** So many of a pool's workers, for simulations. */
export function workersOf(
  workers: ReturnType<typeof pool>,
  count: number,
): WorkerPool & { leave(): Promise<void> } {
  return {
    workers: count,
    async play(design, chunk) {
      const answer = (await workers.exec('play', [design, chunk])) as Answer;
      if ('tallies' in answer) return answer.tallies;
      throw errorOf(answer);
    },
    async leave() {
      await workers.terminate();
    },
  };
}
