import { wrap } from 'comlink';
import type { Reader } from './workers/reading.worker.js';

/** Reads designs in a worker; it is started before all else, since the page shows nothing without it. */
export const reader = wrap<Reader>(
  new Worker(new URL('./workers/reading.worker.ts', import.meta.url), { type: 'module' }),
);
