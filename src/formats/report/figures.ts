import * as Plot from '@observablehq/plot';
import type { Report } from '../../balance/report.js';
import type { PlayerSummary } from '../../balance/summary.js';
import { printable, visibleLines } from '../characters.js';
import { flowToSvg } from '../flow-svg.js';
import { inUnit, number, percent } from '../written.js';
import type { FigureName } from './choices.js';

/** A picture with the table that stands behind it. */
export interface Figure {
  readonly name: FigureName;
  readonly title: string;
  /** How to read it, and what to turn. */
  readonly caption: string;
  readonly svg: string;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** A browser's document, or one that makes elements without any. */
export type FigureDocument = NonNullable<Plot.PlotOptions['document']>;

/** Heath in evening light: told apart by those who see fewer colours too, and by the order in which they stand. */
const palette = ['#8d5fb3', '#d98a1f', '#2f7f6f', '#c2506b', '#3f7fb5', '#94862f', '#6b6472', '#c46fae'];

/** For parts of a whole: none of the players' colours, so that nothing is taken for somebody. */
const partPalette = ['#4a6fae', '#b3475a', '#5f7a3a', '#8a7d3a', '#5b5560', '#c46fae', '#2f6f8f', '#a0622d'];

const width = 900;

/** What figures of simulated sessions are drawn from. */
type Simulated = Pick<Report, 'design' | 'summary' | 'sensitivity'>;

/**
 * The figures of a report.
 *
 * @param document of a browser, or one that makes elements without any
 */
export function figuresOf(report: Report, document: FigureDocument): Figure[] {
  const flow = flowFigure(report);
  return [...(flow === undefined ? [] : [flow]), ...balanceFigures(report, document)];
}

/** The figures of simulated sessions alone: scores, endings, levels, pacing, points by rule, dials. */
export function balanceFigures(report: Simulated, document: FigureDocument): Figure[] {
  const draw = (options: Plot.PlotOptions): string => {
    const drawn = Plot.plot({
      document,
      width,
      marginBottom: 46,
      ...options,
    } as Plot.PlotOptions);
    // All that the styles say is said by attributes, which no content security policy forbids.
    for (const styles of drawn.querySelectorAll('style')) styles.remove();
    // What is drawn stands in the table of the figure; names of marks would only be read aloud between its numbers.
    for (const part of drawn.querySelectorAll('g[aria-label]')) part.removeAttribute('aria-label');
    drawn.setAttribute('font-size', '13');
    drawn.setAttribute('overflow', 'visible');
    drawn.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
    return printable(visibleLines(drawn.outerHTML));
  };
  const figures = [
    scoreFigure(report, draw),
    endingsFigure(report, draw),
    funnelFigure(report, draw),
    paceFigure(report, draw),
    pointsFigure(report, draw),
    dialsFigure(report, draw),
  ];
  return figures.filter((figure) => figure !== undefined);
}

/** A label of its own line below the axis. */
const below = { labelAnchor: 'center', labelOffset: 40, labelArrow: 'none' } as const;

/** Keeps words apart from what they stand on. */
const halo = { stroke: 'var(--card, white)', strokeWidth: 4, fill: 'currentColor' } as const;

type Draw = (options: Plot.PlotOptions) => string;

const playersOf = ({ summary }: Simulated): [string, PlayerSummary][] => Object.entries(summary.players);
const colour = (report: Simulated): Plot.ScaleOptions => ({
  domain: playersOf(report).map(([name]) => name),
  range: palette,
});

function flowFigure(report: Report): Figure | undefined {
  const { design, check, summary } = report;
  if (design.transitions.length === 0) return undefined;
  const players = playersOf(report);
  const often = (player: PlayerSummary, at: number): string =>
    number(player.transitions[at]!.count / Math.max(1, player.sessions));
  const notes = design.transitions.map((_, at) => players.map(([, player]) => often(player, at)).join(' · '));
  return {
    name: 'flow',
    title: 'Flow',
    caption: `How the screens lead to each other. Below what takes each way: how often a session takes it, of ${players.map(([name]) => name).join(' · ')}. A dotted way cannot be taken at all.`,
    svg: flowToSvg(design, check.exploration, notes),
    head: ['from', 'to', 'taken by', 'verdict', ...players.map(([name]) => `${name}, a session`)],
    rows: Object.values(summary.players)[0]!.transitions.map(({ from, to, trigger }, at) => [
      from,
      to,
      trigger,
      check.exploration.transitions[at]!.verdict,
      ...players.map(([, player]) => often(player, at)),
    ]),
  };
}

function scoreFigure(report: Simulated, draw: Draw): Figure | undefined {
  const { score } = report.design;
  const players = playersOf(report).filter(([, player]) => player.score !== null);
  if (score === undefined || players.length === 0) return undefined;
  const parts = players.flatMap(([player, { score: found, runs }]) =>
    found!.histogram.map(({ from, to, runs: count }) => ({ player, from, to, share: count / runs })),
  );
  const medians = players.map(([player, { score: found }]) => ({ player, value: found!.p50 }));
  return {
    name: 'score',
    title: 'Scores',
    caption:
      'How often runs end with each score; the line is the median, with half of the runs on each side. Humps far apart: skill decides. One narrow hump: every run is the same. Turn what a success is worth.',
    svg: draw({
      height: 90 * players.length + 50,
      marginLeft: 80,
      marginRight: 60,
      x: { label: `${score} at the end of a run`, ...below },
      y: { axis: null },
      fy: { domain: players.map(([name]) => name), label: null },
      color: colour(report),
      marks: [
        Plot.rectY(parts, {
          x1: 'from',
          x2: 'to',
          y: 'share',
          fy: 'player',
          fill: 'player',
          insetLeft: 0.5,
          insetRight: 0.5,
        }),
        Plot.ruleX(medians, { x: 'value', fy: 'player', stroke: 'currentColor', strokeWidth: 2 }),
        Plot.text(medians, {
          x: 'value',
          fy: 'player',
          text: ({ value }) => number(value),
          frameAnchor: 'top',
          dx: 5,
          textAnchor: 'start',
          ...halo,
        }),
        Plot.ruleY([0]),
      ],
    }),
    head: ['player', 'lowest', 'one in ten below', 'median', 'one in ten above', 'highest', 'mean'],
    rows: players.map(([player, { score: found }]) => [
      player,
      ...[found!.min, found!.p10, found!.p50, found!.p90, found!.max, found!.mean].map(number),
    ]),
  };
}

function endingsFigure(report: Simulated, draw: Draw): Figure | undefined {
  const players = playersOf(report);
  const [, first] = players[0]!;
  const endings = Object.keys(first.endings);
  if (endings.length === 0) return undefined;
  const shares = players.flatMap(([player, { causes, abandoned }]) => [
    ...causes.map(({ to, trigger, share }) => ({ player, cause: `${to}: ${trigger}`, share: share.value })),
    ...(abandoned.value > 0 ? [{ player, cause: 'left before', share: abandoned.value }] : []),
  ]);
  const causes = [...new Set(shares.map(({ cause }) => cause))];
  return {
    name: 'endings',
    title: 'How runs end',
    caption:
      'What brings runs to their end. Where one cause takes nearly all, the others could go, or be made to matter.',
    svg: stackedBars(
      report,
      draw,
      'of runs (%)',
      causes,
      shares.map(({ cause, ...each }) => ({ ...each, part: cause })),
    ),
    head: ['player', ...causes],
    rows: players.map(([player]) => [
      player,
      ...causes.map((cause) =>
        percent(shares.find((each) => each.player === player && each.cause === cause)?.share ?? 0),
      ),
    ]),
  };
}

/** For each player one bar, of parts that are shares of all. */
function stackedBars(
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

function funnelFigure(report: Simulated, draw: Draw): Figure | undefined {
  const players = playersOf(report);
  if (players.every(([, { levels }]) => levels.length < 2)) return undefined;
  const levels = players.flatMap(([player, each]) =>
    each.levels.map(({ level, name, reached, fails, climb }) => ({
      player,
      level: `${level} ${name}`,
      reached,
      fails,
      climb,
    })),
  );
  const names = [...new Set(levels.map(({ level }) => level))];
  const points = levels.flatMap(({ player, level, fails }) =>
    fails === null ? [] : [{ player, level, ...fails }],
  );
  return {
    name: 'funnel',
    title: 'Levels',
    caption:
      'Bars: how many runs come to each level. Dots: how many of these fail there, with 95 % intervals. Dots that climb gently are a good climb; a jump is a wall, a drop a rest that may be meant. Turn the quota, the time or the difficulty of the level.',
    svg: draw({
      height: 300,
      marginLeft: 50,
      x: { axis: null, domain: players.map(([name]) => name) },
      fx: { domain: names, label: null },
      y: { percent: true, label: 'of runs (%)', domain: [0, 100], grid: true },
      color: { ...colour(report), legend: false },
      marks: [
        Plot.barY(levels, {
          fx: 'level',
          x: 'player',
          y: ({ reached }) => reached.value,
          fill: 'player',
          fillOpacity: 0.35,
        }),
        Plot.ruleX(points, {
          fx: 'level',
          x: 'player',
          y1: 'low',
          y2: 'high',
          stroke: 'player',
          strokeWidth: 2,
        }),
        Plot.dot(points, { fx: 'level', x: 'player', y: 'value', fill: 'player', r: 4.5 }),
        Plot.ruleY([0]),
      ],
    }),
    head: ['player', 'level', 'runs that come to it', 'of these fail', '95 % interval', 'climb'],
    rows: levels.map(({ player, level, reached, fails, climb }) => [
      player,
      level,
      percent(reached.value),
      fails === null ? '–' : percent(fails.value),
      fails === null ? '' : `${percent(fails.low)} to ${percent(fails.high)}`,
      climb ?? '',
    ]),
  };
}

function paceFigure(report: Simulated, draw: Draw): Figure | undefined {
  const players = playersOf(report);
  const parts = players.flatMap(([player, { pace }]) =>
    pace.map(({ from, to, points }) => ({ player, from, to, middle: (from + to) / 2, ...points })),
  );
  if (parts.length === 0) return undefined;
  return {
    name: 'pace',
    title: 'Pacing',
    caption:
      'Points in each ten seconds of a run, of the runs that last so long, with 95 % intervals. A flat line is steady, a climbing one builds up; a hole is a dry spell. Turn when things appear, and streaks.',
    svg: draw({
      height: 280,
      marginLeft: 55,
      x: { label: 'seconds into the run', ...below },
      y: { label: 'points for ten seconds', grid: true, zero: true },
      color: colour(report),
      marks: [
        Plot.areaY(parts, {
          x: 'middle',
          y1: 'low',
          y2: 'high',
          z: 'player',
          fill: 'player',
          fillOpacity: 0.2,
        }),
        Plot.lineY(parts, { x: 'middle', y: 'value', z: 'player', stroke: 'player', strokeWidth: 2 }),
        Plot.dot(parts, { x: 'middle', y: 'value', fill: 'player', r: 2.5 }),
        Plot.ruleY([0]),
      ],
    }),
    head: ['player', 'seconds', 'points', '95 % interval'],
    rows: parts.map(({ player, from, to, value, low, high }) => [
      player,
      `${from} to ${to}`,
      number(value),
      `${number(low)} to ${number(high)}`,
    ]),
  };
}

function pointsFigure(report: Simulated, draw: Draw): Figure | undefined {
  const players = playersOf(report);
  const shares = players.flatMap(([player, { rules }]) =>
    rules.flatMap(({ name, share, points }) =>
      share === null || points === 0
        ? []
        : [{ player, rule: name, share: share.value, low: share.low, high: share.high }],
    ),
  );
  if (shares.length === 0) return undefined;
  const rules = [...new Set(shares.map(({ rule }) => rule))];
  return {
    name: 'points',
    title: 'What earns the points',
    caption:
      'The share of all points that each rule makes. Where one bar is nearly all, the other rules are decoration. Turn what they are worth, or how often what they wait for appears.',
    svg: stackedBars(
      report,
      draw,
      'of points (%)',
      rules,
      shares.map(({ rule, ...each }) => ({ ...each, part: rule })),
    ),
    head: ['player', 'rule', 'share', '95 % interval'],
    rows: shares.map(({ player, rule, share, low, high }) => [
      player,
      rule,
      percent(share),
      `${percent(low)} to ${percent(high)}`,
    ]),
  };
}

/** Quantities that the dials are shown by. */
const mostQuantities = 3;

function dialsFigure({ sensitivity, summary }: Simulated, draw: Draw): Figure | undefined {
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

/** The colours of the players, in their order. */
export const playerColours = (report: Simulated): ReadonlyMap<string, string> =>
  new Map(playersOf(report).map(([name], index) => [name, palette[index % palette.length]!]));

/** The colours of the parts of stacked bars, in their order. */
export const partColours = (parts: readonly string[]): string[] =>
  parts.map((_, index) => partPalette[index % partPalette.length]!);
