import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  bestPlay,
  DesignError,
  readDesign,
  type Solved,
  type SolvedSpread,
  simulate,
  slopes,
  solve,
  summarize,
} from '../../src/index.js';
import { gallery } from '../support/designs.js';
import { designText } from '../support/generated-designs.js';
import { oneIn, runs } from '../support/runs.js';

const solveText = (text: string, player = 'one', mostTurns?: number): Solved =>
  solve(readDesign(text), { player, mostTurns });

const logistic = (x: number): number => 1 / (1 + Math.exp(-x));

/** So many shells, one after the other, each worth some points. */
const shells = (count: number, points: number, players: string) => `
counters: { score: {} }
pieces: { shell: { is: collectible, difficulty: 0.7, takes: 1 } }
levels: [{ place: { shell: ${count} } }]
rules: [{ when: shell.taken, do: [{ add: { score: ${points} } }] }]
screens: { beach: { live: true }, over: { ending: won } }
transitions: [{ from: beach, to: over, if: left.shell == 0 }]
players: { ${players} }
`;

/** Ten shells, each taken with one chance. */
const tenShells = (more = '') => shells(10, 5, `one: { skill: 0.2 }${more}`);

function expectShares(found: SolvedSpread['values'], shares: readonly (readonly [number, number])[]): void {
  expect(found.map(({ value }) => value)).toEqual(shares.map(([value]) => value));
  shares.forEach(([, share], index) => {
    expect(found[index]!.share).toBeCloseTo(share, 8);
  });
}

