// The kinds of values that keys of a design take, with what an error says is allowed.

import { z } from 'zod';
import { longestDuration } from '../language/duration.js';
import { largestNumber } from '../limits.js';

export const number = (from: number, to: number, unit = '') => {
  const error = `a number from ${from} to ${to}${unit}`;
  return z.number({ error }).min(from, { error }).max(to, { error });
};

export const whole = (from: number, to: number) => {
  const error = `a whole number from ${from} to ${to}`;
  return z.number({ error }).int({ error }).min(from, { error }).max(to, { error });
};

export const text = (what: string) => z.string({ error: what });

export const word = <const Words extends readonly [string, ...string[]]>(words: Words) =>
  z.enum(words, { error: `one of ${words.join(', ')}` });

export const truth = z.boolean({ error: 'true or false' });

export const listOf = <Entry extends z.ZodType>(entry: Entry, what: string) =>
  z.array(entry, { error: what });

export const mapOf = <Entry extends z.ZodType>(entry: Entry, what: string) =>
  z.record(z.string(), entry, { error: what });

/** A key with what it means, and what holds where it is left out, for editors and the reference. */
export const key = <Schema extends z.ZodType>(schema: Schema, description: string, fallback?: unknown) =>
  schema.optional().meta({ description, ...(fallback === undefined ? {} : { default: fallback }) });

/** The same for a key that must be there. */
export const needed = <Schema extends z.ZodType>(schema: Schema, description: string) =>
  schema.meta({ description });

export const seconds = number(0, longestDuration, ' seconds');

export const period = number(0.001, longestDuration, ' seconds');

export const computedSeconds = z.union([seconds, z.string()], {
  error: `a number of seconds from 0 to ${longestDuration}, or an expression such as 1 + level / 2`,
});

export const computedPeriod = z.union([period, z.string()], {
  error: `a number of seconds from 0.001 to ${longestDuration}, or an expression such as 3 - level / 4`,
});

export const interval = z.union([period, z.string(), z.tuple([computedSeconds, computedSeconds])], {
  error: `a number of seconds from 0.001 to ${longestDuration}, an expression such as 3 - level / 4, or two of them: [least, most]`,
});

export const delay = z.union([seconds, z.string(), z.tuple([computedSeconds, computedSeconds])], {
  error: `a number of seconds from 0 to ${longestDuration}, an expression such as 3 - level / 4, or two of them: [least, most]`,
});

const anyNumberError = 'a number up to 2^53 either way';

export const anyNumber = z
  .number({ error: anyNumberError })
  .min(-largestNumber, { error: anyNumberError })
  .max(largestNumber, { error: anyNumberError });

export const logits = z.union([number(-20, 20, ' (logits)'), z.string()], {
  error: 'a number from -20 to 20 (logits), or an expression such as -1 + 0.2 * level',
});

const amount = z.union([anyNumber, z.string(), z.boolean()], {
  error: 'a number up to 2^53, true or false, or an expression such as petal * streak',
});

export const condition = z.union([z.string(), z.boolean()], { error: 'a condition such as lives == 0' });

const namesError = 'one name or a list of names';

export const bound = z.union([anyNumber, z.string()], {
  error: 'a number up to 2^53 either way, or an expression such as 3 + hearts',
});

export const names = z.union(
  [z.string(), z.array(z.string()).min(1, { error: `${namesError}, at least one` })],
  {
    error: namesError,
  },
);

export const amounts = mapOf(amount, 'counters with their amounts, such as { score: 10 }');

export const keepSchema = word(['life', 'level', 'run', 'session', 'forever']);
