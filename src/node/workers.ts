/**
 * Worker threads of Node.js that simulate.
 *
 * @module jocus/node
 */

import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import workerpool from 'workerpool';
import { workersOf } from '../simulate/pool.js';
import type { WorkerPool } from '../simulate/worker-pool.js';

/** Workers that the machine has room for. */
export const usualWorkers = (): number => availableParallelism();

/**
 * Worker threads that simulate, the script of this package unless another is given; call `leave` when they are done.
 *
 * @example
 * const workers = nodeWorkers(4);
 * const simulation = await simulateWith(workers, design, { sessions: 100000, seed: 1 });
 * await workers.leave();
 */
export function nodeWorkers(
  workers: number = usualWorkers(),
  script: URL = new URL('../simulate/simulate-worker.js', import.meta.url),
): WorkerPool & { leave(): Promise<void> } {
  return workersOf(
    workerpool.pool(fileURLToPath(script), { workerType: 'thread', maxWorkers: workers }),
    workers,
  );
}
