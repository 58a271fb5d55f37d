import { fileURLToPath } from 'node:url';
import workerpool from 'workerpool';
import { queueName } from './job.js';
import type { PackedAnswer } from './packed.js';
import { mostLost } from './queue-pool.js';
import { connect, queuePackages } from './redis.js';

export interface QueueWorkerOptions {
  /** The version of Jocus. */
  readonly version: string;
  /** Threads, and so chunks at once. */
  readonly threads: number;
  /** Modules of worlds that clients may ask for by name. */
  readonly worlds: ReadonlyMap<string, string>;
  /** Called after each chunk. */
  readonly onPlayed?: ((sessions: number) => void) | undefined;
  /** Called where a client asks for what this worker does not play. */
  readonly onRefused?: ((reason: string) => void) | undefined;
  /** The script of a thread; that of this package unless it is given. */
  readonly script?: URL | undefined;
}

/** Milliseconds without a sign of a worker after which its chunk is given to another. */
const lostAfter = 10_000;

/**
 * Works on a queue until it is left: plays one chunk after the other on each thread. May be killed at any moment.
 *
 * @throws UsageError where no Redis answers, or a package is missing
 */
export async function workOn(
  url: string,
  {
    version,
    threads,
    worlds,
    onPlayed,
    onRefused,
    script = new URL('./queue-thread.js', import.meta.url),
  }: QueueWorkerOptions,
): Promise<{ leave(): Promise<void> }> {
  const { Worker } = await queuePackages();
  const connection = await connect(url);
  // The thread of the queue must stay free to say that it is alive, so that chunks are played on others.
  const pool = workerpool.pool(fileURLToPath(script), { workerType: 'thread', maxWorkers: threads });
  const worker = new Worker(
    queueName,
    async (job) => {
      const answer = (await pool.exec('play', [job.data, version, [...worlds]])) as PackedAnswer;
      if (answer.refused !== undefined) onRefused?.(answer.refused);
      else onPlayed?.(job.data.sessions);
      return answer;
    },
    {
      connection,
      // One more than is played, so that no thread waits for the queue.
      concurrency: threads + 1,
      lockDuration: lostAfter,
      stalledInterval: lostAfter / 2,
      maxStalledCount: mostLost,
    },
  );
  worker.on('error', () => {});
  await worker.waitUntilReady();
  return {
    async leave() {
      await worker.close();
      await pool.terminate();
      connection.disconnect();
    },
  };
}
