#!/usr/bin/env node
// Every command with its options, one after the other, as `jocus --help` lists them.

import { Command, CommanderError, Option } from 'commander';
import { DesignError, UsageError } from '../design/problems/problem.js';
import { visibleLines } from '../formats/characters.js';
import { problemsToJson } from '../formats/json.js';
import { figureNames, reportFormats } from '../formats/report/choices.js';
import type { BalanceCall, CompareCall, DialsCall, TuneCall } from './commands/balance-commands.js';
import {
  type CheckCall,
  checkCommand,
  checkFormats,
  checkLimits,
} from './commands/checking/check-command.js';
import type { ReplayCall } from './commands/checking/replay-record.js';
import { buildCommand, newCommand, replayCommand, tryCommand } from './commands/commands.js';
import type { LevelsCall } from './commands/levels-command.js';
import type { OpenCall } from './commands/open-command.js';
import type { SimulateCall } from './commands/playing/simulate-call.js';
import type { WorkCall } from './commands/playing/work-command.js';
import type { ReportCall } from './commands/report-command.js';
import { starterNames } from './files/starters.js';
import { runOnChange } from './files/watch.js';
import {
  collect,
  collectOf,
  formatOption,
  namedModule,
  queueOption,
  secondsOption,
  setting,
  shard,
  share,
  simulateFormat,
  watchOption,
  wholeNumber,
  worldOption,
} from './options.js';
import {
  compareFormats,
  dialsFormats,
  type ExitCode,
  type Format,
  failKinds,
  levelsFormats,
} from './outcome.js';
import { showProblems } from './problems.js';
import { paint, plain, type Terminal } from './terminal.js';
import { version } from './version.js';

const terminal: Terminal = {
  out: (text) => process.stdout.write(text),
  err: (text) => process.stderr.write(text),
  width: Math.min(Math.max(process.stdout.columns ?? 100, 60), 140),
  colour: !process.env.NO_COLOR && (process.stdout.isTTY === true || Boolean(process.env.FORCE_COLOR)),
  progress: process.stderr.isTTY === true,
};

interface Options {
  readonly format: Format;
  readonly seed: number;
  readonly counter?: string;
  readonly watch?: true;
  readonly spawns: boolean;
}

// What simulates, measures and draws is loaded only where it is asked for: the first word of a check should not wait for it.
const simulating = () => import('./commands/playing/simulate-command.js');

const balancing = () => import('./commands/balance-commands.js');

