import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Design,
  DesignError,
  type Exploration,
  explore,
  readDesign,
  replay,
  Session,
  simulate,
} from '../../src/index.js';
import { holesIn } from '../support/closed-set.js';
import { changed, demo } from '../support/designs.js';
import { designText, happenings } from '../support/generated-designs.js';
import { smallDesign } from '../support/plain-explorer.js';
import { countedRuns, runs } from '../support/runs.js';

const verdicts = (text: string) =>
  explore(readDesign(text)).transitions.map(({ from, to, verdict, reason }) => ({
    way: `${from} -> ${to}`,
    verdict,
    reason,
  }));

/** Plays the steps of a witness as a test of the design would, and gives the transitions of the last one. */
function lastTaken(design: Design, steps: readonly string[]): string[] {
  const session = new Session(design, { spawns: false });
  let last: string[] = [];
  session.listen((step) => {
    last = step.transitions.map(({ from, index }) => `${from} ${index}`);
  });
  for (const step of steps) {
    const [, times = '1', event] = /^(?:(\d+) x )?(.*)$/.exec(step)!;
    if (event!.startsWith('wait ')) session.advance(Number(event!.slice(5)) * 1000);
    else for (let time = 0; time < Number(times); time++) session.send(event!);
  }
  return last;
}

describe('the demo', () => {
  test('every transition is reached, and every witness shows it when it is replayed', () => {
    const design = demo();
    const { transitions, faults } = explore(design);
    expect(faults).toEqual([]);
    expect(transitions).toHaveLength(12);
    for (const { from, index, verdict, witness } of transitions) {
      expect(verdict, `${from} ${index}`).toBe('reached');
      expect(lastTaken(design, witness!.steps)).toContain(`${from} ${index}`);
      const taken: string[] = [];
      replay(design, witness!.record!, (session) =>
        session.listen((step) => taken.push(...step.transitions.map((each) => `${each.from} ${each.index}`))),
      );
      expect(taken.at(-1)).toBe(`${from} ${index}`);
    }
  });

  test('witnesses are as short as they can be', () => {
    const { transitions } = explore(demo());
    const steps = transitions.map(({ witness }) => witness!.steps.join(', '));
    expect(steps[0]).toBe('input.help');
    expect(steps[3]).toBe('input.start, wasp.hit, wait 1, wasp.hit, wait 1, wasp.hit');
    expect(steps[4]).toBe('input.start, wait 45');
    expect(steps[6]).toBe('input.start, 12 x blossom.taken');
  });

  test('a quota above the max of its counter is reported with how near the counter comes', () => {
    const found = verdicts(changed('quota: 12', 'quota: 25'));
    const cleared = found.find(({ way }) => way === 'heath -> cleared')!;
    expect(cleared.verdict).toBe('unreachable');
    expect(cleared.reason).toContain('"nectar >= level.quota" never holds');
    expect(cleared.reason).toContain('nectar 20 (its max), level.quota 25');
    expect(found.find(({ way }) => way === 'cleared -> heath')).toMatchObject({
      verdict: 'unreachable',
      reason: 'cleared is never entered',
    });
    expect(found.find(({ way }) => way === 'heath -> dark')!.verdict).toBe('reached');
  });

  test('the reason speaks of the level in which the rest of the condition holds', () => {
    const found = verdicts(changed('quota: 20', 'quota: 25'));
    expect(found.find(({ way }) => way === 'heath -> nightfall')!.reason).toContain(
      'nectar 20 (its max), level.quota 25',
    );
    expect(found.find(({ way }) => way === 'heath -> cleared')!.verdict).toBe('reached');
  });

  test('a purse without a max has its end where play ends at so much: all is decided, and a level that is over at once is shown', () => {
    const shop =
      readDesign(`counters: { glow: { min: 0 }, oil: { start: 1, min: 0 }, singes: { start: 0, max: 3 } }
pieces: { moth: { is: collectible }, hawkmoth: { is: collectible }, flame: { is: hazard } }
levels: [{ values: { order: 120 } }, { values: { order: 240 } }]
rules:
  - { when: moth.taken, do: [{ add: { glow: 5 * oil } }] }
  - { when: hawkmoth.taken, do: [{ add: { glow: 15 * oil } }] }
  - { when: flame.hit, do: [{ add: { singes: 1 } }] }
  - { when: input.buy, if: glow >= 30, do: [{ pay: { glow: 30 } }, { add: { oil: 1 } }] }
screens: { porch: { live: true }, dusk: {}, lit: { ending: won }, dark: { ending: lost } }
transitions:
  - { from: porch, to: dark, if: singes == 3 }
  - { from: porch, to: lit, if: glow >= level.order and level.last }
  - { from: porch, to: dusk, if: glow >= level.order }
  - { from: dusk, to: porch, when: input.go, level: next, fresh: level }
  - { from: [lit, dark], to: porch, when: input.again, fresh: run }`);
    const { atOnce, leftOpen } = explore(shop);
    expect(atOnce).toMatchObject([{ screen: 'porch', to: 'lit' }]);
    expect(replay(shop, atOnce[0]!.witness.record!)).toMatchObject({ screen: 'lit', level: 2 });
    expect(leftOpen).toBeUndefined();
  });

  test('what does not hang on counters without end is told although no end of states was found', () => {
    const { parts, leftOpen } = explore(
      readDesign(
        '{ counters: { a: {} }, levels: [{}, {}], rules: [{ when: input.x, do: [{ add: { a: 1 } }] }], screens: { play: { live: true }, over: { ending: lost } }, transitions: [{ from: play, to: over, if: a % 7 == 3 }, { from: over, to: play, when: input.again, do: [{ add: { a: 1 } }] }] }',
      ),
      { mostStates: 100_000 },
    );
    expect(leftOpen).toContain('no end of states was found');
    expect(parts.findLast(({ kind }) => kind === 'level')).toMatchObject({
      verdict: 'unreachable',
      reason: 'no transition that can be taken leads to it',
    });
  });

  test('a limit that is hit leaves undecided what was not found, and says which', () => {
    const far = readDesign(
      '{ counters: { steps: { max: 5000 } }, rules: [{ when: input.step, do: [{ add: { steps: 1 } }] }], screens: { path: { live: true }, hut: { ending: won } }, transitions: [{ from: path, to: hut, if: steps == 4000 }] }',
    );
    const { transitions, isComplete } = explore(far, { mostStates: 20 });
    expect(isComplete).toBe(false);
    expect(transitions[0]).toMatchObject({
      verdict: 'undecided',
      reason: 'the limit of 20 states was hit; a narrow min and max for steps would leave fewer',
    });
    // What the sessions of players show is reached, however little was searched.
    expect(explore(demo(), { mostStates: 20 }).transitions.map(({ verdict }) => verdict)).not.toContain(
      'unreachable',
    );
  });
});

