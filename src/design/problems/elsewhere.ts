// What people write at one thing of a design, though it is said of another, or of none, or in another word: how it is written.

import type { Advice } from './advice/advice.js';
import {
  effectAdvice,
  hudAdvice,
  listAdvice,
  ruleAdvice,
  screenAdvice,
  transitionAdvice,
} from './advice/flow.js';
import { playerAdvice, targetAdvice, testAdvice } from './advice/judging.js';
import {
  counterAdvice,
  designAdvice,
  dialAdvice,
  levelAdvice,
  pieceAdvice,
  spawnAdvice,
  timerAdvice,
} from './advice/things.js';

/** By a key that only this kind of thing has. */
const kinds: readonly (readonly [ownKey: string, advice: Advice])[] = [
  ['accept', designAdvice],
  ['is', pieceAdvice],
  ['places', counterAdvice],
  ['countdown', timerAdvice],
  ['live', screenAdvice],
  ['become', effectAdvice],
  ['place', levelAdvice],
  ['tenths', hudAdvice],
  ['passes', ruleAdvice],
  ['fresh', transitionAdvice],
  ['atOnce', spawnAdvice],
  ['patience', playerAdvice],
  ['measure', targetAdvice],
  ['expect', testAdvice],
  ['length', listAdvice],
  ['step', dialAdvice],
];

const adviceOn = (key: string, allowed: readonly string[]): Advice[number] | undefined =>
  kinds.find(([ownKey]) => allowed.includes(ownKey))?.[1].find(([keys]) => keys.includes(key));

/**
 * How what an unknown key asks for is written; undefined where that is not known.
 *
 * @param allowed the keys of the thing at which it stands
 * @param where what that thing is called in a message, its name last
 * @param role of a piece, as it is written
 */
export const elsewhere = (
  key: string,
  allowed: readonly string[],
  where: string,
  role?: string,
): string | undefined => adviceOn(key, allowed)?.[1](where.split(' ').at(-1)!, key, role);

/** The key, one that must be there, that an unknown one stands for. */
export const neededFor = (key: string, allowed: readonly string[]): string | undefined =>
  adviceOn(key, allowed)?.[2];
