import { setImmediate } from 'node:timers/promises';
import type { Design } from '../../design/model.js';
import { nodeWorkers, usualWorkers } from '../../node/workers.js';
import { choosePlayers, type SimulateOptions, type Simulation, simulate } from '../../simulate/simulate.js';
import { type SpreadOutOptions, simulateWith, type WorkerPool } from '../../simulate/worker-pool.js';
import type { Interruption } from '../interruption.js';
import { type Advance, withProgress } from '../progress.js';
import { plain, type Terminal } from '../terminal.js';

/** Fewer sessions than this are not worth a second worker. */
const sessionsForEach = 3000;

export interface PlayCall {
  readonly seed: number;
  readonly player: readonly string[] | undefined;
  readonly workers: number | undefined;
}

/** Plays sessions, by workers where there are many; where it is interrupted, what is done is kept. */
export async function play(
  terminal: Terminal,
  design: Design,
  call: PlayCall,
  interruption: Interruption,
  { first = 0, sessions, advance, workers = crewFor(design, call, sessions) }: Playing,
): Promise<Simulation | undefined> {
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
      simulateWith(workers, design, { ...options, progress }),
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

type LeavingPool = WorkerPool & { leave(): Promise<void> };

function crewFor(design: Design, { player, workers }: PlayCall, sessions: number): LeavingPool {
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
