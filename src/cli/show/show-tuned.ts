import type { Tuned } from '../../balance/tune.js';
import { number, someOf } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal } from '../terminal.js';
import { targetRow } from './show-simulation.js';

/** What was found by tuning, for people to read: the settings, then how they were judged on fresh seeds. */
export function showTuned(terminal: Terminal, found: Tuned): string {
  const { settings, before, tried, choices, standing, checkedWith, isMet } = found;
  const turned = Object.keys(settings).filter((name) => settings[name] !== before[name]);
  const count = found.found.filter(({ verdict }) => verdict === 'met').length;
  const met = `${someOf(count, found.found.length, 'target')} met`;
  const summary = isMet
    ? `${paint(terminal, 'green', '✓ tuned')}  ${met}`
    : `${paint(terminal, 'redBright', '✗ not met')}  ${met}: the nearest that was found`;
  const off = turned.filter((name) => settings[name] === 0);
  return [
    `${number(tried.length)} settings tried\n`,
    heading(terminal, 'Dials'),
    columns(
      Object.keys(settings).map((name) => [
        plain(name),
        turned.includes(name)
          ? `${exact(before[name]!)} -> ${paint(terminal, 'bold', exact(settings[name]!))}`
          : `${exact(before[name]!)}, left as it is`,
      ]),
    ),
    ...(off.length === 0
      ? []
      : [`  ${off.map(plain).join(', ')} at 0: what it stands for no longer counts\n`]),
    ...(choices.length < 2
      ? []
      : [
          heading(terminal, 'Other settings that work as well, as different as possible'),
          columns(choices.slice(1).map((each) => [settingWords(each.settings, before)])),
        ]),
    ...conflictRows(terminal, found),
    heading(
      terminal,
      `Judged again: ${number(checkedWith.sessions)} sessions of each player, seed ${checkedWith.seed}, which the search has not seen`,
    ),
    columns(
      found.found.map((target, index) => [
        ...targetRow(terminal, target),
        turned.length === 0 ? '' : paint(terminal, 'dim', `was ${standing[index]!.verdict}`),
      ]),
    ),
    '\n',
    `${summary}\n`,
  ].join('');
}

/** All digits, as they are written to a file. */
const exact = (value: number): string =>
  new Intl.NumberFormat('en', { maximumFractionDigits: 12 }).format(value);

/** A setting, by the dials that it turns. */
const settingWords = (settings: Tuned['settings'], before: Tuned['before']): string =>
  Object.entries(settings)
    .filter(([name, value]) => value !== before[name])
    .map(([name, value]) => `${plain(name)} ${exact(before[name]!)} -> ${exact(value)}`)
    .join(', ') || 'every dial as it stands';

/** What stands in the way of meeting all. */
function conflictRows(terminal: Terminal, { conflicts, unmet }: Tuned): string[] {
  if (conflicts.length + unmet.length === 0) return [];
  return [
    heading(terminal, 'No setting that was tried meets'),
    columns([
      ...unmet.map((name) => [plain(name), '']),
      ...conflicts.map(({ one, other, by }) => [
        `${plain(one)} together with ${plain(other)}`,
        `missed by ${by.toFixed(3)} where it is least`,
      ]),
    ]),
  ];
}
