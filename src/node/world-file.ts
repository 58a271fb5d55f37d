import { resolve } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { UsageError } from '../design/problems/problem.js';
import { fieldWorld } from '../players/worlds/field-world.js';
import type { World } from '../players/worlds/world.js';

/** Milliseconds that a module may take to load. */
const patience = 10_000;

/**
 * The world that ships, or the default export of a module.
 *
 * @throws UsageError where there is no such module, it does not finish loading, or it exports no world
 */
export async function readWorld(name: string): Promise<World> {
  if (name === 'field') return fieldWorld;
  const expected = 'give field, or a module whose default export is a World';
  const late = new AbortController();
  const loaded = import(pathToFileURL(resolve(name)).href).catch((error: unknown) => {
    const [reason] = (error instanceof Error ? error.message : String(error)).split(' imported from ');
    throw new UsageError('bad-world', `The world ${name} cannot be loaded: ${reason}; ${expected}.`);
  });
  const module = await Promise.race([
    loaded.finally(() => late.abort()),
    setTimeout(patience, undefined, { signal: late.signal }).then(() => {
      throw new UsageError(
        'bad-world',
        `The world ${name} did not finish loading within ${patience / 1000} s: it waits for something at its top level that does not come; ${expected}.`,
      );
    }),
  ]);
  const world = module.default as Partial<World> | undefined;
  const isWorld = typeof world?.open === 'function' && Number.isInteger(world.step) && world.step! >= 1;
  if (!isWorld) {
    throw new UsageError(
      'bad-world',
      `${name} exports no world: it needs a step in whole milliseconds and a function open; ${expected}.`,
    );
  }
  return world as World;
}
