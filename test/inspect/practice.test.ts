import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { check, readDesign } from '../../src/index.js';

const folder = new URL('games/', import.meta.url);
const textOf = (game: string): string => readFileSync(new URL(`${game}.yaml`, folder), 'utf8');
const codesOf = (text: string): string[] => check(readDesign(text)).findings.map(({ code }) => code);

/** Complete games of many kinds, none of which was made to try a finding. */
test.each(readdirSync(folder))('%s is sound, and nothing is said against it', (file) => {
  const { passed, findings, exploration } = check(readDesign(textOf(file.replace('.yaml', '')), file));
  expect(findings.map(({ code, message }) => `${code}: ${message}`)).toEqual([]);
  expect(exploration.transitions.filter(({ verdict }) => verdict !== 'reached')).toEqual([]);
  expect(passed).toBe(true);
});

/** What somebody forgot, swapped, copied or wrote one too many of, and the finding that tells it. */
const mistakes: readonly (readonly [string, string, string, string, string])[] = [
  [
    'forgot fresh on restart',
    'otter-ferry',
    'wait: 1, fresh: run, grace: 1',
    'wait: 1, grace: 1',
    'no-way-back',
  ],
  [
    'forgot way back from dry',
    'otter-ferry',
    '  - { from: [sunk, dry], to: river',
    '  - { from: sunk, to: river',
    'no-way-back',
  ],
  ['off by one lives', 'otter-ferry', 'if: hull == 0', 'if: hull < 0', 'transition-unreachable'],
  [
    'icons never full',
    'otter-ferry',
    'hull: { start: 3, min: 0, max: 3 }',
    'hull: { start: 3, min: 0, max: 5 }',
    'icons-never-full',
  ],
  [
    'wrong order: pays zero',
    'otter-ferry',
    'add: { fares: 5 * aboard } }, { set: { aboard: 0 } }',
    'set: { aboard: 0 } }, { add: { fares: 5 * aboard } }',
    'read-after-set',
  ],
  ['needs never', 'otter-ferry', 'needs: aboard < 4', 'needs: aboard < 0', 'needs-never-hold'],
  [
    'wrong sign',
    'otter-ferry',
    '{ hull: -1 } }, { grace: 1.5 }',
    '{ hull: 1 } }, { grace: 1.5 }',
    'transition-unreachable',
  ],
  [
    'pause restarts',
    'otter-ferry',
    '{ from: still, to: back, when: input.pause }',
    '{ from: still, to: river, when: input.pause, fresh: run }',
    'pause-not-kept',
  ],
  [
    'pause without way back',
    'otter-ferry',
    '  - { from: still, to: back, when: input.pause }\n',
    '',
    'dead-end',
  ],
  [
    'wrong event: warned ends',
    'otter-ferry',
    '{ from: river, to: dry, when: ebb.ended }',
    '{ from: river, to: dry, when: ebb.warned }',
    'timer-unheard',
  ],
  [
    'timer ends nothing',
    'otter-ferry',
    '  - { from: river, to: dry, when: ebb.ended }\n',
    '',
    'screen-unreachable',
  ],
  [
    'timer not reset',
    'otter-ferry',
    'countdown: 80, keep: run',
    'countdown: 80, keep: session',
    'outlives-the-run',
  ],
  [
    'score not reset',
    'otter-ferry',
    'fares: { start: 0, min: 0 }',
    'fares: { start: 0, min: 0, keep: session }',
    'outlives-the-run',
  ],
  ['wrong outcome', 'otter-ferry', 'when: log.hit', 'when: log.avoided', 'harm-unheard'],
  ['digits too few', 'otter-ferry', 'width: 4, at: top-left', 'width: 1, at: top-left', 'too-wide'],
  ['lives not shown', 'otter-ferry', '  - { show: hull, as: icons, at: top-right }\n', '', 'counter-unshown'],
  ['hazard after the end', 'otter-ferry', 'first: 4, atOnce: 3', 'first: 120, atOnce: 3', 'spawn-too-late'],
  ['grace too long', 'otter-ferry', 'grace: 1.5', 'grace: 15', 'grace-too-long'],
  ['best only on one', 'otter-ferry', 'screens: [sunk, dry], do', 'screens: [sunk], do', 'rule-deaf'],
  [
    'best overwritten',
    'otter-ferry',
    'set: { best: "max(best, fares)" }',
    'set: { best: fares }',
    'best-overwritten',
  ],
  ['jetty never placed', 'otter-ferry', 'place: { jetty: 1 }', 'place: { duckling: 1 }', 'piece-nowhere'],
  [
    'fall leads nowhere',
    'hedgehog-home',
    '  - { from: lane, to: fell, when: ditch.hit }\n',
    '',
    'screen-unreachable',
  ],
  [
    'life lost restarts run',
    'hedgehog-home',
    '{ from: fell, to: lane, wait: 1, fresh: life }',
    '{ from: fell, to: lane, wait: 1, fresh: run }',
    'transition-unreachable',
  ],
  [
    'first level wins',
    'hedgehog-home',
    'to: home, when: burrow.reached, if: level.last',
    'to: home, when: burrow.reached',
    'transition-shadowed',
  ],
  [
    'level next forgotten',
    'hedgehog-home',
    'fresh: level, level: next',
    'fresh: level',
    'transition-unreachable',
  ],
  [
    'no fresh level',
    'hedgehog-home',
    '{ from: next, to: lane, wait: 2, fresh: level, level: next }',
    '{ from: next, to: lane, wait: 2, level: next }',
    'level-not-fresh',
  ],
  [
    'past the last level',
    'hedgehog-home',
    '  - { from: lane, to: home, when: burrow.reached, if: level.last }\n',
    '',
    'trap',
  ],
  ['score per level', 'hedgehog-home', 'score: {}', 'score: { keep: level }', 'put-back-in-the-run'],
  [
    'life not taken',
    'hedgehog-home',
    'when: ditch.hit, do: [{ add: { lives: -1 } }]',
    'when: ditch.hit, do: [{ add: { score: -1 } }]',
    'transition-unreachable',
  ],
  [
    'lives refill',
    'hedgehog-home',
    'lives: { start: 3, min: 0, max: 3 }',
    'lives: { start: 3, min: 0, max: 3, keep: life }',
    'transition-unreachable',
  ],
  [
    'event not on screen',
    'hedgehog-home',
    '{ from: [asleep, home], to: title, when: input.again }',
    '{ from: [asleep, home], to: title, when: worm.taken }',
    'no-way-back',
  ],
  ['lit carried over', 'lamplighter', 'max: 9, keep: level', 'max: 9, keep: run', 'goal-carried-over'],
  ['quota above max', 'lamplighter', 'lit: { max: 9', 'lit: { max: 5', 'transition-unreachable'],
  ['quota more than placed', 'lamplighter', 'quota: 6', 'quota: 9', 'transition-unreachable'],
  [
    'lantern does not count',
    'lamplighter',
    'when: lantern.taken, do: [{ add: { score: 25, lit: 1, oil: -1 } }]',
    'when: lantern.taken, do: [{ add: { score: 25, oil: -1 } }]',
    'transition-unreachable',
  ],
  [
    'harder worth less',
    'lamplighter',
    'when: lantern.taken, do: [{ add: { score: 25,',
    'when: lantern.taken, do: [{ add: { score: 5,',
    'hard-for-nothing',
  ],
  ['narrower group', 'lamplighter', 'when: night_thing.hit', 'when: bat.hit', 'piece-unheard'],
  ['inverted flag', 'lamplighter', 'if: not wick, do', 'if: wick, do', 'transition-unreachable'],
  ['pays without money', 'lamplighter', '{ pay: { score: 30 } }', '{ add: { score: -30 } }', 'below-zero'],
  ['too dear', 'lamplighter', '{ pay: { score: 30 } }', '{ pay: { score: 3000 } }', 'transition-unreachable'],
  [
    'same key swallowed',
    'lamplighter',
    '{ from: shop, to: street, when: input.go',
    '{ from: shop, to: street, when: input.buy',
    'press-skips',
  ],
  [
    'bat never comes',
    'lamplighter',
    'every: 8, atOnce: 1 }, { piece: bat, every: 6 }',
    'every: 8, atOnce: 1 }, { piece: bat, every: 600 }',
    'spawn-too-late',
  ],
  [
    'death ignored',
    'lamplighter',
    '  - { from: street, to: dark, if: lives == 0 }\n',
    '',
    'lives-without-end',
  ],
  [
    'inverted last',
    'lamplighter',
    'if: lit >= level.quota and level.last',
    'if: lit >= level.quota and not level.last',
    'transition-shadowed',
  ],
  [
    'pieces never come back',
    'swarm-season',
    'fresh: level, level: next, grace: 2',
    'level: next, grace: 2',
    'level-not-fresh',
  ],
  ['dies one early', 'swarm-season', 'if: lives <= 0', 'if: lives == 1', 'ends-early'],
  ['queen harmless', 'swarm-season', 'when: [drone.hit, queen.hit]', 'when: [drone.hit]', 'harm-unheard'],
  [
    'no fresh',
    'swarm-season',
    '{ from: over, to: title, when: input.again }',
    '{ from: over, to: field, when: input.again }',
    'no-way-back',
  ],
  [
    'queen unbeatable',
    'swarm-season',
    'hits: 3, difficulty: 1',
    'hits: 3, difficulty: 1, needs: left.drone < 0',
    'needs-never-hold',
  ],
  [
    'next level restarts',
    'swarm-season',
    '{ from: rest, to: field, wait: 2, fresh: level',
    '{ from: rest, to: field, when: input.next, wait: 2, fresh: run',
    'set-and-put-back',
  ],
  ['worth nothing', 'swarm-season', 'score: 50 } }]', 'score: 0 } }]', 'changes-nothing'],
  ['game over skipped', 'swarm-season', 'to: over, if: lives <= 0', 'to: title, if: lives <= 0', 'trap'],
];

test.each(mistakes)('%s in %s is told', (_, game, from, to, code) => {
  const text = textOf(game);
  expect(text).toContain(from);
  expect(codesOf(text.replace(from, to))).toContain(code);
});
