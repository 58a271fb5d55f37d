import { showTrigger } from '../../design/language/trigger.js';
import type { Transition } from '../../design/model.js';
import { formatPlace } from '../../design/problems/problem.js';
import { assumptions, type TransitionVerdict } from '../../explore/evidence/verdict.js';
import type { Exploration } from '../../explore/explore.js';
import { number, someOf, testsPassed } from '../../formats/written.js';
import type { Check } from '../../inspect/check.js';
import { openFindings } from '../../inspect/finding.js';
import type { Severity } from '../../inspect/finding-catalogue.js';
import { codeFrame } from '../problems.js';
import { columns, heading, noBreak, paint, plain, type Terminal, wrap } from '../terminal.js';

const severityStyle = { error: 'redBright', warning: 'yellow', hint: 'cyan' } as const;
const verdictStyle = { reached: 'green', unreachable: 'redBright', undecided: 'yellow' } as const;

/** A check for people to read: flow, tests, findings, and the summary last. */
export function showCheck(terminal: Terminal, check: Check): string {
  const { design, exploration, findings, tests } = check;
  const parts = [
    `${paint(terminal, 'bold', plain(design.title))}  ${design.title === design.file ? '' : paint(terminal, 'dim', plain(design.file))}\n`,
  ];
  const ofPlayers = exploration.transitions.flatMap(({ assumes }, at) =>
    assumes === 'players' ? [at + 1] : [],
  );
  const told = [
    `Assumes ${assumptions['any order']}.`,
    ...(ofPlayers.length === 0
      ? []
      : [`Verdicts on transitions ${ofPlayers.join(', ')} assume ${assumptions.players}.`]),
  ].map((line) => `  ${wrap(line, terminal.width - 2, '  ')}\n`);
  parts.push(heading(terminal, 'Flow'), paint(terminal, 'dim', told.join('')));
  if (exploration.transitions.length > 0)
    parts.push(columns(flowRows(terminal, design.transitions, exploration.transitions)));
  parts.push(partRows(terminal, exploration), extremes(terminal, exploration));
  if (tests.length > 0) {
    parts.push(heading(terminal, 'Tests of the design'));
    const failed = tests.filter(({ passed }) => !passed);
    // Where some fail, those that hold would only stand in the way.
    for (const { name, passed, misses, fault, place } of failed.length === 0 ? tests : failed) {
      const mark = passed ? paint(terminal, 'green', '✓') : paint(terminal, 'redBright', '✗');
      const where = passed ? '' : paint(terminal, 'dim', `  ${plain(formatPlace(place))}`);
      parts.push(`  ${mark} ${plain(name)}${where}\n`);
      for (const { what, expected, found, writtenBy } of misses) {
        const by = writtenBy === undefined ? '' : ` (last written by ${plain(writtenBy)})`;
        parts.push(`      ${plain(what)}: expected ${expected}, found ${found}${by}\n`);
      }
      if (fault !== undefined) parts.push(`      ${wrap(plain(fault), terminal.width - 6, '      ')}\n`);
    }
    const others = tests.length - failed.length;
    if (failed.length > 0 && others > 0)
      parts.push(
        `  ${paint(terminal, 'green', '✓')} ${others} ${others === 1 ? 'other holds' : 'others hold'}\n`,
      );
  }
  if (findings.length > 0) {
    parts.push(heading(terminal, 'Findings'));
    for (const { severity, code, message, remedy, place, witness, accepted } of findings) {
      if (accepted !== undefined) {
        parts.push(`  ${paint(terminal, 'dim', `accepted ${code}: ${plain(accepted)}`)}\n`);
        continue;
      }
      parts.push(
        `  ${paint(terminal, severityStyle[severity], severity)} ${code}  ${paint(terminal, 'dim', plain(formatPlace(place)))}\n`,
      );
      parts.push(`    ${wrap(plain(`${message} ${remedy}`), terminal.width - 4, '    ')}\n`);
      if (witness !== undefined)
        parts.push(
          `    ${wrap(`Shown by: ${witness.length === 0 ? 'the very start' : witness.join(', ')}`, terminal.width - 4, '    ')}\n`,
        );
      if (severity !== 'hint') parts.push(codeFrame(terminal, place));
    }
  }
  parts.push(`\n${summary(terminal, check)}\n`);
  return parts.join('');
}

/** How many of each kind are reached, and by name those that are not. */
function partRows(terminal: Terminal, { parts, transitions }: Exploration): string {
  const kinds = [...new Set(parts.map(({ kind }) => kind))];
  const counts = kinds.map((kind) => {
    const own = parts.filter((each) => each.kind === kind);
    const reached = own.filter(({ verdict }) => verdict === 'reached').length;
    return someOf(reached, own.length, kind);
  });
  const told = `Reached: ${counts.join(', ')}`;
  const open = parts.filter(({ verdict }) => verdict !== 'reached');
  const isFlowSound = transitions.every(({ verdict }) => verdict === 'reached');
  if (!isFlowSound && open.length > 0) {
    // Most of it follows from the transitions above, and is reached once they are mended.
    const names = open.map(({ kind, name }) => plain(`${kind} ${name}`.replaceAll(' ', noBreak))).join(', ');
    return [told, `Not reached with these transitions: ${names}`]
      .map((line) => `  ${wrap(line, terminal.width - 2, '  ')}\n`)
      .join('');
  }
  const widest = Math.max(0, ...open.map(({ kind, name }) => kind.length + plain(name).length + 1));
  const rows = open.map(({ kind, name, verdict, reason }) => [
    `${paint(terminal, 'dim', kind)} ${plain(name)}`,
    paint(terminal, verdictStyle[verdict], verdict),
    wrap(plain(reason!), Math.max(30, terminal.width - widest - 'unreachable'.length - 8)),
  ]);
  return `  ${wrap(told, terminal.width - 2, '  ')}\n${rows.length === 0 ? '' : columns(rows)}`;
}

