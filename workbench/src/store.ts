import { proxy, type Remote, wrap } from 'comlink';
import { temporal } from 'zundo';
import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { Sample } from '../../src/balance/sample-sessions.js';
import type { Design, Dial } from '../../src/design/model.js';
import { UsageError } from '../../src/design/problems/problem.js';
import { type Settings, turnableDials } from '../../src/design/settings.js';
import { type Change, changeDesign } from '../../src/design/text/change.js';
import type { SessionRecord } from '../../src/engine/record/record.js';
import type { SentenceGroups, Spot } from '../../src/sentences/sentence.js';
import type { DesignFile, Kept } from './file.js';
import { draftOf, dropDraft, keepDraft, keepVersion, type Version, versionsOf } from './kept.js';
import { clicksOn } from './press.js';
import { reader } from './reader.js';
import { words } from './words.js';
import type { Analysis, Judgement } from './workers/analysis.worker.js';
import type { Balance, BalanceView } from './workers/balance.worker.js';
import type { CheckExportName } from './workers/check-exports.js';
import type { ExportName } from './workers/exports.js';
import type { Play, PlayView } from './workers/play.worker.js';
import type { Reading } from './workers/reading.worker.js';

/** What a verdict says of one text; it is shown only while that is the text. */
interface Of<Value> {
  readonly text: string;
  readonly value: Value;
}

/** What stands at sentences of one text; until more is known it keeps its room at those of the next. */
interface OfSentences<Value> extends Of<Value> {
  readonly groups: SentenceGroups;
}

export interface WorkbenchState {
  readonly text: string;
  readonly reading: Of<Reading> | undefined;
  readonly judgement: OfSentences<Judgement> | undefined;
  readonly play: PlayView | undefined;
  /** Whether the session is one of the present text; false while that cannot be played. */
  readonly isPlayed: boolean;
  readonly saving: 'saved' | 'saving' | 'failed';
  /** Why the text could not be saved; empty where it was. */
  readonly savingFault: string;
  /** Work on this file that was not saved when the page was last closed. */
  readonly draft: string | undefined;
  readonly isLost: boolean;
  /** The text on the disk, where it was changed there and here at once. */
  readonly conflict: Kept | undefined;
  /** The line that somebody wants to see in the file. */
  readonly goTo: { readonly line: number } | undefined;
  /** A place whose sentence somebody wants to see. */
  readonly seek: Spot | undefined;
  readonly view: View;
  /** Whether what stands beside the sentences has their room as well. */
  readonly isWide: boolean;
  /** A recorded session that is watched, as it was after each of its steps. */
  readonly film: Film | undefined;
  readonly balance: OfSentences<BalanceView> | undefined;
  /** Those that have a range. */
  readonly dials: Of<readonly Dial[]> | undefined;
  /** Dials that were turned and not written to the file yet. */
  readonly turned: Settings;
  /** Why nothing was simulated; empty where it was. */
  readonly balanceFault: string;
  /** A result to compare with. */
  readonly pinned: BalanceView | undefined;
  /** Why the last change could not be made; empty where it was. */
  readonly notice: string;
}

/** What stands beside the sentences. */
export const views = ['play', 'flow', 'levels', 'balance'] as const;
export type View = (typeof views)[number];

export interface Film {
  readonly name: string;
  readonly frames: readonly PlayView[];
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
      savingFault: '',
      draft: undefined,
      isLost: false,
      conflict: undefined,
      goTo: undefined,
      seek: undefined,
      view: 'play',
      isWide: false,
      film: undefined,
      balance: undefined,
      dials: undefined,
      turned: {},
      balanceFault: '',
      pinned: undefined,
      notice: '',
    }),
    // Only the text is gone back over; all else follows from it.
    { partialize: ({ text }) => ({ text }), equality: (a, b) => a.text === b.text, limit: 500 },
  ),
);

/** Some parts of the state: what shows them is drawn again only when one of them changes. */
export const useParts = <Key extends keyof WorkbenchState>(...keys: Key[]): Pick<WorkbenchState, Key> =>
  useWorkbench(
    useShallow(
      (state) => Object.fromEntries(keys.map((key) => [key, state[key]])) as Pick<WorkbenchState, Key>,
    ),
  );

const set = useWorkbench.setState;
const get = useWorkbench.getState;

