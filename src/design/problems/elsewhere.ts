// What people write at one thing of a design, though it is said of another, or of none: where it belongs, and how it is written there.

/** Words for a key, and where what they ask for is said; `name` is that of the thing at which they stand. */
type Advice = readonly (readonly [keys: readonly string[], advice: (name: string) => string])[];

const looks = [
  'sprite',
  'image',
  'picture',
  'color',
  'colour',
  'size',
  'width',
  'height',
  'radius',
  'animation',
  'font',
];
const moves = ['speed', 'velocity', 'x', 'y', 'position', 'movement', 'path', 'direction'];
const then = [
  'on_end',
  'onEnd',
  'ends',
  'end',
  'finish',
  'then',
  'do',
  'event',
  'events',
  'action',
  'effect',
  'effects',
];

const piece: Advice = [
  [
    ['value', 'points', 'score', 'worth', 'reward', 'bonus'],
    (name) => `Points are given by a rule, such as { when: ${name}.taken, do: [{ add: { score: 10 } }] }.`,
  ],
  [
    ['damage', 'hurts', 'cost', 'penalty', 'harm', 'lives', 'life'],
    (name) => `Damage is done by a rule, such as { when: ${name}.hit, do: [{ add: { lives: -1 } }] }.`,
  ],
  [
    [...looks, ...moves, 'sound', 'shape'],
    () =>
      'Looks, sound and movement belong to the game. To hand the game a value, use data, such as data: { speed: 3 }.',
  ],
  [
    ['count', 'amount', 'number', 'total', 'many', 'quantity'],
    (name) => `Say how many in a level, such as place: { ${name}: 6 }.`,
  ],
  [
    ['every', 'interval', 'spawn', 'appears', 'rate', 'respawn'],
    (name) => `Say when it appears in a level, such as spawn: [{ piece: ${name}, every: 4 }].`,
  ],
  [
    [...then, 'when', 'on', 'onTaken', 'onHit', 'on_taken', 'on_hit', 'add', 'set'],
    (name) => `To react to it, write a rule, such as { when: ${name}.taken, do: [{ add: { score: 10 } }] }.`,
  ],
];

const counter: Advice = [
  [
    ['goal', 'target', 'win', 'quota', 'needed'],
    (name) => `Put the goal in a transition, such as { from: play, to: won, if: ${name} >= 10 }.`,
  ],
  [
    ['lose', 'gameOver', 'game_over', 'onZero', 'on_zero', ...then],
    (name) =>
      `To react to its value, write a transition, such as { from: play, to: over, if: ${name} == 0 }, or in a rule.`,
  ],
  [
    ['label', 'title', 'show', 'display', 'icon', 'as', 'at', ...looks],
    (name) => `To show it, add it to the hud, such as { show: ${name}, label: Points }.`,
  ],
];

const timer: Advice = [
  [
    [...then, 'lose', 'win', 'goto', 'to'],
    (name) =>
      `To react when it ends, write a transition, such as { from: play, to: over, when: ${name}.ended }, or a rule.`,
  ],
  [
    ['label', 'show', 'display', 'icon', 'as', 'at', ...looks],
    (name) => `To show it, add it to the hud, such as { show: ${name}, as: clock }.`,
  ],
];

const screen: Advice = [
  [
    ['music', 'sound', 'background', ...looks],
    () => 'Looks and sound belong to the game, which is told of every change of screen.',
  ],
  [
    [
      'next',
      'goto',
      'to',
      'transitions',
      'transition',
      'buttons',
      'button',
      'input',
      'when',
      'on',
      'leads',
      'links',
    ],
    (name) =>
      `To lead on from it, write a transition, such as { from: ${name}, to: play, when: input.start }.`,
  ],
  [['win', 'won', 'victory'], () => 'Write ending: won.'],
  [['lose', 'lost', 'gameOver', 'game_over'], () => 'Write ending: lost.'],
];

const effect: Advice = [
  [
    [
      'win',
      'lose',
      'gameOver',
      'game_over',
      'goto',
      'go',
      'to',
      'screen',
      'end',
      'restart',
      'next',
      'level',
      'nextLevel',
      'next_level',
      'transition',
      'show_screen',
    ],
    () => 'Rules do not change screens; transitions do, such as { from: play, to: over, if: lives == 0 }.',
  ],
  [
    ['wait', 'delay', 'after', 'sleep'],
    () => 'Effects do not wait. Start a timer, such as start: pause, and write a rule for pause.ended.',
  ],
  [['if', 'when', 'unless', 'condition'], () => 'Put the condition next to do, in the rule: if: lives > 0.'],
  [['multiply', 'times', 'double', 'divide'], () => 'Use set, such as set: { score: score * 2 }.'],
];

const level: Advice = [
  [
    [
      'quota',
      'goal',
      'target',
      'time',
      'duration',
      'speed',
      'difficulty',
      'lives',
      'score',
      'bonus',
      'limit',
    ],
    () =>
      'Put the numbers of a level under values, such as values: { quota: 10 }; rules read them as level.quota.',
  ],
  [
    ['if', 'when', 'next', 'to'],
    () =>
      'A transition with level: next ends a level, such as { from: play, to: play, if: score >= 100, level: next }.',
  ],
  [[...looks, 'music', 'background'], () => 'The looks and the sound of a level belong to the game.'],
];

const hudItem: Advice = [[looks, () => 'Looks belong to the game; the hud says what is shown, and where.']];

/** By a key that only this kind of thing has. */
const kinds: readonly (readonly [ownKey: string, advice: Advice])[] = [
  ['is', piece],
  ['places', counter],
  ['countdown', timer],
  ['live', screen],
  ['cue', effect],
  ['place', level],
  ['tenths', hudItem],
];

/**
 * Where what an unknown key asks for is said, with the line as it should be; undefined where that is not known.
 *
 * @param allowed the keys of the thing at which it stands
 * @param where what that thing is called in a message, its name last
 */
export function elsewhere(key: string, allowed: readonly string[], where: string): string | undefined {
  const advice = kinds.find(([ownKey]) => allowed.includes(ownKey))?.[1];
  return advice?.find(([keys]) => keys.includes(key))?.[1](where.split(' ').at(-1)!);
}
