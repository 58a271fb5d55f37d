import fc from 'fast-check';
import type { Design, Rule } from '../../src/design/model.js';
import { Reference } from './reference.js';

/** Milliseconds by which time moves on: a quarter of the unit that all durations of {@link smallDesign} are multiples of. */
const grid = 250;

/** States after which a design is too large for this. */
const mostStates = 30_000;

const effects: readonly object[] = [
  { add: { a: 1 } },
  { add: { b: -1 } },
  { set: { a: 0 } },
  { set: { b: 'min(a, 2)' } },
  { grace: 2 },
  { grace: 'a' },
  { start: 'bell' },
  { stop: 'bell' },
  { emit: 'own.bell' },
  { clear: 'red' },
];

/**
 * Small designs that use what the search must get right: flow, counters with bounds, condition rules and their memory, once, rests,
 * grace, timers, waits, levels and pieces that are there only so often. Nothing in them is left to chance.
 */
export const smallDesign = designsWith({}, effects);

/** The same with points that nothing reads, of which there are few. */
export const smallScoring = designsWith({ points: { min: -3, max: 7 } }, [
  ...effects,
  { add: { points: 2 } },
  { add: { points: 'b - 1', a: 1 } },
  { add: { points: -2 } },
  { set: { points: 1 } },
]);

function designsWith(counters: object, effects: readonly object[]): fc.Arbitrary<string> {
  return fc
    .record({
      rules: fc.array(
        fc.record(
          {
            trigger: fc.constantFrom(
              { when: 'red.taken' },
              { when: 'blue.hit' },
              { when: 'input.go' },
              { when: 'bell.ended' },
              { when: 'over.entered' },
              { if: 'a >= 2' },
              { if: 'b == 0' },
              { if: 'present.red == 0' },
            ),
            do: fc.array(fc.constantFrom(...effects), { minLength: 1, maxLength: 2 }),
            rest: fc.constantFrom(1, 2, 'b + 1'),
            once: fc.constantFrom('life', 'run'),
          },
          { requiredKeys: ['trigger', 'do'] },
        ),
        { minLength: 1, maxLength: 4 },
      ),
      ways: fc.array(
        fc.record(
          {
            from: fc.constantFrom('play', 'play', 'menu', 'over'),
            to: fc.constantFrom('play', 'menu', 'over', 'won'),
            when: fc.constantFrom(
              'input.go',
              'input.stop',
              'bell.ended',
              'blue.hit',
              'own.bell',
              'red.taken',
            ),
            if: fc.constantFrom('a >= 2', 'b == 0', 'a == 1 and b == 1', 'left.red == 0', 'a > b'),
            wait: fc.constantFrom(1, 3, 'level', '4 - 2 * level'),
            fresh: fc.constantFrom('life', 'level', 'run'),
            level: fc.constantFrom('next', 'first'),
          },
          { requiredKeys: ['from', 'to'] },
        ),
        { minLength: 1, maxLength: 5 },
      ),
      bell: fc.constantFrom({ countdown: 3 }, { every: 2 }, { after: 1 }, { countdown: 5 }),
      dusk: fc.constantFrom(2, 3, 4),
      reds: fc.tuple(fc.integer({ min: 0, max: 2 }), fc.integer({ min: 1, max: 2 })),
      b: fc.integer({ min: 0, max: 2 }),
      most: fc.constantFrom(3, 3, 'a + 1'),
      bring: fc.constantFrom(undefined, 'level', 'a'),
      keep: fc.constantFrom('life', 'run', 'session'),
    })
    .map(({ rules, ways, bell, dusk, reds: [first, second], b, most, bring, keep }) => {
      const text = JSON.stringify({
        ...('points' in counters ? { score: 'points' } : {}),
        counters: { a: { max: 3, min: 0, keep }, b: { start: b, min: 0, max: most }, ...counters },
        timers: { bell, dusk: { countdown: dusk } },
        pieces: { red: { is: 'collectible' }, blue: { is: 'hazard' } },
        levels: [{ place: { red: first } }, { place: { red: bring ?? second } }],
        rules: [
          ...rules.map(({ trigger, ...rule }) => ({ ...trigger, ...rule })),
          { when: 'input.tell', do: [{ emit: 'own.bell' }] },
        ],
        screens: { play: { live: true }, menu: {}, over: { ending: 'lost' }, won: { ending: 'won' } },
        transitions: [
          // What goes by itself, with no condition, is a loop unless it waits.
          ...ways.map((way) => ('when' in way || 'if' in way ? way : { wait: 1, ...way })),
          { from: 'play', to: 'over', when: 'dusk.ended' },
          { from: 'over', to: 'play', when: 'input.go', fresh: 'run' },
        ],
      });
      return 'every' in bell ? text.replaceAll('bell.ended', 'bell.ticked') : text;
    });
}

