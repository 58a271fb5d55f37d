// One class with a method for each kind of statement and of value, as `print.ts` has them.

import {
  type Code,
  constant,
  type Label,
  type Local,
  type Operator,
  type Program,
  splitKinds,
  type Table,
  type Value,
} from './representation.js';

/**
 * What one instruction of a flattened program does: its number, then three operands, which are places in memory, or where to go. The loop of
 * `interpret.ts` spells the numbers out, so that it becomes a jump table.
 */
const instructions = {
  copy: 0,
  '+': 1,
  '-': 2,
  '*': 3,
  '/': 4,
  '%': 5,
  jump: 6,
  unless: 7,
  provided: 8,
  'unless <': 9,
  'unless <=': 10,
  'unless ==': 11,
  'provided <': 12,
  'provided <=': 13,
  'provided ==': 14,
  'bit or': 15,
  'bit and': 16,
  'shift left': 17,
  'shift right': 18,
  negative: 19,
  min: 20,
  max: 21,
  abs: 22,
  floor: 23,
  ceil: 24,
  round: 25,
  load: 26,
  store: 27,
  switch: 28,
  draw: 29,
  push: 30,
  pop: 31,
  'unless pending': 32,
  rewind: 33,
  tell: 34,
  call: 35,
  return: 36,
} as const;

/** A program as numbers. */
export interface Flat {
  readonly code: Int32Array;
  /** What stands in memory after the program's slots: constants and tables. */
  readonly constants: Float64Array;
  /** Places in memory in all: slots, constants, tables, and the variables of every function. */
  readonly size: number;
  /** What is called outside, by the number of its instruction. */
  readonly hosts: readonly string[];
  readonly functions: ReadonlyMap<string, { readonly entry: number; readonly parameters: readonly number[] }>;
  /** Where in memory a function leaves what it gives. */
  readonly result: number;
}

/** A place in the code that is not known yet when it is jumped to. */
interface Target {
  at: number;
  readonly from: number[];
}

const target = (): Target => ({ at: -1, from: [] });

/** No function calls itself, so that every one has its own places in memory. */
export function flatten(program: Program): Flat {
  return new Flattener(program).whole();
}

class Flattener {
  readonly #code: number[] = [];
  readonly #constants: number[] = [];
  readonly #constantAt = new Map<string, number>();
  readonly #tableAt = new Map<Table, number>();
  readonly #localAt = new Map<Local, number>();
  readonly #labels = new Map<Label, { readonly again: Target; readonly end: Target }>();
  readonly #hosts: string[] = [];
  readonly #functions = new Map<string, { readonly parameters: readonly number[]; readonly entry: Target }>();
  /** Variables are numbered from -1 down, and moved behind the constants once these are known. */
  #variables = 0;
  readonly #result = this.#variable();

  constructor(private readonly program: Program) {}

  whole(): Flat {
    for (const [name, { parameters }] of this.program.functions) {
      const places = parameters.map((parameter) => this.#place(parameter));
      this.#functions.set(name, { parameters: places, entry: target() });
    }
    for (const [name, { body }] of this.program.functions) {
      this.#land(this.#functions.get(name)!.entry);
      this.#statements(body);
      this.#emit('return');
    }
    const first = this.program.slots + this.#constants.length;
    const moved = (place: number): number => (place < 0 ? first - 1 - place : place);
    const code = Int32Array.from(this.#code);
    for (const at of this.#operands) code[at] = moved(code[at]!);
    return {
      code,
      constants: Float64Array.from(this.#constants),
      size: first + this.#variables,
      hosts: this.#hosts,
      functions: new Map(
        [...this.#functions].map(([name, { parameters, entry }]) => [
          name,
          { entry: entry.at, parameters: parameters.map(moved) },
        ]),
      ),
      result: moved(this.#result),
    };
  }

  /** Where operands that are places in memory stand in the code. */
  readonly #operands: number[] = [];

  #variable(): number {
    this.#variables++;
    return -this.#variables;
  }

  #place(of: Local): number {
    const known = this.#localAt.get(of);
    if (known !== undefined) return known;
    const made = this.#variable();
    this.#localAt.set(of, made);
    return made;
  }

  #constant(value: number): number {
    const key = Object.is(value, -0) ? '-0' : String(value);
    const known = this.#constantAt.get(key);
    if (known !== undefined) return known;
    const made = this.program.slots + this.#constants.push(value) - 1;
    this.#constantAt.set(key, made);
    return made;
  }

  #table(table: Table): number {
    const known = this.#tableAt.get(table);
    if (known !== undefined) return known;
    const made = this.program.slots + this.#constants.length;
    for (const value of table.values) this.#constants.push(value);
    this.#tableAt.set(table, made);
    return made;
  }

