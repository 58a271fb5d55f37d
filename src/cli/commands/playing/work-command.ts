import { once } from 'node:events';
import { number } from '../../../formats/written.js';
import { workOn } from '../../../node/queue/queue-worker.js';
import { shownAddress } from '../../../node/queue/redis.js';
import { usualWorkers } from '../../../node/workers.js';
import { readWorld } from '../../../node/world-file.js';
import type { ExitCode } from '../../outcome.js';
import { plain, type Terminal } from '../../terminal.js';
import { version } from '../../version.js';

export interface WorkCall {
  readonly queue: string;
  readonly workers: number | undefined;
  readonly world: ReadonlyMap<string, string> | undefined;
}

/** Works on a queue until somebody asks the process to stop. */
export async function workCommand(
  terminal: Terminal,
  { queue, workers, world: worlds = new Map() }: WorkCall,
): Promise<ExitCode> {
  const threads = Math.max(1, workers ?? usualWorkers());
  // A world that cannot be loaded is told now, and not at the first chunk.
  for (const module of worlds.values()) await readWorld(module);
  let [chunks, sessions] = [0, 0];
  const refused = new Set<string>();
  const working = await workOn(queue, {
    version,
    threads,
    worlds,
    script: new URL('./queue-thread.js', import.meta.url),
    onPlayed: (played) => {
      chunks++;
      sessions += played;
    },
    onRefused: (reason) => {
      if (!refused.has(reason)) terminal.err(`Not played here: ${plain(reason)}.\n`);
      refused.add(reason);
    },
  });
  terminal.out(
    `Working on ${plain(shownAddress(queue))} with ${threads === 1 ? '1 thread' : `${threads} threads`}. Ctrl-C ends it after the chunks under way.\n`,
  );
  await Promise.race([once(process, 'SIGINT'), once(process, 'SIGTERM')]);
  await working.leave();
  terminal.out(
    `Played ${number(sessions)} sessions in ${chunks === 1 ? '1 chunk' : `${number(chunks)} chunks`}.\n`,
  );
  return 0;
}