/** What can be sent in a small design. */
export const smallEvents = ({ events }: Design): string[] =>
  events.filter((event) => /^(input|red|blue)\.(?!appeared|gone)/.test(event));

/** What this explorer found: by what was come to, such as `play -> over #1` or `rule 2`, the fewest outside events that lead to it. */
export interface PlainFindings {
  readonly fewest: ReadonlyMap<string, number>;
  /** The least and the most that its points came to. */
  readonly points: { readonly least: number; readonly most: number };
  /** False where there were too many states. */
  readonly isWhole: boolean;
  /** Whether some session ends in a fault. */
  readonly isFaulty: boolean;
  /** Screens with a state from which no ending, or (on endings) no fresh start of a run, can be reached any more. */
  readonly locked: { readonly out: ReadonlySet<string>; readonly back: ReadonlySet<string> };
}

/**
 * Goes through everything that a design can come to, in the slow reading, a quarter of a second at a time: no abstraction, no
 * packing, whole states as text.
 */
export function explorePlainly(design: Design): PlainFindings {
  const fewest = new Map<string, number>();
  const points = { least: Number.POSITIVE_INFINITY, most: Number.NEGATIVE_INFINITY };
  const known = new Set<string>();
  const events = smallEvents(design);
  let layer: Visited[] = [];
  let isFaulty = false;
  const graph = new Graph(design);
  /** Notes what happened on the way to a reading, and keeps it where it is new. */
  const add = (reading: Reference | undefined, events: number, into: Visited[], from?: string): void => {
    if (reading === undefined) {
      isFaulty = true;
      return;
    }
    const key = keyOf(reading);
    graph.add(from, key, reading);
    for (const line of reading.log.splice(0)) if (!fewest.has(line)) fewest.set(line, events);
    if (known.has(key)) return;
    known.add(key);
    const found = Number(reading.counters.get('points'));
    points.least = Math.min(points.least, found);
    points.most = Math.max(points.most, found);
    into.push({ reading, key });
  };
  add(new Reference(design, 1), 0, layer);
  for (let count = 0; layer.length > 0; count++) {
    for (const { reading, key } of layer) {
      if (known.size > mostStates)
        return { fewest, points, isWhole: false, isFaulty, locked: graph.locked() };
      add(
        attempt(reading, (of) => of.advance(of.now + grid)),
        count,
        layer,
        key,
      );
    }
    const next: Visited[] = [];
    for (const { reading, key } of layer) {
      const { isLive } = reading;
      for (const event of events) {
        if (event.startsWith('red.') && reading.present.get('red') === 0) continue;
        // Where nothing is live, what is reported of pieces changes nothing.
        if (!event.startsWith('input.') && !isLive) continue;
        const send = (of: Reference): void => {
          if (of.send(event) === 'handled') of.log.push(`event ${event}`);
        };
        add(attempt(reading, send), count + 1, next, key);
      }
    }
    layer = next;
  }
  return { fewest, points, isWhole: true, isFaulty, locked: graph.locked() };
}

