import { basename, dirname, relative } from 'node:path';
import { createInterface } from 'node:readline';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { UsageError } from '../../design/problems/problem.js';
import { readDesign } from '../../design/read.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { readRecord } from '../../engine/record/read-record.js';
import { Script } from '../../engine/record/script.js';
import { declarationText, moduleText } from '../../engine/run/module-text.js';
import { isOurs, writeMade } from '../../node/made-file.js';
import { Deadline } from '../deadline.js';
import { mustBeOutput, readDesignFile, readText, writeNew } from '../files/files.js';
import { starterFile } from '../files/starters.js';
import type { ExitCode, Format } from '../outcome.js';
import { showLine, showSession } from '../show/show-try.js';
import { paint, plain, type Terminal } from '../terminal.js';
import { type ReplayCall, replayRecord } from './checking/replay-record.js';

export function replayCommand(
  terminal: Terminal,
  file: string,
  recordFile: string,
  format: Format,
  call: ReplayCall,
): ExitCode {
  const { counter } = call;
  const design = readDesignFile(file);
  const record = readRecord(readText(recordFile, 'a session record in JSON Lines'), recordFile);
  if (counter !== undefined && !design.counters.some((each) => each.name === counter)) {
    throw new UsageError(
      'bad-argument',
      `The design has no counter "${counter}"; it has ${design.counters.map((each) => each.name).join(', ')}.`,
    );
  }
  replayRecord(terminal, design, record, format, recordFile, call);
  return 0;
}

const firstDesign = `# yaml-language-server: $schema=./node_modules/jocus/schema/design.schema.json
# One thing, one rule, one counter on the HUD. Touch it once; only then add more.
jocus: 1
title: A first design

counters:
  score: { start: 0, min: 0 }

pieces:
  blossom: { is: collectible }

levels:
  - name: Gorse Bank
    spawn:
      - { piece: blossom, every: [0.5, 1.5], atOnce: 6 }    # seconds

rules:
  - name: gather
    when: blossom.taken
    do: [{ add: { score: 10 } }]

hud:
  - { show: score, label: Score, as: digits, width: 6 }

tests:
  - name: a blossom is worth ten
    do: [{ expect: { score: 0 } }, blossom.taken]
    expect: { score: 10 }
`;

/** Writes a first design where there is no file yet. */
export function newCommand(terminal: Terminal, file: string, like?: string): ExitCode {
  writeNew(file, like === undefined ? firstDesign : readText(starterFile(like), 'a starter'));
  terminal.out(`Wrote ${plain(file)}. Next: jocus check ${plain(file)}\n`);
  return 0;
}

const engineFile = fileURLToPath(new URL('../engine.iife.js', import.meta.url));

/** Writes a design as one ES module, engine included, and its declarations beside it. */
export function buildCommand(terminal: Terminal, file: string, out: string): ExitCode {
  if (!/\.m?js$/.test(out))
    throw new UsageError('bad-argument', `${out} is no name of a module; let it end in .js or .mjs.`);
  const declarations = out.replace(/\.(m?)js$/, '.d.$1ts');
  readDesignFile(file);
  // Read again with places as the module sees them, so that it is the same on every machine.
  const form = formOf(readDesign(readText(file, 'a design'), relative(dirname(out), file)));
  const text = moduleText(form, { runtime: readText(engineFile, 'the engine') });
  const made = [
    { to: out, text },
    { to: declarations, text: declarationText(form) },
  ];
  for (const { to } of made) {
    mustBeOutput(to, [file]);
    if (!isOurs(to))
      throw new UsageError(
        'not-written',
        `There is a file ${to} already that jocus build did not write; choose another name.`,
      );
  }
  for (const each of made) writeMade(each.to, each.text);
  const kilobytes = (of: string): string => `${(gzipSync(of).length / 1000).toFixed(1)} kB`;
  terminal.out(`Wrote ${plain(out)} (${kilobytes(text)} gzipped) and ${plain(declarations)}.
Use it: import game from './${plain(basename(out))}'; const session = game.start();\n`);
  return 0;
}

/** Seconds that one line may take. */
const secondsOfLine = 60;

/** Leads a session by the lines of standard input, typed or piped. */
export async function tryCommand(
  terminal: Terminal,
  file: string,
  seed: number,
  spawns: boolean,
): Promise<ExitCode> {
  let deadline = new Deadline(secondsOfLine);
  const script = new Script(readDesignFile(file), { seed, spawns, isOver: () => deadline.isOver() });
  const lines = createInterface({ input: process.stdin, terminal: false });
  const prompt = (): void => {
    if (process.stdin.isTTY === true) terminal.out('> ');
  };
  terminal.out(`${showSession(terminal, script.session)}`);
  prompt();
  for await (const line of lines) {
    const text = line.replace(/#.*$/, '').trim();
    if (text === 'quit') break;
    deadline = new Deadline(secondsOfLine);
    const save = /^save\s+(\S+)$/.exec(text);
    if (text !== '' && process.stdin.isTTY !== true) terminal.out(`> ${plain(text)}\n`);
    if (save !== null) saveRecord(terminal, save[1]!, script.record());
    else if (text !== '') {
      const result = script.run(text);
      terminal.out(showLine(terminal, result));
      if (result.kind !== 'refused') terminal.out(showSession(terminal, script.session));
    }
    prompt();
  }
  return 0;
}

function saveRecord(terminal: Terminal, file: string, text: string): void {
  try {
    writeNew(file, text);
    terminal.out(`  Saved ${plain(file)}.\n`);
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    // What was led so far must not be lost to a bad file name.
    terminal.out(`  ${paint(terminal, 'redBright', plain(error.message))}\n`);
  }
}
