import { interpreter, memoryOf } from '../compile/interpret.js';
import { give, type Program } from '../compile/representation.js';
import { Build } from '../program/build/build.js';
import { term } from '../program/build/expressions.js';
import type { Form, Term } from '../program/form.js';

/** Works out values of a form that no session of it shows: those that somebody asks about a state. */
export class Evaluator {
  readonly #terms: Term[] = [];
  #functions: Readonly<Record<string, () => number>> | undefined;
  #memory = new Float64Array(0);

  constructor(
    private readonly form: Form,
    private readonly cells: Float64Array,
  ) {}

  /** The number by which `value` knows a term. */
  add(of: Term): number {
    this.#functions = undefined;
    return this.#terms.push(of) - 1;
  }

  /** The value of a term over the cells as they are now; truth values are 1 and 0. */
  value(index: number): number {
    this.#functions ??= this.#build();
    this.#memory.set(this.cells);
    return this.#functions[`value${index}`]!();
  }

  #build(): Readonly<Record<string, () => number>> {
    const build = new Build(this.form, {});
    const functions = new Map(
      this.#terms.map((each, index) => [
        `value${index}`,
        { parameters: [], body: [give(term(build, each))] },
      ]),
    );
    const program: Program = {
      slots: this.cells.length,
      functions: new Map([...functions, ...build.functions]),
      asked: this.form.cells.asked,
    };
    this.#memory = new Float64Array(memoryOf(program));
    return interpreter(program, this.#memory, () => 0, {});
  }
}
