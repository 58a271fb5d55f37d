import { Graph, layout } from '@dagrejs/dagre';
import { curveCatmullRom, line } from 'd3-shape';
import { XMLBuilder } from 'fast-xml-parser';
import { goalsOf } from '../design/language/goals.js';
import { showTrigger } from '../design/language/trigger.js';
import type { Design } from '../design/model.js';
import type { Verdict } from '../explore/evidence/verdict.js';
import type { Exploration } from '../explore/explore.js';
import { printable, visible } from './characters.js';

const characterWidth = 7.4;
const lineHeight = 17;
const padding = 14;
const longestLabel = 34;

const colours: { readonly [Name in Verdict]: string } = {
  reached: '#3f6f52',
  unreachable: '#b3372b',
  undecided: '#a9741b',
};
/** Told by their dashes as well as by their colours. */
const dashes: { readonly [Name in Verdict]: string } = {
  reached: 'none',
  unreachable: '2 5',
  undecided: '9 4',
};

interface Point {
  readonly x: number;
  readonly y: number;
}

/**
 * The flow as a picture: screens, and the transitions between them with what takes them and their verdicts.
 *
 * @param notes for each transition, a line that is written below what takes it
 * @example
 * const picture = flowToSvg(design, explore(design));
 */
export function flowToSvg(
  design: Design,
  { transitions }: Exploration,
  notes: readonly string[] = [],
): string {
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'LR', nodesep: 46, ranksep: 90, edgesep: 26, marginx: 24, marginy: 24 });
  for (const { name } of design.screens) {
    graph.setNode(name, { width: name.length * characterWidth * 1.2 + 2 * padding + 12, height: 46 });
  }
  const drawn = design.transitions.flatMap((transition, at) => {
    return goalsOf(design, transition).map((to) => ({
      from: transition.from,
      to,
      at,
      label: short(showTrigger(transition)),
      note: short(notes[at] ?? ''),
    }));
  });
  const linesOf = (note: string): number => (note === '' ? 1 : 2);
  drawn.forEach(({ from, to, label, note }, index) => {
    graph.setEdge(
      from,
      to,
      {
        width: Math.max(label.length, note.length) * characterWidth + 8,
        height: lineHeight * linesOf(note) + 4,
        labelpos: 'c',
      },
      String(index),
    );
  });
  layout(graph);
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number };
  const edges = drawn.map(({ from, to, at }, index) => {
    const { points } = graph.edge(from, to, String(index)) as unknown as { points: Point[] };
    const { verdict } = transitions[at]!;
    return {
      '@_class': verdict,
      title: printable(`${from} -> ${to}: ${verdict}`),
      path: {
        '@_d': curve(points)!,
        '@_fill': 'none',
        '@_stroke': colours[verdict],
        '@_stroke-width': '1.8',
        '@_stroke-dasharray': dashes[verdict],
        '@_marker-end': `url(#${verdict})`,
      },
    };
  });
  // Over all lines, so that none runs through another's words.
  const labels = drawn.flatMap(({ from, to, at, label, note }, index) => {
    const { x, y } = graph.edge(from, to, String(index)) as unknown as Point;
    if (label === '' && note === '') return [];
    const { verdict } = transitions[at]!;
    return [
      {
        rect: box(
          x,
          y,
          Math.max(label.length, note.length) * characterWidth * 0.9 + 6,
          lineHeight * linesOf(note),
          '#fbf7ee',
        ),
        text: [
          words(x, note === '' ? y : y - 8, label, colours[verdict], 12),
          ...(note === '' ? [] : [words(x, y + 8, note, '#6a5d76', 11)]),
        ],
      },
    ];
  });
  const nodes = design.screens.map(({ name, live, ending }) => {
    const {
      x,
      y,
      width: wide,
      height: high,
    } = graph.node(name) as unknown as Point & { width: number; height: number };
    const kind = ending === undefined ? (live ? 'live' : '') : `ending, ${ending}`;
    const fill = live ? '#dcead8' : ending === undefined ? '#ece4f2' : '#f4dcd2';
    return {
      rect: { ...box(x, y, wide, high, fill), '@_stroke': '#4a3f55', '@_stroke-width': live ? '2.4' : '1.2' },
      text: [
        words(x, kind === '' ? y : y - 8, name, '#2b2333', 15),
        ...(kind === '' ? [] : [words(x, y + 11, kind, '#6a5d76', 11)]),
      ],
    };
  });
  const verdicts = Object.keys(colours) as Verdict[];
  const legend = verdicts.map((verdict, index) => {
    const y = height + 18;
    const x = 24 + index * 150;
    return {
      path: {
        '@_d': `M${x} ${y} h34`,
        '@_stroke': colours[verdict],
        '@_stroke-width': '1.8',
        '@_stroke-dasharray': dashes[verdict],
      },
      text: { ...words(x + 42, y, verdict, colours[verdict], 12), '@_text-anchor': 'start' },
    };
  });
  const builder = new XMLBuilder({ ignoreAttributes: false, suppressEmptyNode: true });
  return builder.build({
    svg: {
      '@_xmlns': 'http://www.w3.org/2000/svg',
      '@_viewBox': `0 0 ${Math.ceil(Math.max(width, 470))} ${Math.ceil(height + 40)}`,
      '@_font-family': 'system-ui, sans-serif',
      '@_role': 'img',
      title: printable(visible(`The flow of ${design.title}`)),
      defs: { marker: verdicts.map(arrow) },
      rect: { '@_width': '100%', '@_height': '100%', '@_fill': '#fbf7ee' },
      g: [{ g: edges }, { g: labels }, { g: nodes }, { g: legend }],
    },
  });
}

const short = (label: string): string =>
  printable(visible(label.length > longestLabel ? `${label.slice(0, longestLabel - 1)}…` : label));

const box = (x: number, y: number, width: number, height: number, fill: string): object => ({
  '@_x': round(x - width / 2),
  '@_y': round(y - height / 2),
  '@_width': round(width),
  '@_height': round(height),
  '@_rx': 9,
  '@_fill': fill,
});

const words = (x: number, y: number, text: string, fill: string, size: number): object => ({
  '@_x': round(x),
  '@_y': round(y),
  '@_fill': fill,
  '@_font-size': size,
  '@_text-anchor': 'middle',
  '@_dominant-baseline': 'central',
  '#text': text,
});

const arrow = (verdict: Verdict): object => ({
  '@_id': verdict,
  '@_viewBox': '0 0 10 10',
  '@_refX': 9,
  '@_refY': 5,
  '@_markerWidth': 7,
  '@_markerHeight': 7,
  '@_orient': 'auto-start-reverse',
  path: { '@_d': 'M0 0 L10 5 L0 10 z', '@_fill': colours[verdict] },
});

const round = (value: number): number => Math.round(value * 10) / 10;

/** A smooth line through points. */
const curve = line<Point>(
  ({ x }) => round(x),
  ({ y }) => round(y),
).curve(curveCatmullRom.alpha(0.5));
