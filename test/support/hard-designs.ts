import { demoText } from './designs.js';

/** Designs on which intervals are put to the test, each with something that common formulas get wrong. */
export interface HardDesign {
  readonly name: string;
  /** Sessions of one simulation. */
  readonly sessions: number;
  readonly text: string;
  /** What is written otherwise in the design that it is compared with. */
  readonly change?: readonly [from: string, to: string];
}

/** A run of one hall: what is in it, until what ends it. */
const hall = (rest: string, ends: string) => `
counters: { score: 0 }
${rest}
screens: { hall: { live: true }, out: { ending: won }, caught: { ending: lost } }
transitions:
${ends}`;

export const hardDesigns: readonly HardDesign[] = [
  {
    name: 'Dusk on the Heath',
    sessions: 200,
    change: ['difficulty: -0.5', 'difficulty: -0.3'],
    text: demoText,
  },
  {
    name: 'scores that tie, near a half',
    sessions: 100,
    change: ['difficulty: 0.04', 'difficulty: 0.2'],
    text: hall(
      `pieces: { seed: { is: collectible, difficulty: 0.04, takes: 1 }, husk: { is: collectible, difficulty: -1, takes: 2 } }
levels: [{ place: { seed: 1, husk: 1 } }]
rules:
  - { when: seed.taken, do: [{ add: { score: 3 } }] }
  - { when: husk.taken, do: [{ add: { score: 1 } }] }
players: { one: { skill: 0 }, other: { skill: 0.3 } }
targets:
  - { measure: wins, of: other, over: one, from: 0.5 }
  - { measure: skill, from: 0.1 }`,
      '  - { from: hall, to: out, if: present.seed + present.husk == 0 }',
    ),
  },
  {
    name: 'a level few reach',
    sessions: 300,
    change: ['difficulty: 3.5', 'difficulty: 3.4'],
    text: `
pieces:
  door: { is: collectible, difficulty: 3.5 }
  trap: { is: collectible, difficulty: 0.8473 }
levels: [{ place: { door: 1 } }, { place: { trap: 1 } }]
screens: { hall: { live: true }, out: { ending: won }, caught: { ending: lost } }
transitions:
  - { from: hall, to: hall, when: door.taken, fresh: level, level: next }
  - { from: hall, to: caught, when: [door.missed, trap.taken] }
  - { from: hall, to: out, when: trap.missed }
players: { one: { skill: 0, runs: 2 } }
targets: [{ measure: fail, level: 2, of: one, atMost: 0.2 }]`,
  },
  {
    name: 'runs that learn',
    sessions: 100,
    change: ['difficulty: -1.5', 'difficulty: -1.7'],
    text: hall(
      `pieces:
  seed: { is: collectible, difficulty: 1, takes: 0.5, lasts: 2 }
  snare: { is: hazard, difficulty: -1.5, lead: [0.5, 3] }
levels: [{ spawn: [{ piece: seed, every: 0.8, atOnce: 2 }, { piece: snare, every: 2, atOnce: 1 }] }]
rules: [{ when: seed.taken, do: [{ add: { score: 1 } }] }]
players: { one: { skill: 0, learning: 0.5, runs: 4 }, other: { skill: 1, learning: 0.3, runs: 3 } }
targets:
  - { measure: pace, of: one, from: 1 }
  - { measure: ending, screen: caught, of: one, atMost: 0.5 }
  - { measure: skill, from: 0.1 }`,
      `  - { from: hall, to: caught, when: snare.hit }
  - { from: hall, to: out, if: score >= 12 }
  - { from: caught, to: hall, when: input.again, fresh: run }
  - { from: out, to: hall, when: input.again, fresh: run }`,
    ),
  },
  {
    name: 'runs of very different lengths',
    sessions: 100,
    text: hall(
      `timers: { tick: { every: 1, keep: run } }
pieces: { end: { is: collectible, difficulty: 2.2, takes: 2.5, again: true } }
levels: [{ place: { end: 1 } }]
rules:
  - { when: tick.ticked, do: [{ add: { score: 1 } }] }
  - { when: end.taken, do: [{ add: { score: 5 } }] }
players: { one: { skill: 0 }, other: { skill: 0.5, runs: 2 } }
targets: [{ measure: pace, of: one, from: 4 }, { measure: length, of: one, stat: mean, atMost: 30 }]`,
      `  - { from: hall, to: caught, when: end.taken }
  - { from: caught, to: hall, when: input.again, fresh: run }`,
    ),
  },
  {
    name: 'luck that all players share',
    sessions: 100,
    change: ['every: [0.2, 6]', 'every: [0.2, 5.8]'],
    text: hall(
      `timers: { day: { countdown: 10, keep: run } }
pieces: { seed: { is: collectible, difficulty: -2, takes: 0.2, lasts: 4 } }
levels: [{ spawn: [{ piece: seed, every: [0.2, 6] }] }]
rules: [{ when: seed.taken, do: [{ add: { score: 1 } }] }]
players: { one: { skill: 0 }, other: { skill: 0.2 }, third: { skill: 0.4 } }
targets:
  - { measure: wins, of: other, over: one, from: 0.5 }
  - { measure: wins, of: third, over: one, from: 0.5 }
  - { measure: skill, atMost: 0.5 }`,
      '  - { from: hall, to: out, when: day.ended }',
    ),
  },
  {
    name: 'a jackpot of one in five hundred',
    sessions: 500,
    change: ['gold: 1, stone: 499', 'gold: 1, stone: 399'],
    text: hall(
      `pieces: { seed: { is: collectible, difficulty: 0, takes: 1 }, egg: { is: collectible, outcomes: { gold: 1, stone: 499 }, takes: 1 } }
levels: [{ place: { seed: 3, egg: 1 } }]
rules:
  - { name: seed, when: seed.taken, do: [{ add: { score: 1 } }] }
  - { name: jackpot, when: egg.gold, do: [{ add: { score: 500 } }] }
players: { one: { skill: 0 } }
targets:
  - { measure: score, stat: mean, of: one, atMost: 5 }
  - { measure: share, rule: jackpot, of: one, atMost: 0.5 }`,
      '  - { from: hall, to: out, if: present.seed + present.egg == 0 }',
    ),
  },
  {
    name: 'a player who nearly always wins',
    sessions: 100,
    text: hall(
      `pieces: { seed: { is: collectible, difficulty: 0, takes: 1 } }
levels: [{ place: { seed: 8 } }]
rules: [{ when: seed.taken, do: [{ add: { score: 1 } }] }]
players: { one: { skill: -1.5 }, other: { skill: 2 } }
targets:
  - { measure: wins, of: other, over: one, atMost: 0.9 }
  - { measure: skill, from: 0.5 }`,
      '  - { from: hall, to: out, if: present.seed == 0 }',
    ),
  },
  {
    name: 'scores that grow as a power',
    sessions: 150,
    change: ['every: 1.5', 'every: 1.4'],
    text: hall(
      `pieces: { seed: { is: collectible, difficulty: 0, takes: 1 } }
levels: [{ spawn: [{ piece: seed, every: 1.5, atOnce: 1 }] }]
rules: [{ when: seed.taken, do: [{ set: { score: "max(2, floor(1.5 * score))" } }] }]
players: { one: { skill: -0.5 }, other: { skill: -0.2 } }
targets: [{ measure: score, stat: p90, of: one, from: 8 }]`,
      '  - { from: hall, to: caught, when: seed.missed }',
    ),
  },
  {
    name: 'few sessions of many runs',
    sessions: 25,
    text: hall(
      `timers: { day: { countdown: 8, keep: run } }
pieces: { seed: { is: collectible, difficulty: 0.5, takes: 0.7, lasts: 3 }, snare: { is: hazard, difficulty: 0, lead: [1, 2] } }
levels: [{ spawn: [{ piece: seed, every: [0.5, 2], atOnce: 3 }, { piece: snare, every: [2, 5] }] }]
rules: [{ when: seed.taken, do: [{ add: { score: 10 } }] }]
players: { one: { skill: 0, runs: 6, learning: 0.3 } }
targets: [{ measure: score, stat: median, of: one, from: 20 }]`,
      `  - { from: hall, to: out, when: day.ended }
  - { from: hall, to: caught, when: snare.hit }
  - { from: caught, to: hall, when: input.again, fresh: run }
  - { from: out, to: hall, when: input.again, fresh: run }`,
    ),
  },
  {
    name: 'counters at their bounds',
    sessions: 120,
    change: ['max: 4', 'max: 5'],
    text: `
lives: lives
counters: { score: { start: 0, min: 0 }, lives: { start: 3, min: 0, max: 3 }, bag: { start: 0, min: 0, max: 4 } }
timers: { day: { countdown: 20, keep: run } }
pieces:
  seed: { is: collectible, difficulty: 0, takes: 0.7, lasts: 4 }
  snare: { is: hazard, difficulty: 0.5, lead: [1, 2] }
  nest: { is: collectible, difficulty: 1, takes: 1, again: true }
levels: [{ place: { nest: 1 }, spawn: [{ piece: seed, every: [0.5, 2], atOnce: 3 }, { piece: snare, every: [3, 8] }] }]
rules:
  - { name: bag, when: seed.taken, do: [{ add: { bag: 1 } }] }
  - { name: home, when: nest.taken, do: [{ add: { score: bag } }, { set: { bag: 0 } }] }
  - { name: sting, when: snare.hit, do: [{ add: { lives: -1 } }] }
screens: { hall: { live: true }, out: { ending: won }, caught: { ending: lost } }
transitions:
  - { from: hall, to: out, when: day.ended }
  - { from: hall, to: caught, if: lives == 0 }
players: { one: { skill: 0 }, other: { skill: 0.8 } }
targets: [{ measure: atBound, counter: bag, bound: max, of: one, atMost: 0.5 }]`,
  },
  {
    name: 'no luck between players',
    sessions: 60,
    change: ['countdown: 5', 'countdown: 6'],
    text: hall(
      `timers: { day: { countdown: 5, keep: run }, tick: { every: 1, keep: run } }
rules: [{ when: tick.ticked, do: [{ add: { score: 1 } }] }]
players: { one: { skill: 0 }, other: { skill: 1 } }
targets: [{ measure: wins, of: other, over: one, from: 0.4 }]`,
      '  - { from: hall, to: out, when: day.ended }',
    ),
  },
];
