import '@xyflow/react/dist/style.css';
import './flow.css';
import { Button, Checkbox, TextInput } from '@mantine/core';
import {
  Background,
  BaseEdge,
  Controls,
  type Edge,
  EdgeLabelRenderer,
  type EdgeProps,
  Handle,
  type Node,
  type NodeProps,
  Position,
  ReactFlow,
  type ReactFlowInstance,
} from '@xyflow/react';
import { useMemo, useRef, useState } from 'react';
import { isAbout } from '../../../src/sentences/sentence.js';
import { AddEntry } from '../sentences/AddEntry.js';
import { SentenceItem } from '../sentences/SentenceItem.js';
import { edit, seek, useParts, watch } from '../store.js';
import { marks, words } from '../words.js';
import type { Judgement } from '../workers/analysis.worker.js';
import { placed, screenHeight } from './layout.js';

type Way = Judgement['ways'][0];
type ScreenNode = Node<{ screen: Judgement['screens'][0] }, 'screen'>;
type WayEdge = Edge<
  {
    way: Way;
    path: string;
    label: { x: number; y: number };
    often: string;
    hasWords: boolean;
    choose: (index: number) => void;
  },
  'way'
>;

const kinds = { live: '▶', still: '▫', won: '★', lost: '☾', over: '■' } as const;

function ScreenBox({ data: { screen } }: NodeProps<ScreenNode>) {
  return (
    <div className={`flow-screen ${screen.kind} ${screen.verdict ?? ''}`}>
      <Handle type="target" position={Position.Top} />
      <span aria-hidden="true">{kinds[screen.kind as keyof typeof kinds]}</span> {screen.name}
      <Handle type="source" position={Position.Bottom} />
    </div>
  );
}

function WayLine({ id, data, selected, markerEnd }: EdgeProps<WayEdge>) {
  const { way, path, label, often, hasWords, choose } = data!;
  return (
    <>
      <BaseEdge
        id={id}
        path={path}
        className={`flow-way ${way.verdict} ${selected ? 'chosen' : ''}`}
        {...(markerEnd === undefined ? {} : { markerEnd })}
      />
      <EdgeLabelRenderer>
        <button
          type="button"
          className={`flow-label nopan ${way.verdict} ${selected ? 'chosen' : ''}`}
          style={{ transform: `translate(-50%, -50%) translate(${label.x}px, ${label.y}px)` }}
          title={way.trigger}
          aria-label={`${way.name}, ${way.trigger}: ${words.verdicts[way.verdict]}`}
          onClick={() => choose(way.index)}
        >
          {marks[way.verdict]}
          {hasWords && ` ${way.trigger}`}
          {hasWords && often !== '' && <small>{often}</small>}
        </button>
      </EdgeLabelRenderer>
    </>
  );
}

/** Pixels that the picture has, about. */
const rooms = { wide: { width: 1240, height: 460 }, narrow: { width: 520, height: 500 } } as const;

const nodeTypes = { screen: ScreenBox };
const edgeTypes = { way: WayLine };

const isFound = (name: string, sought: string): boolean =>
  sought !== '' && name.toLowerCase().includes(sought.toLowerCase());

