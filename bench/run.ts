import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { gzipSync } from 'node:zlib';
import { mean, median } from 'simple-statistics';
import { readDesign } from '../src/design/read.js';
import { formOf } from '../src/engine/program/lower/lower.js';
import { Session } from '../src/engine/session/design-session.js';
import { SessionLog } from '../src/measure/session-log.js';
import { Tally } from '../src/measure/tally.js';
import { nodeWorkers } from '../src/node/workers.js';
import { Play } from '../src/players/drivers/play.js';
import { meetingOf } from '../src/players/meeting/meeting.js';
import { simulate } from '../src/simulate/simulate.js';
import { simulateWith } from '../src/simulate/worker-pool.js';
import { mustBeEqual } from './compare.js';
import { type HandPlayer, playByHand } from './dusk-by-hand.js';

const numbers = process.argv.slice(2).filter((word) => /^\d+$/.test(word));
const rounds = Number(numbers[0] ?? 7);
const sessions = Number(numbers[1] ?? 4000);
const seed = 1;

const design = readDesign(readFileSync('demo/dusk-on-the-heath.yaml', 'utf8'), 'demo/dusk-on-the-heath.yaml');
const form = formOf(design);
const print = (line: string): boolean => process.stdout.write(`${line}\n`);

/** Plays the same sessions of one player in three ways, and says how long each took. */
function playAll(
  playerIndex: number,
  howMany: number,
): { milliseconds: Record<string, number>; tallies: Tally[] } {
  const player = design.players[playerIndex]!;
  const meeting = meetingOf(form, player);
  const hand: HandPlayer = {
    runs: player.runs,
    patience: player.patience,
    thresholds: Float64Array.from(meeting.thresholds),
    attempts: Int32Array.from(meeting.attempts),
    log: new SessionLog(form),
  };
  const ways: Record<string, (tally: Tally) => { play(seed: number, session: number): void }> = {
    'hand-written': (tally) => ({ play: (of, session) => playByHand(of, session, hand, tally) }),
    printed: (tally) => new Play(form, meeting, tally, 'printed'),
    interpreted: (tally) => new Play(form, meeting, tally, 'interpreted'),
  };
  const milliseconds: Record<string, number> = {};
  const tallies = Object.entries(ways).map(([name, make]) => {
    const tally = new Tally(form);
    const way = make(tally);
    const start = performance.now();
    for (let session = 0; session < howMany; session++) way.play(seed, session);
    milliseconds[name] = performance.now() - start;
    return tally;
  });
  return { milliseconds, tallies };
}

print(`Dusk on the Heath, ${sessions} sessions of each player, ${rounds} rounds, interleaved; medians`);
const ratios: Record<string, number[]> = { printed: [], interpreted: [] };
const rates: Record<string, number[]> = { 'hand-written': [], printed: [], interpreted: [] };
for (let round = -1; round < rounds; round++) {
  const spent: Record<string, number> = {};
  design.players.forEach((player, index) => {
    const { milliseconds, tallies } = playAll(index, sessions);
    mustBeEqual(`printed, ${player.name}`, tallies[0]!, tallies[1]!);
    mustBeEqual(`interpreted, ${player.name}`, tallies[0]!, tallies[2]!);
    for (const [name, time] of Object.entries(milliseconds)) spent[name] = (spent[name] ?? 0) + time;
  });
  // The first round warms up.
  if (round < 0) continue;
  const all = sessions * design.players.length;
  for (const [name, time] of Object.entries(spent)) rates[name]!.push((all / time) * 1000);
  for (const name of ['printed', 'interpreted']) ratios[name]!.push(spent['hand-written']! / spent[name]!);
}
print('tallies   equal, value for value, in every round');
for (const [name, found] of Object.entries(rates)) {
  const ratio = ratios[name] === undefined ? '' : `   ${median(ratios[name]).toFixed(2)} of hand-written`;
  print(`${name.padEnd(13)}${Math.round(median(found)).toLocaleString('en').padStart(9)} sessions/s${ratio}`);
}

