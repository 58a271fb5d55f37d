import { Command, CommanderError } from 'commander';
import { DesignError, UsageError } from '../../design/problems/problem.js';
import { visibleLines } from '../../formats/characters.js';
import { problemsToJson } from '../../formats/json.js';
import { runOnChange } from '../files/watch.js';
import type { ExitCode } from '../outcome.js';
import { showProblems } from '../problems.js';
import { paint, plain, type Terminal } from '../terminal.js';
import { version } from '../version.js';
import { addBalancing } from './balancing.js';
import { addCheck } from './checking.js';
import { addSimulating } from './simulating.js';
import { addTrying } from './trying.js';

/** What a call that cannot be used ends with. */
export const unusable = 2;

/** What a call ends with that Jocus itself fails at. */
const failed = 3;

/**
 * Runs one command line.
 *
 * @param words what stands behind `jocus`
 * @returns what the process should end with
 */
export async function runCommand(words: readonly string[], terminal: Terminal): Promise<number> {
  let code = 0;
  try {
    await program(terminal, (ended) => {
      code = ended;
    }).parseAsync(words, { from: 'user' });
    return code;
  } catch (error) {
    return explain(terminal, error, words.includes('json') || words.includes('--format=json'));
  }
}

/** Every command with its options, in the order in which `jocus --help` lists them. */
function program(terminal: Terminal, done: (code: ExitCode) => void): Command {
  const jocus = new Command('jocus')
    .description('Runs, proves and simulates the scoring and the flow of screens of an arcade game.')
    .version(version)
    .showHelpAfterError('(see jocus --help)')
    .configureOutput({ writeOut: terminal.out, writeErr: (text) => terminal.err(visibleLines(text)) });
  const line = {
    terminal,
    done,
    perhapsWatch: async (
      file: string,
      watch: true | undefined,
      command: () => ExitCode | Promise<ExitCode>,
    ): Promise<void> => {
      if (watch === undefined) {
        done(await command());
        return;
      }
      await runOnChange(terminal, file, async () => {
        try {
          await command();
        } catch (error) {
          explain(terminal, error, false);
        }
      });
    },
  };
  for (const add of [addCheck, addSimulating, addBalancing, addTrying]) add(jocus, line);
  for (const command of [jocus, ...jocus.commands]) command.exitOverride();
  return jocus;
}

/** What a call that cannot be used is answered with. */
export function explain(terminal: Terminal, error: unknown, asJson: boolean): number {
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : unusable;
  if (error instanceof DesignError) {
    if (asJson) terminal.out(`${JSON.stringify(problemsToJson(error), null, 2)}\n`);
    else terminal.err(showProblems(terminal, error));
    return unusable;
  }
  if (error instanceof UsageError) {
    terminal.err(`${paint(terminal, 'redBright', 'error')} ${plain(error.message)}\n`);
    return unusable;
  }
  const { message, stack } = error instanceof Error ? error : { message: String(error), stack: undefined };
  const where =
    stack
      ?.split('\n')
      .find((line) => line.startsWith('    at '))
      ?.trim() ?? '';
  terminal.err(
    `${paint(terminal, 'redBright', 'error')} Jocus itself failed: ${plain(message)} ${plain(where)}\nNo file was changed. Please report this together with the call and its files.\n`,
  );
  return failed;
}
