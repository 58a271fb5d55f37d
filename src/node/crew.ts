import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import workerpool from 'workerpool';
import { crewOf } from '../simulate/pool.js';
import type { Crew } from '../simulate/worker-pool.js';

/** Workers that the machine has room for. */
export const usualWorkers = (): number => availableParallelism();

/**
 * Worker threads that simulate, the script of this package unless another is given; call `leave` when they are done.
 *
 * @example
 * const crew = nodeCrew(4);
 * const simulation = await simulateWith(crew, design, { sessions: 100000, seed: 1 });
 * await crew.leave();
 */
export function nodeCrew(
  workers: number = usualWorkers(),
  script: URL = new URL('../simulate/simulate-worker.js', import.meta.url),
): Crew & { leave(): Promise<void> } {
  return crewOf(
    workerpool.pool(fileURLToPath(script), { workerType: 'thread', maxWorkers: workers }),
    workers,
  );
}
