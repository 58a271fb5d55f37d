import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const folder = fileURLToPath(new URL('../../demo/', import.meta.url));
const demo = 'dusk-on-the-heath';

/** Small complete games that a design can begin as, by name. */
export const starterNames = (): string[] => [
  demo,
  ...readdirSync(join(folder, 'starters')).map((file) => file.replace(/\.yaml$/, '')),
];

export const starterFile = (name: string): string =>
  join(folder, name === demo ? `${name}.yaml` : `starters/${name}.yaml`);
