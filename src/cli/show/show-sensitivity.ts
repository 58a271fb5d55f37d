import type { Effect, Sensitivity } from '../../balance/sensitivity.js';
import type { Design } from '../../design/model.js';
import { turnableDials } from '../../design/settings.js';
import { changeWithReach, inUnit, number, percent } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal } from '../terminal.js';

/** Effects of each dial that are told. */
const mostEffects = 8;

const blocks = '▁▂▃▄▅▆▇█';

/** A curve in a few characters. */
function curve({ points }: Effect): string {
  const values = points.map(({ value }) => value);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  return values
    .map(
      (value) =>
        blocks[most === least ? 0 : Math.round(((value - least) / (most - least)) * (blocks.length - 1))],
    )
    .join('');
}

/** What each dial does, for people to read: the largest effects first. */
export function showSensitivity(terminal: Terminal, design: Design, found: Sensitivity): string {
  const parts = [
    `${paint(terminal, 'bold', plain(design.title))}  ${number(found.sessions)} sessions of each player at each setting, seed ${found.seed}\n`,
  ];
  for (const { name, value, from, to } of turnableDials(design)) {
    const own = found.effects.filter(({ dial }) => dial === name);
    const real = own.filter(({ isReal }) => isReal);
    parts.push(
      heading(
        terminal,
        `${plain(name)}, now ${number(value)}: from ${number(from)} to ${number(to)} changes`,
      ),
      real.length === 0
        ? '  nothing that was measured, beyond noise\n'
        : columns(effectRows(real.slice(0, mostEffects)), [2, 3, 5]),
    );
    const left = real.length - mostEffects;
    if (left > 0)
      parts.push(
        paint(terminal, 'dim', `  and ${left} smaller ones; ${own.length - real.length} are noise\n`),
      );
    const targets = found.targets.filter(({ dial }) => dial === name);
    if (targets.length > 0)
      parts.push(
        columns(
          targets.map(({ what, of, points }) => [
            paint(terminal, 'dim', 'target'),
            `${plain(what)} of ${plain(of)}`,
            settingsThatMeet(points),
          ]),
        ),
      );
  }
  parts.push(
    '\n',
    paint(
      terminal,
      'dim',
      'r: how well sessions of the same seed go together. Intervals all hold at once in 95 of 100.\n',
    ),
  );
  return parts.join('');
}

const effectRows = (effects: readonly Effect[]): string[][] =>
  effects.map((effect) => {
    const { player, what, unit, points, change, size, correlation } = effect;
    return [
      plain(player),
      plain(what),
      `${inUnit(points[0]!.value, unit)} -> ${inUnit(points.at(-1)!.value, unit)}`,
      changeWithReach(change, unit),
      curve(effect),
      unit === 'share' ? '' : percent(size),
      correlation === undefined ? '' : `r ${correlation.toFixed(2)}`,
    ];
  });

function settingsThatMeet(points: Sensitivity['targets'][0]['points']): string {
  const met = points.filter(({ verdict }) => verdict === 'met').map(({ setting }) => number(setting));
  if (met.length === points.length) return 'met at every setting that was tried';
  return met.length === 0
    ? 'met at none'
    : `met at ${met.join(', ')} of ${points.map(({ setting }) => number(setting)).join(', ')}`;
}
