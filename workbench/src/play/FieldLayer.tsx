import { useEffect, useRef, useState } from 'react';
import { frame, useWorkbench } from '../store.js';
import { words } from '../words.js';
import { Field, high, reach, type Thing, type Way, wide } from './field.js';
import { Shape } from './Mark.js';
import { sound } from './tones.js';

const ways: { readonly [key: string]: Way } = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
  a: { x: -1, y: 0 },
  d: { x: 1, y: 0 },
  w: { x: 0, y: -1 },
  s: { x: 0, y: 1 },
};
/** Milliseconds that one picture may stand for; a page that slept does not leap. */
const longestFrame = 100;
/** Milliseconds that a popup is seen. */
const popupLasts = 900;

interface Popup {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly until: number;
}

/** The player and all that is there, in a field in which time runs: flown by keys, pointer, touch or gamepad. */
export function FieldLayer({
  isRunning,
  hasSound,
}: {
  readonly isRunning: boolean;
  readonly hasSound: boolean;
}) {
  const kinds = useWorkbench(({ play }) => play?.kinds);
  const [, draw] = useState(0);
  const field = useRef<Field>(undefined);
  const popups = useRef<Popup[]>([]);
  // Read in each picture, so that what flies stays where it is when time is held or sound is turned on.
  const asked = useRef({ isRunning, hasSound });
  asked.current = { isRunning, hasSound };
  const layer = useRef<SVGSVGElement>(null);
  const key = JSON.stringify(kinds);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the kinds are the same as long as they read the same
  useEffect(() => {
    if (kinds === undefined) return;
    const made = new Field(kinds);
    field.current = made;
    const held = new Set<string>();
    let aim: Way | undefined;
    let isStriking = false;
    let isOver = false;
    let last = performance.now();
    const press = (event: KeyboardEvent): void => {
      // Keys that are meant for something else on the page stay with it.
      if ((event.target as HTMLElement).closest('input, textarea, select, button, .cm-editor')) return;
      if (ways[event.key] !== undefined) held.add(event.key);
      else if (event.key === ' ' || event.key === 'Enter') isStriking = true;
      else return;
      event.preventDefault();
    };
    const release = (event: KeyboardEvent): void => {
      held.delete(event.key);
    };
    const point = (event: PointerEvent): void => {
      const box = layer.current!.getBoundingClientRect();
      aim = {
        x: ((event.clientX - box.left) / box.width) * wide,
        y: ((event.clientY - box.top) / box.height) * high,
      };
    };
    const leave = (): void => {
      aim = undefined;
    };
    const strike = (event: PointerEvent): void => {
      point(event);
      isStriking = true;
    };
    const step = async (): Promise<void> => {
      if (isOver) return;
      const now = performance.now();
      const again = (): number => requestAnimationFrame(() => void step());
      if (!asked.current.isRunning) {
        last = now;
        const { play } = useWorkbench.getState();
        // What is done by a button meanwhile is seen at once.
        if (play !== undefined && made.hold(play.isLive ? play.present : {})) draw(now);
        again();
        return;
      }
      const milliseconds = Math.min(longestFrame, Math.round(now - last));
      last = now;
      const way = wayOf(held, aim, made.player);
      const pad = padState();
      const isStruck = isStriking || pad?.isStriking === true;
      isStriking = false;
      const { play } = useWorkbench.getState();
      // Where the game stands still, a strike presses what goes on.
      const events =
        play?.isLive === true
          ? made.pass(milliseconds, pad?.way ?? way, isStruck)
          : isStruck && play?.goesOn !== undefined
            ? [play.goesOn]
            : [];
      const { view, isNew } = await frame(milliseconds, events);
      if (isOver) return;
      if (view !== undefined) {
        made.hold(view.isLive ? view.present : {});
        for (const { cues, popups: texts } of isNew ? view.steps : []) {
          if (asked.current.hasSound) for (const cue of cues) sound(cue);
          for (const text of texts) popups.current.push({ text, ...made.player, until: now + popupLasts });
        }
      }
      popups.current = popups.current.filter(({ until }) => until > now);
      draw(now);
      again();
    };
    document.addEventListener('keydown', press);
    document.addEventListener('keyup', release);
    const box = layer.current!;
    box.addEventListener('pointermove', point);
    box.addEventListener('pointerleave', leave);
    box.addEventListener('pointerdown', strike);
    requestAnimationFrame(() => void step());
    return () => {
      isOver = true;
      document.removeEventListener('keydown', press);
      document.removeEventListener('keyup', release);
      box.removeEventListener('pointermove', point);
      box.removeEventListener('pointerleave', leave);
      box.removeEventListener('pointerdown', strike);
    };
  }, [key]);
  useEffect(() => {
    if (isRunning) layer.current?.focus();
  }, [isRunning]);
  const shown = field.current;
  const isLive = useWorkbench(({ play }) => play?.isLive === true);
  return (
    <svg
      className="field"
      ref={layer}
      viewBox={`0 0 ${wide} ${high}`}
      role="application"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is flown by keys
      tabIndex={0}
      aria-label={words.play.field}
    >
      {isLive && shown !== undefined && (
        <>
          {shown.things.map((thing) => (
            <ThingDrawing key={thing.id} thing={thing} />
          ))}
          <g className="flyer" transform={`translate(${shown.player.x} ${shown.player.y})`}>
            <ellipse
              className="wing"
              cx={-3.4}
              cy={-1.4}
              rx={3.6}
              ry={2.2}
              transform="rotate(28 -3.4 -1.4)"
            />
            <ellipse className="wing" cx={3.4} cy={-1.4} rx={3.6} ry={2.2} transform="rotate(-28 3.4 -1.4)" />
            <ellipse className="wing" cx={-2.2} cy={2.2} rx={2.2} ry={1.5} />
            <ellipse className="wing" cx={2.2} cy={2.2} rx={2.2} ry={1.5} />
            <ellipse className="body" rx={1.2} ry={4.6} />
          </g>
          {popups.current.map(({ text, x, y, until }) => (
            <text
              key={`${text} ${until}`}
              className="rising"
              x={x}
              y={y - 10 - (popupLasts - (until - performance.now())) / 60}
            >
              {text}
            </text>
          ))}
        </>
      )}
    </svg>
  );
}

