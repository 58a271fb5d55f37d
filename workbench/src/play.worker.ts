import { expose } from 'comlink';
import { DesignError, readDesign, Session, type Step } from '../../src/index.js';

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
  }[];
  readonly counters: { readonly [name: string]: string | number | boolean };
  readonly before: { readonly [name: string]: string | number | boolean };
  readonly present: { readonly [piece: string]: number };
  readonly possible: readonly string[];
  /** What followed from the last deed, in order. */
  readonly steps: readonly {
    readonly name: string;
    readonly isIgnored: boolean;
    readonly writes: readonly {
      readonly counter: string;
      readonly before: string;
      readonly after: string;
      readonly by: string;
      readonly line: number;
    }[];
    readonly transitions: readonly string[];
    readonly cues: readonly string[];
    readonly popups: readonly string[];
  }[];
  readonly deeds: readonly Deed[];
  readonly fault: string | undefined;
}

/** Milliseconds of this machine's time that one deed may take. */
const patience = 3000;

let text = '';
let session: Session | undefined;
let deeds: Deed[] = [];
let steps: Step[] = [];
let before: PlayView['counters'] = {};
let ends = 0;

function begin(): Session {
  ends = performance.now() + patience;
  const started = new Session(readDesign(text, 'design'), {
    seed: 1,
    isOver: () => performance.now() > ends,
  });
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

/** Starts the design of a text; what was done with the one before is done again. False where it cannot be read or played. */
function open(changed: string): boolean {
  const last = { text, session, steps, before };
  try {
    text = changed;
    session = begin();
    before = session.counters;
    steps = [];
    for (const deed of deeds) happen(deed);
    return true;
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    ({ text, session, steps, before } = last);
    return false;
  }
}

function show(fault?: string): PlayView | undefined {
  if (session === undefined) return undefined;
  return {
    time: session.time,
    screen: session.screen,
    text: session.text,
    isLive: session.isLive,
    hud: session.hud.map(({ label, text: shown, spoken, at, as, full, of }) => ({
      label,
      text: shown,
      spoken,
      at,
      as,
      full,
      of,
    })),
    counters: session.counters,
    before,
    present: session.present,
    possible: session.possible,
    steps: steps.map(({ name, reception, writes, transitions, cues, popups }) => ({
      name,
      isIgnored: reception !== 'handled',
      writes: writes.map(({ counter, before: from, after, by, place }) => ({
        counter,
        before: String(from),
        after: String(after),
        by,
        line: place.line,
      })),
      transitions: transitions.map(({ from, to }) => `${from} → ${to}`),
      cues,
      popups,
    })),
    deeds,
    fault,
  };
}

const play = {
  /** Takes over a changed text; says whether it can be played. */
  open(changed: string) {
    const isPlayed = open(changed);
    return { isPlayed, view: show() };
  },
  do(deed: Deed) {
    const fault = happen(deed);
    if (fault === undefined) deeds = [...deeds, deed];
    return show(fault);
  },
  back() {
    deeds = deeds.slice(0, -1);
    open(text);
    return show();
  },
  again() {
    deeds = [];
    open(text);
    return show();
  },
};
export type Play = typeof play;
expose(play);
