import type { pool } from 'workerpool';
import type { Design } from '../design/model.js';
import { DesignError, type Problem, type UsageCode, UsageError } from '../design/problems/problem.js';
import type { TallyData } from '../measure/tally.js';
import { type Chunk, playChunk, type WorkerPool } from './worker-pool.js';

/** What comes back from a worker; errors of ours are told as data, since only their messages would come through. */
type Answer =
  | { readonly tallies: readonly TallyData[] }
  | { readonly problems: readonly Problem[]; readonly during: string | undefined }
  | { readonly usage: string; readonly code: UsageCode };

/** What a worker of the pool can do. */
export const methods = {
  play(design: Design, chunk: Chunk): Answer {
    try {
      return { tallies: playChunk(cached(design), chunk) };
    } catch (error) {
      if (error instanceof DesignError) return { problems: error.problems, during: error.during };
      if (error instanceof UsageError) return { usage: error.message, code: error.code };
      throw error;
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
      if ('usage' in answer) throw new UsageError(answer.code, answer.usage);
      throw new DesignError(answer.problems, answer.during);
    },
    async leave() {
      await workers.terminate();
    },
  };
}
