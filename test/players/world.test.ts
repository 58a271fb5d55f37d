import { describe, expect, test } from 'vitest';
import { formOf } from '../../src/engine/program/lower/lower.js';
import { gameOf } from '../../src/engine/session/design-session.js';
import {
  type FieldScene,
  fieldWorld,
  type GameSession,
  readDesign,
  recordOf,
  recordPlayed,
  replay,
  Session,
  type Simulation,
  Stage,
  simulate,
  summarize,
  type World,
  type WorldStage,
} from '../../src/index.js';
import { runColumns, runWidth } from '../../src/measure/session-log.js';
import { Tally } from '../../src/measure/tally.js';
import { WorldPlay } from '../../src/players/drivers/world-play.js';
import { meetingOf } from '../../src/players/meeting/meeting.js';
import { demo } from '../support/designs.js';

/** One live screen, so that nothing but the world is played. */
const meadow = readDesign(`
counters: { score: {}, stings: {} }
pieces: { blossom: { is: collectible, lasts: 4 }, wasp: { is: hazard }, crow: { is: foe } }
levels: [{ place: { blossom: 3 }, spawn: [{ piece: blossom, every: [0.5, 1], atOnce: 5 }, { piece: wasp, every: 2, first: 1 }, { piece: crow, every: 5 }] }]
rules:
  - { when: blossom.taken, do: [{ add: { score: 1 } }] }
  - { when: [wasp.hit, crow.hit], do: [{ add: { stings: 1 } }, { grace: 1 }] }
players: { one: { skill: 1, patience: 30 } }
`);

