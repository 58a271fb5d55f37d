import { describe, expect, test } from 'vitest';
import { formOf } from '../../src/engine/program/lower/lower.js';
import { readDesign, simulate } from '../../src/index.js';
import { Tally } from '../../src/measure/tally.js';
import { Play } from '../../src/players/drivers/play.js';
import { meetingOf } from '../../src/players/meeting/meeting.js';

/** What the first player sends in one session, each with its second. */
function sentIn(text: string): [string, number][] {
  const design = readDesign(text);
  const form = formOf(design);
  const sent: [string, number][] = [];
  const play = new Play(form, meetingOf(form, design.players[0]!), new Tally(form), undefined, (event, at) =>
    sent.push([form.events[event]!.name, at / 1000]),
  );
  play.play(1, 0);
  return sent;
}

const squirts = (player: string, more = ''): string => `
counters: { score: 0, pouch: 3, squirted: 0 }
pieces: { gnat: { is: foe, by: nectar.squirted, difficulty: -20, lead: 60 } }
levels: { place: { gnat: 10 } }
rules:
  - { name: squirt, when: input.squirt, if: pouch > 0, rest: 1, do: [{ add: { squirted: 1 } }, { emit: nectar.squirted }] }
  - { name: hit, when: gnat.beaten, do: [{ add: { score: 1 } }] }${more}
players: { one: { skill: 0, patience: 10, ${player} } }`;

test('what may be tried again is missed once it has waited for as long as it does', () => {
  const text = (more: string): string => `
counters: { score: 0 }
pieces: { nut: { is: collectible, difficulty: 20, takes: 1, again: true${more} } }
levels: { place: { nut: 1 } }
rules: [{ when: nut.missed, do: [{ add: { score: -1 } }] }]
players: { one: { skill: -20, patience: 20 } }`;
  expect(sentIn(text(', lasts: 3.5'))).toEqual([['nut.missed', 4]]);
  expect(sentIn(text(''))).toEqual([]);
});

describe('acting', () => {
  test('an input is pressed again and again, as often as the pace has it', () => {
    const sent = sentIn(squirts('pace: 0.5, acts: { input.squirt: 4 }'));
    expect(sent.filter(([event]) => event === 'input.squirt').map(([, at]) => at)).toEqual([2, 4, 6, 8, 10]);
  });

  test('each shot that is fired tries for the one there longest; a press that a rest silences tries for none', () => {
    const sent = sentIn(squirts('acts: { input.squirt: 0.4 }'));
    const at = (name: string): number[] => sent.flatMap(([event, time]) => (event === name ? [time] : []));
    // Every third press is the first after the rest of a second.
    expect(at('gnat.beaten')).toEqual([0.4, 1.6, 2.8, 4, 5.2, 6.4, 7.6, 8.8, 10]);
    expect(at('input.squirt')).toHaveLength(25);
  });

  test('a condition holds presses back, and a shot at nothing hits nothing', () => {
    const spent = '\n  - { name: spend, when: input.squirt, do: [{ add: { pouch: -1 } }] }';
    const sent = sentIn(squirts('acts: { input.squirt: { every: 2, if: pouch > 1 } }', spent));
    expect(sent).toEqual([
      ['input.squirt', 2],
      ['gnat.beaten', 2],
      ['input.squirt', 4],
      ['gnat.beaten', 4],
    ]);
    const none = sentIn(squirts('acts: { input.squirt: 2 }').replace('gnat: 10', 'gnat: 1'));
    expect(none.filter(([event]) => event === 'gnat.beaten')).toHaveLength(1);
  });

  test('what is hit by an event alone is not met otherwise: unhit, it gets through', () => {
    const text = squirts('runs: 1').replace('lead: 60', 'lead: 3').replace('gnat: 10', 'gnat: 2');
    expect(sentIn(text)).toEqual([
      ['gnat.hit', 3],
      ['gnat.hit', 3],
    ]);
  });

  test('a press puts off what the player attends to', () => {
    const text = (takes: number): string => `
counters: { score: 0, hops: 0 }
pieces: { bud: { is: collectible, takes: 5, difficulty: -20 } }
levels: { place: { bud: 1 } }
rules: [{ when: bud.taken, do: [{ add: { score: 1 } }] }, { when: input.hop, do: [{ add: { hops: 1 } }] }]
players: { one: { patience: 20, acts: { input.hop: { every: 2, takes: ${takes} } } } }`;
    const taken = (of: string): number | undefined =>
      sentIn(of).find(([event]) => event === 'bud.taken')?.[1];
    expect(taken(text(0))).toBe(5);
    // Two hops before the fifth second, and a third before the sixth and a half.
    expect(taken(text(0.75))).toBe(7.25);
  });

  test('hits follow skill: of a shot each second at an even chance, half hit', () => {
    const text = squirts('acts: { input.squirt: 1.25 }, patience: 100', '')
      .replace('difficulty: -20', 'difficulty: 0.0')
      .replace('patience: 10, ', '')
      .replace('gnat: 10', 'gnat: 200')
      .replace('lead: 60', 'lead: 200');
    const { tally } = simulate(readDesign(text), { sessions: 200, seed: 3 }).players[0]!;
    const hits = tally.fired[1]! / 200;
    // 80 shots in 100 s: 40 hits, with a standard error of 0.32 over 200 sessions.
    expect(hits).toBeGreaterThan(38.7);
    expect(hits).toBeLessThan(41.3);
  });
});
