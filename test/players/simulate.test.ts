import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { mustBeEqual } from '../../bench/compare.js';
import { playByHand } from '../../bench/dusk-by-hand.js';
import { withDials } from '../../src/design/settings.js';
import type { Form } from '../../src/engine/program/form.js';
import { formOf } from '../../src/engine/program/lower/lower.js';
import { DesignError, readDesign, simulate, summarize, UsageError } from '../../src/index.js';
import { SessionLog } from '../../src/measure/session-log.js';
import { Tally } from '../../src/measure/tally.js';
import { Play } from '../../src/players/drivers/play.js';
import { meetingOf } from '../../src/players/meeting/meeting.js';
import { demo } from '../support/designs.js';
import { designText } from '../support/generated-designs.js';
import { PlainPlayer } from '../support/plain-player.js';
import { runs } from '../support/runs.js';
import { columnOf } from '../support/samples.js';

/** A few sessions of a player, or the fault that they ended in. */
function playedBy(
  way: (tally: Tally) => { play(seed: number, session: number): void },
  form: Form,
  seed: number,
): Tally | string {
  const tally = new Tally(form);
  const player = way(tally);
  try {
    for (let session = 0; session < 3; session++) player.play(seed, session);
    return tally;
  } catch (error) {
    if (error instanceof DesignError) return error.problems[0]!.code;
    throw error;
  }
}

test('what is sought and stays is used again and again, a checkpoint once', () => {
  const design = readDesign(`counters: { score: {} }
timers: { day: { countdown: 20 } }
pieces:
  bough: { is: prop, meets: sought, takes: 1, outcomes: { one: 3, two: 1, owl: 1 }, ends: [] }
  camp: { is: checkpoint, takes: 1, difficulty: -20 }
levels: [{ place: { bough: 1, camp: 1 } }]
rules: [{ when: bough.one, do: [{ add: { score: 1 } }] }]
screens: { loft: { live: true }, night: { ending: over } }
transitions: [{ from: loft, to: night, when: day.ended }]
players: { squirrel: { runs: 1 } }`);
  const heard = new Map<string, number>();
  simulate(design, {
    sessions: 1,
    seed: 1,
    onEvent: (_player, _session, event) => heard.set(event, (heard.get(event) ?? 0) + 1),
  });
  const shakes = [...heard].reduce(
    (sum, [event, times]) => sum + (event.startsWith('bough.') ? times : 0),
    0,
  );
  // One second is for the camp, and the last attempt is under way when the day ends.
  expect([shakes, heard.get('camp.reached')]).toEqual([18, 1]);
});

