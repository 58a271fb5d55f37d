import * as Plot from '@observablehq/plot';
import type { Report } from '../../balance/report.js';
import type { PlayerSummary } from '../../balance/summary.js';
import { printable, visibleLines } from '../characters.js';
import { flowToSvg } from '../flow-svg.js';
import { number } from '../written.js';
import { dialsFigure } from './dials-figure.js';
import type { Figure, FigureDocument, Simulated } from './figure.js';
import { playersOf, width } from './figure-parts.js';
import { endingsFigure, funnelFigure, paceFigure, pointsFigure, scoreFigure } from './play-figures.js';

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
