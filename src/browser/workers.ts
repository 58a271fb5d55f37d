/**
 * Web workers that simulate.
 *
 * @module jocus/browser
 */

import workerpool from 'workerpool';
import { workersOf } from '../simulate/pool.js';
import type { WorkerPool } from '../simulate/worker-pool.js';

/**
 * Web Workers that simulate; call `leave` when they are done.
 *
 * @param script the address of `jocus/simulate-worker`, as the page's bundler gives it
 * @param workers how many
 */
export const browserWorkers = (script: string, workers: number): WorkerPool & { leave(): Promise<void> } =>
  workersOf(
    workerpool.pool(script, { workerType: 'web', maxWorkers: workers, workerOpts: { type: 'module' } }),
    workers,
  );
