import { DesignError } from '../../design/problems/problem.js';
import { openFindings } from '../../inspect/finding.js';
import type { Marked } from '../../inspect/marking.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** Several designs side by side, a row each, then what is wrong with those that fall short. */
export function showMarked(
  terminal: Terminal,
  results: readonly Marked[],
  isFine: (result: Marked) => boolean,
): string {
  const fine = results.filter(isFine).length;
  const mark = (each: Marked): string =>
    isFine(each) ? paint(terminal, 'green', '✓') : paint(terminal, 'redBright', '✗');
  const titles = ['', 'design', 'transitions', 'tests', 'errors', 'warnings', 'hints'];
  const rows = results.map((each) => [mark(each), plain(each.file), ...cellsOf(each)]);
  const wrong = results.filter((each) => !isFine(each)).map((each) => [each, reasonsOf(each)] as const);
  const told = wrong.map(([{ file }, reasons]) =>
    [
      heading(terminal, plain(file)),
      ...reasons.map((reason) => `  ${wrap(plain(reason), terminal.width - 2, '    ')}\n`),
    ].join(''),
  );
  return [
    columns([titles.map((title) => paint(terminal, 'dim', title)), ...rows], [2, 3, 4, 5, 6]),
    ...told,
    `\n${fine === results.length ? paint(terminal, 'green', '✓ passed') : paint(terminal, 'redBright', '✗ falls short')}  ${fine} of ${results.length} designs passed\n`,
  ].join('');
}

function cellsOf({ check }: Marked): string[] {
  if (check === undefined) return ['cannot be read', '–', '–', '–', '–'];
  const { transitions } = check.exploration;
  const reached = transitions.filter(({ verdict }) => verdict === 'reached').length;
  const passed = check.tests.filter((test) => test.passed).length;
  const found = openFindings(check.findings);
  return [
    `${reached} of ${transitions.length}`,
    `${passed} of ${check.tests.length}`,
    ...(['error', 'warning', 'hint'] as const).map((severity) =>
      String(found.filter((each) => each.severity === severity).length),
    ),
  ];
}

/** Reasons that are shown for one design. */
const mostReasons = 5;

function reasonsOf({ check, error }: Marked): string[] {
  if (check === undefined) {
    if (error instanceof DesignError)
      return shortened(error.problems.map(({ place, message }) => `line ${place.line}: ${message}`));
    return [error!.message];
  }
  const { leftOpen, isCut } = check.exploration;
  return shortened([
    ...(check.isLate || isCut ? [`left open: ${leftOpen ?? 'what there was no time for'}`] : []),
    ...check.tests
      .filter(({ passed }) => !passed)
      .map(({ name, misses, fault }) => {
        const missed = misses.map(({ what, expected, found }) => `${what} is ${found}, expected ${expected}`);
        return `test "${name}" fails: ${[...missed, ...(fault === undefined ? [] : [fault])].join('; ')}`;
      }),
    ...openFindings(check.findings)
      .filter(({ severity }) => severity !== 'hint')
      .map(({ severity, place, message }) => `${severity}, line ${place.line}: ${message}`),
  ]);
}

const shortened = (reasons: readonly string[]): string[] =>
  reasons.length <= mostReasons
    ? [...reasons]
    : [...reasons.slice(0, mostReasons), `and ${reasons.length - mostReasons} more`];
