import { describe, expect, test } from 'vitest';
import { check, explore, readDesign } from '../../src/index.js';

/** Findings of a design that say where a player is locked in: the code, the screen, and the steps that lead there. */
const locks = (text: string): (readonly [string, string, readonly string[]])[] =>
  check(readDesign(text)).findings.flatMap(({ code, message, witness = [] }) =>
    ['trap', 'way-back-lost', 'missed-for-good', 'win-lost-for-good'].includes(code)
      ? [[code, /^On (\w+)/.exec(message)![1]!, witness] as const]
      : [],
  );

describe('where a player is locked in', () => {
  const lives = (again: string, quit: string) => `
counters: { lives: { start: 3, min: 0, max: 3 } }
pieces: { wasp: { is: hazard } }
levels: [{ spawn: [{ piece: wasp, every: 3, atOnce: 2 }] }]
rules: [{ when: wasp.hit, do: [{ add: { lives: -1 } }, { grace: 1 }] }]
screens: { title: {}, heath: { live: true }, dark: { ending: lost, text: Dark } }
transitions:
  - { from: title, to: heath, when: input.start, fresh: run }
  - { from: heath, to: dark, if: lives == 0 }
${quit}
  - { from: dark, to: heath, when: input.again${again} }`;
  const quit = '  - { from: heath, to: title, when: input.quit }';

  test('a forgotten fresh start, although another way leads to one', () => {
    const [lost] = explore(readDesign(lives('', quit))).lostEndings;
    expect(lost!.screen).toBe('dark');
    expect(lost!.witness.steps.filter((step) => step.includes('wasp.hit'))).not.toEqual([]);
    // It is told of the way that forgets it.
    const told = check(readDesign(lives('', quit))).findings;
    expect(told.map(({ code, place }) => [code, place.line])).toContainEqual(['residue', 11]);
    expect(locks(lives(', fresh: run', quit))).toEqual([]);
    // Where the title is open from the ending too, the player can go round it.
    expect(locks(lives('', `${quit}\n  - { from: dark, to: title, when: input.leave }`))).toEqual([]);
  });

  const stone = (out: string) => `
counters: { stone: { start: 0, keep: level } }
pieces: { spike: { is: hazard }, mark: { is: checkpoint }, top: { is: exit } }
levels: [{ spawn: [{ piece: spike, every: 3 }, { piece: mark, every: 5 }, { piece: top, every: 20 }] }]
rules: [{ when: mark.reached, do: [{ set: { stone: 1 } }] }]
screens: { steps: { live: true }, ouch: { text: Ouch }, done: { ending: won, text: Done } }
transitions:
  - { from: steps, to: ouch, when: spike.hit }
  - { from: ouch, to: steps, wait: 0.6${out} }
  - { from: steps, to: done, when: top.reached }
  - { from: done, to: steps, when: input.again, fresh: run }`;

  test('a screen between that is left only by those who have been somewhere', () => {
    expect(locks(stone(', if: stone > 0'))).toEqual([['trap', 'ouch', ['spike.hit']]]);
    expect(locks(stone(''))).toEqual([]);
  });

  const shop = (leave: string) => `
counters: { berries: {} }
pieces: { berry: { is: collectible, ends: taken } }
timers: { day: { countdown: 10 } }
levels: [{ place: { berry: 5 } }]
rules: [{ when: berry.taken, do: [{ add: { berries: 1 } }] }]
screens: { play: { live: true }, shop: { text: Five }, home: { ending: won, text: Home }, out: { ending: lost, text: Out } }
transitions:
  - { from: play, to: shop, when: day.ended }
  - { from: shop, to: home, when: input.buy, if: berries >= 5 }
${leave}
  - { from: [home, out], to: play, when: input.again, fresh: run }`;

  test('a shop that nobody leaves without paying, told once and of the shop', () => {
    expect(locks(shop(''))).toEqual([['trap', 'shop', ['wait 10']]]);
    expect(locks(shop('  - { from: shop, to: out, when: input.leave }'))).toEqual([]);
  });

  const rope = (again: string) => `
counters: { score: {} }
timers: { tide: { countdown: 30, keep: run } }
pieces: { rope: { is: exit${again} }, nut: { is: collectible } }
levels: [{ place: { rope: 1, nut: 2 } }]
rules: [{ when: nut.taken, do: [{ add: { score: 1 } }] }]
screens: { sea: { live: true }, home: { ending: won, text: Home }, late: { ending: lost, text: Late } }
transitions:
  - { from: sea, to: home, when: rope.reached }
  - { from: sea, to: late, when: tide.ended }
  - { from: [home, late], to: sea, when: input.again, fresh: run }`;

  test('an exit that is gone once it was missed, and none that is tried until it is reached', () => {
    expect(locks(rope(''))).toEqual([['win-lost-for-good', 'sea', ['rope.missed']]]);
    expect(locks(rope(', again: true'))).toEqual([]);
    expect(locks(rope(', again: true, lasts: 5'))).toEqual([['win-lost-for-good', 'sea', ['rope.missed']]]);
    // What no outcome takes away is there for good.
    expect(locks(rope(', again: true, lasts: 5, ends: []'))).toEqual([]);
  });

  const way = (condition: string) => `
counters: { berries: { min: 0, max: 9, keep: session } }
pieces: { berry: { is: collectible }, wasp: { is: hazard } }
levels: [{ spawn: [{ piece: berry, every: 1 }, { piece: wasp, every: 2 }] }]
rules: [{ when: berry.taken, do: [{ add: { berries: 1 } }] }]
screens: { heath: { live: true }, dark: { ending: lost, text: Dark } }
transitions:
  - { from: heath, to: dark, when: wasp.hit }
  - { from: dark, to: heath, when: input.again, fresh: run${condition} }`;

  test('a way back that asks for what nobody can gather any more', () => {
    expect(locks(way(', if: berries >= 5'))).toEqual([['way-back-lost', 'dark', ['wasp.hit']]]);
    expect(locks(way(''))).toEqual([]);
  });
});