/** The command line; `done` is given what the process should end with. */
function program(done: (code: ExitCode) => void): Command {
  const perhapsWatch = async (
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
        explain(error, false);
      }
    });
  };
  const jocus = new Command('jocus')
    .description('Runs, proves and simulates the scoring and the flow of screens of an arcade game.')
    .version(version)
    .showHelpAfterError('(see jocus --help)')
    .configureOutput({ writeOut: terminal.out, writeErr: (text) => terminal.err(visibleLines(text)) });
  jocus
    .command('check')
    .description(
      'prove which transitions can be taken, run the tests of the design, and report what is wrong',
    )
    .argument('<files...>', 'designs in YAML or JSON; several are shown as a table')
    .addOption(watchOption())
    .addOption(
      new Option('--format <format>', 'how to print the result').choices(checkFormats).default('text'),
    )
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
    .action((files: string[], { watch, ...call }: Options & CheckCall) => {
      if (watch !== undefined && files.length > 1)
        throw new UsageError('bad-argument', '--watch watches one design; give one file.');
      return perhapsWatch(files[0]!, watch, () => checkCommand(terminal, files, call));
    });
  jocus
    .command('simulate')
    .description('play many sessions with simulated players and measure the scoring')
    .argument('<file>', 'a design in YAML or JSON')
    .option('--sessions <n>', 'sessions of each player (1000; with --precision at most 256000)', wholeNumber)
    .option('--seed <s>', 'a whole number (1); the same seed gives the same sessions anywhere', wholeNumber)
    .option('--player <name>', 'only this player of the design; may be given several times', collect)
    .option(
      '--precision <share>',
      'add sessions until every interval of a headline figure or target is within this share, such as 2%; a small enough design is solved exactly instead',
      share,
    )
    .option(
      '--exact',
      'work the figures out instead of sampling sessions, where the design is small enough',
      false,
    )
    .option(
      '--turns <n>',
      'with --exact: turns of play that are followed at most, for each player',
      wholeNumber,
    )
    .option('--workers <n>', 'worker threads (default: one for each core)', wholeNumber)
    .option(
      '--shard <i/n>',
      'only the i-th of n parts of the sessions, for several machines; with --out',
      shard,
    )
    .option('--out <part>', 'save what was played as a part, for jocus merge or --resume')
    .option('--resume <part>', 'go on where a part ends')
    .addOption(secondsOption(3600))
    .option('--save-runs <file>', 'one row for each run, as .csv or .jsonl')
    .option('--save-sessions <file>', 'one row for each session')
    .option('--save-events <file>', 'one row for each event from outside')
    .addOption(worldOption())
    .addOption(queueOption())
    .addOption(watchOption())
    .addOption(simulateFormat())
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus simulate heath.yaml --sessions 5000 --seed 7 --player regular\n  $ jocus simulate heath.yaml --precision 2%\n  $ jocus simulate heath.yaml --exact\n  $ jocus simulate heath.yaml --save-runs runs.csv\n  $ jocus simulate heath.yaml --sessions 100000 --shard 3/8 --out part3.json\n\nCtrl-C keeps the sessions that are done. Ends with 1 where a target is missed.',
    )
    .action((file: string, { watch, ...call }: Options & SimulateCall) =>
      perhapsWatch(file, watch, async () => (await simulating()).simulateCommand(terminal, file, call)),
    );
  jocus
    .command('merge')
    .description('put the parts of one simulation together, in any order')
    .argument('<file>', 'the design they were played with')
    .argument('<parts...>', 'files that jocus simulate --out has written')
    .option('--out <part>', 'save all of it as one part')
    .addOption(simulateFormat())
    .addHelpText('after', '\nExample:\n  $ jocus merge heath.yaml part1.json part2.json part3.json')
    .action(async (file: string, parts: string[], call: Pick<SimulateCall, 'format' | 'out'>) => {
      const { mergeCommand } = await import('./commands/playing/merge-command.js');
      done(mergeCommand(terminal, file, parts, call));
    });
  jocus
    .command('report')
    .description('write one page on how a design plays: verdicts, figures, sample sessions, findings')
    .argument('<file>', 'a design in YAML or JSON')
    .option('--out <file>', 'where to write it, such as report.html')
    .option('--sessions <n>', 'sessions of each player', wholeNumber, 1000)
    .option('--seed <s>', 'a whole number', wholeNumber, 1)
    .option('--player <name>', 'only this player; may be given several times', collect)
    .addOption(worldOption())
    .addOption(queueOption())
    .addOption(
      new Option('--format <format>', 'a page, or Markdown for a pull request')
        .choices(reportFormats)
        .default('html'),
    )
    .addOption(new Option('--figure <name>', 'only this figure, as SVG').choices(figureNames))
    .option('--brief', 'only what one sheet of paper holds: verdicts, tests, findings, scores')
    .option('--for <name>', 'whom it is for, at the head of the page')
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus report heath.yaml --out report.html\n  $ jocus report heath.yaml --format markdown\n  $ jocus report heath.yaml --figure pace --out pace.svg\n  $ jocus report heath.yaml --brief --for "Group 3" --out group-3.html\n\nEnds with 1 where a target is missed.',
    )
    .action(async (file: string, call: ReportCall) => {
      const { reportCommand } = await import('./commands/report-command.js');
      done(await reportCommand(terminal, file, call));
    });
  jocus
    .command('compare')
    .description('show what differs between two designs, or two settings of one, and what got worse')
    .argument('<file>', 'a design in YAML or JSON')
    .argument('[other]', 'another design; leave it out to compare the design with itself under --set')
    .option('--set <dial=value>', 'turn a dial of the second one; may be given several times', setting)
    .option('--sessions <n>', 'sessions of each player, with each of the two', wholeNumber, 1000)
    .option('--seed <s>', 'a whole number; both are played with it', wholeNumber, 1)
    .option('--player <name>', 'only this player; may be given several times', collect)
    .addOption(worldOption())
    .addOption(queueOption())
    .addOption(
      new Option(
        '--fail-on <what>',
        `end with 1 where it got worse: ${failKinds.join(', ')}; may be given several times`,
      ).argParser(collectOf(failKinds)),
    )
    .addOption(
      new Option('--format <format>', 'how to print the result; Markdown for a pull request')
        .choices(compareFormats)
        .default('text'),
    )
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
    .option('--player <name>', 'only this player; may be given several times', collect)
    .addOption(worldOption())
    .addOption(queueOption())
    .option('--curves', 'also show how each dial works between its least and its most', false)
    .addOption(
      new Option('--format <format>', 'how to print the result').choices(dialsFormats).default('text'),
    )
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
    .addOption(
      new Option('--format <format>', 'how to print the table').choices(levelsFormats).default('text'),
    )
    .addOption(secondsOption(600))
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus levels heath.yaml\n  $ jocus levels heath.yaml --format csv > levels.csv\n  $ jocus levels heath.yaml --from levels.csv --write heath.yaml',
    )
    .action(async (file: string, call: LevelsCall) => {
      const { levelsCommand } = await import('./commands/levels-command.js');
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
      const { workCommand } = await import('./commands/playing/work-command.js');
      done(await workCommand(terminal, call));
    });
  jocus
    .command('replay')
    .description('play a recorded session again and show what happened, step by step')
    .argument('<file>', 'the design it was recorded with')
    .argument('<record>', 'a session record in JSON Lines')
    .option('--counter <name>', 'list every write to one counter, with the rule and line that did it')
    .addOption(formatOption())
    .addOption(secondsOption(60))
    .addHelpText('after', '\nExample:\n  $ jocus replay heath.yaml session.jsonl')
    .action((file: string, record: string, { format, ...call }: Options & ReplayCall) =>
      done(replayCommand(terminal, file, record, format, call)),
    );
  jocus
    .command('try')
    .description('step through a session: one line for each thing that happens, typed or piped')
    .argument('<file>', 'a design in YAML or JSON')
    .option('--seed <s>', 'a whole number', wholeNumber, 1)
    .option('--no-spawns', 'let nothing appear but as written')
    .addHelpText(
      'after',
      '\nLines: blossom.taken   3 x blossom.taken   wasp.hit as w1   end w1   wait 2   undo   save session.jsonl   quit\n\nExample:\n  $ jocus try heath.yaml < lines.txt',
    )
    .action(async (file: string, { seed, spawns }: Options) =>
      done(await tryCommand(terminal, file, seed, spawns)),
    );
  jocus
    .command('new')
    .description('write a first design to begin with')
    .argument('<file>', 'where to write it')
    .addOption(new Option('--like <name>', 'a small complete game to begin with').choices(starterNames))
    .addHelpText('after', '\nExamples:\n  $ jocus new heath.yaml\n  $ jocus new pool.yaml --like low-tide')
    .action((file: string, { like }: { like?: string }) => done(newCommand(terminal, file, like)));
  jocus
    .command('build')
    .description('write a design as one ES module that a game imports: compiled, without the parser')
    .argument('<file>', 'a design in YAML or JSON')
    .requiredOption('--out <module>', 'where to write it, such as game.js; game.d.ts is written beside it')
    .addOption(watchOption())
    .addHelpText('after', '\nExample:\n  $ jocus build heath.yaml --out heath.js')
    .action((file: string, { out, watch }: Options & { readonly out: string }) =>
      perhapsWatch(file, watch, () => buildCommand(terminal, file, out)),
    );
  jocus
    .command('open')
    .description('open a design in the workbench, a page in your browser: read it, change it, play it')
    .argument('[file]', 'a design in YAML; without one, the page offers small games to begin with')
    .option('--port <n>', 'the port to serve it on (default: 4480, or any free one)', wholeNumber)
    .option('--no-browser', 'only print the address')
    .addHelpText('after', '\nExamples:\n  $ jocus open heath.yaml\n  $ jocus open')
    .action(async (file: string | undefined, call: OpenCall) => {
      const { openCommand } = await import('./commands/open-command.js');
      done(await openCommand(terminal, file, call));
    });
  jocus
    .command('demo')
    .description('all of it on the demo design, Dusk on the Heath')
    .addOption(formatOption())
    .addHelpText('after', '\nExample:\n  $ jocus demo')
    .action(async ({ format }: Options) => {
      const { demoCommand } = await import('./commands/demo-command.js');
      done(demoCommand(terminal, format));
    });
  for (const command of [jocus, ...jocus.commands]) command.exitOverride();
  return jocus;
}

const unusable = 2;

/** What a call ends with that Jocus itself fails at. */
const failed = 3;

/** What a call that cannot be used is answered with. */
function explain(error: unknown, asJson: boolean): number {
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

async function run(argv: readonly string[]): Promise<number> {
  let code = 0;
  try {
    await program((ended) => {
      code = ended;
    }).parseAsync(argv);
    return code;
  } catch (error) {
    return explain(error, argv.includes('json') || argv.includes('--format=json'));
  }
}

process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  // A reader that has seen enough, such as head, closes the pipe; the command still ends with what it found.
  if (error.code === 'EPIPE') return;
  terminal.err(
    `${paint(terminal, 'redBright', 'error')} The result cannot be written (${error.code}); make room, or send it elsewhere.\n`,
  );
  process.exitCode = unusable;
});
process.stderr.on('error', () => {});
process.on('uncaughtException', (error) => process.exit(explain(error, false)));

const code = await run(process.argv);
process.exitCode ??= code;
