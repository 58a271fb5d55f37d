import * as Plot from '@observablehq/plot';
import type { PlayerSummary } from '../../balance/summary.js';
import { percent } from '../written.js';
import type { Simulated } from './figure.js';

/** Heath in evening light: distinct for those who see fewer colours too, and by their order. */
export const palette = [
  '#8d5fb3',
  '#d98a1f',
  '#2f7f6f',
  '#c2506b',
  '#3f7fb5',
  '#94862f',
  '#6b6472',
  '#c46fae',
];

/** For parts of a whole: none of the players' colours, so that nothing is taken for somebody. */
const partPalette = ['#4a6fae', '#b3475a', '#5f7a3a', '#8a7d3a', '#5b5560', '#c46fae', '#2f6f8f', '#a0622d'];

export const width = 900;

/** A label of its own line below the axis. */
export const below = { labelAnchor: 'center', labelOffset: 40, labelArrow: 'none' } as const;

/** Keeps words apart from what they stand on. */
export const halo = { stroke: 'var(--card, white)', strokeWidth: 4, fill: 'currentColor' } as const;

export type Draw = (options: Plot.PlotOptions) => string;

export const playersOf = ({ summary }: Simulated): [string, PlayerSummary][] =>
  Object.entries(summary.players);

export const colour = (report: Simulated): Plot.ScaleOptions => ({
  domain: playersOf(report).map(([name]) => name),
  range: palette,
});

/** For each player one bar, of parts that are shares of all. */
export function stackedBars(
  report: Simulated,
  draw: Draw,
  label: string,
  parts: readonly string[],
  shares: readonly { readonly player: string; readonly part: string; readonly share: number }[],
): string {
  const players = playersOf(report).map(([name]) => name);
  return draw({
    height: 46 * players.length + 50,
    marginLeft: 80,
    x: { percent: true, label, domain: [0, 100], ...below },
    y: { domain: players, label: null },
    color: { domain: parts, range: partPalette },
    marks: [
      Plot.barX(shares, { x: 'share', y: 'player', fill: 'part', order: [...parts] }),
      Plot.text(
        shares,
        Plot.stackX({
          x: 'share',
          y: 'player',
          z: 'part',
          order: [...parts],
          text: ({ share }: { share: number }) => (share < leastLabelled ? '' : percent(share)),
          fill: 'white',
        }),
      ),
    ],
  });
}

/** A part smaller than this has no room for its number. */
const leastLabelled = 0.08;

/** The colours of the players, in their order. */
export const playerColours = (report: Simulated): ReadonlyMap<string, string> =>
  new Map(playersOf(report).map(([name], index) => [name, palette[index % palette.length]!]));

/** The colours of the parts of stacked bars, in their order. */
export const partColours = (parts: readonly string[]): string[] =>
  parts.map((_, index) => partPalette[index % partPalette.length]!);
