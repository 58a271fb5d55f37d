import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { QueueAnswer } from './job.js';

/** An answer as it goes through the queue: columns of mostly small numbers, which compress well. */
export interface PackedAnswer {
  /** Base64 of deflated JSON. */
  readonly packed: string;
  /** Why nothing was played, for the worker to say. */
  readonly refused: string | undefined;
}

/** Done on the thread that plays, so that the one that talks to the queue has little to do. */
export const packed = (answer: QueueAnswer): PackedAnswer => ({
  packed: deflateRawSync(JSON.stringify(answer), { level: 1 }).toString('base64'),
  refused: 'refused' in answer ? answer.refused : undefined,
});

export const unpacked = ({ packed }: PackedAnswer): QueueAnswer =>
  JSON.parse(inflateRawSync(Buffer.from(packed, 'base64')).toString()) as QueueAnswer;