describe('figures that are worked out', () => {
  test('of independent tries are binomial, to the last digit that a draw has', () => {
    const { score, open, endings, seconds } = solveText(tenShells());
    const p = logistic(0.2 - 0.7);
    const ways = [1, 10, 45, 120, 210, 252, 210, 120, 45, 10, 1];
    expectShares(
      score!.values,
      ways.map((way, taken) => [5 * taken, way * p ** taken * (1 - p) ** (10 - taken)]),
    );
    expect(score!.mean.least).toBeCloseTo(50 * p, 7);
    expect(score!.mean.most).toBe(score!.mean.least);
    expect(score!.sd).toBeCloseTo(5 * Math.sqrt(10 * p * (1 - p)), 7);
    expect(open).toBe(0);
    expect(endings).toEqual({ over: { least: expect.closeTo(1, 12), most: expect.closeTo(1, 12) } });
    expect(seconds!.values).toEqual([{ value: 10, share: expect.closeTo(1, 12) }]);
  });

  test('of tries until the first success are geometric, and cut off where the patience ends', () => {
    const { seconds, abandoned } = solveText(`
counters: { score: {} }
pieces: { door: { is: exit, difficulty: 1, takes: 1, again: true } }
levels: [{ place: { door: 1 } }]
screens: { hall: { live: true }, out: { ending: won } }
transitions: [{ from: hall, to: out, when: door.reached }]
players: { one: { skill: 0, patience: 6 } }
`);
    const p = logistic(-1);
    expectShares(
      seconds!.values,
      [1, 2, 3, 4, 5, 6].map((at) => [at, at < 6 ? p * (1 - p) ** (at - 1) : (1 - p) ** 5]),
    );
    expect(abandoned.least).toBeCloseTo((1 - p) ** 6, 9);
  });

  test('of a player that improves within a run, and takes care, are what the chain of its attempts says', () => {
    const { score, seconds, open } = solveText(
      shells(3, 1, 'one: { practice: 0.5, caution: { if: score == 1, pace: 3, skill: 2 } }'),
    );
    const shares = [0, 0, 0, 0];
    const bySeconds = new Map<number, number>();
    for (let ways = 0; ways < 8; ways++) {
      let [taken, chance, time] = [0, 1, 0];
      for (let tried = 0; tried < 3; tried++) {
        const isCareful = taken === 1;
        const p = logistic(0.5 * Math.log(1 + tried) + (isCareful ? 2 : 0) - 0.7);
        time += isCareful ? 3 : 1;
        const succeeds = (ways >> tried) & 1;
        chance *= succeeds ? p : 1 - p;
        taken += succeeds;
      }
      shares[taken]! += chance;
      bySeconds.set(time, (bySeconds.get(time) ?? 0) + chance);
    }
    expect(open).toBe(0);
    expectShares(
      score!.values,
      shares.map((share, value) => [value, share]),
    );
    expectShares(
      seconds!.values,
      [...bySeconds].sort(([a], [b]) => a - b),
    );
  });

  test('of outcomes by weight and rules by chance are what the weights and chances say', () => {
    const { score, rules } = solveText(`
counters: { score: {} }
pieces:
  egg: { is: collectible, takes: 1, outcomes: { gold: 1, blue: 2, none: 5 } }
levels: [{ place: { egg: 1 } }]
rules:
  - { name: gold, when: egg.gold, do: [{ add: { score: 100 } }] }
  - { name: luck, when: egg.blue, chance: 0.25, do: [{ add: { score: 8 } }] }
players: { one: { patience: 3 } }
`);
    expectShares(score!.values, [
      [0, 0.625 + 0.25 * 0.75],
      [8, 0.0625],
      [100, 0.125],
    ]);
    expect(rules).toEqual([
      { name: 'gold', fired: expect.closeTo(0.125, 8), points: expect.closeTo(12.5, 6) },
      { name: 'luck', fired: expect.closeTo(0.0625, 8), points: expect.closeTo(0.5, 7) },
    ]);
  });

  test('of a session of several runs are those of each run, also where the last one is cut short', () => {
    const text = (patience: number) => `
counters: { score: {}, best: { keep: forever } }
pieces: { shell: { is: collectible, difficulty: 0, takes: 1 } }
levels: [{ place: { shell: 3 } }]
rules:
  - { when: shell.taken, do: [{ add: { score: 1 } }] }
  - { when: over.entered, do: [{ set: { best: "max(best, score)" } }] }
screens: { beach: { live: true }, over: { ending: lost } }
transitions:
  - { from: beach, to: over, if: left.shell == 0 }
  - { from: over, to: beach, when: input.again, fresh: run }
players: { one: { skill: 0, runs: 3, patience: ${patience} } }
`;
    const whole = solveText(text(600));
    expect(whole.runs).toEqual({ least: expect.closeTo(3, 12), most: expect.closeTo(3, 12) });
    expect(whole.score!.mean.least).toBeCloseTo(1.5, 9);
    // Runs begin at 0 and 4 s; the third would at 8 s and is left a second into it.
    const short = solveText(text(9));
    expect(short.runs.least).toBeCloseTo(3, 12);
    expect(short.abandoned.least).toBeCloseTo(1 / 3, 12);
    expect(short.score!.mean.least).toBeCloseTo((1.5 + 1.5 + 0.5) / 3, 9);
  });

  test('who waits in vain leaves when its patience is over, whenever the run began', () => {
    const { seconds, abandoned } = solveText(`
counters: { score: {}, tries: { keep: session } }
timers: { soon: { after: 1 }, late: { after: 3 }, dawn: { countdown: 40 } }
screens: { moor: { live: true }, bog: { ending: lost }, home: { ending: won } }
transitions:
  - { from: moor, to: bog, when: fog.falls, if: tries == 0, do: [{ add: { tries: 1 } }] }
  - { from: moor, to: home, when: dawn.ended }
  - { from: bog, to: moor, when: input.again, fresh: run }
rules:
  - { when: soon.ended, chance: 0.5, do: [{ emit: fog.falls }] }
  - { when: late.ended, do: [{ emit: fog.falls }] }
players: { one: { runs: 2, patience: 30, thinks: 1 } }
`);
    // The first run is lost after 1 or 3 s; the second begins at 2 or 4 s in the same state, and waits until 30 s.
    expectShares(seconds!.values, [
      [1, 0.25],
      [3, 0.25],
      [26, 0.25],
      [28, 0.25],
    ]);
    expect(abandoned.least).toBeCloseTo(0.5, 9);
  });

  test('points that come as a run begins are told apart', () => {
    const { score, runs } = solveText(`
counters: { score: {} }
timers: { dusk: { countdown: 2 } }
screens: { field: { live: true }, over: { ending: lost } }
transitions:
  - { from: field, to: over, when: dusk.ended }
  - { from: over, to: field, when: input.again, fresh: run }
rules:
  - { when: field.entered, chance: 0.25, do: [{ add: { score: 8 } }] }
players: { one: { runs: 3 } }
`);
    expect(runs.least).toBeCloseTo(3, 12);
    expectShares(score!.values, [
      [0, 0.75],
      [8, 0.25],
    ]);
  });

  test('a player that learns is another in each run', () => {
    const { score } = solveText(`
counters: { score: {} }
pieces: { shell: { is: collectible, difficulty: 0, takes: 1 } }
levels: [{ place: { shell: 1 } }]
rules: [{ when: shell.taken, do: [{ add: { score: 1 } }] }]
screens: { beach: { live: true }, over: { ending: lost } }
transitions:
  - { from: beach, to: over, if: left.shell == 0 }
  - { from: over, to: beach, when: input.again, fresh: run }
players: { one: { skill: -0.5, learning: 0.9, runs: 4 } }
`);
    const chances = [1, 2, 3, 4].map((run) => logistic(-0.5 + 0.9 * Math.log(run)));
    expect(score!.mean.least).toBeCloseTo(chances.reduce((sum, each) => sum + each) / 4, 8);
  });

  test('one step of a dial changes a mean by what the closed form says', () => {
    const text = `
dials: { worth: { value: 5, from: 0, to: 10, step: 1 }, hard: { value: 0.5, from: -1, to: 1, step: 0.25 } }
counters: { score: {} }
pieces: { shell: { is: collectible, difficulty: hard, takes: 1 } }
levels: [{ place: { shell: 10 } }]
rules: [{ when: shell.taken, do: [{ add: { score: worth } }] }]
screens: { beach: { live: true }, over: { ending: won } }
transitions: [{ from: beach, to: over, if: left.shell == 0 }]
players: { one: { skill: 0.2 } }
`;
    const design = readDesign(text);
    const found = slopes(design, solve(design, { player: 'one' }));
    expect(found.map(({ dial, from, to }) => [dial, from, to])).toEqual([
      ['worth', 5, 6],
      ['hard', 0.5, 0.75],
    ]);
    expect(found[0]!.score).toBeCloseTo(10 * logistic(-0.3), 6);
    expect(found[1]!.score).toBeCloseTo(50 * (logistic(-0.55) - logistic(-0.3)), 6);
  });

  test('where not all is gone through, bounds hold what is true', () => {
    const text = tenShells();
    const whole = solveText(text);
    for (const most of [1, 5, 12, 18]) {
      const part = solveText(text, 'one', most);
      expect(part.open).toBeGreaterThan(0);
      for (const pick of [
        ({ score }: Solved) => score!.mean,
        ({ score }: Solved) => score!.p50,
        ({ seconds }: Solved) => seconds!.mean,
        ({ endings }: Solved) => endings.over!,
        ({ abandoned }: Solved) => abandoned,
      ]) {
        expect(pick(part).least).toBeLessThanOrEqual(pick(whole).least + 1e-9);
        expect(pick(part).most).toBeGreaterThanOrEqual(pick(whole).least - 1e-9);
      }
    }
  });

  test('a player of many people, and one that is not there, are refused with the reason', () => {
    const design = readDesign(tenShells(', crowd: { spread: 0.5 }'));
    expect(() => solve(design, { player: 'crowd' })).toThrow('The people of crowd differ (spread: 0.5)');
    expect(() => solve(design, { player: 'two' })).toThrow('it has one, crowd');
  });
});

