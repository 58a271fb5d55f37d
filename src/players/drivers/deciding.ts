import { UsageError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { fromCell } from '../../engine/program/value.js';
import type { Meeting } from '../meeting/meeting.js';
import type { DecisionContext } from './decision-context.js';
import type { PlayProgram } from './play-program.js';
import { Situation } from './situation.js';

/** Asks the function that decides for a player, and leaves in memory what it has chosen. */
export class Deciding {
  readonly #situation: Situation;

  constructor(
    private readonly form: Form,
    private readonly meeting: Meeting,
    private readonly made: PlayProgram,
    private readonly memory: Float64Array,
  ) {
    this.#situation = new Situation(form, made, memory);
  }

  /** Which of the pieces that wait the player turns to. */
  turn(): void {
    const waiting = this.#situation
      .waiting()
      .map(({ piece, missedIn, at }) => ({ piece: this.form.pieces[piece]!.name, missedIn, at }));
    const told = waiting.map(({ piece, missedIn }) => ({ piece, missedIn }));
    const name = this.meeting.decide!(this.#context(told, []));
    const found = waiting.find(({ piece }) => piece === name);
    if (name !== undefined && found === undefined)
      throw this.#wrong(
        name,
        waiting.map(({ piece }) => piece),
      );
    this.#situation.choose(found?.at ?? -1);
  }

  /** Which input the player sends on a screen that is not live. */
  decide(): void {
    const screen = this.memory[this.form.cells.screen]!;
    const events = this.meeting.inputs[screen]!;
    const names = events.map((event) => this.form.events[event]!.name);
    const name = this.meeting.decide!(this.#context([], names));
    const index = name === undefined ? -1 : names.indexOf(name);
    if (name !== undefined && index < 0) throw this.#wrong(name, names);
    this.#situation.send(events[index] ?? -1);
  }

  #context(waiting: DecisionContext['waiting'], inputs: readonly string[]): DecisionContext {
    const { form, memory } = this;
    const screen = form.design.screens[memory[form.cells.screen]!]!;
    return {
      screen: screen.name,
      isLive: screen.live,
      time: memory[form.cells.now]!,
      runsEnded: this.#situation.cell(this.made.accounting.ended),
      level: memory[form.cells.level]! + 1,
      counters: Object.fromEntries(
        form.counters.map((counter, index) => [
          counter.name,
          fromCell(counter, memory[form.cells.counters + index]!),
        ]),
      ),
      waiting,
      inputs,
    };
  }

  #wrong(chosen: string, names: readonly string[]): UsageError {
    const { name } = this.meeting.player;
    const allowed = names.length === 0 ? 'nothing' : [...new Set(names)].join(', ');
    return new UsageError(
      'bad-world',
      `The player ${name} chose "${chosen}"; there is ${allowed} to choose. Return one of these, or undefined to wait.`,
    );
  }
}
