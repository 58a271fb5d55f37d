import { DesignError, type Problem } from '../../design/problems/problem.js';
import { fault } from '../program/faults.js';
import type { GameForm } from '../program/form.js';
import { mostPresent, mostSteps } from '../program/form.js';
import { inMilliseconds, inRange } from '../program/interval.js';
import { draw, type SessionKey } from '../run/draw.js';
import { sourceName } from '../run/step.js';

/** Whoever watches a session. `source` of a write is a rule, or past the last rule a transition. */
export interface Probe {
  /** An outcome counts; no rule has heard it yet. */
  outcome(event: number): void;
  rule(rule: number): void;
  transition(transition: number): void;
  write(counter: number, source: number, before: number, after: number, wanted: number): void;
  cue(cue: number): void;
  popup(popup: number): void;
  appeared(piece: number): void;
  cleared(piece: number): void;
  /** All pieces are gone, and those of the level's start are still to appear. */
  allCleared(): void;
}

/** For those who watch some of it only. */
export const watchesNothing: Probe = {
  outcome: () => {},
  rule: () => {},
  transition: () => {},
  write: () => {},
  cue: () => {},
  popup: () => {},
  appeared: () => {},
  cleared: () => {},
  allCleared: () => {},
};

/** Gives the draw of a place that has asked so often before: a whole number below 2^32. */
export type DrawSource = (draw: number, asked: number) => number;

export const keyedDraws =
  (form: GameForm, key: SessionKey): DrawSource =>
  (place, asked) =>
    draw(key, form.draws[place]!, asked);

/** What runs the rules of a form over its cells: generated code or tables. */
export interface Carrier {
  /** Handles an event (-1: none) to its end, first taking a transition (-1: none). */
  run(event: number, transition: number): void;
  /** Puts the pieces and spawn clocks of the present level at their start. */
  respawn(): void;
}

/** Makes the carrier of a form for one session's cells. One that watches nothing is made without a probe. */
export type MakeCarrier = (cells: Float64Array, host: Host, probe: Probe | undefined) => Carrier;

export type CarrierName = 'generated' | 'tables';

/** How a carrier reaches what lies outside its form: draws, and the faults that end a chain. */
export class Host {
  readonly #recent: number[] = [];

  constructor(
    private readonly form: GameForm,
    readonly draw: DrawSource,
  ) {}

  step(steps: number, source: number): void {
    this.#recent.push(source);
    if (steps > mostSteps) {
      const loop = [...new Set(this.#recent.splice(0))];
      this.#fail(
        fault(
          'endless-chain',
          { steps: mostSteps, loop: loop.map((each) => this.#nameOf(each)) },
          this.#placeOf(source),
        ),
      );
    }
  }

  tooLarge(source: number, counter: number, found: number): never {
    const name = this.form.counters[counter]!.name;
    this.#fail(
      fault(
        'number-too-large',
        { counter: name, by: this.#nameOf(source), found: String(found) },
        this.#placeOf(source),
      ),
    );
  }

  /** How long an interval with computed ends is, in milliseconds; `drawn` chooses in a range. */
  range(seconds: number, upTo: number, step: number, drawn: number): number {
    return inRange(inMilliseconds(seconds), inMilliseconds(upTo), step, drawn);
  }

  /** Which piece stands on the course of a level at a place; -1: none. */
  onCourse(level: number, at: number): number {
    return this.form.levels[level]!.course[at] ?? -1;
  }

  timerTooLarge(source: number, timer: number, milliseconds: number): never {
    const { name } = this.form.timers[timer]!;
    const details = { counter: name, by: this.#nameOf(source), found: `${milliseconds} ms` };
    this.#fail(fault('number-too-large', details, this.#placeOf(source)));
  }

  tooMany(piece: number): never {
    const { name } = this.form.pieces[piece]!;
    this.#fail(fault('too-many-pieces', { piece: name, most: mostPresent }, this.form.pieces[piece]!.place));
  }

  noNextLevel(source: number): never {
    const level = this.form.levels.at(-1)!.name;
    this.#fail(fault('no-next-level', { level }, this.#placeOf(source)));
  }

  #fail(fault: Problem): never {
    this.#recent.length = 0;
    throw new DesignError([fault]);
  }

  #nameOf(source: number): string {
    const { events, rules, transitions } = this.form;
    if (source < rules.length) return `the rule "${rules[source]!.name}"`;
    const event = source - rules.length - transitions.length;
    if (event >= 0) return `the event ${events[event]!.name}`;
    const isFirstStart = transitions[source - rules.length]!.index < 0;
    return isFirstStart ? 'the first start' : `the transition ${sourceName(this.form, source)}`;
  }

  #placeOf(source: number): Problem['place'] {
    const { events, rules, transitions } = this.form;
    const origin = events[source - rules.length - transitions.length]?.origin;
    if (origin !== undefined) return origin;
    const { place } = rules[source] ?? transitions[source - rules.length] ?? transitions.at(-1)!;
    return place;
  }
}