/** Whether sessions that were played agree with what was worked out: the means within six standard errors. */
function mustAgree(text: string, sessions: number, mostTurns: number): number {
  const design = readDesign(text);
  let agreed = 0;
  for (const { name, spread, paceSpread, runs: most } of design.players) {
    if (spread > 0 || paceSpread > 0) continue;
    const solved = solve(design, { player: name, mostTurns });
    if (solved.open > 0) continue;
    agreed++;
    const played = summarize(simulate(design, { sessions, seed: 7, players: [name] })).players[name]!;
    const far = (one: number, other: number, sd: number, range: number): boolean =>
      Math.abs(one - other) > (6 * sd) / Math.sqrt(sessions) + (6 * range) / sessions + 1e-9;
    const { score, seconds } = solved;
    const shares = (of: { readonly [screen: string]: { readonly least: number } }) =>
      Object.entries(of).map(([screen, { least }]) => [screen, least] as const);
    const off: string[] = [];
    // No session may be lost on the way.
    if (far(played.runs / sessions, solved.runs.least, most / 2, most))
      off.push(`runs ${played.runs / sessions}, not ${solved.runs.least}`);
    if (played.score !== null && score !== null) {
      const values = score.values.map(({ value }) => value);
      const range = Math.max(...values) - Math.min(...values);
      if (far(played.score.mean, score.mean.least, score.sd!, range))
        off.push(`score ${played.score.mean}, not ${score.mean.least}`);
    }
    if (seconds === null || played.runSeconds === null) {
      expect(played.runs, text).toBe(0);
      continue;
    }
    const lasts = seconds.values.map(({ value }) => value);
    if (far(played.runSeconds.mean, seconds.mean.least, seconds.sd!, Math.max(...lasts) - Math.min(...lasts)))
      off.push(`length ${played.runSeconds.mean}, not ${seconds.mean.least}`);
    for (const [screen, share] of shares(solved.endings)) {
      const found = played.endings[screen]!.value;
      if (far(found, share, Math.sqrt(share * (1 - share)), 1)) off.push(`${screen} ${found}, not ${share}`);
    }
    solved.levels.forEach(({ reached }, index) => {
      const found = played.levels[index]?.reached.value ?? 0;
      const { least } = reached;
      if (far(found, least, Math.sqrt(Math.max(0, least * (1 - least))), 1))
        off.push(`level ${index + 1} ${found}, not ${least}`);
    });
    expect(off, `${name} in ${text}`).toEqual([]);
  }
  return agreed;
}

