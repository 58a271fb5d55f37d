import { lstatSync, readFileSync } from 'node:fs';
import { isMadeText } from '../engine/run/module-text.js';
import { isTaken, writeWhole } from './output-file.js';

/** What happened to a file that is generated again each time. */
export type Made = 'written' | 'unchanged' | 'not ours';

/**
 * Whether a path is free, or holds a file that Jocus has written: a plain one, not a link to somebody's own.
 */
export function isOurs(file: string): boolean {
  if (!isTaken(file)) return true;
  return lstatSync(file).isFile() && isMadeText(readFileSync(file, 'utf8'));
}

/**
 * Writes a module or its declarations, over one that was made before but never over a file of somebody's own.
 *
 * @throws UsageError where it cannot be written
 */
export function writeMade(file: string, text: string): Made {
  if (!isOurs(file)) return 'not ours';
  if (isTaken(file) && readFileSync(file, 'utf8') === text) return 'unchanged';
  writeWhole(file, text);
  return 'written';
}
