import type { Redis } from 'ioredis';
import { UsageError } from '../../design/problems/problem.js';

/** Milliseconds that Redis may take to answer at first. */
const patience = 5000;

/** The two packages that a queue takes, which nobody else needs. */
export async function queuePackages() {
  try {
    const [{ Queue, QueueEvents, Worker }, { Redis }] = await Promise.all([
      import('bullmq'),
      import('ioredis'),
    ]);
    return { Queue, QueueEvents, Worker, Redis };
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ERR_MODULE_NOT_FOUND') throw error;
    throw new UsageError(
      'no-workers',
      'A queue takes two more packages, bullmq and ioredis; install them beside jocus: npm install bullmq ioredis',
    );
  }
}

/**
 * Connects to Redis, and stays connected: where it restarts, commands wait until it is back.
 *
 * @throws UsageError where the address is none, or nothing answers there
 */
export async function connect(url: string): Promise<Redis> {
  mustBeAddress(url);
  const { Redis } = await queuePackages();
  await mustAnswer(
    new Redis(url, { lazyConnect: true, connectTimeout: patience, retryStrategy: () => null }),
    url,
  );
  const connected = new Redis(url, {
    maxRetriesPerRequest: null,
    retryStrategy: (times) => Math.min(200 * times, 2000),
  });
  // It reconnects by itself; without a listener, a lost connection would end the process.
  connected.on('error', () => {});
  return connected;
}

async function mustAnswer(probe: Redis, url: string): Promise<void> {
  let reason = 'no answer';
  probe.on('error', (error: NodeJS.ErrnoException) => {
    reason = error.code ?? error.message;
  });
  try {
    await probe.connect();
    await probe.ping();
  } catch (error) {
    const said = error instanceof Error && reason === 'no answer' ? error.message : reason;
    throw new UsageError(
      'no-workers',
      `No Redis answers at ${shownAddress(url)} (${said}); start one there, such as with redis-server, or give another address with --queue redis://host:6379.`,
    );
  } finally {
    probe.disconnect();
  }
}

function mustBeAddress(url: string): void {
  if (URL.canParse(url) && ['redis:', 'rediss:'].includes(new URL(url).protocol)) return;
  throw new UsageError(
    'bad-argument',
    `"${url}" is no address of a queue; give one such as redis://localhost:6379.`,
  );
}

/** The address without a password. */
export function shownAddress(url: string): string {
  const shown = new URL(url);
  if (shown.password !== '') shown.password = '***';
  return shown.href;
}
