import { type Command, Option } from 'commander';
import { figureNames, reportFormats } from '../../formats/report/choices.js';
import type { SimulateCall } from '../commands/playing/simulate-call.js';
import type { ReportCall } from '../commands/report-command.js';
import {
  collect,
  formatOption,
  playerOption,
  queueOption,
  secondsOption,
  shard,
  share,
  watchOption,
  wholeNumber,
  worldOption,
} from '../options.js';
import { simulateFormats } from '../outcome.js';
import type { Line, Watching } from './line.js';

// What simulates, measures and draws is loaded only where it is asked for: the first word of a check should not wait for it.
const simulating = () => import('../commands/playing/simulate-command.js');

/** What plays a design as it is: `simulate`, `merge` and `report`. */
export function addSimulating(jocus: Command, { terminal, done, perhapsWatch }: Line): void {
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
    .addOption(formatOption(simulateFormats))
    .addHelpText(
      'after',
      '\nExamples:\n  $ jocus simulate heath.yaml --sessions 5000 --seed 7 --player regular\n  $ jocus simulate heath.yaml --precision 2%\n  $ jocus simulate heath.yaml --exact\n  $ jocus simulate heath.yaml --save-runs runs.csv\n  $ jocus simulate heath.yaml --sessions 100000 --shard 3/8 --out part3.json\n\nCtrl-C keeps the sessions that are done. Ends with 1 where a target is missed.',
    )
    .action((file: string, { watch, ...call }: Watching & SimulateCall) =>
      perhapsWatch(file, watch, async () => (await simulating()).simulateCommand(terminal, file, call)),
    );
  jocus
    .command('merge')
    .description('put the parts of one simulation together, in any order')
    .argument('<file>', 'the design they were played with')
    .argument('<parts...>', 'files that jocus simulate --out has written')
    .option('--out <part>', 'save all of it as one part')
    .addOption(formatOption(simulateFormats))
    .addHelpText('after', '\nExample:\n  $ jocus merge heath.yaml part1.json part2.json part3.json')
    .action(async (file: string, parts: string[], call: Pick<SimulateCall, 'format' | 'out'>) => {
      const { mergeCommand } = await import('../commands/playing/merge-command.js');
      done(mergeCommand(terminal, file, parts, call));
    });
  jocus
    .command('report')
    .description('write one page on how a design plays: verdicts, figures, sample sessions, findings')
    .argument('<file>', 'a design in YAML or JSON')
    .option('--out <file>', 'where to write it, such as report.html')
    .option('--sessions <n>', 'sessions of each player', wholeNumber, 1000)
    .option('--seed <s>', 'a whole number', wholeNumber, 1)
    .addOption(playerOption())
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
      const { reportCommand } = await import('../commands/report-command.js');
      done(await reportCommand(terminal, file, call));
    });
}
