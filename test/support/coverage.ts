import { observe, Pairing } from '../../src/balance/statistics/paired.js';
import { joined } from '../../src/balance/statistics/precision.js';
import { quantitiesOf } from '../../src/balance/statistics/quantities.js';
import { readDesign, type SimulationSummary, simulate, summarize } from '../../src/index.js';
import type { HardDesign } from './hard-designs.js';

/** How often the intervals of a figure held its true value. */
export interface Covered {
  readonly figure: string;
  readonly held: number;
  /** Simulations that told an interval at all. */
  readonly told: number;
}

interface Told {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Simulates a design again and again and looks how often each interval that is told holds the true value: that of all these simulations
 * together, next to which the error of one is thirty times as large.
 */
export function coverageOf({ text, sessions }: HardDesign, times: number): Covered[] {
  const design = readDesign(text);
  const played = Array.from({ length: times }, (_, seed) => simulate(design, { sessions, seed }));
  const all = figuresOf(summarize(played.reduce(joined)));
  const told = played.map((simulation) => figuresOf(summarize(simulation)));
  const isWithin = (truth: Told, { low, high }: Told): boolean => {
    // Sums of doubles in another order differ in their last digits.
    const tiny = 1e-9 * Math.max(1, Math.abs(truth.value));
    return low <= truth.value + tiny && high >= truth.value - tiny;
  };
  const targets = [...all].filter(([figure]) => figure.startsWith('target: '));
  const atOnce = told.filter((figures) =>
    targets.every(([figure, truth]) => !figures.has(figure) || isWithin(truth, figures.get(figure)!)),
  ).length;
  const joint = { figure: 'all targets at once', held: atOnce, told: times };
  const each = [...all].map(([figure, truth]): Covered => {
    const intervals = told.flatMap((figures) => figures.get(figure) ?? []);
    const held = intervals.filter((interval) => isWithin(truth, interval)).length;
    return { figure, held, told: intervals.length };
  });
  return targets.length === 0 ? each : [...each, joint];
}

/** The same of what a design and a changed one differ by, played with the same seeds, as `compare` tells it. */
export function coverageOfChanges({ text, sessions, change }: HardDesign, times: number): Covered[] {
  if (change === undefined) return [];
  const changed = text.replace(...change);
  if (changed === text) throw new Error(`"${change[0]}" stands nowhere in the design`);
  const designs = [readDesign(text), readDesign(changed)] as const;
  const quantities = quantitiesOf(designs[0]);
  const played = Array.from({ length: times }, (_, seed) =>
    designs.map((design) => observe(design, quantitiesOf(design), { sessions, seed })),
  );
  const players = [...played[0]![0]!.of.keys()];
  return players.flatMap((player) =>
    quantities.map(({ name }, quantity): Covered => {
      const whole = (which: number): number => {
        const sums = played.map((each) => each[which]!.of.get(player)!);
        const sum = (columns: readonly Float64Array[]): number =>
          columns.reduce((all, column) => all + column.reduce((a, b) => a + b, 0), 0);
        return sum(sums.map(({ hits }) => hits[quantity]!)) / sum(sums.map(({ all }) => all[quantity]!));
      };
      const truth = whole(1) - whole(0);
      const told = played.flatMap(([before, after]) => {
        const pairing = new Pairing(before!.of.get(player)!, after!.of.get(player)!, quantities);
        const found = pairing.change(quantity)?.change;
        return found !== undefined && Number.isFinite(found.high - found.low) ? [found] : [];
      });
      const held = told.filter(({ low, high }) => low <= truth + 1e-9 && high >= truth - 1e-9).length;
      return { figure: `change of ${name}, ${player}`, held, told: told.length };
    }),
  );
}

/** Every interval of a summary, by what it is of. */
function figuresOf({ players, skill, wins, targets }: SimulationSummary): Map<string, Told> {
  const figures = new Map<string, Told>();
  const tell = (name: string, told: Told | null): void => {
    if (told !== null && Number.isFinite(told.high - told.low)) figures.set(name, told);
  };
  for (const [player, summary] of Object.entries(players)) {
    for (const name of spreads) {
      const spread = summary[name];
      if (spread === null) continue;
      for (const [stat, interval] of Object.entries(spread.intervals))
        if (interval !== null)
          tell(`${name} ${stat}, ${player}`, {
            value: spread[stat as keyof typeof spread.intervals],
            low: interval[0],
            high: interval[1],
          });
    }
    for (const [screen, share] of Object.entries(summary.endings)) tell(`ending ${screen}, ${player}`, share);
    tell(`abandoned, ${player}`, summary.abandoned);
    // What no session showed is not listed, and said to come in so many at the most.
    const unseen = { value: 0, low: 0, high: summary.unseen.atMost };
    for (const { index } of summary.transitions) {
      const cause = summary.causes.find((each) => each.index === index);
      tell(`cause ${index + 1}, ${player}`, cause?.share ?? unseen);
    }
    for (const { level, reached, fails } of summary.levels) {
      tell(`level ${level} reached, ${player}`, reached);
      tell(`level ${level} fails, ${player}`, fails);
    }
    for (const { name, share } of summary.rules) tell(`points of ${name}, ${player}`, share);
    for (const { from, points } of summary.pace) tell(`pace from ${from} s, ${player}`, points);
    for (const { counter, bound, share } of summary.bounds) tell(`${counter} at ${bound}, ${player}`, share);
  }
  tell('skill', skill);
  for (const { of, over, chance } of wins) tell(`${of} over ${over}`, chance);
  for (const { what, of, value, low, high } of targets)
    if (value !== null && low !== null && high !== null) tell(`target: ${what}, ${of}`, { value, low, high });
  return figures;
}

const spreads = [
  'score',
  'runSeconds',
  'sessionSeconds',
  'livesLeft',
  'firstPoint',
  'firstLoss',
  'drySpell',
  'streak',
] as const;
