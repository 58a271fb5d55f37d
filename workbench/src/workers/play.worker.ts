import { expose } from 'comlink';
import type { Design, Piece } from '../../../src/design/model.js';
import { DesignError, type Place } from '../../../src/design/problems/problem.js';
import { formOf } from '../../../src/engine/program/lower/lower.js';
import { toCell } from '../../../src/engine/program/value.js';
import type { SessionRecord } from '../../../src/engine/record/record.js';
import { replay } from '../../../src/engine/record/replay.js';
import type { Step } from '../../../src/engine/run/step.js';
import { Session } from '../../../src/engine/session/design-session.js';
import type { Kind } from '../play/field.js';

/** What was done, so that it can be gone back over and kept as a test. */
type Deed = { readonly event: string } | { readonly wait: number };

export interface PlayView {
  readonly time: number;
  readonly screen: string;
  readonly text: string;
  readonly isLive: boolean;
  readonly hud: readonly {
    readonly label: string;
    readonly text: string;
    readonly spoken: string;
    readonly at: string;
    readonly as: string;
    readonly full: number;
    readonly of: number;
    /** Which item of the design's HUD it is. */
    readonly item: number;
  }[];
  /** What a field has to know of the pieces. */
  readonly kinds: readonly Kind[];
  readonly counters: { readonly [name: string]: string | number | boolean };
  readonly before: { readonly [name: string]: string | number | boolean };
  readonly present: { readonly [piece: string]: number };
  readonly possible: readonly string[];
  /** Of what is possible, the input that goes on: to where the game is played, where one leads there. */
  readonly goesOn: string | undefined;
  /** What followed from the last deed, in order. */
  readonly steps: readonly {
    readonly name: string;
    readonly isIgnored: boolean;
    readonly writes: readonly {
      readonly counter: string;
      readonly before: string;
      readonly after: string;
      readonly by: string;
      /** Of what wrote it. */
      readonly place: Place;
    }[];
    readonly transitions: readonly string[];
    readonly cues: readonly string[];
    readonly popups: readonly string[];
  }[];
  readonly deeds: readonly Deed[];
  readonly fault: string | undefined;
}

/** Steps of a film. */
const mostFrames = 3000;
/** Milliseconds of this machine's time that one deed may take. */
const patience = 3000;

let design: Design | undefined;
let session: Session | undefined;
let deeds: Deed[] = [];
let steps: Step[] = [];
let before: PlayView['counters'] = {};
let ends = 0;

function begin(of: Design): Session {
  ends = performance.now() + patience;
  const started = new Session(of, { seed: 1, isOver: () => performance.now() > ends });
  started.listen((step) => steps.push(step));
  return started;
}

function happen(deed: Deed): string | undefined {
  before = session!.counters;
  steps = [];
  ends = performance.now() + patience;
  try {
    if ('wait' in deed) session!.advance(deed.wait);
    else session!.send(deed.event);
    return undefined;
  } catch (error) {
    if (error instanceof DesignError)
      return error.problems.map(({ message, remedy }) => `${message} ${remedy}`).join(' ');
    throw error;
  }
}

/** Keeps a deed; time that passes in one go is one deed. */
function remember(deed: Deed): void {
  const last = deeds.at(-1);
  if (last !== undefined && 'wait' in last && 'wait' in deed)
    deeds[deeds.length - 1] = { wait: last.wait + deed.wait };
  else deeds.push(deed);
}

/** Starts a design; what was done with the one before is done again. False where it cannot be played. */
function open(changed: Design): boolean {
  const last = { design, session, steps, before };
  try {
    design = changed;
    session = begin(changed);
    before = session.counters;
    steps = [];
    for (const deed of deeds) happen(deed);
    return true;
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    ({ design, session, steps, before } = last);
    return false;
  }
}

const show = (fault?: string): PlayView | undefined =>
  session === undefined ? undefined : viewOf(session, { steps, before, deeds, fault });

function viewOf(
  session: Session,
  {
    steps,
    before,
    deeds,
    fault,
  }: { steps: Step[]; before: PlayView['counters']; deeds: Deed[]; fault?: string | undefined },
): PlayView {
  return {
    time: session.time,
    screen: session.screen,
    text: session.text,
    isLive: session.isLive,
    hud: hudOf(session),
    kinds: kindsOf(session),
    counters: session.counters,
    before,
    present: session.present,
    possible: session.possible,
    goesOn: goingOn(session),
    steps: steps.map(({ name, reception, writes, transitions, cues, popups }) => ({
      name,
      isIgnored: reception !== 'handled',
      writes: writes.map(({ counter, before: from, after, by, place }) => ({
        counter,
        before: String(from),
        after: String(after),
        by,
        place,
      })),
      transitions: transitions.map(({ from, to }) => `${from} → ${to}`),
      cues,
      popups,
    })),
    deeds,
    fault,
  };
}

