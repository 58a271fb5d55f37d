import type { Design } from '../design/model.js';
import { formOf } from '../engine/lower.js';
import { Tally, type TallyData } from '../players/tally.js';
import { checkRange, choosePlayers, type Simulation, simulate } from './simulate.js';

/** Sessions that are played at once, by whoever is free. */
export interface Chunk {
  readonly seed: number;
  readonly first: number;
  readonly sessions: number;
  readonly players: readonly string[];
}

/** Plays chunks somewhere else: a pool of workers. */
export interface Crew {
  readonly workers: number;
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
}

/** Chunks of about this many sessions, but at least some for each worker. */
const usualChunk = 1000;
const chunksForEach = 4;

/** What a worker does with a chunk. */
export const playChunk = (design: Design, chunk: Chunk): TallyData[] =>
  simulate(design, chunk).players.map(({ tally }) => tally.toData());

/**
 * A simulation whose sessions are played by a crew. Its tallies are those of `simulate`, whoever has played what: they are sums of
 * whole numbers.
 *
 * @returns with fewer sessions than were asked for where it was aborted; undefined where none was done then
 * @throws UsageError, DesignError as `simulate`
 */
export async function simulateWith(
  crew: Crew,
  design: Design,
  options: SpreadOutOptions,
): Promise<Simulation | undefined> {
  const { sessions, seed, first = 0, progress, signal } = options;
  checkRange(sessions, seed);
  const players = choosePlayers(design, options.players).map(({ player }) => player);
  const names = players.map(({ name }) => name);
  const size = Math.max(1, Math.min(usualChunk, Math.ceil(sessions / (crew.workers * chunksForEach))));
  const chunks: Chunk[] = [];
  for (let at = 0; at < sessions; at += size)
    chunks.push({ seed, first: first + at, sessions: Math.min(size, sessions - at), players: names });
  const done: (readonly TallyData[] | undefined)[] = chunks.map(() => undefined);
  let played = 0;
  let next = 0;
  const work = async (): Promise<void> => {
    while (next < chunks.length && signal?.aborted !== true) {
      const index = next++;
      const chunk = chunks[index]!;
      done[index] = await crew.play(design, chunk);
      played += chunk.sessions * names.length;
      progress?.(played);
    }
  };
  await Promise.all(Array.from({ length: Math.min(crew.workers, chunks.length) }, work));
  const form = formOf(design);
  const tallies = players.map(() => new Tally(form));
  let whole = 0;
  for (const [index, data] of done.entries()) {
    // Only sessions that follow on each other count, so that short ones are not favoured.
    if (data === undefined) break;
    for (const [player, tally] of data.entries()) tallies[player]!.merge(Tally.fromData(form, tally));
    whole += chunks[index]!.sessions;
  }
  if (whole === 0) return undefined;
  return {
    design,
    seed,
    first,
    sessions: whole,
    players: players.map((player, index) => ({ player, tally: tallies[index]! })),
  };
}
