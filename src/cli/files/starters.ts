import { fileURLToPath } from 'node:url';

const demo = 'dusk-on-the-heath';

/** Small complete games that a design can begin as. */
export const starterNames = [
  demo,
  'frost-in-the-orchard',
  'light-on-the-skerry',
  'low-tide',
  'moth-at-the-mill',
  'post-over-the-pass',
] as const;

export const starterFile = (name: string): string =>
  fileURLToPath(new URL(`../../demo/${name === demo ? '' : 'starters/'}${name}.yaml`, import.meta.url));