/** The first 1,000 sessions of a fresh process, in milliseconds; medians of interleaved processes. */
function coldStart(): { readonly hand: number; readonly printed: number } {
  const run = (way: string): number =>
    Number(execFileSync(process.execPath, ['bench/out/bench/cold.js', way], { encoding: 'utf8' }));
  const rounds = Array.from({ length: 5 }, () => [run('hand'), run('printed')] as const);
  return { hand: median(rounds.map(([hand]) => hand)), printed: median(rounds.map(([, made]) => made)) };
}

const cold = coldStart();
print(
  `from cold ${Math.round(cold.printed).toString().padStart(7)} ms for the first 1,000 sessions, hand-written ${Math.round(cold.hand)} ms (reading the design included in both)`,
);

/** Sessions a second of so many workers. */
async function workerRate(many: number, count: number): Promise<number> {
  const workers = nodeWorkers(many, new URL('../../../dist/simulate/simulate-worker.js', import.meta.url));
  // Warms up.
  await simulateWith(workers, design, { sessions: 4000 * many, seed });
  const start = performance.now();
  await simulateWith(workers, design, { sessions: count, seed });
  const rate = (1000 * count * design.players.length) / (performance.now() - start);
  await workers.leave();
  return rate;
}

const workerRatios: number[] = [];
for (let round = 0; round < 3; round++) {
  const one = await workerRate(1, 16_000);
  workerRatios.push((await workerRate(2, 16_000)) / one);
}
print(
  `workers   two are ${median(workerRatios).toFixed(2)} times as fast as one (${availableParallelism()} cores)`,
);

const python = Number(
  execFileSync('python3', ['bench/dusk.py', '200'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  }),
);
print(
  `Python    ${Math.round(python).toLocaleString('en').padStart(9)} sessions/s: a plain script, as a designer would write it (bench/dusk.py)`,
);

const sizeAfter = (count: number): number =>
  JSON.stringify(simulate(design, { sessions: count, seed }).players.map(({ tally }) => tally.toData()))
    .length;
print(
  `memory    a part of 1,000 sessions takes ${Math.round(sizeAfter(1000) / 1000)} kB, of 8,000 ${Math.round(sizeAfter(8000) / 1000)} kB`,
);

if (process.argv.includes('--million')) {
  const workers = nodeWorkers(
    availableParallelism(),
    new URL('../../../dist/simulate/simulate-worker.js', import.meta.url),
  );
  const start = performance.now();
  await simulateWith(workers, design, { sessions: 333_334, seed });
  await workers.leave();
  print(
    `a million sessions of the demo, on ${availableParallelism()} cores: ${((performance.now() - start) / 1000).toFixed(0)} s`,
  );
}

/** What a frame of the demo costs a game: time passes, things are touched, the HUD and the texts are read. */
function frame(): { readonly mean: number; readonly slowest: number } {
  const session = new Session(design, { seed });
  session.send('input.start');
  const spent: number[] = [];
  for (let at = 0; at < framesAtAll; at++) {
    const start = performance.now();
    session.advance(1000 / 60);
    const [next] = session.possible;
    if (at % 40 === 0 && next !== undefined) session.send(next);
    if (session.hud.length + session.text.length === 0) throw new Error('a frame shows something');
    spent.push(performance.now() - start);
  }
  // The first second warms up.
  const warm = spent.slice(60);
  return { mean: mean(warm), slowest: Math.max(...warm) };
}

const framesAtAll = 60 * 60;
const budget = 1000 / 60;
const share = (milliseconds: number): string => `${((100 * milliseconds) / budget).toFixed(2)} %`;
const { mean: usual, slowest } = frame();
print(
  `a frame   ${(usual * 1000).toFixed(1).padStart(8)} µs, ${share(usual)} of a 60 Hz frame; the slowest of a minute ${share(slowest)}`,
);
const engine = gzipSync(readFileSync('dist/engine.iife.js'), { level: 9 }).length;
print(`the engine ${(engine / 1000).toFixed(1).padStart(7)} kB gzipped, without readers`);
