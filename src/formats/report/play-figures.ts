import * as Plot from '@observablehq/plot';
import { number, percent } from '../written.js';
import type { Figure, Simulated } from './figure.js';
import { below, colour, type Draw, halo, playersOf, stackedBars } from './figure-parts.js';

export function scoreFigure(report: Simulated, draw: Draw): Figure | undefined {
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

export function endingsFigure(report: Simulated, draw: Draw): Figure | undefined {
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

export function funnelFigure(report: Simulated, draw: Draw): Figure | undefined {
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
    caption: `Bars: how many runs reach each level.${points.length === 0 ? '' : ' Dots: how many of these fail there, with 95 % intervals. Dots that climb gently are a good climb; a jump is a wall, a drop a rest that may be meant. Turn the quota, the time or the difficulty of the level.'}`,
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
    head: [
      'player',
      'level',
      'runs that reach it',
      ...(points.length === 0 ? [] : ['of these fail', '95 % interval', 'climb']),
    ],
    rows: levels.map(({ player, level, reached, fails, climb }) => [
      player,
      level,
      percent(reached.value),
      ...(points.length === 0
        ? []
        : [
            fails === null ? '–' : percent(fails.value),
            fails === null ? '' : `${percent(fails.low)} to ${percent(fails.high)}`,
            climb ?? '',
          ]),
    ]),
  };
}

export function paceFigure(report: Simulated, draw: Draw): Figure | undefined {
  const players = playersOf(report);
  const parts = players.flatMap(([player, { pace }]) =>
    pace.map(({ from, to, points, runs }) => ({
      player,
      from,
      to,
      middle: (from + to) / 2,
      runs,
      ...points,
    })),
  );
  if (parts.length === 0) return undefined;
  return {
    name: 'pace',
    title: 'Pacing',
    caption:
      'Points for ten seconds of play, by how long a run has lasted, with 95 % intervals; a dot is as large as the share of runs that last so long. A flat line is steady, a climbing one builds up; a hole is a dry spell. Turn when things appear, and streaks.',
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
        Plot.dot(parts, {
          x: 'middle',
          y: 'value',
          fill: 'player',
          r: ({ runs }) => 1 + 4 * Math.sqrt(runs),
        }),
        Plot.ruleY([0]),
      ],
    }),
    head: ['player', 'seconds', 'points for ten seconds', '95 % interval', 'runs that last so long'],
    rows: parts.map(({ player, from, to, value, low, high, runs }) => [
      player,
      `${from} to ${to}`,
      number(value),
      `${number(low)} to ${number(high)}`,
      percent(runs),
    ]),
  };
}

export function pointsFigure(report: Simulated, draw: Draw): Figure | undefined {
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