function goingOn({ design, screen, possible }: Session): string | undefined {
  const inputs = possible.filter((event) => event.startsWith('input.'));
  const leadsToPlay = (input: string): boolean =>
    design.transitions.some(
      ({ from, to, events }) =>
        from === screen &&
        events.includes(input) &&
        design.screens.some(({ name, live }) => name === to && live),
    );
  return inputs.find(leadsToPlay) ?? inputs[0];
}

/** What the HUD shows, each with the item of the design that it is: they are shown in the order of the design. */
function hudOf({ hud, design }: Session): PlayView['hud'] {
  let item = -1;
  return hud.map(({ show: shown, label, text, spoken, at, as, full, of }) => {
    item = design.hud.findIndex(
      (each, index) => index > item && each.show === shown && each.at === at && each.as === as,
    );
    return { label, text, spoken, at, as, full, of, item };
  });
}

const kinds = new WeakMap<Design, Kind[]>();
/** The kinds of a design, the same for every picture unless how long a piece waits is computed: a film has thousands. */
function kindsOf({ design, pieces }: Session): Kind[] {
  const known = kinds.get(design) ?? design.pieces.map(kindOf);
  kinds.set(design, known);
  if (!design.pieces.some(({ lasts }) => typeof lasts === 'object')) return known;
  return known.map((kind, index) => {
    const seconds = pieces[index]!.lasts;
    return { ...kind, lasts: seconds === undefined ? undefined : seconds * 1000 };
  });
}

function kindOf({ name, role, meets, outcomes, lasts }: Piece): Kind {
  const event = (outcome: string): string => `${name}.${outcome}`;
  const [first, last] = [outcomes[0]!.name, outcomes.at(-1)!.name];
  // What is touched is met: a hazard or a foe hits, anything else is taken, reached or passed.
  const isHarmful = role === 'hazard' || role === 'foe';
  return {
    name,
    meets,
    touched: event(isHarmful ? last : first),
    leftAlone: event(isHarmful ? first : last),
    beaten: role === 'foe' ? event(first) : undefined,
    lasts: typeof lasts === 'number' ? lasts : undefined,
  };
}

/** A view of a session of a design after each of its steps, as far as there are not too many. */
function film(of: Design, record: SessionRecord): PlayView[] {
  const frames: PlayView[] = [];
  let last: PlayView['counters'] = {};
  ends = performance.now() + patience;
  const isOver = (): boolean => performance.now() > ends;
  const played = (watched: Session): void => {
    last = watched.counters;
    frames.push(viewOf(watched, { steps: [watched.opening], before: last, deeds: [] }));
    watched.listen((step) => {
      if (frames.length >= mostFrames) return;
      frames.push(viewOf(watched, { steps: [step], before: last, deeds: [] }));
      last = watched.counters;
    });
  };
  const { time, ...end } = viewOf(replay(of, record, played, { isOver }), {
    steps: [],
    before: last,
    deeds: [],
  });
  if (frames.length < mostFrames && time > frames.at(-1)!.time) frames.push({ ...end, time });
  return frames;
}

/**
 * The HUD of the screen that is played, with every counter that has a bound at it.
 *
 * @param known what a counter without a bound can come to, where that was found out
 */
function hudAt(bound: 'min' | 'max', known: Readonly<Record<string, number>>): PlayView['hud'] {
  if (session === undefined) return [];
  const { design } = session;
  const snapshot = session.snapshot();
  const cells = [...snapshot.cells];
  const { cells: at, counters } = formOf(design);
  for (const [index, counter] of counters.entries()) {
    if (counter.kind !== 'number') continue;
    const found = bound === 'max' ? known[counter.name] : undefined;
    if (Number.isSafeInteger(counter[bound])) cells[at.counters + index] = counter[bound];
    else if (found !== undefined) cells[at.counters + index] = toCell(counter, found);
  }
  const shown = new Session(design, { seed: 1 });
  shown.restore({ ...snapshot, cells });
  return hudOf(shown);
}

const play = {
  film,
  hudAt,
  /** Takes over a changed design; says whether it can be played. */
  open(changed: Design) {
    const isPlayed = open(changed);
    return { isPlayed, view: show() };
  },
  do(deed: Deed) {
    const fault = happen(deed);
    if (fault === undefined) remember(deed);
    return show(fault);
  },
  /** A moment of a game that runs: what came of it is told of all its events together. */
  frame(milliseconds: number, events: readonly string[]) {
    const last = { steps, before };
    const told: Step[] = [];
    const first = session!.counters;
    let fault: string | undefined;
    const all: Deed[] = [
      ...events.map((event) => ({ event })),
      ...(milliseconds > 0 ? [{ wait: milliseconds }] : []),
    ];
    for (const deed of all) {
      fault ??= happen(deed);
      told.push(...steps);
      if (fault === undefined) remember(deed);
    }
    // A moment in which nothing happened leaves in sight what happened before it.
    if (told.length > 0) {
      steps = told;
      before = first;
    } else ({ steps, before } = last);
    return { view: show(fault), isNew: told.length > 0 };
  },
  back() {
    deeds = deeds.slice(0, -1);
    open(design!);
    return show();
  },
  again() {
    deeds = [];
    open(design!);
    return show();
  },
};
export type Play = typeof play;
expose(play);