describe('a world that simulated players play in', () => {
  test('gives the same sessions for the same seed, others for another, and better ones to better players', () => {
    const play = (seed: number) => simulate(demo(), { sessions: 8, seed, world: fieldWorld });
    const [first, again, other] = [play(1), play(1), play(2)];
    const data = ({ players }: Simulation) => players.map(({ tally }) => tally.toData());
    expect(data(first)).toEqual(data(again));
    expect(first.players[0]!.tally.points).not.toEqual(other.players[0]!.tally.points);
    const means = Object.values(summarize(first).players).map(({ score }) => score!.mean);
    expect(means).toEqual([...means].sort((a, b) => a - b));
  });

  test('plays sessions whose events replay to the same end', () => {
    const design = demo();
    const form = formOf(design);
    const session = new Session(design, { seed: 4, session: 1 });
    const tally = new Tally(form);
    const play = new WorldPlay(form, meetingOf(form, design.players[1]!), tally, fieldWorld, {
      sent: (event, at) => session.sendAt(form.events[event]!.name, at, false),
    });
    play.play(4, 1);
    session.advanceTo(play.machine.cells[form.cells.now]!);
    expect(session.snapshot().cells).toEqual(
      [...play.machine.cells].map((cell) => (Number.isFinite(cell) ? cell : null)),
    );
    expect(replay(design, recordOf(session)).counters).toEqual(session.counters);
    expect(tally.runs).toBeGreaterThan(0);
  });

  test('tells its sessions again as they were played', () => {
    const design = demo();
    const played = { seed: 1, session: 3, player: 'regular' };
    let last: number | undefined;
    simulate(design, {
      seed: 1,
      first: 3,
      sessions: 1,
      players: ['regular'],
      world: fieldWorld,
      onSession: (_, { columns, runs }) => {
        last = columns[(runs - 1) * runWidth + runColumns.score];
      },
    });
    const record = recordPlayed(design, { ...played, world: fieldWorld });
    expect(replay(design, record).counters.score).toBe(last);
    // The meeting model plays another session of that number.
    expect(recordPlayed(design, played)).not.toEqual(record);
  });

  test('does the same on the screen as in the simulation, frame times notwithstanding', () => {
    const inputs: string[] = [];
    const watched: World = {
      step: fieldWorld.step,
      open: (stage) => {
        const scene = fieldWorld.open(stage);
        const advance = scene.advance.bind(scene);
        scene.advance = (input) => {
          inputs.push(input);
          advance(input);
        };
        return scene;
      },
    };
    const form = formOf(meadow);
    const play = new WorldPlay(form, meetingOf(form, meadow.players[0]!), new Tally(form), watched);
    play.play(9, 0);
    const session: GameSession = gameOf(meadow).start({ seed: 9 });
    const stage = new Stage(fieldWorld, session);
    for (const input of inputs) for (const part of [3.5, 9.25, 7.25]) stage.advance(part, input);
    expect(inputs.length).toBe(1500);
    expect(session.counter('score')).toBeGreaterThan(5);
    expect(session.snapshot().cells).toEqual(
      [...play.machine.cells].map((cell) => (Number.isFinite(cell) ? cell : null)),
    );
  });

  test('is played by people who differ, improve within a run, and take care', () => {
    const design = (player: string) =>
      readDesign(`
counters: { score: {} }
pieces: { shell: { is: collectible } }
rules: [{ when: shell.taken, do: [{ add: { score: 1 } }] }]
players: { one: { patience: 25, ${player} } }
`);
    /** Decides as often as the player can; the best choice takes a shell. */
    const choices: { isBest: boolean; step: number }[] = [];
    const beach: World = {
      step: 50,
      open: ({ report }) => {
        let step = 0;
        let decided = true;
        return {
          begin: () => {
            step = 0;
          },
          appear: () => {},
          clear: () => {},
          advance: (input) => {
            if (decided) choices.push({ isBest: input === 'best', step });
            if (decided && input === 'best') {
              report('shell.appeared');
              report('shell.taken');
            }
            decided = false;
            step++;
          },
          decide: () => {
            decided = true;
            return { best: 'best', others: ['other'] };
          },
        };
      },
    };
    const logistic = (x: number): number => 1 / (1 + Math.exp(-x));
    const played = (player: string) => {
      choices.length = 0;
      simulate(design(player), { sessions: 200, seed: 5, world: beach });
      return choices;
    };
    const mean = (values: readonly boolean[]): number => values.filter(Boolean).length / values.length;
    const nth = (n: number) => (_: unknown, at: number) => at % 100 === n;
    const steady = played('skill: -1');
    expect(steady.length).toBe(200 * 100);
    expect(Math.abs(mean(steady.map(({ isBest }) => isBest)) - logistic(-1))).toBeLessThan(0.015);
    const practised = played('skill: -1, practice: 1');
    for (const at of [0, 9, 99]) {
      const own = practised.filter(nth(at)).map(({ isBest }) => isBest);
      const expected = logistic(-1 + Math.log(1 + at));
      expect(Math.abs(mean(own) - expected)).toBeLessThan(4 * Math.sqrt((expected * (1 - expected)) / 200));
    }
    // From ten points on it decides half as often, and better.
    const careful = played('skill: 0, caution: { if: score >= 10, pace: 2, skill: 20 }');
    const late = careful.filter(({ step }) => step > 300);
    expect(late.every(({ isBest }) => isBest)).toBe(true);
    expect(late.length).toBeLessThan(0.6 * 200 * 40);
    // Quick people decide more often than slow ones.
    const paces = new Map<number, number>();
    let session = -1;
    for (const { step } of played('paceSpread: 0.5')) {
      if (step === 0) session++;
      paces.set(session, (paces.get(session) ?? 0) + 1);
    }
    expect(paces.size).toBe(200);
    const counts = [...paces.values()];
    expect(Math.max(...counts) / Math.min(...counts)).toBeGreaterThan(3);
  });

  test('sees the level and the counters of the session, in a simulation as on the screen', () => {
    const climb = readDesign(`
counters: { breath: { start: 3, min: 0, keep: level }, flag: { words: [down, up], start: down } }
pieces: { ledge: { is: exit } }
levels: [{ name: Foot, place: { ledge: 1 } }, { name: Top }]
rules:
  - { when: input.breathe, do: [{ add: { breath: -1 } }] }
  - { when: ledge.reached, do: [{ set: { flag: up } }] }
screens: { cliff: { live: true }, done: { ending: over } }
transitions:
  - { from: cliff, to: cliff, when: ledge.reached, level: next, fresh: level }
  - { from: cliff, to: done, wait: 5 }
players: { one: {} }`);
    const seen: string[] = [];
    let steps = 0;
    const cliff: World = {
      step: 500,
      open: ({ report, counter, level }) => ({
        begin: () => {},
        appear: () => {},
        clear: () => {},
        advance: () => {
          if (steps++ === 5) report('ledge.reached');
          else report('input.breathe');
          seen.push(`${level()} ${String(counter('breath'))} ${String(counter('flag'))}`);
          if (steps > 8) expect(() => counter('breth')).toThrow('no counter "breth"; it has breath, flag');
        },
        decide: () => ({ best: '', others: [] }),
      }),
    };
    simulate(climb, { sessions: 1, seed: 1, world: cliff });
    expect(seen.slice(0, 4)).toEqual(['1 2 down', '1 1 down', '1 0 down', '1 0 down']);
    expect(seen.slice(5, 7)).toEqual(['2 3 up', '2 2 up']);
    const simulated = seen.splice(0);
    steps = 0;
    new Stage(cliff, new Session(climb, { seed: 1 })).advance(4500, '');
    expect(seen).toEqual(simulated.slice(0, 9));
  });

  test('may be of the game’s own making', () => {
    const bush: World = {
      step: 500,
      open: ({ report }) => {
        let there = 0;
        return {
          begin: () => {},
          appear: (piece) => {
            if (piece === 'blossom') there++;
          },
          clear: (piece) => {
            if (piece === 'blossom') there = 0;
          },
          advance: (input) => {
            if (input === 'pick' && there > 0 && report('blossom.taken') === 'handled') there--;
            report('no.such');
          },
          decide: () => ({ best: 'pick', others: [] }),
        };
      },
    };
    const { tally } = simulate(meadow, { sessions: 3, seed: 1, world: bush }).players[0]!;
    // It never picks more than stood there, nor more than one a step.
    expect(tally.fired[0]).toBeGreaterThan(3 * 25);
    expect(tally.fired[0]).toBeLessThanOrEqual(3 * 60);
  });
});

