import { XMLBuilder } from 'fast-xml-parser';
import type { TargetResult } from '../balance/targets.js';
import { showTrigger } from '../design/language/trigger.js';
import type { Check } from '../inspect/check.js';
import type { Marked } from '../inspect/marking.js';
import { printable } from './characters.js';

interface Case {
  readonly name: string;
  readonly failure?: string | undefined;
  readonly skipped?: string | undefined;
}

/**
 * A check as JUnit XML, for any CI: one suite for the flow, where what cannot be taken fails and what is undecided is skipped,
 * one for the tests of the design, and one for findings that are errors.
 */
export function checkToJunit(check: Check): string {
  return suitesToXml(check.design.title, suitesOf(check, ''));
}

/** Checks of several designs as JUnit XML, the file before each suite; one that cannot be read is a failed case, not a missing one. */
export const checksToJunit = (results: readonly Marked[]): string =>
  suitesToXml(
    'jocus check',
    results.flatMap(({ file, check, error }) => {
      if (check !== undefined) return suitesOf(check, `${file}: `);
      return [suite(`${file}: design`, [{ name: 'can be read', failure: error!.message }])];
    }),
  );

function suitesOf({ design, exploration, findings, tests }: Check, of: string): object[] {
  const flow = exploration.transitions.map(({ from, to, verdict, reason }, at): Case => {
    const name = `${from} -> ${to} ${showTrigger(design.transitions[at]!)}`;
    return {
      name,
      failure: verdict === 'unreachable' ? reason : undefined,
      skipped: verdict === 'undecided' ? reason : undefined,
    };
  });
  const own = tests.map(({ name, passed, misses, fault }): Case => {
    const told = misses.map(({ what, expected, found }) => `${what}: expected ${expected}, found ${found}`);
    return {
      name,
      failure: passed ? undefined : [...told, ...(fault === undefined ? [] : [fault])].join('\n'),
    };
  });
  const found = findings
    .filter(({ severity, accepted }) => severity === 'error' && accepted === undefined)
    .map(
      ({ code, message, remedy, place }): Case => ({
        name: `${code} ${place.line}:${place.column}`,
        failure: `${message} ${remedy}`,
      }),
    );
  return [suite(`${of}flow`, flow), suite(`${of}tests`, own), suite(`${of}findings`, found)];
}

/** The targets of a simulation as JUnit XML: what is missed fails, what is not yet clear is skipped. */
export function targetsToJunit(title: string, targets: readonly TargetResult[]): string {
  const cases = targets.map(({ what, of, value, low, high, from, to, verdict, place }): Case => {
    const wanted = [from === null ? '' : `at least ${from}`, to === null ? '' : `at most ${to}`];
    const told = `found ${value} [${low}, ${high}], wanted ${wanted.filter((each) => each !== '').join(' and ')}, line ${place.line}`;
    return {
      name: `${what} of ${of}`,
      failure: verdict === 'missed' ? told : undefined,
      skipped: verdict === 'not yet clear' ? told : undefined,
    };
  });
  return suitesToXml(title, [suite('targets', cases)]);
}

function suitesToXml(title: string, suites: readonly object[]): string {
  const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true });
  return builder.build({
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    testsuites: { '@_name': printable(title), testsuite: suites },
  });
}

const suite = (name: string, cases: readonly Case[]): object => ({
  '@_name': name,
  '@_tests': cases.length,
  '@_failures': cases.filter(({ failure }) => failure !== undefined).length,
  '@_skipped': cases.filter(({ skipped }) => skipped !== undefined).length,
  testcase: cases.map(({ name: of, failure, skipped }) => ({
    '@_classname': name,
    '@_name': printable(of),
    ...(failure === undefined ? {} : { failure: { '@_message': printable(failure) } }),
    ...(skipped === undefined ? {} : { skipped: { '@_message': printable(skipped) } }),
  })),
});
