import type { Form } from '../../engine/program/form.js';
import type { BackendName } from '../../engine/run/backend.js';
import type { Meeting } from '../../players/meeting/meeting.js';
import { Forks } from './forks.js';
import { Frontier, type Moment } from './frontier.js';
import { RowTable } from './row-table.js';
import { RunSums } from './run-sums.js';
import { SteppedPlay } from './stepped-play.js';

/** From where a run begins to where the next one does, or the session is over. */
export interface Stretch {
  /** What it adds up to, where it is played for certain. */
  readonly sums: RunSums;
  /** Where the next run begins: milliseconds later, in which state, with which score beside it, and how likely. */
  readonly starts: readonly Start[];
  /** The chance that it was still going on where it was stopped. */
  readonly open: number;
  /** Milliseconds until it is over for certain. */
  readonly longest: number;
}

interface Start {
  readonly after: number;
  readonly state: Float64Array;
  readonly score: number;
  readonly chance: number;
}

interface Limits {
  readonly mostTurns: number;
  readonly isOver: () => boolean;
  readonly progress: ((turns: number) => void) | undefined;
  readonly backend: BackendName | undefined;
}

/** A state less likely than this is left open at once: all of them together change no digit that is shown. */
const leastChance = 1e-18;
const turnsBetweenLooks = 4096;

/**
 * The stretches that sessions of a player are made of. One that begins in the same state goes on alike whenever it begins, unless the player's
 * patience is over before it can be; so each is gone through once.
 */
export class Stretches {
  turns = 0;
  states = 0;
  readonly play: SteppedPlay;
  /** Whether nothing is ever taken off the score. */
  get onlyAdds(): boolean {
    return this.play.isSummed;
  }
  readonly #forks = new Forks();
  readonly #starts = new RowTable();
  /** By the number of the state, then by the milliseconds that are left of the player's patience, as far as it matters. */
  readonly #known: Map<number, Stretch>[] = [];
  readonly #patience: number;
  #isStopped = false;
  /** The latest moment of the stretch that is gone through. */
  #latest = 0;

  constructor(
    private readonly form: Form,
    meeting: Meeting,
    private readonly limits: Limits,
  ) {
    this.play = new SteppedPlay(form, meeting, this.#forks, {
      mostRuns: meeting.player.runs,
      backend: limits.backend,
    });
    this.#patience = meeting.player.patience;
  }

  /** The stretch that begins in a state, with a score beside it, at a moment of session time. */
  from(state: Float64Array, score: number, time: number): Stretch {
    const number = this.#starts.numberOf(Float64Array.of(...state, score), state.length + 1);
    this.#known[number] ??= new Map();
    const known = this.#known[number];
    const left = this.#patience - time;
    for (const [patience, stretch] of known)
      if (patience === left || (stretch.open === 0 && stretch.longest < Math.min(left, patience)))
        return stretch;
    const made = this.#goThrough(state, score, left);
    known.set(left, made);
    return made;
  }

  #goThrough(state: Float64Array, score: number, patience: number): Stretch {
    const { play } = this;
    const sums = new RunSums(this.form);
    const starts = new Frontier();
    const frontier = new Frontier();
    frontier.at(0).add(state, state.length, score, 1);
    play.patience = patience;
    this.#latest = 0;
    let open = 0;
    for (let next = frontier.next; next !== undefined; next = frontier.next) {
      const { time, moment } = next;
      this.#latest = Math.max(this.#latest, time);
      // It grows while its ways are gone: some lead on at the same moment.
      for (let at = 0; at < moment.waiting.length; at++) {
        const row = moment.waiting[at]!;
        const scores = moment.chances[row]!;
        let chance = 0;
        for (const each of scores.values()) chance += each;
        moment.chances[row] = undefined;
        if (this.#isStopped || chance < leastChance) open += chance;
        else open += this.#goOn({ moment, row, time, scores, chance }, { sums, frontier, starts });
      }
      frontier.pop();
    }
    return { sums, starts: startsIn(starts), open, longest: this.#latest };
  }

  /** Goes every way on from a state; gives the chance of those that were not gone any more. */
  #goOn(
    { moment, row, time, scores, chance }: From,
    { sums, frontier, starts }: { sums: RunSums; frontier: Frontier; starts: Frontier },
  ): number {
    const { play } = this;
    const forks = this.#forks;
    this.states++;
    let gone = 0;
    forks.begin();
    do {
      // One turn alone can fall in more ways than there is time for.
      if (this.#mustStop()) return chance * (1 - gone);
      const { table } = moment;
      play.restore(table.numbers, table.begin(row), time);
      play.turn();
      this.turns++;
      const ofWay = forks.chance;
      gone += ofWay;
      sums.count(play.log, ofWay * chance);
      for (const run of play.ended) sums.countRun(run, scores, ofWay, chance);
      if (play.isOver) {
        // Who waits until its patience is over leaves then, and not at the last thing that happened.
        this.#latest = Math.max(this.#latest, play.now);
        continue;
      }
      const length = play.read();
      if (play.isStart) {
        starts.at(play.now).add(play.row, length, play.score, chance * ofWay);
        continue;
      }
      const then = frontier.at(play.now);
      const { isScoreSet, score } = play;
      for (const [before, each] of scores)
        then.add(play.row, length, isScoreSet ? score : before + score, each * ofWay);
    } while (forks.next());
    return 0;
  }

  #mustStop(): boolean {
    const { mostTurns, isOver, progress } = this.limits;
    if (this.turns % turnsBetweenLooks === 0) {
      progress?.(this.turns);
      this.#isStopped ||= isOver();
    }
    this.#isStopped ||= this.turns >= mostTurns;
    return this.#isStopped;
  }
}

/** A state of a moment, and how likely each score is in it. */
interface From {
  readonly moment: Moment;
  readonly row: number;
  readonly time: number;
  readonly scores: ReadonlyMap<number, number>;
  readonly chance: number;
}

function startsIn(frontier: Frontier): Start[] {
  const found: Start[] = [];
  for (let next = frontier.next; next !== undefined; next = frontier.next) {
    const { table, waiting, chances } = next.moment;
    for (const row of waiting) {
      const state = table.numbers.slice(table.begin(row), table.end(row));
      for (const [score, chance] of chances[row]!) found.push({ after: next.time, state, score, chance });
    }
    frontier.pop();
  }
  return found;
}
