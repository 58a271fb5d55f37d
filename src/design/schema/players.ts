import { z } from 'zod';
import { condition, key, mapOf, needed, number, period, seconds, whole } from './values.js';

export const actSchema = z.strictObject({
  every: needed(period, 'Seconds of live time between presses, for a player of pace 1.'),
  if: key(condition, 'A condition that must hold for a press.'),
  takes: key(seconds, 'Seconds by which a press delays what the player is doing.', 0),
});

export const cautionSchema = z.strictObject(
  {
    if: needed(condition, 'The player is careful while this holds, such as lives == 1.'),
    pace: key(number(0.1, 10), 'A factor on `pace` while it is careful: 1.4 is slower, 0.8 is faster.', 1),
    skill: key(number(-20, 20, ' (logits)'), 'Added to `skill` while it is careful.', 0),
  },
  { error: 'keys such as { if: lives == 1, pace: 1.4, skill: 0.5 }' },
);

export const playerSchema = z.strictObject({
  skill: key(
    z.union([number(-20, 20, ' (logits)'), z.string()], {
      error: 'a number from -20 to 20 (logits), or an expression of dials such as talent - 1',
    }),
    'Compared with the difficulty of pieces: an attempt succeeds with probability logistic(skill - difficulty) (Rasch 1960). An expression may use dials.',
    0,
  ),
  pace: key(number(0.01, 100), 'A factor on how long attempts take: 2 is half as fast.', 1),
  runs: key(whole(1, 1000), 'Runs it plays before it leaves.', 1),
  patience: key(period, 'Seconds until it leaves, whatever happens.', 600),
  learning: key(
    number(0, 10, ' (logits)'),
    'Practice from run to run: in run r its skill is higher by this times ln r, so that the odds of success grow as a power of practice (Newell and Rosenbloom 1981).',
    0,
  ),
  paceLearning: key(
    number(0, 2),
    'How much faster practice makes it: in run r its pace is divided by r to this power, the power law of practice (Newell and Rosenbloom 1981).',
    0,
  ),
  practice: key(
    number(0, 10, ' (logits)'),
    'Practice within a run: after n attempts in the run, its skill is higher by this times ln(1 + n), up to the 1,000th attempt. The next run starts without it.',
    0,
  ),
  spread: key(
    number(0, 10, ' (logits)'),
    'How much people of this kind differ in skill: each session is played by a different person, whose skill is drawn from a normal distribution of this standard deviation around `skill`.',
    0,
  ),
  paceSpread: key(
    number(0, 2),
    'How much people of this kind differ in pace: for each session the pace is drawn from a lognormal distribution around `pace`; this is the standard deviation of its logarithm (van der Linden 2006).',
    0,
  ),
  caution: key(
    cautionSchema,
    'When it plays carefully, and what that changes: `{ if: lives == 1, pace: 1.4, skill: 0.5 }` is slower and surer (Wickelgren 1977).',
  ),
  quits: key(
    number(0, 1),
    'The probability that it leaves after a run that ended on a screen with `ending: lost`, even if it has runs left.',
    0,
  ),
  timing: key(
    z.tuple([number(0.1, 10), number(0.1, 10)], {
      error: 'two factors from 0.1 to 10, the smaller first, such as [0.7, 1.5]',
    }),
    'How much attempts vary: each takes its usual time multiplied by a factor drawn uniformly between these two, rounded to the grid. Default: no variation.',
  ),
  thinks: key(period, 'Seconds it looks at a screen that is not live before it sends an input.', 1),
  style: key(
    mapOf(number(0, 100), 'pieces or groups with weights, such as { royalJelly: 3, foxglove: 0 }'),
    'What it seeks first: the heaviest weight, and among equals the piece that has been there longest. It ignores pieces with weight 0. Default: 1 for every piece.',
  ),
  acts: key(
    mapOf(
      z.union([period, actSchema], {
        error: 'seconds from one press to the next, or keys such as { every: 0.5, if: present.gnat > 0 }',
      }),
      'inputs with seconds from one press to the next, such as { input.fire: 0.5 }',
    ),
    'Inputs it presses repeatedly on live screens: seconds of live time between presses, multiplied by its pace. With `if`, it presses only while that holds; `takes` delays what it is doing by as many seconds.',
  ),
  inputs: key(
    mapOf(
      z.union([z.string(), mapOf(whole(0, 100), 'inputs with weights, such as { input.again: 3 }')], {
        error: 'an input such as input.again, or inputs with weights such as { input.again: 3 }',
      }),
      'screens with inputs, such as { dark: input.again }',
    ),
    'What it does on screens that are not live: one input, or inputs with weights. Default: any input the screen listens for.',
  ),
});
