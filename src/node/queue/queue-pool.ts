import { randomUUID } from 'node:crypto';
import type { Job, Queue, QueueEvents } from 'bullmq';
import type { Played, PlayRequest } from '../../balance/plays.js';
import { joinedObservation, type PlayedData } from '../../balance/statistics/observation-data.js';
import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import { errorOf } from '../../design/problems/refusal.js';
import { choosePlayers } from '../../simulate/simulate.js';
import { type Chunk, playChunk, type WorkerPool } from '../../simulate/worker-pool.js';
import { type QueueAnswer, type QueueJob, queueName } from './job.js';
import { type PackedAnswer, unpacked } from './packed.js';
import { connect, queuePackages } from './redis.js';

export interface QueueOptions {
  /** The version of Jocus, which workers must share. */
  readonly version: string;
  /** What is played in: a world that the workers know by this name. */
  readonly world?: string | undefined;
  /** Whether the work is to end; asked now and then while it waits. */
  readonly mustHold?: (() => void) | undefined;
  /** Called when workers come or go. */
  readonly onWorkers?: ((workers: number) => void) | undefined;
}

/** Chunks that are in the queue at once, so that many machines have something to do. */
const underWay = 256;
/** Sessions of one chunk of a request. */
const sessionsOfChunk = 1000;
/** Milliseconds after which it is looked whether a job is still there, and who works. */
const lookEvery = 2000;
/** How often a job is played again, at the most, where whoever plays it ends before it is done. */
export const mostLost = 25;
/** Seconds for which an answer that nobody has taken is kept. */
const keptFor = 3600;

/** Sessions played by whoever works on a queue, on any machine. */
export interface QueuePool extends WorkerPool {
  /** Plays what a comparison or a search asks for, in chunks. */
  observe(request: PlayRequest): Promise<Played>;
  leave(): Promise<void>;
}

/**
 * Workers of a queue on Redis: what they play is the same to the last digit as on one machine. A chunk whose worker ends is played
 * again by another, and counts once. Needs the packages bullmq and ioredis.
 *
 * @throws UsageError where no Redis answers, or a package is missing
 */
export async function queueWorkers(url: string, options: QueueOptions): Promise<QueuePool> {
  const { Queue, QueueEvents } = await queuePackages();
  const connections = [await connect(url), await connect(url)] as const;
  const queue = new Queue(queueName, { connection: connections[0] });
  const events = new QueueEvents(queueName, { connection: connections[1] });
  // Each chunk that is waited for listens to both.
  queue.setMaxListeners(0);
  events.setMaxListeners(0);
  queue.on('error', () => {});
  events.on('error', () => {});
  await events.waitUntilReady();
  const asking = new Asking(queue, events, options);
  return {
    workers: underWay,
    chunk: sessionsOfChunk,
    play: async (design, chunk) => (await asking.ask(design, chunk, undefined)).tallies,
    observe: (request) => observeOn(asking, request),
    async leave() {
      await asking.leave();
      await Promise.allSettled([queue.close(), events.close()]);
      for (const connection of connections) connection.disconnect();
    },
  };
}

async function observeOn(
  asking: Asking,
  { design, seed, sessions, players, quantities }: PlayRequest,
): Promise<Played> {
  const names = choosePlayers(design, players).map(({ player }) => player.name);
  const size = Math.min(sessionsOfChunk, Math.max(50, Math.ceil(sessions / 4)));
  const firsts = Array.from({ length: Math.ceil(sessions / size) }, (_, chunk) => chunk * size);
  const asked = quantities?.map(({ name }) => name);
  const parts = await Promise.all(
    firsts.map((first) =>
      asking.ask(design, { seed, first, sessions: Math.min(size, sessions - first), players: names }, asked),
    ),
  );
  return joinedObservation(design, { seed, sessions, players: names }, parts);
}

/** What one client has in the queue. */
class Asking {
  readonly #run = randomUUID();
  #asked = 0;
  #isLeft = false;
  #workers = 0;
  readonly #waiting = new Set<string>();
  readonly #watch: NodeJS.Timeout;

