import { closest } from '../../../design/language/names.js';
import type { Design } from '../../../design/model.js';
import { DesignError, UsageError } from '../../../design/problems/problem.js';
import { writeRecord } from '../../../engine/record/record.js';
import type { Judgement } from '../../../explore/evidence/verdict.js';
import { type Exploration, exploreDefaults } from '../../../explore/explore.js';
import { checkToJson, problemsToJson } from '../../../formats/json.js';
import { checkToSarif } from '../../../formats/sarif.js';
import { type Check, check } from '../../../inspect/check.js';
import { openFindings } from '../../../inspect/finding.js';
import { catalogue, type Severity } from '../../../inspect/finding-catalogue.js';
import {
  type Marked,
  type MarkingTest,
  readMarkingTests,
  runMarkingTests,
} from '../../../inspect/marking.js';
import { Deadline } from '../../deadline.js';
import { mustBeNew, mustBeOutput, readDesignFile, readText, writeNew, writeOver } from '../../files/files.js';
import { type ExitCode, json } from '../../outcome.js';
import { withProgress } from '../../progress.js';
import { showCheck } from '../../show/show-check.js';
import { showMarked } from '../../show/show-marked.js';
import { plain, type Terminal } from '../../terminal.js';
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
  /** A file of tests that are run besides those of the design. */
  readonly tests: string | undefined;
  /** Whether findings that the design accepts are left out. */
  readonly accept: boolean;
}

/** How far a check goes by default. */
export const checkLimits = { states: exploreDefaults.mostStates, seconds: 60 } as const;

const severities = ['error', 'warning', 'hint'] as const;

export async function checkCommand(
  terminal: Terminal,
  files: readonly string[],
  call: CheckCall,
): Promise<ExitCode> {
  if (files.length > 1) return checkMany(terminal, files, call);
  const [file] = files as [string];
  mustBeOutput(call.out, [file, call.tests]);
  mustBeOutput(call.save, [file, call.out]);
  mustBeNew(call.save);
  mustBeCodes([...(call.only ?? []), ...(call.skip ?? [])]);
  const design = readDesignFile(file);
  const all = checkWith(terminal, design, call, readTests(call.tests));
  if (call.witness !== undefined) return witnessOf(terminal, all, call.witness, call.save);
  const result = wantedOf(all, call);
  writeResult(terminal, call.out, await inFormat(terminal, result, call.format));
  return fallsShort(result, call) ? 1 : 0;
}

function writeResult(terminal: Terminal, out: string | undefined, text: string): void {
  if (out === undefined) {
    terminal.out(text);
    return;
  }
  writeOver(out, text);
  terminal.out(`Wrote ${plain(out)}.\n`);
}

const wantedOf = (all: Check, call: CheckCall): Check => ({
  ...all,
  findings: all.findings.filter(({ code }) => isWanted(code, call)),
});

function fallsShort({ findings, tests, exploration, isLate }: Check, { failOn }: CheckCall): boolean {
  const failing = severities.slice(0, severities.indexOf(failOn) + 1);
  const falls = openFindings(findings).some(({ severity }) => failing.includes(severity));
  return falls || isLate || exploration.isCut || tests.some((test) => !test.passed);
}

const readTests = (file: string | undefined): readonly MarkingTest[] =>
  file === undefined ? [] : readMarkingTests(readText(file, 'a list of tests in YAML or JSON'), file);

function checkWith(
  terminal: Terminal,
  design: Design,
  call: Pick<CheckCall, 'states' | 'seconds' | 'accept'>,
  tests: readonly MarkingTest[],
): Check {
  const checked = checkWithProgress(terminal, call.accept ? design : { ...design, accepted: [] }, call);
  const marked = runMarkingTests(design, tests, new Deadline(call.seconds).isOver);
  return {
    ...checked,
    tests: [...checked.tests, ...marked],
    passed: checked.passed && marked.every(({ passed }) => passed),
  };
}

/** Each of several designs by itself; one that cannot be read falls short, and the others are checked all the same. */
async function checkMany(terminal: Terminal, files: readonly string[], call: CheckCall): Promise<ExitCode> {
  if (call.witness !== undefined || !['text', 'json', 'junit'].includes(call.format))
    throw new UsageError(
      'bad-argument',
      'Several designs are shown as a table, as JSON or as JUnit; give one file for a witness or another format.',
    );
  mustBeOutput(call.out, [...files, call.tests]);
  mustBeCodes([...(call.only ?? []), ...(call.skip ?? [])]);
  const tests = readTests(call.tests);
  const results = files.map((file): Marked => {
    try {
      return { file, check: wantedOf(checkWith(terminal, readDesignFile(file), call, tests), call) };
    } catch (error) {
      if (!(error instanceof DesignError || error instanceof UsageError)) throw error;
      return { file, error };
    }
  });
  const isFine = (each: Marked): boolean => each.check !== undefined && !fallsShort(each.check, call);
  const text = async (): Promise<string> => {
    if (call.format === 'json')
      return json(
        results.map(({ file, check: checked, error }) =>
          checked === undefined
            ? { file, ...(error instanceof DesignError ? problemsToJson(error) : { error: error!.message }) }
            : { file, ...checkToJson(checked) },
        ),
      );
    if (call.format === 'junit') return (await import('../../../formats/junit.js')).checksToJunit(results);
    return showMarked(terminal, results, isFine);
  };
  writeResult(terminal, call.out, await text());
  return results.every(isFine) ? 0 : 1;
}

/** @throws UsageError for a code that no finding has */
function mustBeCodes(asked: readonly string[]): void {
  const codes = Object.keys(catalogue);
  for (const code of asked) {
    if (codes.includes(code)) continue;
    const near = closest(code, codes);
    const help = near === undefined ? `They are ${codes.join(', ')}.` : `Did you mean ${near}?`;
    throw new UsageError('unknown-name', `There are no findings of the code "${code}". ${help}`);
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
      return (await import('../../../formats/junit.js')).checkToJunit(result);
    case 'svg':
      return `${(await import('../../../formats/flow-svg.js')).flowToSvg(result.design, result.exploration)}\n`;
    case 'scxml':
      return (await import('../../../formats/scxml.js')).flowToScxml(result.design, result.exploration);
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
    'bad-argument',
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