describe('the same sessions, whatever runs them', () => {
  test('printed and interpreted, told and not, as a plain player plays them, on any design', () => {
    fc.assert(
      fc.property(designText, fc.integer({ min: 0, max: 2 ** 53 - 1 }), (text, seed) => {
        const design = readDesign(text);
        const form = formOf(design);
        for (const player of design.players) {
          const meeting = meetingOf(form, player);
          const heard: [number, number, boolean, boolean][][] = [[], []];
          const note =
            (index: number) => (event: number, at: number, beforeWaits: boolean, isTried: boolean) =>
              void heard[index]!.push([event, at, beforeWaits, isTried]);
          const ways = [
            (tally: Tally) => new PlainPlayer(form, meeting, tally, note(0)),
            (tally: Tally) => new Play(form, meeting, tally, undefined, note(1)),
            (tally: Tally) => new Play(form, meeting, tally, 'printed'),
            (tally: Tally) => new Play(form, meeting, tally, 'interpreted'),
          ];
          const [plain, ...others] = ways.map((way) => playedBy(way, form, seed));
          for (const other of others) {
            if (typeof plain === 'string' || typeof other === 'string') expect(other).toEqual(plain);
            else mustBeEqual(player.name, plain!, other);
          }
          expect(heard[1]).toEqual(heard[0]);
        }
      }),
      runs(150),
    );
  });

  test('the demo written by hand gives the same tallies, points by rule included', () => {
    const design = demo();
    const { players } = simulate(design, { sessions: 300, seed: 11 });
    for (const { player, tally } of players) {
      const { thresholds, attempts } = meetingOf(formOf(design), player);
      const hand = {
        ...player,
        thresholds: Float64Array.from(thresholds),
        attempts: Int32Array.from(attempts),
        log: new SessionLog(formOf(design)),
      };
      const byHand = new Tally(formOf(design));
      for (let session = 0; session < 300; session++) playByHand(11, session, hand, byHand);
      mustBeEqual(player.name, byHand, tally);
    }
  });

  test.each([
    ['fewer moments than 2^16', 65],
    ['more', 70],
  ])('intervals of a thousandth of a second, with %s to fall on', (_, most) => {
    const design = readDesign(`
jocus: 1
grid: 0.001
counters: { score: 0 }
score: score
pieces: { moth: { is: collectible } }
levels: [{ spawn: [{ piece: moth, every: [0.001, ${most}.001] }] }]
rules: [{ when: moth.taken, do: [{ add: { score: 1 } }] }]
screens: { moor: { live: true } }
players: { watcher: { skill: 1, patience: 600 } }`);
    const [printed, interpreted] = (['printed', 'interpreted'] as const).map((backend) =>
      simulate(design, { sessions: 200, seed: 3, backend }).players[0]!.tally.toData(),
    );
    expect(printed).toEqual(interpreted);
  });

  test('a design whose dials are loose plays as one whose dials are constants, setting after setting', () => {
    fc.assert(
      fc.property(
        designText,
        fc.nat(99),
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 3, maxLength: 3 }),
        (text, seed, settings) => {
          const wide = JSON.parse(text);
          for (const dial of Object.values(wide.dials ?? {}) as { from?: number; to?: number }[])
            Object.assign(dial, { from: -9, to: 9 });
          const design = readDesign(JSON.stringify(wide));
          for (const setting of settings) {
            const dials = Object.fromEntries(design.dials.map(({ name }) => [name, setting]));
            const play = (isLoose: boolean): unknown => {
              try {
                const { players } = simulate(withDials(design, dials, isLoose), { sessions: 3, seed });
                return players.map(({ tally }) => tally.toData());
              } catch (error) {
                if (error instanceof DesignError) return error.problems[0]!.code;
                throw error;
              }
            };
            expect(play(true)).toEqual(play(false));
          }
        },
      ),
      runs(60),
    );
  });

  test('settings of a dial that a bound and a duration read share code and still play as themselves', () => {
    const design = readDesign(`
jocus: 1
dials: { comb: { value: 3, from: 1, to: 9 }, bloom: { value: 2, from: 0.5, to: 8 } }
counters: { score: 0, honey: { start: 0, max: comb + 1 } }
score: score
pieces: { clover: { is: collectible, lasts: bloom, takes: bloom / 2 } }
levels: [{ spawn: [{ piece: clover, every: [1, 3], atOnce: 4 }] }]
rules: [{ when: clover.taken, do: [{ add: { honey: 1 } }, { add: { score: honey } }] }]
screens: { meadow: { live: true } }
players: { keeper: { skill: 1, patience: 60 } }`);
    const settings = [
      { comb: 9, bloom: 8 },
      { comb: 1, bloom: 8 },
      { comb: 9, bloom: 0.5 },
      { comb: 9, bloom: 8 },
    ];
    const played = (isLoose: boolean) =>
      settings.map((setting) =>
        simulate(withDials(design, setting, isLoose), {
          sessions: 50,
          seed: 2,
        }).players[0]!.tally.spreads.score.toData(),
      );
    const loose = played(true);
    expect(loose).toEqual(played(false));
    expect(loose[3]).toEqual(loose[0]);
    expect(new Set(loose.map((each) => JSON.stringify(each))).size).toBe(3);
  });

  test('every screen that a run enters is counted, however many there are', () => {
    const names = Array.from({ length: 70 }, (_, index) => `room${index}`);
    const entry = (name: string, index: number) =>
      `  ${name}: { ${index === 1 ? 'live: true' : index === 69 ? 'ending: won' : 'text: On'} }`;
    const way = (name: string, index: number) => `  - { from: ${name}, to: room${index + 1}, wait: 1 }`;
    const design = readDesign(`screens:
${names.map(entry).join('\n')}
  cellar: { text: Dark }
transitions:
${names.slice(0, -1).map(way).join('\n')}`);
    const { visits } = simulate(design, { sessions: 5, seed: 1 }).players[0]!.tally;
    // A run begins on the first live screen.
    expect([...visits.hits]).toEqual([0, ...Array.from({ length: 69 }, () => 5), 0]);
  });

  test('a session does not depend on how many are played with it', () => {
    const design = demo();
    const players = ['regular'];
    const few = columnOf(design, 'score', { sessions: 3, seed: 5, players });
    const many = columnOf(design, 'score', { sessions: 50, seed: 5, players });
    expect(many.slice(0, few.length)).toEqual(few);
    const later = columnOf(design, 'score', { sessions: 47, first: 3, seed: 5, players });
    expect(later).toEqual(many.slice(few.length));
  });

  test('a dial that is turned leaves every meeting as it was', () => {
    const half = simulate(readDesign(demoWithPetal(5)), { sessions: 200, seed: 3 });
    const full = simulate(readDesign(demoWithPetal(10)), { sessions: 200, seed: 3 });
    half.players.forEach(({ tally }, index) => {
      const other = full.players[index]!.tally;
      expect([...tally.fired]).toEqual([...other.fired]);
      expect(tally.points.value(0)).toBe(other.points.value(0) / 2);
    });
  });
});