/** Workers that are started once the page shows its sentences. */
let playing: Remote<Play> | undefined;
const player = (): Remote<Play> => {
  playing ??= wrap<Play>(
    new Worker(new URL('./workers/play.worker.ts', import.meta.url), { type: 'module' }),
  );
  return playing;
};
let balancing:
  | { readonly worker: Worker; readonly balance: Remote<Balance>; taken: Design | undefined }
  | undefined;
/** The check runs in a worker of its own, which is ended when another text makes what it does useless. */
let judging: { readonly worker: Worker; readonly analysis: Remote<Analysis>; isBusy: boolean } | undefined;

let file: DesignFile | undefined;
/** The reading of the latest text. */
let beingRead: Promise<void> = Promise.resolve();
/** The version on the disk that this text was made from, and its text. */
let base = '';
let kept = '';
/** The text that is on its way to where it is kept, and whether another is to follow it. */
let sent: string | undefined;
let isChangedSince = false;
/** Milliseconds without a change after which a text is checked, and saved. */
const settled = 150;
let timer: number | undefined;

/** Takes over the file behind the page and follows it. */
export async function begin(opened: DesignFile): Promise<void> {
  file = opened;
  base = opened.first.version;
  kept = opened.first.text;
  set({ text: kept });
  useWorkbench.temporal.getState().clear();
  useWorkbench.subscribe(({ text }, { text: last }) => {
    if (text === last) return;
    // Whatever has changed it: a sentence, typing, or an undo.
    set({ saving: text === kept ? 'saved' : 'saving', film: undefined });
    follow();
  });
  opened.listen(
    (theirs) => {
      // What this page itself is writing is nobody else's change.
      if (theirs.version === base || theirs.text === sent) return;
      const { saving, text } = get();
      if (theirs.text === text || saving === 'saved') {
        base = theirs.version;
        kept = theirs.text;
        set({ text: theirs.text, saving: 'saved' });
      } else set({ conflict: theirs });
    },
    (isLost) => {
      set({ isLost });
      // What could not be saved while the server was away is saved now.
      if (!isLost && get().text !== kept) void save();
    },
  );
  follow();
  await inStorage(() => keepVersion(opened.key, kept));
  const draft = await draftOf(opened.key).catch(() => undefined);
  if (draft !== undefined && draft !== kept) set({ draft });
  else await inStorage(() => dropDraft(opened.key));
}

/** Takes up work that was not saved, or drops it. */
export async function takeDraft(isWanted: boolean): Promise<void> {
  const { draft } = get();
  set({ draft: undefined });
  if (isWanted && draft !== undefined) type(draft);
  else if (file !== undefined) await inStorage(() => dropDraft(file!.key));
}

/** Texts of this design as they once were, the latest first. */
export const versions = (): Promise<readonly Version[]> =>
  file === undefined ? Promise.resolve([]) : versionsOf(file.key);

/** Changes the text: by sentences, which one undo takes back together, or as it was typed. */
export function edit(...changes: Change[]): void {
  try {
    type(changes.reduce(changeDesign, get().text));
    set({ notice: '' });
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    set({ notice: error.message });
  }
}
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

/** Reads at once, and what takes longer as soon as the text has settled and its sentences are shown. */
function follow(): void {
  const { text } = get();
  beingRead = reader.read(text).then((value) => {
    if (get().text === text) set({ reading: { text, value } });
  });
  window.clearTimeout(timer);
  timer = window.setTimeout(async () => {
    void save();
    await beingRead;
    if (get().text !== text) return;
    const { design, levels, groups } = get().reading!.value;
    if (design === undefined) {
      // It has problems, which are shown; the session before goes on.
      set({ isPlayed: false });
      return;
    }
    void player()
      .open(design)
      .then(({ isPlayed, view }) => {
        if (get().text === text) set({ isPlayed, play: view });
      });
    // Sessions are played once the check is done, as its verdict comes first; and only where something of them is shown.
    await judge(text, { design, levels, groups });
    if (design.targets.length > 0 || get().view !== 'play') await simulate();
  }, settled);
}

/** Verdicts and figures take room, and what stands below them moves. */
const noClick = clicksOn(window);

const newAnalysis = (): Worker =>
  new Worker(new URL('./workers/analysis.worker.ts', import.meta.url), { type: 'module' });

async function judge(
  text: string,
  { design, levels, groups }: Pick<Reading, 'levels' | 'groups'> & { readonly design: Design },
): Promise<void> {
  if (judging?.isBusy === true) {
    judging.worker.terminate();
    judging = undefined;
  }
  if (judging === undefined) {
    const worker = newAnalysis();
    judging = { worker, analysis: wrap<Analysis>(worker), isBusy: false };
  }
  const mine = judging;
  mine.isBusy = true;
  // A design that cannot even begin shows its fault where it is played.
  const value = await mine.analysis.judge(design, levels).catch(() => undefined);
  mine.isBusy = false;
  await noClick();
  if (value !== undefined && get().text === text) set({ judgement: { text, groups, value } });
}

