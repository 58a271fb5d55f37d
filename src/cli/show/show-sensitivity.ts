import type { Effect, Sensitivity } from '../../balance/sensitivity.js';
import type { Design, Dial } from '../../design/model.js';
import { turnableDials } from '../../design/settings.js';
import { changeWithReach, inUnit, number, percent, withDecimals } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** Effects of each dial that are shown. */
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

/** Letters of a column, at the least. */
const columnWidth = 11;

/** What turning each dial from its least to its most does to each figure and target: one table, the largest effects first. */
export function showDials(terminal: Terminal, design: Design, found: Sensitivity): string {
  const dials = turnableDials(design);
  const figures = [...new Set(found.effects.map(({ player, what }) => `${what}\n${player}`))];
  const [clear, unclear] = [true, false].map((isReal) =>
    figures.filter((figure) => effectsOf(found, figure).some((each) => each.isReal) === isReal),
  ) as [string[], string[]];
  // As many dials side by side as the terminal has room for.
  const room = Math.max(1, Math.floor((terminal.width - figureWidth(found)) / (columnWidth + 2)));
  const groups = Array.from({ length: Math.ceil(dials.length / room) }, (_, group) =>
    dials.slice(group * room, (group + 1) * room),
  );
  const parts = [
    `${paint(terminal, 'bold', plain(design.title))}  ${number(found.sessions)} sessions of each player at each setting, seed ${found.seed}\n`,
    heading(terminal, 'Change from a dial’s lowest to its highest setting (–: no clear change)'),
    clear.length === 0 ? '  none\n' : groups.map((group) => table(terminal, found, group, clear)).join('\n'),
    ...(unclear.length === 0
      ? []
      : [
          `\n  ${wrap(`No clear change from any dial: ${figureWords(unclear)}.`, terminal.width - 2, '  ')}\n`,
        ]),
    ...(found.targets.length === 0
      ? []
      : [
          heading(terminal, 'Targets at the lowest setting, the present one, and the highest'),
          groups.map((group) => targetTable(terminal, found, group)).join('\n'),
        ]),
    '\n',
    paint(
      terminal,
      'dim',
      `${wrap('Changes are relative to the present value; those of shares are in percentage points (pp). In 95 of 100 such tables every interval holds.', terminal.width, '')}\n`,
    ),
  ];
  return parts.join('');
}

const effectsOf = ({ effects }: Sensitivity, figure: string): Effect[] => {
  const [what, player] = figure.split('\n');
  return effects.filter((each) => each.what === what && each.player === player);
};

const figureWidth = ({ effects, targets }: Sensitivity): number =>
  Math.max(
    ...effects.map(({ what, player }) => what.length + player.length + 8),
    ...targets.map(({ what, of }) => what.length + of.length + 8),
  );

const titlesOf = (terminal: Terminal, dials: readonly Dial[]): string[][] => [
  ['', '', ...dials.map(({ name }) => paint(terminal, 'bold', plain(name)))],
  ['', '', ...dials.map(({ from, to }) => paint(terminal, 'dim', `${number(from)} to ${number(to)}`))],
];

const table = (
  terminal: Terminal,
  found: Sensitivity,
  dials: readonly Dial[],
  figures: readonly string[],
): string =>
  columns(
    [
      ...titlesOf(terminal, dials),
      ...figures.map((figure) => {
        const [what, player] = figure.split('\n') as [string, string];
        const own = effectsOf(found, figure);
        return [
          plain(what),
          plain(player),
          ...dials.map(({ name }) => effectCell(own.find(({ dial }) => dial === name))),
        ];
      }),
    ],
    dials.map((_, index) => index + 2),
  );

/** The change of a share in percentage points, of all else by the value as it stands. */
function effectCell(effect: Effect | undefined): string {
  if (effect === undefined || !effect.isReal) return '–';
  const { change, size } = effect;
  const sign = change.value > 0 ? '+' : '-';
  return `${sign}${withDecimals(size * 100, 1)}${effect.unit === 'share' ? ' pp' : ' %'}`;
}

/** Figures, each with the players that it is of. */
function figureWords(figures: readonly string[]): string {
  const players = new Map<string, string[]>();
  for (const figure of figures) {
    const [what, player] = figure.split('\n') as [string, string];
    players.set(what, [...(players.get(what) ?? []), player]);
  }
  return [...players].map(([what, names]) => plain(`${what} (${names.join(', ')})`)).join('; ');
}

const marks = { met: '✓', missed: '✗', 'not yet clear': '?' } as const;

function targetTable(terminal: Terminal, { targets }: Sensitivity, dials: readonly Dial[]): string {
  const names = [...new Set(targets.map(({ what, of }) => `${what}\n${of}`))];
  return columns(
    [
      ...titlesOf(terminal, dials),
      ...names.map((name) => {
        const [what, of] = name.split('\n') as [string, string];
        return [
          plain(what),
          plain(of),
          ...dials.map((dial) => {
            const own = targets.find(
              (each) => each.dial === dial.name && each.what === what && each.of === of,
            );
            const at = (setting: number): string => {
              const point = own?.points.find((each) => each.setting === setting);
              return point === undefined ? ' ' : marks[point.verdict];
            };
            const ends =
              own === undefined ? [] : [own.points[0]!, own.points.at(-1)!].map((each) => each.setting);
            return [ends[0] ?? dial.from, dial.value, ends[1] ?? dial.to].map(at).join(' ');
          }),
        ];
      }),
    ],
    dials.map((_, index) => index + 2),
  );
}

/** How each dial works between its least and its most: the largest effects first. */
export function showCurves(terminal: Terminal, design: Design, found: Sensitivity): string {
  const parts: string[] = [];
  for (const { name, value, from, to } of turnableDials(design)) {
    const own = found.effects.filter(({ dial }) => dial === name);
    const real = own.filter(({ isReal }) => isReal);
    parts.push(
      heading(
        terminal,
        `${plain(name)}, now ${number(value)}: from ${number(from)} to ${number(to)} changes`,
      ),
      real.length === 0 ? '  none\n' : columns(effectRows(real.slice(0, mostEffects)), [2, 3, 5]),
    );
    const left = real.length - mostEffects;
    if (left > 0) parts.push(paint(terminal, 'dim', `  and ${left} smaller ones\n`));
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
  return parts.join('');
}

const effectRows = (effects: readonly Effect[]): string[][] =>
  effects.map((effect) => {
    const { player, what, unit, points, change, size } = effect;
    return [
      plain(player),
      plain(what),
      `${inUnit(points[0]!.value, unit)} -> ${inUnit(points.at(-1)!.value, unit)}`,
      changeWithReach(change, unit),
      curve(effect),
      unit === 'share' ? '' : percent(size),
    ];
  });

function settingsThatMeet(points: Sensitivity['targets'][0]['points']): string {
  const at = (verdict: Sensitivity['targets'][0]['points'][0]['verdict']): string =>
    points
      .filter((point) => point.verdict === verdict)
      .map(({ setting }) => number(setting))
      .join(', ');
  return (['met', 'missed', 'not yet clear'] as const)
    .flatMap((verdict) => (at(verdict) === '' ? [] : [`${verdict} at ${at(verdict)}`]))
    .join('; ');
}
