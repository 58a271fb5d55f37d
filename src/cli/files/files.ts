import { dirname, resolve } from 'node:path';
import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import { readDesign } from '../../design/read.js';
import { isSameFile, isTaken, statsOf, writeWhole } from '../../node/output-file.js';
import { readTextFile } from '../../node/text-file.js';

/** The text of a file; see `readTextFile`. */
export const readText = (file: string, what: string): string => readTextFile(file, what).text;

export const readDesignFile = (file: string): Design =>
  readDesign(readText(file, 'a design in YAML or JSON'), file);

/**
 * Makes sure, before any work is done, that results can go to a file: that it is none of those that are read, nor a folder, and that its
 * own folder is there.
 *
 * @param file undefined: nothing is written
 * @param inputs files that the command reads, and others that it writes
 * @throws UsageError
 */
export function mustBeOutput(file: string | undefined, inputs: readonly (string | undefined)[]): void {
  if (file === undefined) return;
  for (const input of inputs) {
    if (input === undefined || !(resolve(input) === resolve(file) || isSameFile(file, input))) continue;
    const which = input === file ? file : `${file}, which is the same file as ${input},`;
    throw new UsageError(
      'not-written',
      `${which} is in use by this command already; give the result a file of its own.`,
    );
  }
  if (statsOf(file)?.isDirectory())
    throw new UsageError('not-written', `${file} is a folder; give the name of a file.`);
  if (statsOf(dirname(file))?.isDirectory() !== true)
    throw new UsageError('not-written', `The folder of ${file} does not exist; make it first.`);
}

/**
 * Makes sure, before any work is done, that a changed design can go to a file: one that is not there yet, or the design's own.
 *
 * @param inputs other files that the command reads
 * @returns whether it is the design's own
 * @throws UsageError
 */
export function mustTakeDesign(
  to: string | undefined,
  design: string,
  inputs: readonly string[] = [],
): boolean {
  const isItself = to !== undefined && isSameFile(to, design);
  mustBeOutput(to, isItself ? inputs : [design, ...inputs]);
  if (!isItself) mustBeNew(to);
  return isItself;
}

/** Writes a changed design to such a file, with the byte-order mark that it had. */
export const writeChanged = (
  file: string,
  text: string,
  { isItself, hasMark }: { readonly isItself: boolean; readonly hasMark: boolean },
): void => (isItself ? writeOver : writeNew)(file, `${hasMark ? '\uFEFF' : ''}${text}`);

/**
 * Makes sure, before any work is done, that a file is not there yet.
 *
 * @throws UsageError
 */
export function mustBeNew(file: string | undefined): void {
  if (file !== undefined && isTaken(file))
    throw new UsageError('not-written', `There is a file ${file} already; choose another name.`);
}

/**
 * Writes a file, over one that is there: a report that is asked for by name.
 *
 * @throws UsageError where it cannot be written; the old file is then as it was
 */
export const writeOver = (file: string, text: string): void => writeWhole(file, text);

/**
 * Writes a file that is not there yet.
 *
 * @throws UsageError where it is there already, or cannot be written
 */
export function writeNew(file: string, text: string): void {
  mustBeNew(file);
  writeWhole(file, text);
}