describe('what is worked out, and what is played', () => {
  test('agree on every design of the gallery that is small enough', () => {
    const tried = oneIn(10, gallery);
    const agreed = tried.reduce((sum, text) => sum + mustAgree(text, 600, 12_000), 0);
    expect(agreed / tried.length).toBeGreaterThan(0.86);
  }, 120_000);

  test('agree on any design', () => {
    let agreed = 0;
    fc.assert(
      fc.property(designText, (text) => {
        try {
          agreed += mustAgree(text, 400, 3000);
        } catch (error) {
          if (!(error instanceof DesignError)) throw error;
        }
      }),
      runs(60),
    );
    expect(agreed).toBeGreaterThan(3);
  }, 120_000);

  test('printed and interpreted come to the same, to the last bit', () => {
    for (const text of oneIn(40, gallery)) {
      const design = readDesign(text);
      const { name } = design.players[0]!;
      const [printed, interpreted] = (['printed', 'interpreted'] as const).map((backend) =>
        solve(design, { player: name, backend, mostTurns: 3000 }),
      );
      expect(interpreted).toEqual(printed);
    }
  });
});

describe('the best choices', () => {
  /** A shell that waits, and a pearl that is soon gone: 5 points at 88 %, and the pearl's at 12 %. */
  const beach = (pearl: number, tide: number) => `
counters: { score: {} }
pieces:
  shell: { is: collectible, difficulty: -2, takes: 1, lasts: 3 }
  pearl: { is: collectible, difficulty: 2, takes: 2, lasts: 0.9 }
timers: { tide: { countdown: ${tide} } }
levels: [{ place: { shell: 1, pearl: 1 } }]
rules:
  - { when: shell.taken, do: [{ add: { score: 5 } }] }
  - { when: pearl.taken, do: [{ add: { score: ${pearl} } }] }
screens: { beach: { live: true }, over: { ending: lost } }
transitions: [{ from: beach, to: over, when: tide.ended }]
players: { one: { skill: 0 } }
`;
  const [ofShell, ofPearl] = [5 * logistic(2), logistic(-2)];

  test('turn first to what is soon gone, where there is time for both', () => {
    const design = readDesign(beach(20, 4));
    expect(bestPlay(design, { player: 'one' })!.score).toBeCloseTo(ofShell + 20 * ofPearl, 7);
    // The player itself takes them in the order in which they appeared, and comes too late for the pearl.
    expect(solve(design, { player: 'one' }).score!.mean.least).toBeCloseTo(ofShell, 7);
  });

  test('leave alone what costs more than it brings', () => {
    for (const [pearl, best] of [
      [20, ofShell],
      [100, 100 * ofPearl],
    ] as const) {
      // There is time for one of the two.
      const found = bestPlay(readDesign(beach(pearl, 2.5)), { player: 'one' })!;
      expect(found.score).toBeCloseTo(best, 6);
      const taken = Object.fromEntries(found.choices.map((each) => [each.name, each.taken]));
      expect([taken.shell! > 0, taken.pearl! > 0]).toEqual(pearl === 20 ? [true, false] : [true, true]);
    }
  });

  test('send what pays, where a screen offers several things', () => {
    const design = readDesign(`
counters: { score: {} }
screens: { door: {}, pond: { ending: lost }, wood: { ending: won } }
transitions:
  - { from: door, to: pond, when: input.west, do: [{ add: { score: 1 } }] }
  - { from: door, to: wood, when: input.east, do: [{ add: { score: 9 } }] }
players: { one: {} }
`);
    const found = bestPlay(design, { player: 'one' })!;
    expect(found.score).toBe(9);
    expect(found.choices).toEqual([
      { kind: 'input', name: 'input.west', offered: 1, taken: 0 },
      { kind: 'input', name: 'input.east', offered: 1, taken: 1 },
    ]);
  });

  test('are never worse than what a player of the gallery does', () => {
    let compared = 0;
    for (const text of oneIn(12, gallery)) {
      const design = readDesign(text);
      for (const { name } of design.players) {
        const best = bestPlay(design, { player: name, mostTurns: 1500 });
        const own = solve(design, { player: name, runs: 1, mostTurns: 1500 });
        if (best === undefined || own.open > 0 || own.score === null) continue;
        compared++;
        expect(best.score, `${name} in ${text}`).toBeGreaterThanOrEqual(own.score.mean.least - 1e-6);
      }
    }
    expect(compared).toBeGreaterThan(5);
  }, 120_000);

  test('are not told where there are more states than may be gone through', () => {
    expect(bestPlay(readDesign(beach(20, 4)), { player: 'one', mostTurns: 3 })).toBeUndefined();
  });
});