const demoWithPetal = (petal: number): string => {
  const text = JSON.stringify({
    dials: { petal: { value: petal, from: 1, to: 50 } },
    counters: { score: {}, hits: {} },
    pieces: { blossom: { is: 'collectible', lasts: 2 }, wasp: { is: 'hazard' } },
    levels: [
      {
        spawn: [
          { piece: 'blossom', every: [0.5, 2] },
          { piece: 'wasp', every: [1, 3] },
        ],
      },
    ],
    rules: [
      { when: 'blossom.taken', do: [{ add: { score: 'petal' } }] },
      { when: 'wasp.hit', do: [{ add: { hits: 1 } }] },
    ],
    players: { one: { patience: 60 } },
  });
  return text;
};

describe('what the sessions add up to', () => {
  /** Pieces arrive one by one, each hit with the same chance; a run ends at the third hit. */
  const stings = (difficulty: number): string =>
    JSON.stringify({
      counters: { score: {}, lives: { start: 3, min: 0 } },
      pieces: { wasp: { is: 'hazard', difficulty, lead: 0 } },
      levels: [{ spawn: [{ piece: 'wasp', every: 1 }] }],
      rules: [
        { when: 'wasp.avoided', do: [{ add: { score: 1 } }] },
        { when: 'wasp.hit', do: [{ add: { lives: -1 } }] },
      ],
      screens: { heath: { live: true }, dark: { ending: 'lost' } },
      transitions: [{ from: 'heath', to: 'dark', if: 'lives == 0' }],
      players: { one: { skill: 0.5, patience: 86_400 } },
    });

  test('wasps avoided before the third hit follow the negative binomial distribution', () => {
    const sessions = 20_000;
    const avoided = 1 / (1 + Math.exp(-0.9));
    const hit = 1 - avoided;
    // Mean and variance of failures before the third success: 3 q / p and 3 q / p^2.
    const mean = (3 * avoided) / hit;
    const deviation = Math.sqrt((3 * avoided) / hit ** 2);
    const scores = columnOf(readDesign(stings(-0.4)), 'score', { sessions, seed: 8 });
    const found = scores.reduce((sum, score) => sum + score, 0) / sessions;
    expect(Math.abs(found - mean)).toBeLessThan((4 * deviation) / Math.sqrt(sessions));
    // P(k) = C(k + 2, 2) p^3 q^k; Pearson's statistic over k = 0..9 and the rest, 10 degrees of freedom.
    const chances = Array.from({ length: 10 }, (_, k) => (((k + 2) * (k + 1)) / 2) * hit ** 3 * avoided ** k);
    const all = [...chances, 1 - chances.reduce((sum, chance) => sum + chance, 0)];
    const counts = all.map((_, k) => scores.filter((score) => (k < 10 ? score === k : score >= 10)).length);
    const pearson = all.reduce(
      (sum, chance, k) => sum + (counts[k]! - sessions * chance) ** 2 / (sessions * chance),
      0,
    );
    // The 99.99 % point of chi-square with 10 degrees of freedom.
    expect(pearson).toBeLessThan(35.56);
  });

  test('runs that reach a quota before dusk follow the binomial tail', () => {
    // One attempt a second for 20 seconds, the last just in time; the run is won with 12 or more taken.
    const text = JSON.stringify({
      counters: { nectar: {} },
      timers: { daylight: { countdown: 20.5 } },
      pieces: { blossom: { is: 'collectible', takes: 1 } },
      levels: [{ place: { blossom: 50 } }],
      rules: [{ when: 'blossom.taken', do: [{ add: { nectar: 1 } }] }],
      screens: { heath: { live: true }, won: { ending: 'won' }, dark: { ending: 'lost' } },
      transitions: [
        { from: 'heath', to: 'won', if: 'nectar >= 12' },
        { from: 'heath', to: 'dark', when: 'daylight.ended' },
      ],
      players: { one: { skill: 0.2 } },
    });
    const sessions = 20_000;
    const { endings } = summarize(simulate(readDesign(text), { sessions, seed: 4 })).players.one!;
    const taken = 1 / (1 + Math.exp(-0.2));
    let chance = 0;
    for (let k = 12; k <= 20; k++) {
      let ways = 1;
      for (let i = 0; i < k; i++) ways = (ways * (20 - i)) / (i + 1);
      chance += ways * taken ** k * (1 - taken) ** (20 - k);
    }
    expect(Math.abs(endings.won!.value - chance)).toBeLessThan(
      4 * Math.sqrt((chance * (1 - chance)) / sessions),
    );
    expect(endings.won!.value + endings.dark!.value).toBeCloseTo(1, 12);
  });

  test('random intervals have the mean of their range', () => {
    const text = JSON.stringify({
      counters: { score: {} },
      timers: { gust: { every: [0.5, 2.5] } },
      rules: [{ when: 'gust.ticked', do: [{ add: { score: 1 } }] }],
      screens: { heath: { live: true } },
      players: { one: { patience: 30_000 } },
    });
    const { score } = summarize(simulate(readDesign(text), { sessions: 4, seed: 2 })).players.one!;
    // 20,000 gusts in 30,000 s; one interval has a deviation of 0.606 s, so that the count has about 57.
    expect(Math.abs(score!.mean - 20_000)).toBeLessThan(4 * 57);
  });

  test('own outcomes come in the proportion of their weights', () => {
    const text = JSON.stringify({
      counters: { score: {}, above: {}, beside: {} },
      pieces: { toad: { is: 'foe', lead: 0, outcomes: { above: 1, beside: '1 + level', never: 0 } } },
      levels: [{ spawn: [{ piece: 'toad', every: 1 }] }],
      rules: [
        { when: 'toad.above', do: [{ add: { score: 1 } }] },
        { when: 'toad.beside', do: [{ add: { beside: 1 } }] },
        { when: 'toad.never', do: [{ add: { above: 1 } }] },
      ],
      players: { one: { patience: 3000.5 } },
    });
    const [above, beside, never] = summarize(simulate(readDesign(text), { sessions: 10, seed: 5 })).players
      .one!.rules;
    const all = 30_000;
    expect(above!.fired + beside!.fired).toBe(all);
    expect(never!.fired).toBe(0);
    expect(Math.abs(above!.fired - all / 3)).toBeLessThan(4 * Math.sqrt((all * 2) / 9));
  });

  test('a piece of several hits asks for so many successes', () => {
    const text = JSON.stringify({
      counters: { score: {}, hits: {} },
      pieces: {
        hornet: { is: 'foe', lead: 0, hits: 3, difficulty: -1 },
        shell: { is: 'collectible', takes: 1, hits: 4, again: true },
      },
      levels: [{ place: { shell: 1 }, spawn: [{ piece: 'hornet', every: 1 }] }],
      rules: [
        { when: 'hornet.beaten', do: [{ add: { score: 1 } }] },
        { when: 'hornet.hit', do: [{ add: { hits: 1 } }] },
        { name: 'opened', when: 'shell.taken', do: [{ cue: 'crack' }] },
      ],
      players: { one: { patience: 2000.5 } },
    });
    const sessions = 10;
    const [beaten, hit, opened] = summarize(simulate(readDesign(text), { sessions, seed: 3 })).players.one!
      .rules;
    const p = (1 / (1 + Math.exp(-1))) ** 3;
    const all = beaten!.fired + hit!.fired;
    expect(all).toBe(2000 * sessions);
    expect(Math.abs(beaten!.fired / all - p)).toBeLessThan(4 * Math.sqrt((p * (1 - p)) / all));
    expect(opened!.fired).toBe(sessions);
  });

  test('tries until success follow the geometric distribution', () => {
    // Each try takes a second and succeeds with chance p; 40 nuts, one after another, take 40 / p seconds on average.
    const text = JSON.stringify({
      counters: { nuts: {} },
      pieces: { nut: { is: 'collectible', takes: 1, again: true, difficulty: 0.7 } },
      levels: [{ place: { nut: 40 } }],
      rules: [{ when: 'nut.taken', do: [{ add: { nuts: 1 } }] }],
      screens: { heath: { live: true }, done: { ending: 'won' } },
      transitions: [{ from: 'heath', to: 'done', if: 'nuts == 40' }],
      players: { one: {} },
    });
    const sessions = 4000;
    const { runSeconds } = summarize(simulate(readDesign(text), { sessions, seed: 9 })).players.one!;
    const p = 1 / (1 + Math.exp(0.7));
    const deviation = Math.sqrt((40 * (1 - p)) / p ** 2);
    expect(Math.abs(runSeconds!.mean - 40 / p)).toBeLessThan((4 * deviation) / Math.sqrt(sessions));
    expect(Math.abs(runSeconds!.sd / deviation - 1)).toBeLessThan(0.06);
  });

  test('a session ends when nothing can happen any more, and its run is counted as abandoned', () => {
    const text =
      '{ counters: { score: {} }, pieces: { blossom: { is: collectible } }, levels: [{ place: { blossom: 2 } }], rules: [{ when: blossom.taken, do: [{ add: { score: 1 } }] }], players: { one: {} } }';
    const { abandoned, runs, runSeconds } = summarize(simulate(readDesign(text), { sessions: 10, seed: 1 }))
      .players.one!;
    expect({ abandoned: abandoned.value, runs, longest: runSeconds!.max }).toEqual({
      abandoned: 1,
      runs: 10,
      longest: 2,
    });
  });
});

