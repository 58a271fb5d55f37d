#!/usr/bin/env node
import { explain, runCommand, unusable } from './program/run-command.js';
import { paint, type Terminal } from './terminal.js';

const terminal: Terminal = {
  out: (text) => process.stdout.write(text),
  err: (text) => process.stderr.write(text),
  width: Math.min(Math.max(process.stdout.columns ?? 100, 60), 140),
  colour: !process.env.NO_COLOR && (process.stdout.isTTY === true || Boolean(process.env.FORCE_COLOR)),
  progress: process.stderr.isTTY === true,
};

process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  // A reader that has seen enough, such as head, closes the pipe; the command still ends with what it found.
  if (error.code === 'EPIPE') return;
  terminal.err(
    `${paint(terminal, 'redBright', 'error')} The result cannot be written (${error.code}); make room, or send it elsewhere.\n`,
  );
  process.exitCode = unusable;
});
process.stderr.on('error', () => {});
process.on('uncaughtException', (error) => process.exit(explain(terminal, error, false)));

const code = await runCommand(process.argv.slice(2), terminal);
process.exitCode ??= code;