describe('reasons', () => {
  const flow = (transitions: string, more = ''): string =>
    `{ counters: { a: { max: 3 }, b: {} }, pieces: { red: { is: collectible } }, rules: [{ when: red.taken, do: [{ add: { a: 1 } }] }], screens: { play: { live: true }, over: { ending: lost }, shop: {} }, transitions: [${transitions}] ${more} }`;

  test('an earlier transition that always goes first', () => {
    const found = verdicts(
      flow('{ from: play, to: over, if: a == 2 }, { from: play, to: shop, if: a == 2 and b == 0 }'),
    );
    expect(found[1]).toMatchObject({ verdict: 'unreachable' });
    expect(found[1]!.reason).toBe('an earlier transition always goes first: play -> over (line 1)');
  });

  test('a wait behind a shorter one', () => {
    const found = verdicts(flow('{ from: play, to: over, wait: 2 }, { from: play, to: shop, wait: 4 }'));
    expect(found[1]).toMatchObject({
      verdict: 'unreachable',
      reason: 'play -> over (line 1) leaves play after 2 s, before the 4 s that this one waits',
    });
  });

  test('a payment that nobody can afford', () => {
    const found = verdicts(flow('{ from: play, to: shop, when: input.buy, do: [{ pay: { a: 5 } }] }'));
    expect(found[0]).toMatchObject({ verdict: 'unreachable', reason: 'nobody on play can pay 5 a' });
  });

  test('an event of its own that only a silent rule emits', () => {
    const found = verdicts(
      '{ counters: { a: { max: 3 } }, rules: [{ when: input.up, do: [{ add: { a: 1 } }] }, { if: a == 4, do: [{ emit: door.opens }] }], screens: { play: { live: true }, over: { ending: won } }, transitions: [{ from: play, to: over, when: door.opens }] }',
    );
    expect(found[0]).toMatchObject({
      verdict: 'unreachable',
      reason: 'nothing that can happen emits door.opens',
    });
  });

  test('what a piece needs', () => {
    const { parts } = explore(
      readDesign(
        '{ counters: { a: { max: 3 } }, pieces: { owl: { is: foe, needs: a == 4 } }, levels: [{ place: { owl: 3 } }], rules: [{ when: owl.beaten, do: [{ add: { a: 1 } }] }] }',
      ),
    );
    expect(parts.find(({ name }) => name === 'owl.beaten')?.reason).toBe(
      'what an owl needs, "a == 4", never holds while one is there',
    );
  });

  test('an event that never happens on the screen', () => {
    const found = verdicts(
      flow('{ from: play, to: over, when: input.quit }, { from: over, to: play, when: red.taken }'),
    );
    expect(found[1]).toMatchObject({ verdict: 'unreachable', reason: 'red.taken never happens on over' });
  });

  test('only so many pieces in the level', () => {
    const levels = ', levels: [{ place: { red: 2 } }]';
    expect(verdicts(flow('{ from: play, to: over, if: a == 2 }', levels))[0]!.verdict).toBe('reached');
    const found = verdicts(flow('{ from: play, to: over, if: a == 3 }', levels))[0]!;
    expect(found.verdict).toBe('unreachable');
    expect(found.reason).toContain('a 2');
  });

  test('what depends on the seconds of a timer is undecided where no session shows it', () => {
    const text = flow(
      '{ from: play, to: over, when: red.taken, if: timer.clock > 9 }',
      ', timers: { clock: { countdown: 5 } }',
    );
    const found = verdicts(text)[0]!;
    expect(found.verdict).toBe('undecided');
    expect(found.reason).toContain('timer.clock');
  });

  test('a rule that chance keeps silent once another screen is entered opens a way', () => {
    const text = `{ counters: { a: {} }, rules: [{ when: shop.entered, screens: shop, chance: 0.9, do: [{ set: { a: 1 } }] }], screens: { play: { live: true }, shop: {}, over: { ending: lost } }, transitions: [{ from: play, to: shop, when: input.go }, { from: shop, to: play, if: a == 1, wait: 1, do: [{ set: { a: 0 } }] }, { from: shop, to: over, if: a == 0, wait: 2 }] }`;
    const design = readDesign(text);
    const { transitions } = explore(design);
    expect(transitions.map(({ verdict }) => verdict)).toEqual(['reached', 'reached', 'reached']);
    expect(transitions[2]!.witness!.steps).toEqual(['input.go', 'wait 2']);
    // The witness holds the draw that it needs.
    expect(replay(design, transitions[2]!.witness!.record!).screen).toBe('over');
  });

  test('a chain without end is a fault with a witness', () => {
    const { faults } = explore(
      readDesign(
        flow(
          '{ from: play, to: shop, when: red.taken }, { from: shop, to: over, if: a >= 1 }, { from: over, to: shop, if: a >= 1 }',
        ),
      ),
    );
    expect(faults).toHaveLength(1);
    expect(faults[0]!.problem.code).toBe('endless-chain');
    expect(faults[0]!.witness!.steps).toEqual(['red.taken']);
  });

  test('going past the last level is a fault with a witness', () => {
    const { faults } = explore(
      readDesign(flow('{ from: play, to: play, when: red.taken, level: next }', ', levels: [{}, {}]')),
    );
    expect(faults.map(({ problem }) => problem.code)).toEqual(['no-next-level']);
    expect(faults[0]!.witness!.steps).toEqual(['2 x red.taken']);
  });
});

