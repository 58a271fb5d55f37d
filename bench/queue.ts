// What a queue costs, and what it would bring: chunks of the demo played by a worker thread, and by the same thread through Redis; then a
// hundred machines, simulated from the times that were measured. Needs redis-server. npm run --silent bench:queue > docs/bench-queue.md
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { pathToFileURL } from 'node:url';
import { median, sum } from 'simple-statistics';
import { readDesign } from '../src/index.js';
import { queueWorkers, workOn } from '../src/node/queue/index.js';
import { nodeWorkers } from '../src/node/workers.js';
import type { Chunk, WorkerPool } from '../src/simulate/worker-pool.js';

const rounds = 5;
const chunks = 40;
const sessionsOfChunk = 1000;
const machines = 100;
const chunksOfNight = 2000;

const root = new URL('../../../', import.meta.url);
const file = new URL('demo/dusk-on-the-heath.yaml', root);
const design = readDesign(readFileSync(file, 'utf8'), 'dusk-on-the-heath.yaml');
const players = design.players.map(({ name }) => name);

const server = createServer().listen(0, '127.0.0.1');
await once(server, 'listening');
const { port } = server.address() as { port: number };
server.close();
const redis = spawn('redis-server', ['--port', `${port}`, '--bind', '127.0.0.1', '--save', '']);
for await (const text of redis.stdout) if (String(text).includes('Ready to accept')) break;
redis.stdout.resume();
const url = `redis://127.0.0.1:${port}`;

const script = (path: string): URL => pathToFileURL(new URL(`dist/${path}`, root).pathname);
const threads = nodeWorkers(1, script('simulate/simulate-worker.js'));
const working = await workOn(url, {
  version: 'bench',
  threads: 1,
  worlds: new Map(),
  script: script('node/queue/queue-thread.js'),
});
const queue = await queueWorkers(url, { version: 'bench' });

/** Milliseconds that a chunk takes, with another one waiting at all times. */
async function timed(pool: WorkerPool): Promise<number> {
  let next = 0;
  const began = performance.now();
  const playAll = async (): Promise<void> => {
    while (next < chunks) {
      const first = next++ * sessionsOfChunk;
      const asked: Chunk = { seed: 1, first, sessions: sessionsOfChunk, players };
      await pool.play(design, asked);
    }
  };
  await Promise.all([playAll(), playAll()]);
  return (performance.now() - began) / chunks;
}

for (const pool of [threads, queue]) await timed(pool);
const pairs: { here: number; there: number }[] = [];
for (let round = 0; round < rounds; round++)
  pairs.push({ here: await timed(threads), there: await timed(queue) });
const extra = median(pairs.map(({ here, there }) => there - here));
const chunkTime = median(pairs.map(({ here }) => here));
/** Milliseconds of each chunk, one after the other. */
const ofDemo: number[] = [];
for (let chunk = 0; chunk < chunks; chunk++) {
  const began = performance.now();
  await threads.play(design, { seed: 1, first: chunk * sessionsOfChunk, sessions: sessionsOfChunk, players });
  ofDemo.push(performance.now() - began);
}

/** How much of their time machines play, each taking the next chunk when it is done with one. */
function busyShare(times: readonly number[], cost: number): number {
  const free = new Float64Array(machines);
  for (let chunk = 0; chunk < chunksOfNight; chunk++) {
    const first = free.indexOf(Math.min(...free));
    free[first]! += times[chunk % times.length]! + cost;
  }
  const played = sum(Array.from({ length: chunksOfNight }, (_, chunk) => times[chunk % times.length]!));
  return played / (machines * Math.max(...free));
}

const ofSecond = ofDemo.map((time) => (1000 * time) / chunkTime);
const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;
process.stdout.write(`# A queue on Redis: what it costs

Chunks of ${sessionsOfChunk} sessions of each player of the demo, on one worker thread, by itself and through Redis on the same machine, ${rounds} rounds of ${chunks} chunks in turn, another chunk waiting at all times. Made by
\`npm run --silent bench:queue\`.

| | |
| --- | --- |
| a chunk on the thread by itself | ${chunkTime.toFixed(0)} ms |
| more through the queue | ${extra.toFixed(1)} ms a chunk |
| of a chunk that takes a second | ${percent(extra / 1000)} |

Simulated from these times: ${machines} machines that share ${chunksOfNight} chunks, each taking the next when it is done with one, play for so much of the time until the last is done (what the queue costs counts where it is more than nothing):

| chunks of | of the time |
| --- | --- |
| the demo (${chunkTime.toFixed(0)} ms) | ${percent(busyShare(ofDemo, Math.max(0, extra)))} |
| a second, spread as those of the demo | ${percent(busyShare(ofSecond, Math.max(0, extra)))} |
`);
await queue.leave();
await working.leave();
await threads.leave();
redis.kill();