/** Saves the text, one save after the other: each is made over the version that the one before it wrote. */
async function save(): Promise<void> {
  isChangedSince = true;
  if (sent !== undefined) return;
  while (isChangedSince) {
    isChangedSince = false;
    await saveOnce();
  }
}

async function saveOnce(): Promise<void> {
  const { text, conflict, saving } = get();
  if (file === undefined || conflict !== undefined || saving === 'saved') return;
  sent = text;
  const answer = await file.save(text, base);
  sent = undefined;
  if (answer.kind === 'saved') {
    base = answer.version;
    kept = text;
    if (get().text === text) set({ saving: 'saved', savingFault: '' });
    await inStorage(() => dropDraft(file!.key));
    await inStorage(() => keepVersion(file!.key, text));
  } else {
    if (answer.kind === 'conflict') set({ conflict: answer.theirs });
    else set({ saving: 'failed', savingFault: answer.message });
    await inStorage(() => keepDraft(file!.key, text));
  }
}

/** A browser that keeps nothing, or has no room left, is no reason to stop: the file is what counts. */
async function inStorage(task: () => Promise<void>): Promise<void> {
  try {
    await task();
  } catch (error) {
    set({ notice: words.storageFull((error as Error).message) });
  }
}

export async function act(deed: Parameters<Play['do']>[0]): Promise<void> {
  set({ play: await player().do(deed) });
}
/** Lets a moment of a running game pass, with what happened in it; says whether anything came of it. */
export async function frame(milliseconds: number, events: readonly string[]) {
  const moment = await player().frame(milliseconds, events);
  set({ play: moment.view });
  return moment;
}
export async function stepBack(): Promise<void> {
  set({ play: await player().back() });
}
export async function startAgain(): Promise<void> {
  set({ play: await player().again() });
}

/** Keeps what was played as a test of the design: the same deeds, and the counters and screen that they led to. */
export async function keepAsTest(name: string): Promise<void> {
  await beingRead;
  const { design } = get().reading!.value;
  // What was changed a moment ago counts as well.
  const play = design === undefined ? get().play : (await player().open(design)).view;
  if (play === undefined) return;
  // The screen of a design that names none is called so only until it names one.
  const isNamed = (get().reading?.value.groups.screens.length ?? 0) > 0;
  const screen = isNamed ? { screen: play.screen } : {};
  const steps = play.deeds.map((deed) => ('wait' in deed ? `wait ${deed.wait / 1000}` : deed.event));
  edit({
    kind: 'add',
    path: ['tests'],
    value: { name, do: steps, expect: { ...play.counters, ...screen } },
  });
}

/** Shows a line in the file. */
export const goTo = (line: number): void => set({ goTo: { line }, isWide: false });
/** Shows the sentence that a place belongs to. */
export const seek = ({ line, column }: Spot): void => set({ seek: { line, column }, isWide: false });
export function show(view: View): void {
  set({ view });
  const { text, balance } = get();
  // What was played for the status line is gone on with, unless it was stopped.
  const isMoreWanted = view === 'balance' && balancing !== undefined;
  if (view !== 'play' && (balance?.text !== text || isMoreWanted)) void simulate();
}
export const widen = (isWide: boolean): void => set({ isWide });

/** Watches a recorded session of the present design. */
export async function watch(record: SessionRecord, name: string): Promise<void> {
  const { text } = get();
  try {
    const frames = await player().film(await present(), record);
    if (get().text === text) set({ film: { name, frames }, view: 'play' });
  } catch (error) {
    // A design that was changed meanwhile does not fit its record any more.
    set({ notice: (error as Error).message });
  }
}

/** The HUD with its counters at their bounds; the score at the most that was found. */
export function hudAt(bound: 'min' | 'max'): Promise<PlayView['hud']> {
  const { judgement, text } = get();
  const score = judgement?.text === text ? judgement.value.score : undefined;
  return player().hudAt(bound, score?.most === undefined ? {} : { [score.counter]: score.most });
}
export const stopWatching = (): void => set({ film: undefined });

/**
 * The design of the present text, once that is read.
 *
 * @throws Error where the text has problems
 */