const small = { mostStates: 400 };

/** The verdicts on a design; none where its very first start never comes to an end. */
function verdictsOf(design: Design, mostStates = small.mostStates): Exploration['transitions'] {
  try {
    return explore(design, { mostStates }).transitions;
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    expect(() => new Session(design)).toThrow(DesignError);
    return [];
  }
}

describe('when timers keep time', () => {
  const screens =
    'screens: { heath: { live: true }, hall: { live: true }, dark: { ending: lost }, late: { ending: lost } }\n';
  const back = '  - { from: [dark, late], to: heath, when: input.again, fresh: run }\n';

  test('a timer that another always comes before never fires', () => {
    const found = verdicts(
      `timers: { short: { countdown: 10 }, long: { countdown: 15 } }\n${screens}transitions:\n  - { from: heath, to: dark, when: short.ended }\n  - { from: heath, to: late, when: long.ended }\n${back}`,
    );
    expect(found.map(({ verdict }) => verdict)).toEqual(['reached', 'unreachable', 'reached', 'unreachable']);
    expect(found[1]!.reason).toContain('when timers, waits and rests keep time, it never happens');
  });

  test('one that another can be got away from is reached, at its very millisecond', () => {
    const text = `timers: { short: { countdown: 10 }, long: { countdown: 15 } }\n${screens}transitions:\n  - { from: heath, to: dark, when: short.ended }\n  - { from: heath, to: hall, when: input.in }\n  - { from: hall, to: late, when: long.ended }\n${back}`;
    const { transitions } = explore(readDesign(text));
    expect(transitions[2]).toMatchObject({ verdict: 'reached', witness: { steps: ['input.in', 'wait 15'] } });
  });

  test('a way that must be taken between two timers is realised in whole milliseconds', () => {
    // Out after the bell and before dusk, so that dusk, set anew in the hall, falls there.
    const text = `counters: { rung: { max: 1, keep: life } }\ntimers: { bell: { after: 4 }, dusk: { countdown: 6 } }\nrules: [{ when: bell.ended, do: [{ set: { rung: 1 } }] }]\n${screens}transitions:\n  - { from: heath, to: dark, when: dusk.ended }\n  - { from: heath, to: hall, when: input.in, if: rung == 1 }\n  - { from: hall, to: late, when: dusk.ended }\n${back}`;
    const { transitions } = explore(readDesign(text));
    expect(transitions[2]).toMatchObject({
      verdict: 'reached',
      witness: { steps: ['wait 4', 'input.in', 'wait 2'] },
    });
  });

  test('a hit that grace turns away is not one that was reached', () => {
    const { parts } = explore(
      readDesign(
        'counters: { lives: { start: 3 } }\npieces: { wasp: { is: hazard } }\nlevels: [{ place: { wasp: 1 } }]\nrules: [{ when: wasp.hit, do: [{ add: { lives: -1 } }] }, { if: present.wasp >= 0, do: [{ grace: 2 }] }]\nscreens: { heath: { live: true } }\ntransitions: [{ from: heath, to: heath, wait: 1, fresh: run }]\n',
      ),
    );
    // A new run every second, each with two seconds of grace.
    const hit = parts.find(({ name }) => name === 'wasp.hit')!;
    expect(hit).toMatchObject({ verdict: 'unreachable', witness: undefined });
    expect(hit.reason).toContain('there is a way only when time is left out');
  });

  test('a quota that no player can fill before dusk is told, and one second more is enough', () => {
    const text = (seconds: number): string =>
      `counters: { nectar: { max: 12 } }\ntimers: { dusk: { countdown: ${seconds} } }\npieces: { blossom: { is: collectible, takes: 1.5 } }\nlevels: [{ spawn: [{ piece: blossom, every: 0.5, atOnce: 5 }] }]\nrules: [{ when: blossom.taken, do: [{ add: { nectar: 1 } }] }]\nplayers: { quick: { pace: 0.5 }, slow: { pace: 2 } }\n${screens}transitions:\n  - { from: heath, to: late, if: nectar == 12 }\n  - { from: heath, to: dark, when: dusk.ended }\n${back}`;
    // Twelve at 0.75 s each are nine seconds.
    const late = explore(readDesign(text(8.9)));
    expect(late.transitions[0]).toMatchObject({
      verdict: 'unreachable',
      assumes: 'players',
      inAnyOrder: 'reached',
      reason: 'a timer ends first for every player, even at pace 0.5 with no miss',
    });
    // Some order of events leads there: twelve reports that a real game could make at once.
    expect(late.transitions[0]!.witness!.steps).toEqual(['12 x blossom.taken']);
    expect(late.parts.find(({ name }) => name === 'late')).toMatchObject({
      verdict: 'unreachable',
      assumes: 'players',
    });
    expect(explore(readDesign(text(9.1))).transitions[0]).toMatchObject({
      verdict: 'reached',
      assumes: 'any order',
    });
  });
});