interface Visited {
  readonly reading: Reference;
  readonly key: string;
}

/** Which state leads to which, and from which the next step begins a run afresh. */
class Graph {
  readonly #before = new Map<string, Set<string>>();
  readonly #screens = new Map<string, string>();
  readonly #begins = new Set<string>();
  readonly #fresh: ReadonlySet<string>;

  constructor(private readonly design: Design) {
    const ways = design.transitions.map(
      ({ from, to, fresh }) => [`${from} -> ${to}`, fresh === 'run'] as const,
    );
    this.#fresh = new Set(ways.flatMap(([way, isFresh]) => (isFresh ? [way] : [])));
  }

  add(from: string | undefined, key: string, { screen, log }: Reference): void {
    this.#screens.set(key, screen);
    if (from === undefined) return;
    const before = this.#before.get(key) ?? new Set();
    this.#before.set(key, before.add(from));
    if (log.some((line) => this.#fresh.has(line))) this.#begins.add(from);
  }

  locked(): PlainFindings['locked'] {
    const isEnding = (screen: string): boolean =>
      this.design.screens.find(({ name }) => name === screen)!.ending !== undefined;
    const ends = [...this.#screens].flatMap(([key, screen]) => (isEnding(screen) ? [key] : []));
    const back = [...this.#without(this.#begins)].filter(isEnding);
    return { out: this.#without(ends), back: new Set(back) };
  }

  /** Screens of the states from which none of these can be come to. */
  #without(goals: Iterable<string>): Set<string> {
    const reaching = new Set(goals);
    for (const key of reaching) for (const from of this.#before.get(key) ?? []) reaching.add(from);
    return new Set([...this.#screens].flatMap(([key, screen]) => (reaching.has(key) ? [] : [screen])));
  }
}

/** What comes of a reading, which stays as it is; undefined where that is a fault, which comes to nothing. */
function attempt(reading: Reference, change: (of: Reference) => void): Reference | undefined {
  const copy = copyOf(reading);
  try {
    change(copy);
  } catch (error) {
    if (/endless-chain|no-next-level|number-too-large|too-many-pieces/.test(String(error))) return undefined;
    throw error;
  }
  return copy;
}

/** Another that is at the same state; of what small designs have none of, such as ways back and courses, nothing is copied. */
function copyOf(reading: Reference): Reference {
  const copy = new Reference(reading.design, reading.seed, true, false);
  copy.now = reading.now;
  copy.live = reading.live;
  copy.screen = reading.screen;
  copy.entered = reading.entered;
  copy.waited = reading.waited;
  copy.level = reading.level;
  copy.graceEnds = reading.graceEnds;
  copy.counters = new Map(reading.counters);
  copy.timers = new Map(reading.timers);
  copy.present = new Map(reading.present);
  copy.rests = new Map(reading.rests);
  copy.wasTrue = new Set(reading.wasTrue);
  copy.spent = new Set(reading.spent);
  copy.timeOn = new Map(reading.timeOn);
  return copy;
}

/** All that can make a difference later on, moments as the time until then. */
function keyOf(reading: Reference): string {
  const { design, live } = reading;
  const longest = Math.max(0, ...design.transitions.map(({ wait }) => reading.length(wait)));
  const index = (rule: Rule): number => design.rules.indexOf(rule);
  const timers = [...reading.timers].map(([name, due]) => Math.min(1e9, due - reading.clock(name)));
  const rests = [...reading.rests].flatMap(([rule, ends]) =>
    ends > live ? [`${index(rule)}:${ends - live}`] : [],
  );
  return [
    reading.screen,
    reading.level,
    reading.waited,
    Math.min(longest, reading.now - reading.entered),
    Math.max(0, reading.graceEnds - live),
    [...reading.counters.values()],
    timers,
    [...reading.present.values()],
    rests.sort(),
    [...reading.wasTrue].map(index).sort(),
    [...reading.spent].map(index).sort(),
  ].join(' ');
}
