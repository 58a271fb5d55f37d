import { InvalidArgumentError, Option } from 'commander';
import type { Settings } from '../design/settings.js';
import type { Shard } from './commands/playing/simulate-call.js';

export function wholeNumber(written: string): number {
  if (!/^\d{1,16}$/.test(written) || !Number.isSafeInteger(Number(written))) {
    throw new InvalidArgumentError('It must be a whole number from 0 to 2^53 - 1.');
  }
  return Number(written);
}

/** A share such as 2% or 0.02. */
export function share(written: string): number {
  const [, digits, sign] = /^(\d+(?:\.\d+)?)(\s*%)?$/.exec(written) ?? [];
  const value = Number(digits) / (sign === undefined ? 1 : 100);
  if (!(value > 0 && value < 1))
    throw new InvalidArgumentError('It must be a share above 0 and below 1, such as 2%.');
  return value;
}

export function shard(written: string): Shard {
  const [, at, of] = /^(\d{1,6})\/(\d{1,6})$/.exec(written) ?? [];
  const found = { shard: Number(at), shards: Number(of) };
  if (!(found.shard >= 1 && found.shard <= found.shards))
    throw new InvalidArgumentError('It must be a part of all, such as 3/8.');
  return found;
}

/** A dial and what it is turned to, such as petal=20, with those given before. */
export function setting(written: string, before: Settings = {}): Settings {
  const [, name, value] = /^([^=\s]+)=(-?\d+(?:\.\d+)?)$/.exec(written) ?? [];
  if (name === undefined) throw new InvalidArgumentError('It must be a dial and a number, such as petal=20.');
  return { ...before, [name]: Number(value) };
}

export const collect = (name: string, names: readonly string[] = []): string[] => [...names, name];

/** Like `collect`, of a few words that are allowed. */
export const collectOf =
  <Word extends string>(allowed: readonly Word[]) =>
  (word: string, words: readonly Word[] = []): Word[] => {
    const known = allowed.find((each) => each === word);
    if (known === undefined) throw new InvalidArgumentError(`Allowed choices are ${allowed.join(', ')}.`);
    return [...words, known];
  };

export const formatOption = (
  formats: readonly string[] = ['text', 'json'],
  description = 'how to print the result',
): Option => new Option('--format <format>', description).choices(formats).default('text');

export const playerOption = (): Option =>
  new Option('--player <name>', 'only this player; may be given several times').argParser(collect);

export const secondsOption = (usual: number): Option =>
  new Option('--seconds <n>', 'stop after this many seconds, and say so')
    .argParser(wholeNumber)
    .default(usual);

export const worldOption = (): Option =>
  new Option(
    '--world <world>',
    'play in a world instead of the meeting model: field, or a module that exports one',
  );

export const queueOption = (): Option =>
  new Option(
    '--queue <url>',
    'let the workers of a queue on Redis play, such as redis://host:6379 (see jocus work)',
  );

/** A name and a module, such as heath=./world.js, with those given before. */
export function namedModule(
  written: string,
  before: ReadonlyMap<string, string> = new Map(),
): ReadonlyMap<string, string> {
  const [, name, module] = /^([\w-]+)=(.+)$/.exec(written) ?? [];
  if (name === undefined || module === undefined)
    throw new InvalidArgumentError('It must be a name and a module, such as heath=./world.js.');
  return new Map([...before, [name, module]]);
}

export const watchOption = (): Option => new Option('--watch', 'run again whenever the file is saved');