describe('the field', () => {
  /** A field by itself: what it reports is written down, and answered as told. */
  function open(answer: (event: string) => 'handled' | 'ignored' | 'turned away' = () => 'handled') {
    const reports: string[] = [];
    let asked = 0;
    const stage: WorldStage = {
      pieces: new Session(meadow).pieces,
      course: () => ({ pieces: [], passed: 0, checkpoint: 0 }),
      level: () => 1,
      counter: () => 0,
      report: (event) => {
        reports.push(event);
        return answer(event);
      },
      random: () => (asked++ * 0.377) % 1,
    };
    const scene: FieldScene = fieldWorld.open(stage);
    scene.begin('run');
    const run = (seconds: number, input: () => string): void => {
      for (let step = 0; step < seconds * 50; step++) scene.advance(input());
    };
    return { scene, reports, run };
  }

  test('a perfect player takes what stands there, one contact counting once', () => {
    const { scene, reports, run } = open();
    scene.appear('blossom');
    scene.appear('blossom');
    run(3.5, () => scene.decide().best);
    expect(reports).toEqual(['blossom.taken', 'blossom.taken']);
    expect(scene.bodies).toEqual([]);
  });

  test('what nobody comes for is missed, and a cleared level is empty', () => {
    const { scene, reports, run } = open();
    scene.appear('blossom');
    run(4.1, () => 'stay');
    expect(reports).toEqual(['blossom.missed']);
    scene.appear('blossom');
    scene.clear('blossom');
    expect(scene.bodies).toEqual([]);
  });

  test('what flies in hits one who stays, and passes one who turns away', () => {
    const still = open();
    still.scene.appear('wasp');
    still.run(8, () => 'stay');
    expect(still.reports).toEqual(['wasp.hit']);
    const nimble = open();
    for (const piece of ['wasp', 'crow', 'wasp']) {
      nimble.scene.appear(piece);
      nimble.run(8, () => nimble.scene.decide().best);
    }
    expect(nimble.reports).toEqual(['wasp.avoided', 'crow.gone', 'wasp.avoided']);
  });

  test('a hit that grace turns away counts no second time in the same contact', () => {
    const { scene, reports, run } = open((event) => (event === 'wasp.hit' ? 'turned away' : 'handled'));
    scene.appear('wasp');
    run(12, () => 'stay');
    expect(reports).toEqual(['wasp.hit', 'wasp.avoided']);
  });

  test('the player stays within it', () => {
    const { scene, run } = open();
    run(10, () => 'up left');
    expect(scene.player).toEqual({ x: 16, y: 16 });
  });
});
