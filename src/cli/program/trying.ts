import { type Command, Option } from 'commander';
import type { ReplayCall } from '../commands/checking/replay-record.js';
import { buildCommand, newCommand, replayCommand, tryCommand } from '../commands/commands.js';
import type { OpenCall } from '../commands/open-command.js';
import { starterNames } from '../files/starters.js';
import { formatOption, secondsOption, watchOption, wholeNumber } from '../options.js';
import type { Format } from '../outcome.js';
import type { Line, Watching } from './line.js';

/** What plays one session, or makes files to play with: `replay`, `try`, `new`, `build`, `open` and `demo`. */
export function addTrying(jocus: Command, { terminal, done, perhapsWatch }: Line): void {
  jocus
    .command('replay')
    .description('play a recorded session again and show what happened, step by step')
    .argument('<file>', 'the design it was recorded with')
    .argument('<record>', 'a session record in JSON Lines')
    .option('--counter <name>', 'list every write to one counter, with the rule and line that did it')
    .addOption(formatOption())
    .addOption(secondsOption(60))
    .addHelpText('after', '\nExample:\n  $ jocus replay heath.yaml session.jsonl')
    .action((file: string, record: string, { format, ...call }: ReplayCall & { readonly format: Format }) =>
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
    .action(async (file: string, { seed, spawns }: { readonly seed: number; readonly spawns: boolean }) =>
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
    .action((file: string, { out, watch }: Watching & { readonly out: string }) =>
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
      const { openCommand } = await import('../commands/open-command.js');
      done(await openCommand(terminal, file, call));
    });
  jocus
    .command('demo')
    .description('all of it on the demo design, Dusk on the Heath')
    .addOption(formatOption())
    .addHelpText('after', '\nExample:\n  $ jocus demo')
    .action(async ({ format }: { readonly format: Format }) => {
      const { demoCommand } = await import('../commands/demo-command.js');
      done(demoCommand(terminal, format));
    });
}