test('a run that begins afresh on a menu, and again on the way into play, is one run', () => {
  const pond = (leave: string) =>
    readDesign(`counters: { score: {} }
timers: { day: { countdown: 10 } }
pieces: { moth: { is: collectible } }
levels: [{ spawn: [{ piece: moth, every: 1, atOnce: 2 }] }]
rules: [{ when: moth.taken, do: [{ add: { score: 1 } }] }]
screens: { title: {}, pond: { live: true }, night: { ending: over } }
transitions:
  - { from: title, to: pond, when: input.start, fresh: run }
  - { from: pond, to: night, when: day.ended }
  - { from: night, to: title, when: input.again${leave} }`);
  const figures = (text: ReturnType<typeof readDesign>) =>
    Object.values(summarize(simulate(text, { sessions: 40, seed: 3 })).players).map(
      ({ runs: played, abandoned, score }) => [played, abandoned.value, score!.mean],
    );
  expect(figures(pond(', fresh: run'))).toEqual(figures(pond('')));
  expect(figures(pond(', fresh: run')).map(([played, left]) => [played, left])).toEqual([
    [80, 0],
    [120, 0],
    [160, 0],
  ]);
});

test('a game of menus alone is played on them: one that is left is a run that comes to no ending', () => {
  const story = readDesign(`screens: { gate: {}, wood: {}, stuck: {}, home: { ending: won } }
transitions:
  - { from: gate, to: wood, when: input.go, fresh: run }
  - { from: wood, to: home, when: input.left }
  - { from: wood, to: stuck, when: input.right }
players: { reader: { runs: 1 } }`);
  const {
    runs: played,
    abandoned,
    endings,
  } = summarize(simulate(story, { sessions: 200, seed: 1 })).players.reader!;
  expect(played).toBe(200);
  expect(abandoned.value + endings.home!.value).toBe(1);
  expect(abandoned.value).toBeGreaterThan(0.3);
});

