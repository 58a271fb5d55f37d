import { DesignError, type Problem } from '../../design/problems/problem.js';
import { fault } from '../program/faults.js';
import type { GameForm } from '../program/form.js';
import { mostChained, mostPresent } from '../program/form.js';
import type { DrawSource } from './draw.js';
import { sourceName } from './step.js';

/** How a program reaches what lies outside it: draws, and the faults that end a chain. */
export class Host {
  readonly #recent: number[] = [];

  constructor(
    private readonly form: GameForm,
    readonly draw: DrawSource,
  ) {}

  step(steps: number, source: number): void {
    this.#recent.push(source);
    if (steps > mostChained) {
      const loop = [...new Set(this.#recent.splice(0))];
      this.#fail(
        fault(
          'endless-chain',
          { steps: mostChained, loop: loop.map((each) => this.#nameOf(each)) },
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