function ThingDrawing({ thing: { kind, x, y, age } }: { readonly thing: Thing }) {
  // It fades in its last second, so that nobody is surprised that it goes.
  const left = kind.lasts === undefined ? 1 : Math.min(1, Math.max(0.25, (kind.lasts - age) / 1000));
  return (
    <g transform={`translate(${x} ${y})`} opacity={left}>
      <Shape name={kind.name} radius={reach} meets={kind.meets} />
      <text className="thing-name" y={reach + 5}>
        {kind.name}
      </text>
    </g>
  );
}

function wayOf(held: ReadonlySet<string>, aim: Way | undefined, player: Way): Way {
  let x = 0;
  let y = 0;
  for (const key of held) {
    x += ways[key]!.x;
    y += ways[key]!.y;
  }
  if (x !== 0 || y !== 0 || aim === undefined) return { x, y };
  // Near where the pointer is, the player goes slower, so that it does not tremble there.
  return { x: (aim.x - player.x) / 3, y: (aim.y - player.y) / 3 };
}

/** The first gamepad, where there is one that is used. */
function padState(): { readonly way: Way; readonly isStriking: boolean } | undefined {
  const pad = navigator.getGamepads().find((each) => each !== null);
  if (pad === undefined || pad === null) return undefined;
  const [x = 0, y = 0] = pad.axes;
  const isStriking = pad.buttons.some(({ pressed }) => pressed);
  return Math.hypot(x, y) < 0.2 && !isStriking ? undefined : { way: { x, y }, isStriking };
}
