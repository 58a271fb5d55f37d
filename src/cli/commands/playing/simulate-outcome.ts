import { type SimulationSummary, summarize } from '../../../balance/summary.js';
import { closest } from '../../../design/language/names.js';
import type { Design } from '../../../design/model.js';
import { formOf } from '../../../engine/program/lower/lower.js';
import { targetsToJunit } from '../../../formats/junit.js';
import { number } from '../../../formats/written.js';
import type { Simulation } from '../../../simulate/simulate.js';
import type { Interruption } from '../../interruption.js';
import { type ExitCode, json, type SimulateFormat } from '../../outcome.js';
import { showSimulation } from '../../show/show-simulation.js';
import { plain, type Terminal } from '../../terminal.js';

export function unknownReport(design: Design, event: string, times: number): string {
  const near = closest(
    event,
    formOf(design).events.map(({ name }) => name),
  );
  const help = near === undefined ? '' : ` Did you mean ${near}?`;
  return `The world reported ${plain(event)} ${times === 1 ? 'once' : `${number(times)} times`}, which this design does not know.${help}\n`;
}

export function nothingDone(terminal: Terminal, interruption: Interruption): ExitCode {
  terminal.err(`Stopped ${interruption.reason ?? ''} before any sessions were done; nothing is saved.\n`);
  return interruption.exitCode(1);
}

export const stoppedAfter = ({ reason }: Interruption, done: number, all: number, hint = ''): string =>
  `Stopped ${reason ?? ''} after ${number(done)} of ${number(all)} sessions.${hint}\n`;

export function tell(
  terminal: Terminal,
  simulation: Simulation,
  { format, world }: { readonly format: SimulateFormat; readonly world: string | undefined },
  looks = 1,
): ExitCode {
  const summary = summarize(simulation, looks);
  switch (format) {
    case 'text':
      terminal.out(showSimulation(terminal, summary, world));
      break;
    case 'json':
      terminal.out(json(summary));
      break;
    case 'junit':
      terminal.out(targetsToJunit(summary.design, summary.targets));
  }
  return judgement(summary);
}

export const judgement = ({ targets }: Pick<SimulationSummary, 'targets'>): ExitCode =>
  targets.some((target) => target.verdict === 'missed') ? 1 : 0;
