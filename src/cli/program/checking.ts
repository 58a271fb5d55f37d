import { type Command, Option } from 'commander';
import { UsageError } from '../../design/problems/problem.js';
import {
  type CheckCall,
  checkCommand,
  checkFormats,
  checkLimits,
} from '../commands/checking/check-command.js';
import { collect, formatOption, secondsOption, watchOption, wholeNumber } from '../options.js';
import type { Line, Watching } from './line.js';

/** `jocus check`. */
export function addCheck(jocus: Command, { terminal, perhapsWatch }: Line): void {
  jocus
    .command('check')
    .description(
      'prove which transitions can be taken, run the tests of the design, and report what is wrong',
    )
    .argument('<files...>', 'designs in YAML or JSON; several are shown as a table')
    .addOption(watchOption())
    .addOption(formatOption(checkFormats))
    .option('--out <file>', 'write the result to a file, such as flow.svg')
    .addOption(
      new Option('--fail-on <severity>', 'the mildest finding that ends with 1')
        .choices(['error', 'warning', 'hint'])
        .default('error'),
    )
    .option('--states <n>', 'states that a search visits at most', wholeNumber, checkLimits.states)
    .addOption(secondsOption(checkLimits.seconds))
    .option('--only <code>', 'only findings of this code; may be given several times', collect)
    .option('--skip <code>', 'no findings of this code; may be given several times', collect)
    .option(
      '--witness <what>',
      'show the session that takes a transition (its number) or reaches a rule, outcome, timer, screen or level (its name), step by step',
    )
    .option('--save <file>', 'save that session as a record')
    .option('--tests <file>', 'also run these tests, which the design cannot change: a list as under tests')
    .option('--no-accept', 'report findings even where the design accepts them')
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus check heath.yaml\n  $ jocus check heath.yaml --witness 4 --save way.jsonl\n  $ jocus check heath.yaml --format svg --out flow.svg\n  $ jocus check class/*.yaml --tests marking.yaml --no-accept\n\nEnds with 1 where a finding is an error or a test fails.',
    )
    .action((files: string[], { watch, ...call }: Watching & CheckCall) => {
      if (watch !== undefined && files.length > 1)
        throw new UsageError('bad-argument', '--watch watches one design; give one file.');
      return perhapsWatch(files[0]!, watch, () => checkCommand(terminal, files, call));
    });
}