describe('players', () => {
  const two = (player: object): string =>
    JSON.stringify({
      counters: { score: {} },
      timers: { dusk: { countdown: 4.5 } },
      pieces: {
        blossom: { is: 'collectible', takes: 1, in: 'flower', difficulty: -20 },
        foxglove: { is: 'collectible', takes: 1, in: 'flower', difficulty: -20 },
      },
      levels: [{ place: { blossom: 3, foxglove: 3 } }],
      rules: [
        { when: 'blossom.taken', do: [{ add: { score: 1 } }] },
        { when: 'foxglove.taken', do: [{ add: { score: 10 } }] },
      ],
      screens: { title: {}, heath: { live: true }, over: { ending: 'over' } },
      transitions: [
        { from: 'title', to: 'heath', when: 'input.start', fresh: 'run' },
        { from: 'heath', to: 'over', when: 'dusk.ended' },
        { from: 'over', to: 'heath', when: 'input.again', fresh: 'run' },
        { from: 'over', to: 'title', when: 'input.leave' },
      ],
      players: { one: player },
    });
  const scores = (player: object): number[] =>
    columnOf(readDesign(two(player)), 'score', { sessions: 3, seed: 1 });

  test('seek what their style weighs most, and leave alone what weighs nothing', () => {
    expect(scores({})).toEqual([13, 13, 13]);
    expect(scores({ style: { foxglove: 2 } })).toEqual([31, 31, 31]);
    expect(scores({ style: { flower: 0, blossom: 1 } })).toEqual([3, 3, 3]);
    expect(scores({ style: { flower: 0 } })).toEqual([0, 0, 0]);
  });

  test('think as long as they do, and choose their inputs', () => {
    const session = (player: object) =>
      summarize(simulate(readDesign(two(player)), { sessions: 20, seed: 1 })).players.one!;
    expect(session({ thinks: 3 }).sessionSeconds!.p50).toBe(7.5);
    const again = session({ runs: 3, inputs: { over: 'input.again' } });
    expect(again.transitions.map(({ count }) => count)).toEqual([20, 60, 40, 0]);
    const stuck = session({ runs: 3, inputs: { over: { 'input.again': 0 } } });
    expect(stuck.runs).toBe(20);
  });

  test('may be functions, which see what waits and what there is to press', () => {
    const asked: string[] = [];
    const { players } = simulate(readDesign(two({})), {
      sessions: 2,
      seed: 1,
      players: [
        {
          name: 'greedy',
          runs: 2,
          decide: ({ isLive, waiting, inputs, counters, level, runsEnded }) => {
            if (!isLive) return inputs.at(-1);
            asked.push(`${waiting.length} ${counters.score} ${level} ${runsEnded}`);
            return waiting.findLast(({ piece }) => piece === 'foxglove')?.piece ?? waiting[0]?.piece;
          },
        },
      ],
    });
    expect(players[0]!.player.name).toBe('greedy');
    expect(
      summarize({ design: readDesign(two({})), seed: 1, first: 0, sessions: 2, players }).players.greedy!
        .score!.p50,
    ).toBe(31);
    expect(asked.slice(0, 3)).toEqual(['6 0 1 0', '5 10 1 0', '4 20 1 0']);
  });

  test('that choose what is not there are told what is', () => {
    const play = (decide: () => string) => () =>
      simulate(readDesign(two({})), { sessions: 1, seed: 1, players: [{ name: 'lost', decide }] });
    expect(play(() => 'input.jump')).toThrow(
      'The player lost chose "input.jump"; there is input.start to choose',
    );
  });

  test('are three where the design names none', () => {
    const design = readDesign('counters: { score: {} }');
    expect(design.players.map(({ name, skill, pace, runs: count }) => [name, skill, pace, count])).toEqual([
      ['newcomer', -1, 1.3, 2],
      ['regular', 0, 1, 3],
      ['veteran', 1, 1, 4],
    ]);
  });

  test.each([
    ['{ style: { rose: 2 } }', 'unknown-name'],
    ['{ style: { blossom: -1 } }', 'wrong-type'],
    ['{ inputs: { menu: input.start } }', 'unknown-name'],
    ['{ inputs: { title: input.jump } }', 'unknown-name'],
    ['{ inputs: { title: { input.start: 1.5 } } }', 'wrong-type'],
    ['{ learning: much }', 'wrong-type'],
  ])('%s is told', (player, code) => {
    const text = two({}).replace('"players":{"one":{}}', `"players":{"one":${player}}`);
    try {
      readDesign(text);
      expect.unreachable();
    } catch (error) {
      expect((error as DesignError).problems.map((problem) => problem.code)).toContain(code);
    }
  });
});

describe('calls that cannot be used', () => {
  test.each([
    { sessions: 0, seed: 1 },
    { sessions: 1.5, seed: 1 },
    { sessions: Number.NaN, seed: 1 },
    { sessions: 1e12, seed: 1 },
    { sessions: 1, seed: -1 },
    { sessions: 1, seed: 2 ** 53 },
    { sessions: 1, seed: 1, players: ['nobody'] },
  ])('%j', (options) => {
    expect(() => simulate(demo(), options)).toThrow(UsageError);
  });
});
