import type { GameForm } from '../program/form.js';

/**
 * Keyed random numbers: a draw is a function of the seed, the session, the place that asks and how often it has asked.
 * There is no stream, so that turning one dial leaves every other draw as it was.
 *
 * The mixing step is the 32-bit finalizer "lowbias32" of Wellons (2018), applied twice with 64 bits of key between, as in
 * counter-based generators (Salmon, Moraes, Dror and Shaw, "Parallel random numbers: as easy as 1, 2, 3", 2011).
 */
export const golden = 0x9e3779b9;
export const mixFirst = 0x21f0aaad;
export const mixSecond = 0x735a2d97;

/** Scrambles 32 bits; a bijection. */
export function mix(word: number): number {
  let x = word;
  x = Math.imul(x ^ (x >>> 16), mixFirst);
  x = Math.imul(x ^ (x >>> 15), mixSecond);
  return x ^ (x >>> 15);
}

/** The two words that stand for one session of one seed. */
export interface SessionKey {
  readonly low: number;
  readonly high: number;
}

const lowWord = (value: number): number => value | 0;
const highWord = (value: number): number => Math.floor(value / 2 ** 32) | 0;

/**
 * @param seed a whole number from 0 to 2^53 - 1
 * @param session which session of the seed, from 0
 */
export function sessionKey(seed: number, session: number): SessionKey {
  const first = mix(mix(lowWord(seed) ^ 0x6a09e667) + highWord(seed));
  const second = mix(mix(highWord(seed) ^ 0x3c6ef372) + lowWord(seed));
  return {
    low: mix(mix(first + Math.imul(session, golden)) ^ second),
    high: mix(mix(second ^ Math.imul(session, mixFirst)) + first),
  };
}

/** The two words that stand for a named place. */
export function placeKey(name: string): { readonly low: number; readonly high: number } {
  let low = 0x243f6a88;
  let high = 0x13198a2e;
  for (let index = 0; index < name.length; index++) {
    const code = name.charCodeAt(index);
    low = mix(low ^ code) + golden;
    high = mix(high + code) ^ low;
  }
  return { low: low | 0, high: high | 0 };
}

/** One draw: a whole number from 0 to 2^32 - 1, each as likely. */
export function draw(
  key: SessionKey,
  place: { readonly low: number; readonly high: number },
  asked: number,
): number {
  return mix(mix((Math.imul(asked, golden) + place.low) ^ key.low) + (place.high ^ key.high)) >>> 0;
}

/** A whole number from 0 to `choices - 1` made of one draw; exact, since the product stays below 2^53. */
export const choose = (drawn: number, choices: number): number => Math.floor((drawn * choices) / 2 ** 32);

/** Gives the draw of a place that has asked so often before: a whole number below 2^32. */
export type DrawSource = (draw: number, asked: number) => number;

export const keyedDraws =
  (form: Pick<GameForm, 'draws'>, key: SessionKey): DrawSource =>
  (place, asked) =>
    draw(key, form.draws[place]!, asked);
