import type { Design } from '../design/model.js';
import { DesignError, UsageError } from '../design/problems/problem.js';
import { formOf } from '../engine/program/lower/lower.js';
import { Tally, type TallyData } from '../measure/tally.js';
import { checkRange, choosePlayers, type Simulation, simulate } from './simulate.js';

/** Sessions that are played at once, by whoever is free. */
export interface Chunk {
  readonly seed: number;
  readonly first: number;
  readonly sessions: number;
  readonly players: readonly string[];
}

/** Plays chunks somewhere else: a pool of workers. */
export interface WorkerPool {
  readonly workers: number;
  /** Sessions of a chunk at the most; few enough for all workers to have some unless it is given. */
  readonly chunk?: number;
  /** Tallies of the players, in their order. */
  play(design: Design, chunk: Chunk): Promise<readonly TallyData[]>;
}

export interface SpreadOutOptions {
  readonly sessions: number;
  readonly seed: number;
  readonly first?: number | undefined;
  readonly players?: readonly string[] | undefined;
  readonly progress?: ((done: number) => void) | undefined;
  /** Sessions that are done when it is aborted are kept, as far as they follow on each other. */
  readonly signal?: { readonly aborted: boolean } | undefined;
  /** Called where a worker ended before a chunk was done, with why; the chunk is played again. */
  readonly onReplay?: ((reason: string, chunk: Chunk) => void) | undefined;
}

/** Chunks of about this many sessions, but at least some for each worker. */
const usualChunk = 1000;
/** Sessions of the first chunk; each later one has as many as are under way already, so that a slow design can be stopped soon. */
const firstChunk = 10;
const chunksForEach = 4;

/** How often a chunk is played at the most, where whoever plays it ends before it is done. */
const mostTries = 3;

/** What a worker does with a chunk. */
export const playChunk = (design: Design, chunk: Chunk): TallyData[] =>
  simulate(design, chunk).players.map(({ tally }) => tally.toData());

/**
 * A simulation whose sessions are played by a pool of workers. Its tallies are those of `simulate`, whoever has played what: they are sums of
 * whole numbers.
 *
 * @returns with fewer sessions than were asked for where it was aborted; undefined where none was done then
 * @throws UsageError, DesignError as `simulate`; UsageError where workers end before they are done, time and again
 */
export async function simulateWith(
  workers: WorkerPool,
  design: Design,
  options: SpreadOutOptions,
): Promise<Simulation | undefined> {
  const { sessions, seed, first = 0, progress, signal, onReplay } = options;
  checkRange(sessions, seed, first);
  const players = choosePlayers(design, options.players).map(({ player }) => player);
  const names = players.map(({ name }) => name);
  const even = Math.ceil(sessions / (workers.workers * chunksForEach));
  const size = workers.chunk ?? Math.max(1, Math.min(usualChunk, even));
  const form = formOf(design);
  const tallies = players.map(() => new Tally(form));
  const merge = (data: readonly TallyData[]): void => {
    for (const [player, tally] of data.entries()) tallies[player]!.merge(Tally.fromData(form, tally));
  };
  // Only sessions that follow on each other count, so that short ones are not favoured. A chunk is merged as soon as all before it are,
  // so that none is kept longer: `early` holds those that overtook another.
  const early = new Map<number, { readonly sessions: number; readonly data: readonly TallyData[] }>();
  let whole = 0;
  let played = 0;
  let next = 0;
  let failed = false;
  const isAborted = (): boolean => signal?.aborted === true;
  const work = async (): Promise<void> => {
    while (next < sessions && !failed && !isAborted()) {
      const at = next;
      const count = Math.min(size, Math.max(firstChunk, at), sessions - at);
      const chunk: Chunk = { seed, first: first + at, sessions: count, players: names };
      next += count;
      try {
        early.set(at, { sessions: count, data: await playSurely(workers, design, chunk, onReplay) });
      } catch (error) {
        // What was not done by then does not count.
        if (isAborted()) return;
        failed = true;
        throw error;
      }
      for (let done = early.get(whole); done !== undefined; done = early.get(whole)) {
        early.delete(whole);
        merge(done.data);
        whole += done.sessions;
      }
      played += count * names.length;
      progress?.(played);
    }
  };
  await Promise.all(Array.from({ length: Math.min(workers.workers, Math.ceil(sessions / size)) }, work));
  if (whole === 0) return undefined;
  return {
    design,
    seed,
    first,
    sessions: whole,
    players: players.map((player, index) => ({ player, tally: tallies[index]! })),
  };
}

/** Plays a chunk, again where whoever plays it ends before it is done: the same sessions give the same tallies. */
async function playSurely(
  workers: WorkerPool,
  design: Design,
  chunk: Chunk,
  onReplay: SpreadOutOptions['onReplay'],
): Promise<readonly TallyData[]> {
  for (let tries = 1; ; tries++) {
    try {
      return await workers.play(design, chunk);
    } catch (error) {
      if (error instanceof DesignError || error instanceof UsageError) throw error;
      const reason = error instanceof Error ? error.message : String(error);
      const { first, sessions, seed } = chunk;
      if (tries === mostTries)
        throw new UsageError(
          'no-workers',
          `Workers ended ${mostTries} times while they played sessions ${first} to ${first + sessions - 1} of seed ${seed}: ${reason}. Use fewer workers, or one, which plays in this thread.`,
        );
      onReplay?.(reason, chunk);
    }
  }
}
