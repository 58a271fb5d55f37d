/**
 * Many machines on one simulation, through Redis.
 *
 * @module jocus/queue
 */

export { type QueueOptions, type QueuePool, queueWorkers } from './queue-pool.js';
export { type QueueWorkerOptions, workOn } from './queue-worker.js';
