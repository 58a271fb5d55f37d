import { type FSWatcher, watch } from 'node:fs';
import { basename, dirname } from 'node:path';
import { paint, plain, type Terminal } from '../terminal.js';

/** Editors write a file in several steps; a change counts once nothing was written for this many milliseconds. */
const quiet = 60;

/** Runs something now and again whenever a file changes, until the process is ended. */
export function runOnChange(terminal: Terminal, file: string, run: () => Promise<void>): Promise<never> {
  const again = async (): Promise<void> => {
    if (terminal.colour) terminal.out('\u001b[2J\u001b[H');
    await run();
    terminal.out(paint(terminal, 'dim', `\nWatching ${plain(file)}; Ctrl-C ends it.\n`));
  };
  let timer: NodeJS.Timeout | undefined;
  // The folder is watched, since an editor may put a new file in the place of the old.
  const watcher: FSWatcher = watch(dirname(file), (_, name) => {
    if (name !== null && name !== basename(file)) return;
    clearTimeout(timer);
    timer = setTimeout(again, quiet);
  });
  again();
  return new Promise((_, reject) => watcher.on('error', reject));
}