  constructor(
    private readonly queue: Queue,
    private readonly events: QueueEvents,
    private readonly options: QueueOptions,
  ) {
    this.#watch = setInterval(() => void this.#countWorkers(), lookEvery);
    void this.#countWorkers();
  }

  async #countWorkers(): Promise<void> {
    try {
      const workers = await this.queue.getWorkersCount();
      if (workers !== this.#workers) this.options.onWorkers?.(workers);
      this.#workers = workers;
    } catch {
      // Redis is away for a moment.
    }
  }

  /**
   * Has a chunk played.
   *
   * @param quantities names of those of which it is kept what each session adds to them
   */
  async ask(design: Design, chunk: Chunk, quantities: readonly string[] | undefined): Promise<PlayedData> {
    const data = this.#jobOf(design, chunk, quantities);
    const id = `${this.#run}-${this.#asked++}`;
    this.#waiting.add(id);
    try {
      const answer = await this.#answerTo(id, data);
      if ('refused' in answer)
        throw new UsageError(
          'no-workers',
          `A worker of the queue cannot play this design: ${answer.refused}.`,
        );
      if ('tallies' in answer) return answer;
      // The worker has read the design as plain data; played here, the fault has its place in the file.
      if ('problems' in answer && this.options.world === undefined) playChunk(design, chunk);
      throw errorOf(answer);
    } finally {
      this.#waiting.delete(id);
    }
  }

  async #answerTo(id: string, data: QueueJob): Promise<QueueAnswer> {
    for (let job = await this.#add(id, data); ; ) {
      this.options.mustHold?.();
      if (this.#isLeft) throw new UsageError('wrong-moment', 'The queue was left before all was played.');
      const answer = await this.#waitFor(job);
      if (answer !== undefined) {
        await job.remove().catch(() => {});
        return answer;
      }
      // A Redis that kept nothing when it was restarted has lost the job; the same sessions give the same answer.
      if ((await this.queue.getJob(id)) === undefined) job = await this.#add(id, data);
    }
  }

  #add(id: string, data: QueueJob): Promise<Job> {
    return this.queue.add('play', data, {
      jobId: id,
      removeOnComplete: { age: keptFor },
      removeOnFail: { age: keptFor },
    });
  }

  /** The answer to a job, or undefined where it is not there yet. */
  async #waitFor(job: Job): Promise<QueueAnswer | undefined> {
    try {
      return unpacked((await job.waitUntilFinished(this.events, lookEvery)) as PackedAnswer);
    } catch (error) {
      const found = (await this.queue.getJob(job.id!)) as Job | undefined;
      if (found === undefined) return undefined;
      if (await found.isFailed())
        throw new UsageError(
          'no-workers',
          `Workers of the queue ended ${mostLost} times, or failed, while they played sessions ${job.data.first} to ${job.data.first + job.data.sessions - 1}: ${found.failedReason ?? String(error)}.`,
        );
      return (await found.isCompleted()) ? unpacked(found.returnvalue as PackedAnswer) : undefined;
    }
  }

  #jobOf(
    design: Design,
    { seed, first, sessions, players }: Chunk,
    quantities: readonly string[] | undefined,
  ): QueueJob {
    const { version, world } = this.options;
    return {
      version,
      text: JSON.stringify(design.written),
      file: design.file,
      settings: Object.fromEntries(design.dials.map(({ name, value }) => [name, value])),
      isOneOfMany: design.looseOf !== undefined,
      fingerprint: design.fingerprint,
      world: world ?? null,
      seed,
      first,
      sessions,
      players: [...players],
      quantities: quantities === undefined ? null : [...quantities],
    };
  }

  /** Takes back what nobody has begun. */
  async leave(): Promise<void> {
    this.#isLeft = true;
    clearInterval(this.#watch);
    await Promise.allSettled([...this.#waiting].map((id) => this.queue.remove(id)));
  }
}
