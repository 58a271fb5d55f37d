import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url));

/** A file of the repository. */
export const readPage = (file: string): string => readFileSync(join(root, file), 'utf8');

/** The blocks of a page that are written in a language, such as yaml. */
export const blocksOf = (file: string, language: string): string[] =>
  [...readPage(file).matchAll(/^```(\w+)\n([\s\S]*?)^```/gm)]
    .filter(([, found]) => found === language)
    .map(([, , block]) => block!);
