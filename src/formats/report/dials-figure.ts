import * as Plot from '@observablehq/plot';
import { inUnit } from '../written.js';
import type { Figure, Simulated } from './figure.js';
import { below, type Draw, palette, width } from './figure-parts.js';

/** Quantities that the dials are shown by. */
const mostQuantities = 3;

export function dialsFigure({ sensitivity, summary }: Simulated, draw: Draw): Figure | undefined {
  const effects = sensitivity?.effects.filter(({ isReal }) => isReal) ?? [];
  if (effects.length === 0) return undefined;
  const quantities = [...new Set(effects.map(({ what }) => what))].slice(0, mostQuantities);
  const shown = effects.filter(({ what }) => quantities.includes(what));
  const points = shown.flatMap(({ dial, player, what, unit, points: curve }) =>
    curve.map(({ setting, value, reach }) => {
      const scale = unit === 'share' ? 100 : 1;
      return {
        dial,
        player,
        what,
        setting,
        value: value * scale,
        low: (value - reach) * scale,
        high: (value + reach) * scale,
      };
    }),
  );
  const dials = [...new Set(points.map(({ dial }) => dial))];
  const names = Object.keys(summary.players);
  const cells = dials.map((dial) => {
    const own = points.filter((each) => each.dial === dial && each.what === quantities[0]);
    return draw({
      height: 240,
      marginLeft: 60,
      width: width / Math.min(2, dials.length),
      x: { label: dial, ...below },
      y: { label: quantities[0]!, grid: true },
      color: { domain: names, range: palette },
      marks: [
        Plot.areaY(own, {
          x: 'setting',
          y1: 'low',
          y2: 'high',
          z: 'player',
          fill: 'player',
          fillOpacity: 0.2,
        }),
        Plot.lineY(own, { x: 'setting', y: 'value', z: 'player', stroke: 'player', strokeWidth: 2 }),
        Plot.dot(own, { x: 'setting', y: 'value', fill: 'player', r: 2.5 }),
      ],
    });
  });
  return {
    name: 'dials',
    title: 'Dials',
    caption: `What ${quantities[0]} becomes as each dial is turned, all others as they stand, with intervals of the change that hold all at once; the table has the other quantities. Steep: a small turn does much.`,
    svg: sideBySide(cells, width / Math.min(2, dials.length), 240),
    head: ['dial', 'player', 'what', 'least setting', 'most setting', 'change', '95 % interval'],
    rows: effects.map(({ dial, player, what, unit, points: curve, change }) => [
      dial,
      player,
      what,
      inUnit(curve[0]!.value, unit),
      inUnit(curve.at(-1)!.value, unit),
      inUnit(change.value, unit),
      `${inUnit(change.low, unit)} to ${inUnit(change.high, unit)}`,
    ]),
  };
}

/** Pictures of one size in rows of two. */
function sideBySide(svgs: readonly string[], wide: number, high: number): string {
  const columns = Math.min(2, svgs.length);
  const rows = Math.ceil(svgs.length / columns);
  const placed = svgs.map((svg, index) =>
    svg.replace('<svg ', `<svg x="${(index % columns) * wide}" y="${Math.floor(index / columns) * high}" `),
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${wide * columns} ${high * rows}" width="${wide * columns}" height="${high * rows}" font-family="system-ui, sans-serif" font-size="12" fill="currentColor">${placed.join('')}</svg>`;
}