async function present(): Promise<Design> {
  await beingRead;
  const { design, problems } = get().reading!.value;
  if (design === undefined) throw new Error(`${problems[0]!.message} ${problems[0]!.remedy}`);
  return design;
}

/** The worker that simulates, loaded when it is first needed, once it has the present design. */
async function simulator(): Promise<Remote<Balance>> {
  const design = await present();
  if (balancing === undefined) {
    const worker = new Worker(new URL('./workers/balance.worker.ts', import.meta.url), { type: 'module' });
    balancing = { worker, balance: wrap<Balance>(worker), taken: undefined };
  }
  const { balance, taken } = balancing;
  balancing.taken = design;
  // What is asked of it next comes after this.
  if (taken !== design) void balance.take(design);
  return balance;
}

/** Simulates the present text with the dials as they are turned; what was under way is given up. */
async function simulate(): Promise<void> {
  const { text, reading, turned } = get();
  if (reading?.text !== text || reading.value.design === undefined) return;
  const { groups } = reading.value;
  const dials = turnableDials(reading.value.design);
  set({ dials: { text, value: dials } });
  // A dial that is gone, or has another range, cannot stay turned.
  const still = Object.entries(turned).filter(([name, value]) =>
    dials.some((dial) => dial.name === name && value >= dial.from && value <= dial.to),
  );
  const balance = await simulator();
  const isPresent = (): boolean =>
    get().text === text && get().turned === turned && balancing?.balance === balance;
  const balanceFault = await balance.play(
    Object.fromEntries(still),
    get().view === 'balance',
    proxy(async (value: BalanceView) => {
      await noClick();
      if (isPresent()) set({ balance: { text, groups, value }, balanceFault: '' });
    }),
  );
  if (isPresent() && balanceFault !== '') set({ balanceFault, balance: undefined });
}

/** Ends a simulation that takes too long; the next begins afresh. */
export function stopSimulating(): void {
  balancing?.worker.terminate();
  balancing = undefined;
  const { balance } = get();
  if (balance !== undefined) set({ balance: { ...balance, value: { ...balance.value, isDone: true } } });
}

/** Turns a dial without writing it to the file: every figure and target follows. */
export function turn(name: string, value: number): void {
  set({ turned: { ...get().turned, [name]: value } });
  void simulate();
}
export function turnBack(): void {
  set({ turned: {} });
  void simulate();
}
/** Writes settings of dials to the file. */
export function keepDials(settings: Settings): void {
  set({ turned: {} });
  edit(
    ...Object.entries(settings).map(
      ([name, value]): Change => ({ kind: 'set', path: ['dials', name, 'value'], value }),
    ),
  );
}
export const pin = (pinned: BalanceView | undefined): void => set({ pinned });

/** Asks what is simulated about the present design; where its text has problems, the first of them is told. */
async function ask<Answer>(
  about: (balance: Remote<Balance>) => Promise<Answer>,
): Promise<Answer | undefined> {
  try {
    return await about(await simulator());
  } catch (error) {
    set({ notice: (error as Error).message });
    return undefined;
  }
}
/** Watches a typical, a lucky or an unlucky session of a player. */
export async function watchSample(player: string, kind: Sample['kind'], name: string): Promise<void> {
  const record = await ask((balance) => balance.sample(player, kind));
  if (record !== undefined) await watch(record, name);
}
export const dialsOnTargets = () => ask((balance) => balance.dialsOnTargets());
export const fitTo = (log: string, name: string) => ask(async (balance) => balance.fit(log, name));
export const tuneDials = () => ask((balance) => balance.tune());
/** The text of an export; one of a check is made by a worker of its own, since the one that judges is stopped by the next change. */
export async function exportAs(name: ExportName | CheckExportName): Promise<{ file: string; text: string }> {
  if (!isOfCheck(name)) return (await simulator()).export(name);
  const design = await present();
  const worker = newAnalysis();
  try {
    return await wrap<Analysis>(worker).export(design, name);
  } finally {
    worker.terminate();
  }
}
const ofCheck: { readonly [Name in CheckExportName]: true } = {
  svg: true,
  scxml: true,
  sarif: true,
  junit: true,
};
const isOfCheck = (name: string): name is CheckExportName => Object.hasOwn(ofCheck, name);

/** Gives a name of the design another, everywhere. */
export async function rename(from: string, to: string): Promise<void> {
  const { text } = get();
  const { renamed, told } = await reader.rename(text, from, to);
  set({ notice: told });
  if (renamed !== undefined && get().text === text) type(renamed);
}
