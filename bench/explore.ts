import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { median } from 'simple-statistics';
import type { Design } from '../src/design/model.js';
import { readDesign } from '../src/design/read.js';
import { zonesFor } from '../src/explore/evidence/verdict.js';
import { neverOver } from '../src/explore/search/limits.js';
import { Search } from '../src/explore/search/search.js';
import { TimedSearch } from '../src/explore/timed/timed-search.js';
import { type ByHand, exploreByHand, keyByHand } from './wide-heath-by-hand.js';

const rounds = Number(process.argv[2] ?? 7);
const print = (line = ''): boolean => process.stdout.write(`${line}\n`);
const million = (value: number): string => (value / 1e6).toFixed(2);
const read = (file: string): Design => readDesign(readFileSync(file, 'utf8'), file);

/** Throws where the search and the hand-written code did not come to the very same states. */
function mustBeSame(design: Design, search: Search, hand: ByHand, mostPollen: number): void {
  const { states, game } = search;
  const { counters, timers } = game.form;
  const partOf = (cell: number): number => game.domain.parts.findIndex((part) => part.cell === cell);
  const counter = (name: string): number =>
    partOf(game.form.cells.counters + counters.findIndex((each) => each.name === name));
  const timer = (name: string): number =>
    partOf(game.form.cells.timers + timers.findIndex((each) => each.name === name));
  const at = {
    nectar: counter('nectar'),
    pollen: counter('pollen'),
    lives: counter('lives'),
    streak: counter('streak'),
    honey: counter('honey'),
  };
  const clocks = design.timers.length === 0 ? undefined : [timer('daylight'), timer('shower')];
  const state = new Float64Array(game.width);
  if (states.length !== hand.length) throw new Error(`${states.length} states, by hand ${hand.length}`);
  for (let row = 0; row < states.length; row++) {
    states.read(row, state);
    const key = keyByHand(
      mostPollen,
      state[0]!,
      state[1]!,
      state[at.nectar]!,
      state[at.pollen]!,
      state[at.lives]!,
      state[at.streak]!,
      state[at.honey]!,
      clocks === undefined ? 1 : state[clocks[0]!]!,
      clocks === undefined ? 1 : state[clocks[1]!]!,
    );
    if ((hand.bits[key >>> 5]! & (1 << (key & 31))) === 0) throw new Error(`state ${row} is not one by hand`);
  }
}

print(`# Benchmark of the explorer`);
print();
print(
  `Printed by \`npm run --silent bench:explore\`. Node ${process.version}, one core, ${rounds} rounds after one to warm up, the search and the hand-written code taking turns; medians, and medians of the ratios of each round. Both reached the very same states in every round. The hand-written code is \`bench/wide-heath-by-hand.ts\`: the same mixed-radix keys, bitset, parents and events, for this one design.`,
);
print();
print('| design | states | | million states/s | million steps/s | bytes in use a state | allocated |');
print('| --- | --- | --- | --- | --- | --- | --- |');
for (const [file, mostPollen, hasClocks] of [
  ['bench/wide-heath.yaml', 30, false],
  ['bench/wide-heath-clocks.yaml', 8, true],
] as const) {
  const design = read(file);
  const times: Record<'hand' | 'search', number[]> = { hand: [], search: [] };
  const ratios: number[] = [];
  let hand = exploreByHand(mostPollen, hasClocks);
  let search = new Search(design);
  for (let round = -1; round < rounds; round++) {
    const start = performance.now();
    hand = exploreByHand(mostPollen, hasClocks);
    const middle = performance.now();
    search = new Search(design);
    search.run({ mostStates: 1e8, isOver: neverOver });
    const end = performance.now();
    mustBeSame(design, search, hand, mostPollen);
    if (round < 0) continue;
    times.hand.push(middle - start);
    times.search.push(end - middle);
    ratios.push((middle - start) / (end - middle));
  }
  const line = (name: string, milliseconds: number, { inUse, allocated }: ByHand['bytes']): void => {
    const perSecond = (count: number): string => million((count / milliseconds) * 1000);
    print(
      `| ${design.title} | ${hand.length.toLocaleString('en')} | ${name} | ${perSecond(hand.length)} | ${perSecond(hand.steps)} | ${(inUse / hand.length).toFixed(1)} | ${(allocated / hand.length).toFixed(1)} |`,
    );
  };
  line('hand-written', median(times.hand), hand.bytes);
  line(
    `the search: **${median(ratios).toFixed(2)}** of hand-written`,
    median(times.search),
    search.states.bytes,
  );
}
print();

const many = read('bench/wide-heath.yaml');
const wide = readDesign(
  readFileSync('bench/wide-heath.yaml', 'utf8').replace('max: 30', 'max: 200'),
  'bench/wide-heath.yaml',
);
const before = process.memoryUsage().rss;
const large = new Search(wide);
const largeStart = performance.now();
large.run({ mostStates: 1e8, isOver: neverOver });
const largeTime = performance.now() - largeStart;
print(
  `With room for 200 pollen the wide heath has ${large.states.length.toLocaleString('en')} states: ${(largeTime / 1000).toFixed(1)} s, ${(large.states.bytes.inUse / large.states.length).toFixed(1)} bytes in use and ${(large.states.bytes.allocated / large.states.length).toFixed(1)} allocated a state, ${Math.round((process.memoryUsage().rss - before) / 1e6)} MB more in the process.`,
);
print();
print(
  'What time adds: the search in which timers, waits, rests and graces keep time, by zones of their clocks.',
);
print();
print('| design | zones | whole | ms | zones/s |');
print('| --- | --- | --- | --- | --- |');
for (const design of [read('demo/dusk-on-the-heath.yaml'), many, read('bench/wide-heath-clocks.yaml')]) {
  const spent: number[] = [];
  let timed = new TimedSearch(design);
  for (let round = 0; round < 3; round++) {
    timed = new TimedSearch(design);
    const start = performance.now();
    timed.run(zonesFor(1e6), neverOver);
    spent.push(performance.now() - start);
  }
  const milliseconds = median(spent);
  print(
    `| ${design.title} | ${timed.zones.toLocaleString('en')} | ${timed.isCut ? 'no: the limit was hit' : 'yes'} | ${milliseconds.toFixed(0)} | ${Math.round((timed.zones / milliseconds) * 1000).toLocaleString('en')} |`,
  );
}
print();
const cold = Array.from({ length: 7 }, () => {
  const start = performance.now();
  execFileSync(process.execPath, ['dist/bin/jocus.js', 'check', 'demo/dusk-on-the-heath.yaml']);
  return performance.now() - start;
});
const bare = Array.from({ length: 7 }, () => {
  const start = performance.now();
  execFileSync(process.execPath, ['-e', '0']);
  return performance.now() - start;
});
print(
  `The whole check of the demo from a cold start, timed pass, tests and findings included: ${median(cold).toFixed(0)} ms, of which an empty Node takes ${median(bare).toFixed(0)} ms.`,
);
