// What people write at one thing of a design, though it is said of another, or of none: where it belongs, and how it is written there.

/** Words for a key, and where what they ask for is said; `name` is that of the thing at which they stand. */
type Advice = readonly (readonly [keys: readonly string[], advice: (name: string) => string])[];

const words = (all: string): string[] => all.split(' ');

const looks = words('sprite image picture color colour size width height radius animation font');
const moves = words('speed velocity x y position movement path direction');
const then = words('on_end onEnd ends end finish then do event events action effect effects');

const piece: Advice = [
  [
    words('value points score worth reward bonus'),
    (name) => `Points are given by a rule, such as { when: ${name}.taken, do: [{ add: { score: 10 } }] }.`,
  ],
  [
    words('damage hurts cost penalty harm lives life'),
    (name) => `Damage is done by a rule, such as { when: ${name}.hit, do: [{ add: { lives: -1 } }] }.`,
  ],
  [
    [...looks, ...moves, 'sound', 'shape'],
    () =>
      'Looks, sound and movement belong to the game. To hand the game a value, use data, such as data: { speed: 3 }.',
  ],
  [
    words('count amount number total many quantity'),
    (name) => `Say how many in a level, such as place: { ${name}: 6 }.`,
  ],
  [
    words('every interval spawn appears rate respawn'),
    (name) => `Say when it appears in a level, such as spawn: [{ piece: ${name}, every: 4 }].`,
  ],
  [
    [...then, ...words('when on onTaken onHit on_taken on_hit add set')],
    (name) => `To react to it, write a rule, such as { when: ${name}.taken, do: [{ add: { score: 10 } }] }.`,
  ],
];

const counter: Advice = [
  [
    words('goal target win quota needed'),
    (name) => `Put the goal in a transition, such as { from: play, to: won, if: ${name} >= 10 }.`,
  ],
  [
    [...then, ...words('lose gameOver game_over onZero on_zero')],
    (name) =>
      `To react to its value, write a transition, such as { from: play, to: over, if: ${name} == 0 }, or a rule.`,
  ],
  [
    [...looks, ...words('label title show display icon as at')],
    (name) => `To show it, add it to the hud, such as { show: ${name}, label: Points }.`,
  ],
];

const timer: Advice = [
  [
    [...then, ...words('lose win goto to')],
    (name) =>
      `To react when it ends, write a transition, such as { from: play, to: over, when: ${name}.ended }, or a rule.`,
  ],
  [
    [...looks, ...words('label show display icon as at')],
    (name) => `To show it, add it to the hud, such as { show: ${name}, as: clock }.`,
  ],
];

const screen: Advice = [
  [
    [...looks, ...words('music sound background')],
    () => 'Looks and sound belong to the game, which is told of every change of screen.',
  ],
  [
    words('next goto to transitions transition buttons button input when on leads links'),
    (name) =>
      `To lead on from it, write a transition, such as { from: ${name}, to: play, when: input.start }.`,
  ],
  [words('win won victory'), () => 'Write ending: won.'],
  [words('lose lost gameOver game_over'), () => 'Write ending: lost.'],
];

const effect: Advice = [
  [
    words(
      'win gameOver game_over goto go to screen end restart next level nextLevel next_level transition show_screen',
    ),
    () => 'Rules do not change screens; transitions do, such as { from: play, to: over, if: lives == 0 }.',
  ],
  [
    words('wait delay after sleep'),
    () => 'Effects do not wait. Start a timer, such as start: pause, and write a rule for pause.ended.',
  ],
  [words('if when unless condition'), () => 'Put the condition next to do, in the rule: if: lives > 0.'],
  [words('multiply times double divide'), () => 'Use set, such as set: { score: score * 2 }.'],
];

const level: Advice = [
  [
    words('quota goal target time duration speed difficulty lives score bonus limit'),
    () =>
      'Put the numbers of a level under values, such as values: { quota: 10 }; rules read them as level.quota.',
  ],
  [
    words('if when next to'),
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
