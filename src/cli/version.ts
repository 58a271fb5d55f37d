import { readFileSync } from 'node:fs';

/** The version of this package. */
export const { version } = JSON.parse(
  readFileSync(new URL('../../package.json', import.meta.url), 'utf8'),
) as { readonly version: string };
