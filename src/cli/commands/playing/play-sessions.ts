import { setImmediate } from 'node:timers/promises';
import type { Design } from '../../../design/model.js';
import { UsageError } from '../../../design/problems/problem.js';
import { nodeWorkers, usualWorkers } from '../../../node/workers.js';
import {
  choosePlayers,
  type SimulateOptions,
  type Simulation,
  simulate,
} from '../../../simulate/simulate.js';
import { type SpreadOutOptions, simulateWith, type WorkerPool } from '../../../simulate/worker-pool.js';
import type { Interruption } from '../../interruption.js';
import { type Advance, withProgress } from '../../progress.js';
import { plain, type Terminal } from '../../terminal.js';
import { queuePool } from './queue.js';

/** Fewer sessions than this are not worth a second worker. */
const sessionsForEach = 3000;

export interface PlayCall {
  readonly seed: number;
  readonly player: readonly string[] | undefined;
  readonly workers: number | undefined;
  /** The address of a queue whose workers play, and the name of the world that they play in. */
  readonly queue: string | undefined;
  readonly world: string | undefined;
}

/** Plays sessions, by workers where there are many; where it is interrupted, what is done is kept. */
export async function play(
  terminal: Terminal,
  design: Design,
  call: PlayCall,
  interruption: Interruption,
  { first = 0, sessions, advance, workers: given }: Playing,
): Promise<Simulation | undefined> {
  const workers = given ?? (await crewFor(terminal, design, call, { sessions, interruption }));
  const players = choosePlayers(design, call.player).length;
  let replayed = 0;
  try {
    const options: SpreadOutOptions = {
      seed: call.seed,
      players: call.player,
      first,
      sessions,
      signal: interruption,
      onReplay: (reason) => {
        if (replayed++ === 0)
          terminal.err(
            `A worker ended before its sessions were done: ${plain(reason)}. They are played again.\n`,
          );
      },
    };
    if (advance !== undefined) return await simulateWith(workers, design, { ...options, progress: advance });
    return await withProgress(terminal, 'sessions', sessions * players, (progress) =>
      simulateWith(workers, design, {
        ...options,
        progress: (done) => progress(done, workers.word?.()),
      }),
    );
  } finally {
    await workers.leave();
  }
}

interface Playing {
  readonly first?: number;
  readonly sessions: number;
  readonly advance?: Advance;
  readonly workers?: LeavingPool;
}

/** Workers to be left in the end; `word` says of them what is worth showing while they play. */
type LeavingPool = WorkerPool & { leave(): Promise<void>; word?(): string };

async function crewFor(
  terminal: Terminal,
  design: Design,
  { player, workers, queue, world }: PlayCall,
  { sessions, interruption }: { readonly sessions: number; readonly interruption: Interruption },
): Promise<LeavingPool> {
  if (queue !== undefined)
    return queuePool(terminal, queue, {
      world,
      mustHold: () => {
        if (interruption.aborted) throw new UsageError('out-of-time', 'The work was stopped.');
      },
    });
  const players = choosePlayers(design, player).length;
  const wanted = workers ?? Math.min(usualWorkers(), Math.floor((sessions * players) / sessionsForEach));
  return wanted <= 1 ? here() : nodeWorkers(wanted, new URL('./simulate-worker.js', import.meta.url));
}

/** This thread, which looks up between chunks, so that it hears an interruption. */
export const here = (watching: Partial<SimulateOptions> = {}): LeavingPool => ({
  workers: 1,
  async play(design, chunk) {
    await setImmediate();
    return simulate(design, { ...watching, ...chunk }).players.map(({ tally }) => tally.toData());
  },
  async leave() {},
});