/** Screens and the transitions between them, each with its verdict and how often players take it. */
export default function FlowPanel() {
  const { reading, judgement, balance, text, isWide } = useParts(
    'reading',
    'judgement',
    'balance',
    'text',
    'isWide',
  );
  const [onlyOpen, setOnlyOpen] = useState(false);
  const [sought, setSought] = useState('');
  const [chosen, setChosen] = useState<number>();
  const canvas = useRef<Pick<ReactFlowInstance<ScreenNode, WayEdge>, 'fitView'>>(undefined);
  const known = judgement?.value;
  const summary = balance?.text === judgement?.text ? balance?.value.summary : undefined;
  const drawn = useMemo(() => {
    if (known === undefined) return undefined;
    const ways = known.ways.filter(({ verdict }) => !onlyOpen || verdict !== 'reached');
    const places = placed({ screens: known.screens, ways }, isWide ? rooms.wide : rooms.narrow);
    const found = (name: string): boolean => isFound(name, sought);
    const nodes: ScreenNode[] = known.screens.map((screen) => {
      const { x, y, width } = places.screens.get(screen.name)!;
      return {
        id: screen.name,
        type: 'screen',
        position: { x, y },
        data: { screen },
        className: found(screen.name) ? 'found' : '',
        style: { width, height: screenHeight },
        ariaLabel: screen.name,
      };
    });
    const edges: WayEdge[] = ways.flatMap((way) => {
      const often = Object.values(summary?.players ?? {}).map(({ transitions, sessions }) =>
        aSession(transitions[way.index]!.count, sessions, 1),
      );
      return way.goals.map((goal): WayEdge => {
        const id = `${way.index} ${goal}`;
        return {
          id,
          type: 'way',
          source: way.from,
          target: goal,
          ariaLabel: `${way.name}, ${way.trigger}: ${words.verdicts[way.verdict]}`,
          className: found(`${way.name} ${way.trigger}`) ? 'found' : '',
          data: {
            way,
            ...places.ways.get(id)!,
            often: often.join(' · '),
            hasWords: places.hasWords,
            choose: setChosen,
          },
        };
      });
    });
    return { nodes, edges, width: places.width, height: places.height };
  }, [known, onlyOpen, sought, summary, isWide]);
  if (drawn === undefined || known === undefined) return <p className="dim">{words.status.checking}</p>;
  const way = known.ways.find(({ index }) => index === chosen);
  const sentence = reading?.value.groups.transitions.find((each) => way !== undefined && isAbout(each, way));
  return (
    <section className="flow" aria-label={words.views.flow}>
      <div className="tools">
        <TextInput
          size="xs"
          aria-label={words.flow.find}
          placeholder={words.flow.find}
          value={sought}
          onChange={({ currentTarget: { value } }) => {
            setSought(value);
            const nodes = known.screens
              .filter(({ name }) => isFound(name, value))
              .map(({ name }) => ({ id: name }));
            // What is looked for comes near; nothing shows all again.
            void canvas.current?.fitView(nodes.length === 0 ? {} : { nodes, maxZoom: 1.2, padding: 1 });
          }}
        />
        <Checkbox
          size="xs"
          label={words.flow.only}
          checked={onlyOpen}
          onChange={({ currentTarget }) => setOnlyOpen(currentTarget.checked)}
        />
        <AddEntry section="screens" />
      </div>
      <div className={`canvas ${judgement?.text === text ? '' : 'old'}`}>
        <ReactFlow
          key={`${drawn.width} ${drawn.height} ${isWide}`}
          nodes={drawn.nodes}
          edges={drawn.edges.map((edge) => ({
            ...edge,
            selected: edge.data?.way.index === chosen,
            markerEnd: { type: 'arrowclosed' as const, width: 18, height: 18 },
          }))}
          nodeTypes={nodeTypes}
          edgeTypes={edgeTypes}
          nodesDraggable={false}
          deleteKeyCode={null}
          minZoom={0.1}
          onInit={(flow) => {
            canvas.current = flow;
            void flow.fitBounds({ x: 0, y: 0, width: drawn.width, height: drawn.height }, { padding: 0.02 });
          }}
          onEdgeClick={(_, { id }) => setChosen(Number.parseInt(id, 10))}
          onEdgesChange={(changes) => {
            const taken = changes.find((change) => change.type === 'select' && change.selected);
            if (taken !== undefined && 'id' in taken) setChosen(Number.parseInt(taken.id, 10));
          }}
          onNodeClick={(_, { id }) => {
            const screen = known.screens.find(({ name }) => name === id);
            if (screen !== undefined) seek(screen);
          }}
          onConnect={({ source, target }) =>
            edit({
              kind: 'add',
              path: ['transitions'],
              value: { from: source, to: target, when: 'input.go' },
            })
          }
        >
          <Background gap={22} size={1} />
          <Controls showInteractive={false} />
        </ReactFlow>
      </div>
      {way === undefined ? (
        <p className="dim">{known.ways.length === 0 ? words.flow.none : words.flow.choose}</p>
      ) : (
        <section className="chosen" aria-label={way.name} aria-live="polite">
          <p className={`verdict ${way.verdict}`}>
            <b>
              {marks[way.verdict]} {words.verdicts[way.verdict]}
            </b>{' '}
            <span>
              {way.name}, {way.trigger}
            </span>
          </p>
          {way.reason !== undefined && <p>{way.reason}</p>}
          {way.steps !== undefined && <p className="steps">{way.steps.join(', ')}</p>}
          <p>
            {Object.entries(summary?.players ?? {}).map(([player, { transitions, sessions }]) => (
              <span key={player} className="often">
                {words.flow.often(player, aSession(transitions[way.index]!.count, sessions, 2))}
              </span>
            ))}
          </p>
          {sentence !== undefined && (
            <ul className="group transitions">
              <SentenceItem sentence={sentence} isSought={false} hasVerdicts={false} />
            </ul>
          )}
          <div className="deeds">
            {way.record !== undefined && (
              <Button size="xs" onClick={() => watch(way.record!, way.name)}>
                ▶ {words.flow.film}
              </Button>
            )}
            <Button size="xs" variant="default" onClick={() => seek(way)}>
              {words.flow.sentence}
            </Button>
          </div>
        </section>
      )}
    </section>
  );
}

/** How often something happens in a session, in so many decimals; what hardly ever happens is not said never to. */
function aSession(count: number, sessions: number, decimals: number): string {
  const often = (count / Math.max(1, sessions)).toFixed(decimals);
  return count > 0 && Number(often) === 0 ? `< ${10 ** -decimals}` : often;
}