  /** An instruction whose operands are places in memory. */
  #emit(name: keyof typeof instructions, ...places: readonly number[]): void {
    this.#code.push(instructions[name]);
    for (let index = 0; index < 3; index++) {
      if (index < places.length) this.#operands.push(this.#code.length);
      this.#code.push(places[index] ?? 0);
    }
  }

  /** An instruction with operands that are numbers of some other kind, from one place on. */
  #emitWith(name: keyof typeof instructions, places: readonly number[], plain: readonly number[]): void {
    this.#emit(name, ...places);
    plain.forEach((value, index) => {
      this.#code[this.#code.length - 3 + places.length + index] = value;
    });
  }

  #jump(name: keyof typeof instructions, places: readonly number[], to: Target): void {
    this.#emit(name, ...places);
    this.#goTo(this.#code.length - 3 + places.length, to);
  }

  #goTo(operand: number, to: Target): void {
    if (to.at >= 0) this.#code[operand] = to.at;
    else to.from.push(operand);
  }

  #land(to: Target): void {
    to.at = this.#code.length;
    for (const operand of to.from) this.#code[operand] = to.at;
  }

  #statements(code: Code): void {
    for (const statement of code) this.#statement(statement);
  }

  #statement(statement: Code[number]): void {
    switch (statement.op) {
      case 'set': {
        const { slot } = statement;
        if (slot.op === 'slot') this.#into(slot.slot, statement.value);
        else {
          const at = this.#value(slot.at);
          const value = this.#value(statement.value);
          this.#emit('store', 0, at, value);
          this.#plain(slot.base);
        }
        return;
      }
      case 'let':
      case 'assign':
        this.#into(this.#place(statement.local), statement.value);
        return;
      case 'if': {
        const [otherwise, end] = [target(), target()];
        this.#unless(statement.test, otherwise);
        this.#statements(statement.body);
        if (statement.otherwise.length > 0) this.#jump('jump', [], end);
        this.#land(otherwise);
        this.#statements(statement.otherwise);
        this.#land(end);
        return;
      }
      case 'switch':
        this.#switch(statement);
        return;
      case 'loop': {
        const places = { again: target(), end: target() };
        this.#labels.set(statement.label, places);
        this.#land(places.again);
        this.#statements(statement.body);
        this.#jump('jump', [], places.again);
        this.#land(places.end);
        return;
      }
      case 'count': {
        const [again, test] = [target(), target()];
        const at = this.#place(statement.local);
        this.#into(at, statement.from);
        this.#jump('jump', [], test);
        this.#land(again);
        this.#statements(statement.body);
        this.#emit('+', at, at, this.#constant(1));
        this.#land(test);
        this.#jump('provided <', [at, this.#value(statement.to)], again);
        return;
      }
      case 'break':
      case 'continue': {
        const { again, end } = this.#labels.get(statement.label)!;
        this.#jump('jump', [], statement.op === 'break' ? end : again);
        return;
      }
      case 'check': {
        const holds = target();
        this.#provided(statement.holds, holds);
        this.#tell(`host.${statement.fault}`, statement.of);
        this.#land(holds);
        return;
      }
      case 'push':
        this.#emit('push', this.#value(statement.event));
        return;
      case 'rewind':
        this.#emit('rewind');
        return;
      case 'tell':
        this.#tell(statement.name, statement.of);
        return;
      case 'do':
        this.#call(statement.name, statement.of);
        return;
      case 'return':
        if (statement.value !== undefined) this.#into(this.#result, statement.value);
        this.#emit('return');
    }
  }

  /** The first operand of the instruction written last is a number, not a place that may be moved. */
  #plain(value: number): void {
    this.#code[this.#code.length - 3] = value;
  }

  #switch({ on, cases, otherwise }: Extract<Code[number], { op: 'switch' }>): void {
    const value = this.#value(on);
    const all = cases.flatMap(({ of }) => of);
    const least = Math.min(...all);
    const range = Math.max(...all) - least + 1;
    const [none, end] = [target(), target()];
    this.#emitWith('switch', [value], [least, range]);
    const first = this.#code.length;
    for (let index = 0; index <= range; index++) this.#code.push(0);
    const open = new Set(Array.from({ length: range + 1 }, (_, index) => index));
    for (const { of, body } of cases) {
      for (const each of of) {
        this.#code[first + each - least] = this.#code.length;
        open.delete(each - least);
      }
      this.#statements(body);
      this.#jump('jump', [], end);
    }
    for (const index of open) this.#goTo(first + index, none);
    this.#land(none);
    this.#statements(otherwise);
    this.#land(end);
  }

  /** Arguments of what is called outside stand one after the other. */
  #tell(name: string, of: readonly Value[]): void {
    let host = this.#hosts.indexOf(name);
    if (host < 0) host = this.#hosts.push(name) - 1;
    const places = of.map(() => this.#variable());
    of.forEach((value, index) => {
      this.#into(places[index]!, value);
    });
    this.#emit('tell', 0, places[0] ?? this.#result);
    this.#code[this.#code.length - 3] = host;
    this.#code[this.#code.length - 1] = of.length;
  }

  #call(name: string, of: readonly Value[]): void {
    const { parameters, entry } = this.#functions.get(name)!;
    const places = of.map((value) => this.#value(value));
    parameters.forEach((parameter, index) => {
      this.#emit('copy', parameter, places[index]!);
    });
    this.#jump('call', [], entry);
  }

  /** The place where a value stands. */
  #value(value: Value): number {
    switch (value.op) {
      case 'constant':
        return this.#constant(value.value);
      case 'dial':
        return this.#constant(value.value);
      case 'truth':
        return this.#constant(value.value ? 1 : 0);
      case 'never':
        return this.#constant(Number.POSITIVE_INFINITY);
      case 'slot':
        return value.slot;
      case 'local':
        return this.#place(value.local);
      default: {
        const made = this.#variable();
        this.#into(made, value);
        return made;
      }
    }
  }

  #into(to: number, value: Value): void {
    switch (value.op) {
      case 'slotAt':
        this.#load(to, value.base, value.at);
        return;
      case 'table':
        this.#load(to, this.#table(value.table), value.at);
        return;
      case 'negative':
        this.#emit('negative', to, this.#value(value.of));
        return;
      case 'binary': {
        if (value.operator in instructions) {
          this.#emit(value.operator as '+', to, this.#value(value.left), this.#value(value.right));
          return;
        }
        this.#choose(to, value, { op: 'constant', value: 1 }, { op: 'constant', value: 0 });
        return;
      }
      case 'not':
      case 'pending':
        this.#choose(to, value, { op: 'constant', value: 1 }, { op: 'constant', value: 0 });
        return;
      case 'choose':
        this.#choose(to, value.test, value.yes, value.no);
        return;
      case 'call': {
        const [first, ...others] = value.of.map((part) => this.#value(part));
        if (others.length === 0) {
          this.#emit(value.name === 'min' || value.name === 'max' ? 'copy' : value.name, to, first!);
          return;
        }
        const sum = others.length === 1 ? to : this.#variable();
        others.reduce((left, right, index) => {
          const into = index === others.length - 1 ? to : sum;
          this.#emit(value.name, into, left, right);
          return into;
        }, first!);
        return;
      }
      case 'draw':
        if (this.program.tellsSplits === true && value.split !== undefined)
          this.#tell('host.splits', [constant(splitKinds[value.split.kind]), ...value.split.of]);
        this.#emit('draw', to, this.#value(value.place));
        return;
      case 'ask':
        this.#call(value.name, value.of);
        this.#emit('copy', to, this.#result);
        return;
      case 'pop':
        this.#emit('pop', to);
        return;
      default:
        this.#emit('copy', to, this.#value(value));
    }
  }

  #load(to: number, base: number, at: Value): void {
    const index = this.#value(at);
    this.#emitWith('load', [to], [base]);
    this.#operands.push(this.#code.length - 1);
    this.#code[this.#code.length - 1] = index;
  }

  #choose(to: number, test: Value, yes: Value, no: Value): void {
    const [otherwise, end] = [target(), target()];
    this.#unless(test, otherwise);
    this.#into(to, yes);
    this.#jump('jump', [], end);
    this.#land(otherwise);
    this.#into(to, no);
    this.#land(end);
  }

  /** Goes to a place in the code unless a truth holds. */
  #unless(test: Value, to: Target): void {
    switch (test.op) {
      case 'truth':
        if (!test.value) this.#jump('jump', [], to);
        return;
      case 'not':
        this.#provided(test.of, to);
        return;
      case 'pending':
        this.#jump('unless pending', [], to);
        return;
      case 'binary':
        if (test.operator === 'and') {
          this.#unless(test.left, to);
          this.#unless(test.right, to);
          return;
        }
        if (test.operator === 'or') {
          const holds = target();
          this.#provided(test.left, holds);
          this.#unless(test.right, to);
          this.#land(holds);
          return;
        }
        if (this.#compare('unless', test.operator, test.left, test.right, to)) return;
    }
    this.#jump('unless', [this.#value(test)], to);
  }

  /** Goes to a place in the code provided that a truth holds. */
  #provided(test: Value, to: Target): void {
    switch (test.op) {
      case 'truth':
        if (test.value) this.#jump('jump', [], to);
        return;
      case 'not':
        this.#unless(test.of, to);
        return;
      case 'binary':
        if (test.operator === 'or') {
          this.#provided(test.left, to);
          this.#provided(test.right, to);
          return;
        }
        if (test.operator === 'and') {
          const fails = target();
          this.#unless(test.left, fails);
          this.#provided(test.right, to);
          this.#land(fails);
          return;
        }
        if (this.#compare('provided', test.operator, test.left, test.right, to)) return;
    }
    this.#jump('provided', [this.#value(test)], to);
  }

  #compare(way: 'unless' | 'provided', operator: Operator, left: Value, right: Value, to: Target): boolean {
    const other = way === 'unless' ? 'provided' : 'unless';
    const places = (): number[] => [this.#value(left), this.#value(right)];
    switch (operator) {
      case '<':
      case '<=':
      case '==':
        this.#jump(`${way} ${operator}`, places(), to);
        return true;
      case '!=':
        this.#jump(`${other} ==`, places(), to);
        return true;
      case '>':
      case '>=':
        this.#jump(`${way} ${operator === '>' ? '<' : '<='}`, places().reverse(), to);
        return true;
      default:
        return false;
    }
  }
}
