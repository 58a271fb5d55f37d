// What people write at a player, a target or a test, though it is said in another word.

import { type Advice, words } from './advice.js';

export const playerAdvice: Advice = [
  [
    words('accuracy error errors mistakes success chance'),
    () =>
      'Write skill. With a skill of 0 a player succeeds at a difficulty of 0 half the time; with a skill of 2, in 88 %.',
  ],
  [words('level difficulty age experience'), () => 'Write skill, such as skill: 1.'],
  [
    words('speed reaction reactionTime reaction_time slow slowness delay'),
    () => 'Write pace, a factor on the seconds of each attempt: 2 is half as fast.',
  ],
  [words('games plays attempts tries rounds'), () => 'Write runs, such as runs: 3.'],
  [
    words('count sessions number many'),
    () => 'How many sessions are played is said to the command: jocus simulate --sessions 1000.',
  ],
  [words('time boredom seconds attention leaves'), () => 'Write patience, in seconds.'],
  [words('improve improves improvement learns learn'), () => 'Write learning, such as learning: 0.3.'],
  [
    words('strategy prefers preference ai behaviour behavior likes goal seeks priority'),
    () => 'Write style, with weights of what it seeks, such as style: { berry: 3 }.',
  ],
  [words('presses press buttons actions'), () => 'Write acts, such as acts: { input.fire: 0.5 }.'],
  [words('chooses choices choice menu'), () => 'Write inputs, such as inputs: { over: input.again }.'],
  [words('name id'), (name) => `Its name is its key, ${name}.`],
];

export const targetAdvice: Advice = [
  [words('percentile quantile'), () => 'Write stat, such as stat: p90.'],
  [words('median mean p10 p25 p75 p90'), (_, key) => `Write stat: ${key}.`],
  [words('average statistic aggregate'), () => 'Write stat: mean.'],
  [words('between range'), () => 'Write from and to, such as from: 100, to: 300.'],
  [
    words('value is equals tolerance near about around'),
    () => 'Write a range, such as from: 90, to: 110: a figure that is measured is never exact.',
  ],
];

export const testAdvice: Advice = [
  [
    words('steps step events event inputs input when play actions'),
    () => 'Write do, such as do: [input.start].',
  ],
  [
    words('then assert asserts should result results expected want check'),
    () => 'Write expect, such as expect: { score: 10 }.',
  ],
  [
    words('screen start level lives setup state scene with where before counters'),
    (_, key) =>
      `Write given, such as given: { ${key === 'level' || key === 'lives' ? `${key}: 2` : 'screen: play'} }.`,
  ],
  [words('player players skill'), () => 'A test needs no player; do says what happens.'],
  [
    words('time wait seconds after duration'),
    () => 'Write the wait among the steps, such as do: [input.start, wait 2].',
  ],
  [words('description title label id'), () => 'Write name.', 'name'],
  [words('random'), () => 'Write seed.'],
];
