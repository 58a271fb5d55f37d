import type { ExitCode } from '../outcome.js';
import type { Terminal } from '../terminal.js';

/** A command line while it is read and run. */
export interface Line {
  readonly terminal: Terminal;
  /** Is given what the process should end with. */
  readonly done: (code: ExitCode) => void;
  /** Runs a command once, or with `--watch` again whenever its file changes. */
  readonly perhapsWatch: (
    file: string,
    watch: true | undefined,
    command: () => ExitCode | Promise<ExitCode>,
  ) => Promise<void>;
}

export interface Watching {
  readonly watch?: true;
}