test('a loss on a level that is far from the start is shown by going on there with one event over and over', () => {
  const text = `counters:
  score: 0
  oil: { start: 60, min: 0, max: 100 }
  wicks: { start: 1, min: 0, max: 9 }
  lit: { start: 0, min: 0, max: 8, keep: level }
  lives: { start: 3, min: 0, max: 3 }
timers: { burn: { every: 1 }, dawn: { countdown: 60 } }
pieces:
  lantern: { is: collectible, lasts: 5, needs: oil >= 5 and wicks > 0 }
  flask: { is: collectible, lasts: 4 }
  gale: { is: hazard }
levels:
  - { values: { goal: 6 }, spawn: [{ piece: lantern, every: 1.5, atOnce: 4 }, { piece: flask, every: 6, atOnce: 1 }] }
  - { values: { goal: 8 }, spawn: [{ piece: lantern, every: 1.2, atOnce: 4 }, { piece: flask, every: 6, atOnce: 1 }, { piece: gale, every: 15 }] }
rules:
  - { when: lantern.taken, do: [{ pay: { oil: 5, wicks: 1 } }, { add: { lit: 1, score: 30 } }] }
  - { when: flask.taken, do: [{ add: { oil: 25 } }] }
  - { when: burn.ticked, if: lit > 0, do: [{ add: { oil: -lit, score: lit } }] }
  - { if: oil == 0, do: [{ set: { lit: 0 } }] }
  - { when: gale.hit, do: [{ set: { lit: 0 } }, { add: { lives: -1 } }, { grace: 2 }] }
  - { when: input.buy, if: score >= 20, do: [{ add: { score: -20, wicks: 1 } }] }
screens: { weir: { live: true }, dark: { ending: lost }, home: { ending: won } }
transitions:
  - { from: weir, to: dark, if: lives == 0 }
  - { from: weir, to: dark, if: oil == 0 and lit == 0 }
  - { from: weir, to: weir, if: lit >= level.goal and not level.last, level: next, fresh: level }
  - { from: weir, to: home, if: lit >= level.goal and level.last }
  - { from: weir, to: dark, when: dawn.ended }
  - { from: [dark, home], to: weir, when: input.again, fresh: run }
players: { keeper: { skill: 0.9, acts: { input.buy: 3 } } }
`;
  const { transitions } = explore(readDesign(text), { mostStates: 300 });
  expect(transitions.map(({ verdict }) => verdict)).not.toContain('undecided');
  const { witness } = transitions[0]!;
  expect(witness!.steps.slice(-3)).toEqual(['gale.hit', 'wait 15', 'gale.hit']);
  expect(replay(readDesign(text), witness!.record!)).toMatchObject({ screen: 'dark', level: 2 });
});

