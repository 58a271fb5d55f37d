import { Graph, layout } from '@dagrejs/dagre';
import { curveCatmullRom, line } from 'd3-shape';
import type { Judgement } from '../workers/analysis.worker.js';

interface Point {
  readonly x: number;
  readonly y: number;
}

export interface Placed {
  /** Whether there is room for what takes each transition beside its mark. */
  readonly hasWords: boolean;
  readonly width: number;
  readonly height: number;
  /** By the name of the screen: its upper left corner. */
  readonly screens: ReadonlyMap<string, Point & { readonly width: number }>;
  /** By transition and the screen that it leads to: its line, and where its label stands. */
  readonly ways: ReadonlyMap<string, { readonly path: string; readonly label: Point }>;
}

export const screenHeight = 44;
const characterWidth = 8.6;
/** Room for a label: what takes a transition, or its mark alone. */
const labels = { words: { width: 112, height: 44 }, marks: { width: 18, height: 20 } } as const;

const gaps = { words: { nodesep: 22, edgesep: 8 }, marks: { nodesep: 9, edgesep: 2 } } as const;

type Flow = Pick<Judgement, 'screens' | 'ways'>;
type Label = keyof typeof labels;
const directions = ['TB', 'LR'] as const;

/** How much smaller than life a picture may be before its words are left out. */
const smallest = 0.62;

/** The layout that is largest in a room: from the top down or from left to right, with words where they can be read. */
export function placed(flow: Flow, room: { readonly width: number; readonly height: number }): Placed {
  const scaleOf = ({ width, height }: Placed): number => Math.min(room.width / width, room.height / height);
  const largest = (label: Label): Placed => {
    const [down, across] = directions.map((direction) => laidOut(flow, label, direction));
    return scaleOf(across!) > scaleOf(down!) ? across! : down!;
  };
  const withWords = largest('words');
  return scaleOf(withWords) >= smallest ? withWords : largest('marks');
}

/** Where the screens of a flow stand and how its transitions run between them. */
function laidOut({ screens, ways }: Flow, label: Label, rankdir: (typeof directions)[number]): Placed {
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir, ...gaps[label], ranksep: 30, marginx: 10, marginy: 10 });
  for (const { name } of screens)
    graph.setNode(name, { width: Math.max(64, name.length * characterWidth + 38), height: screenHeight });
  const drawn = ways.flatMap(({ from, goals, index }) =>
    goals.map((to) => ({ from, to, key: `${index} ${to}` })),
  );
  for (const { from, to, key } of drawn) graph.setEdge(from, to, { ...labels[label], labelpos: 'c' }, key);
  layout(graph);
  const curve = line<Point>(
    ({ x }) => x,
    ({ y }) => y,
  ).curve(curveCatmullRom);
  const { width = 1, height = 1 } = graph.graph() as { width?: number; height?: number };
  return {
    hasWords: label === 'words',
    width,
    height,
    screens: new Map(
      screens.map(({ name }) => {
        const { x, y, width, height } = graph.node(name) as Point & { width: number; height: number };
        return [name, { x: x - width / 2, y: y - height / 2, width }];
      }),
    ),
    ways: new Map(
      drawn.map(({ from, to, key }) => {
        const edge = graph.edge(from, to, key) as { points: Point[] } & Point;
        return [key, { path: curve(edge.points) ?? '', label: { x: edge.x, y: edge.y } }];
      }),
    ),
  };
}
