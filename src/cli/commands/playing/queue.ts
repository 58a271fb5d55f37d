import { type QueuePool, queueWorkers } from '../../../node/queue/queue-pool.js';
import { shownAddress } from '../../../node/queue/redis.js';
import { plain, type Terminal } from '../../terminal.js';
import { version } from '../../version.js';

interface QueueWork {
  /** The name of a world that the workers know. */
  readonly world: string | undefined;
  /** Called now and then; what it throws ends the work. */
  readonly mustHold: () => void;
}

/** Milliseconds without any worker after which it is said. */
const saidAfter = 3000;

/** The workers of a queue, for whoever leaves them in the end. */
export async function queuePool(
  terminal: Terminal,
  url: string,
  { world, mustHold }: QueueWork,
): Promise<QueuePool & { word(): string }> {
  let workers = 0;
  const pool = await queueWorkers(url, {
    version,
    world,
    mustHold,
    onWorkers: (now) => {
      workers = now;
    },
  });
  const lonely = setTimeout(() => {
    if (workers > 0) return;
    const address = plain(shownAddress(url));
    terminal.err(
      `No worker is on the queue yet; start one, on any machine, with: jocus work --queue ${address}\n`,
    );
  }, saidAfter);
  return {
    ...pool,
    word: () => (workers === 1 ? '1 worker' : `${workers} workers`),
    async leave() {
      clearTimeout(lonely);
      await pool.leave();
    },
  };
}

/** Has something worked out by the workers of a queue. */
export async function onQueue<Result>(
  terminal: Terminal,
  url: string,
  call: QueueWork,
  work: (pool: QueuePool) => Promise<Result>,
): Promise<Result> {
  const pool = await queuePool(terminal, url, call);
  try {
    return await work(pool);
  } finally {
    await pool.leave();
  }
}