describe('any design', () => {
  test('what is called unreachable is not taken in any session tried, and what is called reached is, at the last moment of its witness', () => {
    fc.assert(
      fc.property(
        designText,
        fc.array(happenings, { minLength: 6, maxLength: 6 }),
        fc.integer({ min: 0, max: 1e6 }),
        (text, plays, seed) => {
          const design = readDesign(text);
          const transitions = verdictsOf(design);
          const unreachable = new Set(
            transitions
              .filter((each) => each.verdict === 'unreachable')
              .map(({ from, index }) => `${from} ${index}`),
          );
          for (const { from, index, verdict, witness } of transitions) {
            if (verdict !== 'reached') continue;
            const taken: string[] = [];
            replay(design, witness!.record!, (session) =>
              session.listen((step) =>
                taken.push(...step.transitions.map((each) => `${each.from} ${each.index}`)),
              ),
            );
            if (taken.length > 0) expect(taken).toContain(`${from} ${index}`);
          }
          for (const happened of plays) {
            try {
              const session = new Session(design, { seed });
              session.listen((step) => {
                for (const { from, index } of step.transitions)
                  expect(unreachable).not.toContain(`${from} ${index}`);
              });
              session.send('input.go');
              for (const each of happened) {
                if (typeof each === 'number') session.advance(each);
                // A game reports only what its level holds.
                else if (!/^(red|blue|odd|mark)\./.test(each) || session.possible.includes(each))
                  session.send(each);
              }
            } catch (error) {
              if (!(error instanceof DesignError)) throw error;
            }
          }
        },
      ),
      runs(60),
    );
  });

  test('the closed set of what is unreachable is closed, by the slow reading, and holds no such transition', () => {
    let count = 0;
    fc.assert(
      fc.property(fc.oneof(designText, smallDesign), fc.nat(1000), (text, seed) => {
        const design = readDesign(text);
        if (design.levels.some(({ course }) => course.length > 0)) return;
        const all = verdictsOf(design, 4000);
        const ways = all.map(({ from, to }) => `${from} -> ${to}`);
        for (const closed of new Set(all.flatMap((each) => each.closed ?? []))) {
          // Of several ways between the same screens the log does not tell which was taken.
          const never = ways.filter(
            (way, at) =>
              all[at]!.closed === closed &&
              ways.every((other, index) => other !== way || all[index]!.closed === closed),
          );
          // With time, less than everything is left: only the untimed set is closed under what may happen at any time.
          if (all.some((each) => each.closed === closed && each.reason!.includes('keep time'))) continue;
          count++;
          expect(holesIn(design, closed, seed, (line) => never.includes(line))).toEqual([]);
        }
      }),
      countedRuns(60, 6),
    );
    expect(count).toBeGreaterThan(1);
  });

  test('what no player is said to be fast enough for is not taken in any simulation', () => {
    fc.assert(
      fc.property(designText, fc.nat(), (text, seed) => {
        const design = readDesign(text);
        try {
          const outOfTime = explore(design, small).transitions.flatMap(({ assumes }, at) =>
            assumes === 'players' ? [at] : [],
          );
          if (outOfTime.length === 0) return;
          const { players } = simulate(design, { sessions: 6, seed });
          for (const at of outOfTime) for (const { tally } of players) expect(tally.taken[at]).toBe(0);
        } catch (error) {
          if (!(error instanceof DesignError)) throw error;
        }
      }),
      runs(40),
    );
  });
});
