import { Graph, layout } from '@dagrejs/dagre';
import { curveCatmullRom, line } from 'd3-shape';
import type { Judgement } from '../workers/analysis.worker.js';

interface Point {
  readonly x: number;
  readonly y: number;
}

export interface Placed {
  readonly width: number;
  readonly height: number;
  /** By the name of the screen: its upper left corner. */
  readonly screens: ReadonlyMap<string, Point & { readonly width: number }>;
  /** By the index of the transition: its line, and where its label stands. */
  readonly ways: ReadonlyMap<number, { readonly path: string; readonly label: Point }>;
}

export const screenHeight = 44;
const characterWidth = 8.6;
/** Room for a label: what takes a transition, or its mark alone. */
const labels = { words: { width: 112, height: 44 }, marks: { width: 26, height: 22 } } as const;

/** Where the screens of a flow stand and how its transitions run between them. */
export function placed(
  { screens, ways }: Pick<Judgement, 'screens' | 'ways'>,
  label: keyof typeof labels,
): Placed {
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'TB', nodesep: 26, ranksep: 34, edgesep: 10, marginx: 10, marginy: 10 });
  for (const { name } of screens)
    graph.setNode(name, { width: Math.max(90, name.length * characterWidth + 44), height: screenHeight });
  const drawn = ways.filter(({ to }) => graph.hasNode(to));
  for (const { from, to, index } of drawn)
    graph.setEdge(from, to, { ...labels[label], labelpos: 'c' }, `${index}`);
  layout(graph);
  const curve = line<Point>(
    ({ x }) => x,
    ({ y }) => y,
  ).curve(curveCatmullRom);
  const { width = 1, height = 1 } = graph.graph() as { width?: number; height?: number };
  return {
    width,
    height,
    screens: new Map(
      screens.map(({ name }) => {
        const { x, y, width, height } = graph.node(name) as Point & { width: number; height: number };
        return [name, { x: x - width / 2, y: y - height / 2, width }];
      }),
    ),
    ways: new Map(
      drawn.map(({ from, to, index }) => {
        const edge = graph.edge(from, to, `${index}`) as { points: Point[] } & Point;
        return [index, { path: curve(edge.points) ?? '', label: { x: edge.x, y: edge.y } }];
      }),
    ),
  };
}
