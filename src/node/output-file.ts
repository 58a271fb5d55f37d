import { randomUUID } from 'node:crypto';
import {
  closeSync,
  fchmodSync,
  fsyncSync,
  lstatSync,
  openSync,
  readlinkSync,
  realpathSync,
  renameSync,
  rmSync,
  type Stats,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { UsageError } from '../design/problems/problem.js';

/**
 * A file under way. What is written stands in a file beside it until `commit` puts that in its place, flushed and whole, so that
 * whoever reads the file finds the old text or the new one, never a part, whatever ends the process. A link stays a link: what it
 * leads to is replaced. A device or a pipe is written to directly.
 */
export class OutputFile {
  readonly #target: string;
  readonly #beside: string | undefined;
  #descriptor: number;

  /** @throws UsageError where it cannot be written */
  constructor(readonly file: string) {
    const old = statsOf(file);
    this.#target = old?.isFile() === false ? file : targetOf(file);
    this.#beside =
      old?.isFile() === false
        ? undefined
        : join(dirname(this.#target), `.${basename(this.#target)}.${randomUUID().slice(0, 8)}.part`);
    this.#descriptor = orUsageError(file, () =>
      this.#beside === undefined ? openSync(file, 'w') : openSync(this.#beside, 'wx'),
    );
    if (this.#beside !== undefined && old !== undefined)
      this.#attempt(() => fchmodSync(this.#descriptor, old.mode & 0o7777));
  }

  /** @throws UsageError where it cannot be written; the old file is then as it was */
  write(text: string): void {
    this.#attempt(() => writeFileSync(this.#descriptor, text));
  }

  /** Puts what was written in the place of the file. */
  commit(): void {
    this.#attempt(() => {
      if (this.#beside !== undefined) fsyncSync(this.#descriptor);
      closeSync(this.#descriptor);
      this.#descriptor = -1;
      if (this.#beside === undefined) return;
      renameSync(this.#beside, this.#target);
      flushFolder(dirname(this.#target));
    });
  }

  /** Leaves the file as it was. */
  abandon(): void {
    if (this.#descriptor >= 0) closeSync(this.#descriptor);
    this.#descriptor = -1;
    if (this.#beside !== undefined) rmSync(this.#beside, { force: true });
  }

  #attempt(work: () => void): void {
    try {
      orUsageError(this.file, work);
    } catch (error) {
      this.abandon();
      throw error;
    }
  }
}

/**
 * Writes a whole file, or leaves the one that is there as it was; see `OutputFile`.
 *
 * @throws UsageError where it cannot be written
 */
export function writeWhole(file: string, text: string): void {
  const output = new OutputFile(file);
  output.write(text);
  output.commit();
}

/** Whether two paths lead to one file, through links and other names too. A path that leads nowhere is the same as none. */
export function isSameFile(one: string, other: string): boolean {
  const [a, b] = [statsOf(one), statsOf(other)];
  return a !== undefined && b !== undefined && a.isFile() && a.dev === b.dev && a.ino === b.ino;
}

/** Whether anything stands at a path, a link that leads nowhere included. */
export const isTaken = (file: string): boolean => lstatSync(file, { throwIfNoEntry: false }) !== undefined;

/** What stands at a path, links followed; undefined where nothing does, or it cannot be looked at. */
export function statsOf(file: string): Stats | undefined {
  try {
    return statSync(file);
  } catch {
    return undefined;
  }
}

/** Where a path leads, through links; a link may lead to a file that is not there yet. */
function targetOf(file: string): string {
  return orUsageError(file, () => {
    if (statsOf(file) !== undefined) return realpathSync(file);
    if (lstatSync(file, { throwIfNoEntry: false })?.isSymbolicLink())
      return resolve(dirname(file), readlinkSync(file));
    return file;
  });
}

/** A folder is flushed so that a new name in it lasts; not every system can. */
function flushFolder(folder: string): void {
  try {
    const descriptor = openSync(folder, 'r');
    fsyncSync(descriptor);
    closeSync(descriptor);
  } catch {
    // The file itself is whole all the same.
  }
}

function orUsageError<Result>(file: string, work: () => Result): Result {
  try {
    return work();
  } catch (error) {
    throw new UsageError('not-written', whyNotWritten(file, (error as NodeJS.ErrnoException).code));
  }
}

function whyNotWritten(file: string, code: string | undefined): string {
  switch (code) {
    case 'ENOENT':
    case 'ENOTDIR':
      return `The folder of ${file} does not exist; make it first.`;
    case 'EACCES':
    case 'EPERM':
    case 'EROFS':
      return `${file} or its folder may not be written; choose another place, or change the permissions.`;
    case 'EISDIR':
      return `${file} is a folder; give the name of a file.`;
    case 'ENOSPC':
    case 'EDQUOT':
    case 'EFBIG':
      return `There is no room left to write ${file}; what stood there before is as it was. Make room, or choose another place.`;
    case 'ENAMETOOLONG':
      return `The name ${file} is too long; choose a shorter one.`;
    default:
      return `${file} cannot be written (${code}); what stood there before is as it was. Choose another place.`;
  }
}
