import type { Tuned } from '../../balance/tune.js';
import { number } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal } from '../terminal.js';
import { targetRow } from './show-simulation.js';

/** Settings that were tried which are told. */
const mostTried = 5;

/** What was found by tuning, for people to read: the settings, then how they were judged on fresh seeds. */
export function showTuned(terminal: Terminal, found: Tuned): string {
  const { settings, before, tried, standing, checkedWith, isMet } = found;
  const turned = Object.keys(settings).filter((name) => settings[name] !== before[name]);
  const isChosen = (each: Tuned['tried'][0]): number => (each.settings === settings ? 0 : 1);
  const nearest = [...tried].sort((a, b) => a.miss - b.miss || isChosen(a) - isChosen(b)).slice(0, mostTried);
  const met = found.found.filter(({ verdict }) => verdict === 'met').length;
  const summary = isMet
    ? `${paint(terminal, 'green', '✓ tuned')}  all ${found.found.length} targets met`
    : `${paint(terminal, 'redBright', '✗ not met')}  ${met} of ${found.found.length} targets met: the nearest that was found`;
  return [
    `${number(tried.length)} settings tried\n`,
    heading(terminal, 'Nearest, by how far the targets are missed in all'),
    columns(
      nearest.map(({ settings: each, miss }) => [
        miss === 0 ? 'within all' : `missed by ${miss.toFixed(3)}`,
        plain(
          Object.entries(each)
            .map(([name, value]) => `${name} = ${number(value)}`)
            .join(', '),
        ),
      ]),
    ),
    heading(terminal, 'Dials'),
    columns(
      Object.keys(settings).map((name) => [
        plain(name),
        turned.includes(name)
          ? `${number(before[name]!)} -> ${paint(terminal, 'bold', number(settings[name]!))}`
          : `${number(before[name]!)}, left as it is`,
      ]),
    ),
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
