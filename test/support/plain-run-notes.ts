import { spans } from '../../src/design/model.js';
import { type Form, sameLevel } from '../../src/engine/program/form.js';
import {
  type Bound,
  boundsOf,
  livesOf,
  paceParts,
  paceStep,
  type SessionLog,
} from '../../src/measure/session-log.js';

/**
 * Fills in the log of a session from what a machine tells: where one run ends and the next begins, and what happens in each.
 */
export class RunNotes {
  /** How many runs of this session have come to an ending. */
  ended = 0;
  /** Whether one of them was lost since somebody looked. */
  lost = false;
  /** Attempts that skill has decided, of this run. */
  tried = 0;
  #isRunning = false;
  #began = 0;
  #level = 0;
  /** Bit i of word w: screen 32 w + i was entered in this run. */
  readonly #visited: Int32Array;
  /** An ending that was entered and whose rules may still add to the score, and what led there; -1: none. */
  #entered = -1;
  #cause = -1;
  #firstPoint = -1;
  #firstLoss = -1;
  #lastPoint = 0;
  #drySpell = 0;
  /** Successes in a row, and the most of this run. */
  #row = 0;
  #streak = 0;
  readonly #lives: number;
  readonly #bounds: readonly Bound[];
  /** For each counter, which of the bounds are its own. */
  readonly #boundsOf: readonly (readonly { readonly value: number; readonly index: number }[])[];
  /** For each bound, since when the time that its counter sits there is not counted yet; last, the same for play itself. */
  readonly #since: Float64Array;

  constructor(
    private readonly form: Form,
    private readonly cells: Float64Array,
    private readonly log: SessionLog,
  ) {
    this.#visited = new Int32Array(log.words);
    this.#lives = livesOf(form.design);
    this.#bounds = boundsOf(form.design);
    this.#boundsOf = form.counters.map((_, counter) =>
      this.#bounds.flatMap((bound, index) =>
        bound.counter === counter ? [{ value: bound.value, index }] : [],
      ),
    );
    this.#since = new Float64Array(this.#bounds.length + 1);
  }

  begin(session: number): void {
    this.log.begin(session);
    this.ended = 0;
    this.lost = false;
    this.#isRunning = false;
    this.#entered = -1;
  }

  rule(index: number): void {
    this.log.fired[index]!++;
  }

  /** Before a transition changes anything. */
  transition(index: number): void {
    const { form, cells } = this;
    const { fresh, level, to } = form.transitions[index]!;
    this.log.taken[index]!++;
    this.#passTime();
    if (this.#entered >= 0) this.#finish(this.#entered, this.#cause);
    this.#level = Math.max(this.#level, cells[form.cells.level]!);
    if (to < 0) return;
    const isFirstStart = index === form.transitions.length - 1;
    if (!isFirstStart && fresh >= runSpan) {
      if (this.#isRunning) this.#abandon();
      this.#start();
    } else if (!this.#isRunning) {
      if (form.screens[to]!.live) this.#start();
    } else if (!form.screens[to]!.ending && (fresh >= levelSpan || level !== sameLevel)) this.#countTry();
    this.#visited[to >> 5]! |= 1 << (to & 31);
    if (this.#isRunning && form.screens[to]!.ending) {
      this.#entered = to;
      this.#cause = index;
    }
  }

  write(counter: number, source: number, before: number, after: number): void {
    if (after === before) return;
    const { form, cells, log } = this;
    const now = cells[form.cells.now]!;
    if (counter === form.score) {
      log.points[source]! += after - before;
      if (this.#isRunning) {
        log.pace[Math.min(paceParts - 1, Math.max(0, Math.ceil((now - this.#began) / paceStep) - 1))]! +=
          after - before;
        if (after > before) {
          if (this.#firstPoint < 0) this.#firstPoint = now - this.#began;
          this.#drySpell = Math.max(this.#drySpell, now - this.#lastPoint);
          this.#lastPoint = now;
        }
      }
    }
    if (counter === this.#lives && this.#isRunning && after < before && this.#firstLoss < 0)
      this.#firstLoss = now - this.#began;
    for (const { value, index } of this.#boundsOf[counter]!) {
      if (after === value) this.#since[index] = now;
      else if (before === value && this.#isPlayed) log.held[index]! += now - this.#since[index]!;
    }
  }

  /** Before an outcome of a piece is told to the rules. */
  outcome(event: number): void {
    const { piece } = this.form.events[event]!;
    const { success, failure } = this.form.pieces[piece]!;
    if (event === success) this.#streak = Math.max(this.#streak, ++this.#row);
    else if (event === failure) this.#row = 0;
  }

  /** After an event was handled to its end. */
  settled(): void {
    if (this.#entered >= 0) this.#finish(this.#entered, this.#cause);
  }

  /** When the player leaves; a run under way is abandoned. */
  leave(): void {
    this.#passTime();
    if (this.#isRunning) this.#abandon();
    this.log.duration = this.cells[this.form.cells.now]!;
  }

  get #isPlayed(): boolean {
    return this.#isRunning && this.form.screens[this.cells[this.form.cells.screen]!]!.live;
  }

  /** Counts the time since the last transition for play, and for the bounds that counters sit at. */
  #passTime(): void {
    const { cells, form, log } = this;
    const now = cells[form.cells.now]!;
    if (this.#isPlayed) {
      log.playTime += now - this.#since.at(-1)!;
      this.#bounds.forEach(({ counter, value }, index) => {
        if (cells[form.cells.counters + counter] === value) log.held[index]! += now - this.#since[index]!;
      });
    }
    this.#since.fill(now);
  }

  #start(): void {
    this.#isRunning = true;
    this.tried = 0;
    this.#began = this.cells[this.form.cells.now]!;
    this.#level = 0;
    this.#visited.fill(0);
    this.#firstPoint = -1;
    this.#firstLoss = -1;
    this.#lastPoint = this.#began;
    this.#drySpell = 0;
    this.#row = 0;
    this.#streak = 0;
  }

  #countTry(): void {
    this.log.tries[Math.min(this.cells[this.form.cells.level]!, this.log.tries.length - 1)]!++;
  }

  /** Of a run that has not come to play yet, nothing is noted; a game of menus alone is played on them. */
  #abandon(): void {
    const live = this.form.screens.flatMap((screen, index) => (screen.live ? [index] : []));
    const isPlayed = live.some((screen) => ((this.#visited[screen >> 5]! >> (screen & 31)) & 1) === 1);
    if (isPlayed || live.length === 0) this.#finish(-1, -1);
    else this.#isRunning = false;
  }

  #finish(ending: number, cause: number): void {
    const { cells, form } = this;
    const now = cells[form.cells.now]!;
    const counter = (index: number): number => (index < 0 ? 0 : cells[form.cells.counters + index]!);
    this.log.screensEntered.set(this.#visited);
    this.#countTry();
    this.log.endRun(
      counter(form.score),
      now - this.#began,
      ending,
      cause,
      Math.max(this.#level, cells[form.cells.level]!),
      counter(this.#lives),
      this.#firstPoint,
      this.#firstLoss,
      form.score < 0 ? -1 : Math.max(this.#drySpell, now - this.#lastPoint),
      this.#streak,
      this.#began,
    );
    this.#isRunning = false;
    this.#entered = -1;
    if (ending >= 0) {
      this.ended++;
      this.lost = this.form.design.screens[ending]!.ending === 'lost';
    }
  }
}

/** The index in `spans` of a run, and of a level. */
const runSpan = spans.indexOf('run');
const levelSpan = spans.indexOf('level');