/** How soon each ending can come, and what the score can reach. */
function extremes(terminal: Terminal, { endings, score }: Exploration): string {
  const lines = endings.map(({ screen, events, leastEvents, leastTime }) => {
    const shortest = `${eventsIn(events)} in the shortest session found`;
    const told =
      leastEvents === events
        ? `at least ${eventsIn(events)}`
        : leastEvents === 0
          ? shortest
          : `at least ${eventsIn(leastEvents)} (${shortest})`;
    const time = leastTime === undefined ? '' : ` and ${showSeconds(leastTime)} of play`;
    return `${plain(screen)}: ${told}${time}`;
  });
  const told = endings.length === 0 ? [] : [`Endings: ${lines.join('; ')}`];
  if (score !== undefined) {
    const { counter, lowest, highest, growsForEver, supply } = score;
    const supplied =
      supply.length === 0 ? '' : `, with no more ${supply.map(plain).join(' or ')} than the levels have`;
    told.push(`${plain(counter)}: ${rangeWords(lowest?.value, highest?.value, growsForEver)}${supplied}`);
  }
  return told.map((line) => `  ${wrap(line, terminal.width - 2, '  ')}\n`).join('');
}

function rangeWords(lowest: number | undefined, highest: number | undefined, growsForEver: boolean): string {
  if (highest !== undefined && lowest === highest) return `always ${number(highest)}`;
  if (highest !== undefined)
    return lowest === undefined
      ? `at most ${number(highest)}; no lowest value was found`
      : `between ${number(lowest)} and ${number(highest)}`;
  const least = lowest === undefined ? '' : `at least ${number(lowest)}; `;
  return `${least}${growsForEver ? 'it can grow without limit' : 'no highest value was found'}`;
}

const eventsIn = (count: number): string => `${number(count)} ${count === 1 ? 'event' : 'events'}`;

const showSeconds = (milliseconds: number): string => `${number(milliseconds / 1000)} s`;

/** Steps of a witness that are shown in full. */
const longestWay = 4;

function flowRows(
  terminal: Terminal,
  transitions: readonly Transition[],
  verdicts: readonly TransitionVerdict[],
): string[][] {
  const rows = verdicts.map(({ from, to, verdict, witness, reason }, at) => {
    const told = reason ?? inBrief(witness?.steps ?? []);
    return [`${from} -> ${to}`, plain(showTrigger(transitions[at]!)), verdict, plain(told)] as const;
  });
  const widest = (column: 0 | 1 | 2): number => Math.max(...rows.map((row) => row[column].length));
  const triggers = Math.min(32, widest(1));
  const room = Math.max(30, terminal.width - widest(0) - triggers - widest(2) - 12);
  return rows.map(([way, trigger, verdict, told], at) => [
    paint(terminal, 'dim', String(at + 1).padStart(String(rows.length).length)),
    way,
    paint(terminal, 'dim', wrap(trigger, triggers)),
    paint(terminal, verdictStyle[verdict], verdict),
    wrap(told, room),
  ]);
}

function inBrief(steps: readonly string[]): string {
  const shown = steps.map((step) => step.replaceAll(' ', noBreak));
  if (shown.length <= longestWay) return shown.join(', ');
  const left = shown.length - longestWay + 1;
  return [...shown.slice(0, longestWay - 2), `…${noBreak}${left}${noBreak}more`, shown.at(-1)!].join(', ');
}

function summary(terminal: Terminal, { exploration, findings, tests, passed, isLate }: Check): string {
  const { transitions, states } = exploration;
  const reached = transitions.filter((each) => each.verdict === 'reached').length;
  const open = openFindings(findings);
  const count = (severity: Severity): number => open.filter((each) => each.severity === severity).length;
  const found = (['error', 'warning', 'hint'] as const)
    .map((severity) => [count(severity), severity] as const)
    .filter(([howMany]) => howMany > 0)
    .map(([howMany, severity]) => `${howMany} ${severity}${howMany === 1 ? '' : 's'}`);
  const accepted = findings.length - open.length;
  const cut = isLate
    ? ['the limit on time was reached (--seconds), so more may be wrong than is listed']
    : exploration.leftOpen === undefined
      ? []
      : [`left open: ${plain(exploration.leftOpen)}`];
  const parts = [
    ...cut,
    ...(transitions.length === 0 ? [] : [`${someOf(reached, transitions.length, 'transition')} reached`]),
    `${number(states)} ${states === 1 ? 'state' : 'states'}`,
    testsPassed(tests.filter((test) => test.passed).length, tests.length),
    found.length === 0 ? 'no findings' : found.join(', '),
    ...(accepted === 0 ? [] : [`${accepted} accepted`]),
  ];
  const isWrong = tests.some((test) => !test.passed) || count('error') > 0;
  const verdict = passed
    ? paint(terminal, 'green', '✓ passed')
    : paint(terminal, 'redBright', isWrong ? '✗ falls short' : '✗ not finished');
  return `${verdict}  ${parts.join(' · ')}`;
}
