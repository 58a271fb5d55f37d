import workerpool from 'workerpool';
import { crewOf } from '../simulate/pool.js';
import type { Crew } from '../simulate/worker-pool.js';

/**
 * Web Workers that simulate; call `leave` when they are done.
 *
 * @param script the address of `jocus/simulate-worker`, as the page's bundler gives it
 * @param workers how many
 */
export const browserCrew = (script: string, workers: number): Crew & { leave(): Promise<void> } =>
  crewOf(
    workerpool.pool(script, { workerType: 'web', maxWorkers: workers, workerOpts: { type: 'module' } }),
    workers,
  );
