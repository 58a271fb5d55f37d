import { wrap } from 'comlink';
import { temporal } from 'zundo';
import { create } from 'zustand';
import { type Change, changeDesign } from '../../src/design/change.js';
import type { Analysis, Judgement, Reading } from './analysis.worker.js';
import type { DesignFile, Kept } from './file.js';
import type { Play, PlayView } from './play.worker.js';

/** What a verdict says of one text; it is shown only while that is the text. */
interface Of<Value> {
  readonly text: string;
  readonly value: Value;
}

export interface WorkbenchState {
  readonly text: string;
  readonly reading: Of<Reading> | undefined;
  readonly judgement: Of<Judgement> | undefined;
  readonly play: PlayView | undefined;
  /** Whether the session is one of the present text; false while that cannot be played. */
  readonly isPlayed: boolean;
  readonly saving: 'saved' | 'saving' | 'failed';
  readonly isLost: boolean;
  /** The text on the disk, where it was changed there and here at once. */
  readonly conflict: Kept | undefined;
  /** The line that somebody wants to see in the file. */
  readonly goTo: { readonly line: number } | undefined;
}

export const useWorkbench = create<WorkbenchState>()(
  temporal(
    (): WorkbenchState => ({
      text: '',
      reading: undefined,
      judgement: undefined,
      play: undefined,
      isPlayed: true,
      saving: 'saved',
      isLost: false,
      conflict: undefined,
      goTo: undefined,
    }),
    // Only the text is gone back over; all else follows from it.
    { partialize: ({ text }) => ({ text }), equality: (a, b) => a.text === b.text, limit: 500 },
  ),
);

const set = useWorkbench.setState;
const get = useWorkbench.getState;

const analysisWorker = () => new Worker(new URL('./analysis.worker.ts', import.meta.url), { type: 'module' });
const reader = wrap<Analysis>(analysisWorker());
const player = wrap<Play>(new Worker(new URL('./play.worker.ts', import.meta.url), { type: 'module' }));

/** The check runs in a worker of its own, which is ended when another text makes it useless. */
let judging: Worker | undefined;

let file: DesignFile | undefined;
/** The version on the disk that this text was made from, and its text. */
let base = '';
let kept = '';
/** Milliseconds without a change after which a text is checked, and saved. */
const settled = 250;
let timer: number | undefined;

/** Takes over the file behind the page and follows it. */
export function begin(opened: DesignFile): void {
  file = opened;
  base = opened.first.version;
  kept = opened.first.text;
  set({ text: kept });
  useWorkbench.temporal.getState().clear();
  useWorkbench.subscribe(({ text }, { text: last }) => {
    if (text === last) return;
    // Whatever has changed it: a sentence, typing, or an undo.
    set({ saving: text === kept ? 'saved' : 'saving' });
    follow();
  });
  opened.listen(
    (theirs) => {
      if (theirs.version === base) return;
      const { saving, text } = get();
      if (theirs.text === text || saving === 'saved') {
        base = theirs.version;
        kept = theirs.text;
        set({ text: theirs.text, saving: 'saved' });
      } else set({ conflict: theirs });
    },
    (isLost) => set({ isLost }),
  );
  follow();
}

/** Changes the text: by sentences, which one undo takes back together, or as it was typed. */
export const edit = (...changes: Change[]): void => type(changes.reduce(changeDesign, get().text));
export const type = (text: string): void => {
  set({ text });
};

export function resolve(keep: 'mine' | 'theirs'): void {
  const { conflict } = get();
  if (conflict === undefined) return;
  base = conflict.version;
  kept = conflict.text;
  set(keep === 'mine' ? { conflict: undefined, saving: 'saving' } : { conflict: undefined, text: kept });
  if (keep === 'mine') void save();
}

/** Reads at once, and what takes longer as soon as the text has settled. */
function follow(): void {
  const { text } = get();
  void reader.read(text).then((value) => {
    if (get().text === text) set({ reading: { text, value } });
  });
  window.clearTimeout(timer);
  timer = window.setTimeout(() => {
    void save();
    void judge(text);
    void player.open(text).then(({ isPlayed, view }) => {
      if (get().text === text) set({ isPlayed, play: view });
    });
  }, settled);
}

async function judge(text: string): Promise<void> {
  judging?.terminate();
  const worker = analysisWorker();
  judging = worker;
  try {
    const value = await wrap<Analysis>(worker).judge(text);
    if (get().text === text) set({ judgement: { text, value } });
  } catch {
    // A text that cannot be read has problems, which are shown already.
  } finally {
    worker.terminate();
  }
}

async function save(): Promise<void> {
  const { text, conflict, saving } = get();
  if (file === undefined || conflict !== undefined || saving === 'saved') return;
  const answer = await file.save(text, base);
  if (answer.kind === 'saved') {
    base = answer.version;
    kept = text;
    if (get().text === text) set({ saving: 'saved' });
  } else if (answer.kind === 'conflict') set({ conflict: answer.theirs });
  else set({ saving: 'failed' });
}

export async function act(deed: Parameters<Play['do']>[0]): Promise<void> {
  set({ play: await player.do(deed) });
}
export async function stepBack(): Promise<void> {
  set({ play: await player.back() });
}
export async function startAgain(): Promise<void> {
  set({ play: await player.again() });
}

/** Keeps what was played as a test of the design: the same deeds, and the counters and screen that they led to. */
export function keepAsTest(name: string): void {
  const { play } = get();
  if (play === undefined) return;
  const steps = play.deeds.map((deed) => ('wait' in deed ? `wait ${deed.wait / 1000}` : deed.event));
  edit({
    kind: 'add',
    path: ['tests'],
    value: { name, do: steps, expect: { ...play.counters, screen: play.screen } },
  });
}

/** Shows a line in the file. */
export const goTo = (line: number): void => set({ goTo: { line } });
