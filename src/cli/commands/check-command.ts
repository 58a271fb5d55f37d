import { closest } from '../../design/language/names.js';
import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import { writeRecord } from '../../engine/record/record.js';
import type { Judgement } from '../../explore/evidence/verdict.js';
import { type Exploration, exploreDefaults } from '../../explore/explore.js';
import { checkToJson } from '../../formats/json.js';
import { checkToSarif } from '../../formats/sarif.js';
import { type Check, check } from '../../inspect/check.js';
import { catalogue, type Severity } from '../../inspect/finding-catalogue.js';
import { Deadline } from '../deadline.js';
import { mustBeNew, mustBeOutput, readDesignFile, writeNew, writeOver } from '../files/files.js';
import { type ExitCode, json } from '../outcome.js';
import { withProgress } from '../progress.js';
import { showCheck } from '../show/show-check.js';
import { plain, type Terminal } from '../terminal.js';
import { replayRecord } from './replay-record.js';

export const checkFormats = ['text', 'json', 'sarif', 'junit', 'svg', 'scxml'] as const;

export interface CheckCall {
  readonly format: (typeof checkFormats)[number];
  /** Where to write the result, in the place of standard output. */
  readonly out: string | undefined;
  readonly failOn: Severity;
  /** How far it searches. */
  readonly states: number;
  readonly seconds: number;
  readonly only: readonly string[] | undefined;
  readonly skip: readonly string[] | undefined;
  /** Print the witness of this and nothing else: a transition by its number, from 1, or anything else by its name. */
  readonly witness: string | undefined;
  /** Where to save that witness as a record. */
  readonly save: string | undefined;
}

/** How far a check goes unless it is told otherwise. */
export const checkLimits = { states: exploreDefaults.mostStates, seconds: 60 } as const;

const severities = ['error', 'warning', 'hint'] as const;

export async function checkCommand(terminal: Terminal, file: string, call: CheckCall): Promise<ExitCode> {
  mustBeOutput(call.out, [file]);
  mustBeOutput(call.save, [file, call.out]);
  mustBeNew(call.save);
  mustBeCodes([...(call.only ?? []), ...(call.skip ?? [])]);
  const design = readDesignFile(file);
  const all = checkWithProgress(terminal, design, call);
  if (call.witness !== undefined) return witnessOf(terminal, all, call.witness, call.save);
  const result = { ...all, findings: all.findings.filter(({ code }) => isWanted(code, call)) };
  const text = await inFormat(terminal, result, call.format);
  if (call.out === undefined) terminal.out(text);
  else {
    writeOver(call.out, text);
    terminal.out(`Wrote ${plain(call.out)}.\n`);
  }
  const failing = severities.slice(0, severities.indexOf(call.failOn) + 1);
  const falls = result.findings.some(
    ({ severity, accepted }) => accepted === undefined && failing.includes(severity),
  );
  const isCut = result.isLate || result.exploration.isCut;
  return falls || isCut || result.tests.some((test) => !test.passed) ? 1 : 0;
}

/** @throws UsageError for a code that no finding has */
function mustBeCodes(asked: readonly string[]): void {
  const codes = Object.keys(catalogue);
  for (const code of asked) {
    if (codes.includes(code)) continue;
    const near = closest(code, codes);
    const help = near === undefined ? `They are ${codes.join(', ')}.` : `Did you mean ${near}?`;
    throw new UsageError(`There are no findings of the code "${code}". ${help}`);
  }
}

const isWanted = (code: string, { only, skip }: CheckCall): boolean =>
  (only === undefined || only.includes(code)) && !(skip ?? []).includes(code);

/** What writes XML is loaded only where it is asked for: the first word of a check should not wait for it. */
async function inFormat(terminal: Terminal, result: Check, format: CheckCall['format']): Promise<string> {
  switch (format) {
    case 'text':
      return showCheck(terminal, result);
    case 'json':
      return json(checkToJson(result));
    case 'sarif':
      return json(checkToSarif(result));
    case 'junit':
      return (await import('../../formats/junit.js')).checkToJunit(result);
    case 'svg':
      return `${(await import('../../formats/flow-svg.js')).flowToSvg(result.design, result.exploration)}\n`;
    case 'scxml':
      return (await import('../../formats/scxml.js')).flowToScxml(result.design, result.exploration);
  }
}

/** Shows the witness of a transition, a rule or the like as a replay, and saves its record where that is asked. */
function witnessOf(
  terminal: Terminal,
  { design, exploration }: Check,
  asked: string,
  save: string | undefined,
): ExitCode {
  const { name, verdict, assumes, witness, reason } = askedFor(exploration, asked);
  if (witness?.record === undefined) {
    const told = verdict === 'reached' ? 'from the very start' : plain(reason!);
    terminal.out(`${plain(name)} is ${verdict}: ${told}.\n`);
    return verdict === 'reached' ? 0 : 1;
  }
  if (assumes === 'players')
    terminal.out(`${plain(name)} is ${verdict}: ${plain(reason!)}. These events would lead there:\n\n`);
  replayRecord(terminal, design, witness.record, 'text', 'witness');
  if (save !== undefined) {
    writeNew(save, writeRecord(witness.record));
    terminal.out(`Saved ${plain(save)}.\n`);
  }
  return verdict === 'reached' ? 0 : 1;
}

function askedFor({ transitions, parts }: Exploration, asked: string): Judgement & { readonly name: string } {
  const transition = /^\d+$/.test(asked) ? transitions[Number(asked) - 1] : undefined;
  if (transition !== undefined) return { ...transition, name: `${transition.from} -> ${transition.to}` };
  const part = parts.find(({ name }) => name === asked);
  if (part !== undefined) return part;
  const near = closest(
    asked,
    parts.map(({ name }) => name),
  );
  const help = near === undefined ? '' : ` Did you mean ${near}?`;
  throw new UsageError(
    `There is no "${asked}" to show a witness of.${help} Give the number of a transition, 1 to ${transitions.length}, or the name of a rule, an outcome such as blossom.taken, a timer, a screen or a level.`,
  );
}

export function checkWithProgress(
  terminal: Terminal,
  design: Design,
  { states, seconds }: Pick<CheckCall, 'states' | 'seconds'> = checkLimits,
): Check {
  const { isOver } = new Deadline(seconds);
  return withProgress(terminal, 'states', states, (advance) =>
    check(design, { mostStates: states, isOver, progress: advance }),
  );
}
