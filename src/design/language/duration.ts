/** The longest duration that a design can name, in seconds: a day. */
export const longestDuration = 86_400;

/**
 * Seconds as a whole number of milliseconds, or undefined where they are not one.
 *
 * @example
 * milliseconds(0.8) // => 800
 * milliseconds(0.0005) // => undefined
 */
export function milliseconds(seconds: number): number | undefined {
  const rounded = Math.round(seconds * 1000);
  // The written decimal is compared, so that 0.07 * 1000 = 70.00000000000001 is still 70 ms.
  return rounded / 1000 === seconds ? rounded : undefined;
}

/** The seconds of a time that is written with its unit, such as 90s or 2 min; undefined: it is no such time. */
export function secondsIn(text: string): number | undefined {
  const [, amount, unit] =
    /^\s*(\d+(?:\.\d+)?)\s*(ms|s|secs?|seconds?|m|mins?|minutes?)\s*$/.exec(text) ?? [];
  if (amount === undefined) return undefined;
  if (unit === 'ms') return Number(amount) / 1000;
  return unit!.startsWith('m') ? Number(amount) * 60 : Number(amount);
}
