import type { Comparison, Difference } from '../../balance/compare.js';
import { type WorseKind, worseKinds } from '../../balance/worse-kinds.js';
import { inUnit, number, withInterval } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** Changes of the design that are shown in full. */
const mostChanges = 20;

/** A comparison for people to read: what was changed, what that did, what got worse. */
export function showComparison(
  terminal: Terminal,
  [before, after]: readonly [string, string],
  comparison: Comparison,
): string {
  const { changes, differences, sessions, seed } = comparison;
  const told = changes
    .slice(0, mostChanges)
    .map((change) => `  ${wrap(plain(change), terminal.width - 2, '    ')}\n`);
  const left = changes.length - told.length;
  const real = differences.filter(({ isReal }) => isReal);
  const noise = differences.filter(({ isReal }) => !isReal);
  return [
    `${paint(terminal, 'bold', plain(before))} -> ${paint(terminal, 'bold', plain(after))}  ${number(sessions)} sessions of each player, seed ${seed}\n`,
    heading(terminal, 'Changed in the design'),
    ...(told.length === 0 ? ['  nothing\n'] : told),
    ...(left > 0 ? [`  and ${left} more\n`] : []),
    heading(terminal, 'Changed in play (in 95 of 100 such tables every interval holds)'),
    real.length === 0 ? '  no clear change\n' : columns(differenceRows(terminal, real), [2, 3, 4]),
    ...pairingWords(terminal, real),
    ...(noise.length === 0
      ? []
      : [`\n  ${wrap(`No clear change: ${unclearWords(noise)}.`, terminal.width - 2, '  ')}\n`]),
    ...targetRows(terminal, comparison),
    ...proofRows(terminal, comparison),
    '\n',
    verdictOf(terminal, comparison),
  ].join('');
}

function differenceRows(terminal: Terminal, real: readonly Difference[]): string[][] {
  const titles = ['', '', 'before', 'after', 'change'].map((title) => paint(terminal, 'dim', title));
  return [
    titles,
    ...real.map(({ player, what, unit, before, after, change }) => [
      plain(player),
      plain(what),
      inUnit(before, unit),
      inUnit(after, unit),
      changeOf(change, unit),
    ]),
  ];
}

/** A change with its sign and its interval, that of a share in percentage points. */
function changeOf({ value, low, high }: Difference['change'], unit: Difference['unit']): string {
  const shown = `${value > 0 ? '+' : ''}${withInterval(value, low, high, unit)}`;
  return unit === 'share' ? shown.replace('%', 'pp') : shown;
}

/** How well the same luck served both designs: what goes together closely shows small differences. */
function pairingWords(terminal: Terminal, real: readonly Difference[]): string[] {
  const found = real.flatMap(({ correlation }) => correlation ?? []);
  if (found.length === 0) return [];
  const [least, most] = [Math.min(...found), Math.max(...found)].map((each) => each.toFixed(2));
  const between = least === most ? least : `${least} to ${most}`;
  const words = `Both were played with the same seeds. Paired sessions correlate at ${between} (1: the same luck on both sides). Changes of shares are in percentage points (pp).`;
  return [`\n  ${paint(terminal, 'dim', wrap(words, terminal.width - 2, '  '))}\n`];
}

/** What did not surely change, each with the players of whom it did not. */
function unclearWords(noise: readonly Difference[]): string {
  const players = new Map<string, string[]>();
  for (const { what, player } of noise) players.set(what, [...(players.get(what) ?? []), player]);
  return [...players].map(([what, names]) => plain(`${what} (${names.join(', ')})`)).join('; ');
}

function targetRows(terminal: Terminal, { targets }: Comparison): string[] {
  if (targets.length === 0) return [];
  const rows = targets.map(({ what, of, before, after }) => [
    before === after
      ? paint(terminal, 'dim', 'as before')
      : paint(terminal, after === 'met' ? 'green' : 'yellow', 'changed'),
    `${plain(what)} of ${plain(of)}`,
    before === after ? (after ?? '') : `${before ?? 'no target'} -> ${after ?? 'no target'}`,
  ]);
  return [heading(terminal, 'Targets'), columns(rows)];
}

function proofRows(terminal: Terminal, { flow, findings, tests }: Comparison): string[] {
  const lines = [
    ...tests.map(({ name, before, after }) => `test "${name}": ${before} -> ${after}`),
    ...flow.map(({ way, before, after }) => `${way}: ${before} -> ${after}`),
    ...findings.gone.map((finding) => `gone  ${finding}`),
    ...findings.new.map((finding) => `new   ${finding}`),
  ];
  return [
    heading(terminal, 'Tests, flow and findings'),
    ...(lines.length === 0
      ? ['  as before\n']
      : lines.map((line) => `  ${wrap(plain(line), terminal.width - 2, '        ')}\n`)),
  ];
}

function verdictOf(terminal: Terminal, { worse }: Comparison): string {
  if (worse.length === 0) return `${paint(terminal, 'green', '✓ nothing got worse')}\n`;
  const counts = worseKinds.flatMap((kind) => {
    const count = worse.filter((each) => each.kind === kind).length;
    return count === 0 ? [] : [worseWords[kind](count)];
  });
  return `${paint(terminal, 'redBright', '✗ worse')}  ${counts.join(' · ')}\n`;
}

const plural = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;
const worseWords: { readonly [Kind in WorseKind]: (count: number) => string } = {
  targets: (count) => `${plural(count, 'target', 'targets')} no longer met`,
  tests: (count) => plural(count, 'test fails', 'tests fail'),
  flow: (count) => plural(count, 'transition is not reached', 'transitions are not reached'),
  findings: (count) => plural(count, 'new finding', 'new findings'),
};
