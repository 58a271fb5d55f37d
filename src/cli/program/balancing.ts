import { type Command, Option } from 'commander';
import type { BalanceCall, CompareCall, DialsCall, TuneCall } from '../commands/balance-commands.js';
import type { LevelsCall } from '../commands/levels-command.js';
import type { WorkCall } from '../commands/playing/work-command.js';
import {
  collect,
  collectOf,
  formatOption,
  namedModule,
  playerOption,
  queueOption,
  secondsOption,
  setting,
  wholeNumber,
  worldOption,
} from '../options.js';
import { compareFormats, dialsFormats, failKinds, levelsFormats } from '../outcome.js';
import type { Line } from './line.js';

const balancing = () => import('../commands/balance-commands.js');

/** What changes numbers of a design, or asks what changing them would do: `compare`, `dials`, `tune`, `levels`, `fit`; and `work`, which plays for them. */
export function addBalancing(jocus: Command, { terminal, done }: Line): void {
  jocus
    .command('compare')
    .description('show what differs between two designs, or two settings of one, and what got worse')
    .argument('<file>', 'a design in YAML or JSON')
    .argument('[other]', 'another design; leave it out to compare the design with itself under --set')
    .option('--set <dial=value>', 'turn a dial of the second one; may be given several times', setting)
    .option('--sessions <n>', 'sessions of each player, with each of the two', wholeNumber, 1000)
    .option('--seed <s>', 'a whole number; both are played with it', wholeNumber, 1)
    .addOption(playerOption())
    .addOption(worldOption())
    .addOption(queueOption())
    .addOption(
      new Option(
        '--fail-on <what>',
        `end with 1 where it got worse: ${failKinds.join(', ')}; may be given several times`,
      ).argParser(collectOf(failKinds)),
    )
    .addOption(formatOption(compareFormats, 'how to print the result; Markdown for a pull request'))
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus compare heath.yaml heath-new.yaml\n  $ jocus compare heath.yaml --set petal=20\n  $ jocus compare main.yaml heath.yaml --fail-on any --format markdown',
    )
    .action(async (file: string, other: string | undefined, call: CompareCall) =>
      done(await (await balancing()).compareCommand(terminal, file, other, call)),
    );
  jocus
    .command('dials')
    .description('show what each dial does to scores, lengths, endings and targets')
    .argument('<file>', 'a design in YAML or JSON')
    .option('--sessions <n>', 'sessions of each player at each setting', wholeNumber, 1000)
    .option('--seed <s>', 'a whole number; every setting is played with it', wholeNumber, 1)
    .addOption(playerOption())
    .addOption(worldOption())
    .addOption(queueOption())
    .option('--curves', 'also show how each dial works between its least and its most', false)
    .addOption(formatOption(dialsFormats))
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus dials heath.yaml\n  $ jocus dials heath.yaml --curves\n  $ jocus dials heath.yaml --format csv',
    )
    .action(async (file: string, call: DialsCall) =>
      done(await (await balancing()).dialsCommand(terminal, file, call)),
    );
  jocus
    .command('tune')
    .description('find settings of the dials that meet all targets')
    .argument('<file>', 'a design in YAML or JSON')
    .option('--dial <name>', 'only turn this dial; may be given several times', collect)
    .option('--sessions <n>', 'sessions of each player at each setting that is tried', wholeNumber, 500)
    .option('--seed <s>', 'a whole number; every setting is played with it', wholeNumber, 1)
    .addOption(worldOption())
    .addOption(queueOption())
    .option(
      '--write <file>',
      'write the design with the settings that were found, comments kept; may be the file itself',
    )
    .addOption(formatOption())
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExample:\n  $ jocus tune heath.yaml --dial petal --write heath-tuned.yaml\n\nEnds with 1 where no setting was found that meets all targets.',
    )
    .action(async (file: string, call: TuneCall) =>
      done(await (await balancing()).tuneCommand(terminal, file, call)),
    );
  jocus
    .command('levels')
    .description(
      'show the levels as a table, with what formulas give and how players fare; take a changed table back in',
    )
    .argument('<file>', 'a design in YAML or JSON')
    .option(
      '--sessions <n>',
      'sessions of each player that are played for the figures; 0 for none',
      wholeNumber,
      1000,
    )
    .option('--seed <s>', 'a whole number', wholeNumber, 1)
    .option(
      '--from <table>',
      'a table in CSV, as --format csv writes it, to take names, values and pieces from',
    )
    .option('--write <file>', 'with --from: where to write the design, comments kept; may be the file itself')
    .addOption(formatOption(levelsFormats, 'how to print the table'))
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus levels heath.yaml\n  $ jocus levels heath.yaml --format csv > levels.csv\n  $ jocus levels heath.yaml --from levels.csv --write heath.yaml',
    )
    .action(async (file: string, call: LevelsCall) => {
      const { levelsCommand } = await import('../commands/levels-command.js');
      done(levelsCommand(terminal, file, call));
    });
  jocus
    .command('fit')
    .description(
      'estimate skills and difficulties from a playtest, and show where simulated players play differently',
    )
    .argument('<file>', 'the design that was played')
    .argument(
      '<logs...>',
      'a line for each event: CSV or JSON Lines with player, session, at (seconds), event; or records of sessions',
    )
    .option('--sessions <n>', 'sessions that are simulated of each player, to compare', wholeNumber, 1000)
    .option('--seed <s>', 'a whole number', wholeNumber, 1)
    .addOption(formatOption())
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExample:\n  $ jocus fit heath.yaml playtest.csv\n  $ jocus fit heath.yaml monday.jsonl tuesday.jsonl',
    )
    .action(async (file: string, logs: string[], call: BalanceCall) =>
      done((await balancing()).fitCommand(terminal, file, logs, call)),
    );
  jocus
    .command('work')
    .description(
      'play for others: take chunks of sessions from a queue on Redis, on as many machines as you like',
    )
    .requiredOption('--queue <url>', 'the queue, such as redis://host:6379')
    .option('--workers <n>', 'worker threads (default: one for each core)', wholeNumber)
    .option(
      '--world <name=module>',
      'a world that may be asked for by this name; may be given several times',
      namedModule,
    )
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus work --queue redis://localhost:6379\n  $ jocus work --queue redis://games:6379 --workers 8 --world heath=./world.js\n\nGoes on until Ctrl-C. What a worker leaves unfinished is played again by another.',
    )
    .action(async (call: WorkCall) => {
      const { workCommand } = await import('../commands/playing/work-command.js');
      done(await workCommand(terminal, call));
    });
}
