import { fileURLToPath } from 'node:url';
import { summarize } from '../../balance/summary.js';
import { checkToJson } from '../../formats/json.js';
import { simulate } from '../../simulate/simulate.js';
import { readDesignFile } from '../files/files.js';
import { type ExitCode, type Format, json } from '../outcome.js';
import { showCheck } from '../show/show-check.js';
import { showSimulation } from '../show/show-simulation.js';
import { heading, paint, type Terminal } from '../terminal.js';
import { checkWithProgress } from './checking/check-command.js';
import { replayRecord } from './checking/replay-record.js';
import { judgement } from './playing/simulate-outcome.js';

const demoFile = fileURLToPath(new URL('../../demo/dusk-on-the-heath.yaml', import.meta.url));

/** Everything on the demo design: the check, a witness replayed, and the simulation. */
export function demoCommand(terminal: Terminal, format: Format): ExitCode {
  const design = { ...readDesignFile(demoFile), file: 'demo/dusk-on-the-heath.yaml' };
  const result = checkWithProgress(terminal, design);
  const witness = result.exploration.transitions.find(
    (each) => each.to === 'dark' && each.witness !== undefined,
  )?.witness;
  const summary = summarize(simulate(design, { sessions: 1000, seed: 1 }));
  if (format === 'json') {
    terminal.out(json({ check: checkToJson(result), simulate: summary }));
    return result.passed ? judgement(summary) : 1;
  }
  const chapter = (title: string): void => terminal.out(heading(terminal, paint(terminal, 'cyan', title)));
  chapter('1. jocus check: can every transition be taken, and do the tests of the design hold?');
  terminal.out(`\n${showCheck(terminal, result)}`);
  if (witness?.record !== undefined) {
    chapter('2. jocus replay: the witness of the first transition to dark, played again');
    terminal.out('\n');
    replayRecord(terminal, design, witness.record, 'text', 'witness');
  }
  chapter('3. jocus simulate: three simulated players, a thousand sessions each');
  terminal.out('\n');
  terminal.out(showSimulation(terminal, summary));
  return result.passed ? judgement(summary) : 1;
}
