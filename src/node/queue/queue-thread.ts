import workerpool from 'workerpool';
import { readWorld } from '../world-file.js';
import { playJob } from './job.js';
import { packed } from './packed.js';

workerpool.worker({
  /** @param worlds names, and the modules that hold them */
  play: async (
    data: unknown,
    version: string,
    worlds: readonly (readonly [name: string, module: string])[],
  ): Promise<ReturnType<typeof packed>> =>
    packed(
      await playJob(data, version, async (name) => {
        const module = name === 'field' ? name : new Map(worlds).get(name);
        return module === undefined ? undefined : readWorld(module);
      }),
    ),
});
