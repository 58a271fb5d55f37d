// One class: statements and values are printed by functions that call each other and share the names that are taken.

import {
  type Code,
  type FunctionCode,
  type Label,
  type Local,
  type Operator,
  type Program,
  splitKinds,
  type Table,
  type Value,
} from './representation.js';
import { fewParts, isFixed } from './spelled-apart.js';

/** How printed code spells what lies outside its own variables. */
export interface Spelling {
  slot(slot: number): string;
  slotAt(base: number, at: string): string;
  /** The number of a moment that never comes. */
  readonly never: string;
  /** A dial that is read where the code runs; where this is not given, its value is written. */
  readonly dial?: (dial: number) => string;
  /** Asks a place for its next draw; `constant` is the place where it is known. */
  draw(place: string, constant: number | undefined): string;
  /** Which of fewer than 2^16 equal parts a draw falls into. */
  readonly nth?: (drawn: string, choices: string) => string;
  /** The name of a value that is the same all through a session, from its text; what is left out is worked out where it stands. */
  readonly fixed?: (text: string) => string;
  /** Tells the host how the draw that comes next is told apart; where this is not given, nobody is told. */
  readonly splits?: (kind: number, of: string) => string;
}

/**
 * Prints a program as JavaScript. Names are those of the builders of programs, numbered where they would clash; no text of a design
 * ever reaches it, only integers.
 */
export class Printer {
  readonly #tables = new Map<Table, string>();
  readonly #names = new Map<object, string>();
  #taken = new Set<string>();
  /** The names that were given since the function began, innermost block last. */
  readonly #given: string[] = [];
  #usesQueue = false;
  /** `spelling.fixed` while the bare function is printed, which is all that sees the names. */
  #fixed: Spelling['fixed'];

  /** @param names those that the surroundings of the code have taken */
  constructor(
    private readonly spelling: Spelling,
    private readonly names: readonly string[] = [],
  ) {}

  /** Each function as a declaration. */
  functions({ functions }: Program): string {
    return [...functions].map(([name, code]) => this.#function(name, code)).join('\n');
  }

  /** Declarations of the tables that what was printed so far reads. */
  tables(): string {
    return [...this.#tables].map(([{ values }, name]) => `const ${name} = ${listed(values)};`).join('\n');
  }

  /** The bare body of one function, and every other as a declaration, by name. */
  each({ functions }: Program, bare: string): { readonly [name: string]: string } {
    return Object.fromEntries(
      [...functions].map(([name, code]) => {
        this.#fixed = name === bare ? this.spelling.fixed : undefined;
        return [name, name === bare ? this.#body(code) : this.#function(name, code)];
      }),
    );
  }

  #function(name: string, code: FunctionCode): string {
    const body = this.#body(code);
    const given = code.parameters.map((parameter) => this.#name(parameter)).join(', ');
    return `function ${name}(${given}) {\n${body}}`;
  }

  #body({ parameters, body }: FunctionCode): string {
    this.begin();
    this.#usesQueue = false;
    for (const parameter of parameters) this.#name(parameter);
    const text = this.code(body);
    return `${this.#usesQueue ? 'let head = 0, tail = 0;\n' : ''}${text}`;
  }

  /** What follows is printed in a scope of its own. */
  begin(): void {
    this.#names.clear();
    this.#given.length = 0;
    this.#taken = new Set([...reserved, ...this.names]);
  }

  /** A variable that the surroundings of the code declare keeps its name. */
  keep(of: Local): void {
    this.#taken.add(of.name);
    this.#names.set(of, of.name);
  }

  code(code: Code): string {
    return code.map((statement) => this.#statement(statement)).join('');
  }

  /** The inside of a block: what it declares is nobody's name after it. */
  #block(code: Code): string {
    const outside = this.#given.length;
    const text = this.code(code);
    for (const name of this.#given.splice(outside)) this.#taken.delete(name);
    return text;
  }

  #statement(statement: Code[number]): string {
    switch (statement.op) {
      case 'set':
        return this.#set(this.value(statement.slot), statement.value, statement.slot);
      case 'let':
        return `let ${this.#name(statement.local)} = ${this.value(statement.value)};\n`;
      case 'assign':
        return `${this.#name(statement.local)} = ${this.value(statement.value)};\n`;
      case 'if':
        return this.#if(statement);
      case 'switch': {
        const alike = new Map<string, number[]>();
        for (const { of, body } of statement.cases) {
          const text = this.#block(body);
          alike.set(text, [...(alike.get(text) ?? []), ...of]);
        }
        const cases = [...alike].map(
          ([text, of]) => `${of.map((each) => `case ${each}:`).join(' ')} {\n${text}break; }\n`,
        );
        const otherwise =
          statement.otherwise.length === 0 ? '' : `default: {\n${this.#block(statement.otherwise)}}\n`;
        return `switch (${this.value(statement.on)}) {\n${cases.join('')}${otherwise}}\n`;
      }
      case 'loop':
        return `${this.#name(statement.label)}: for (;;) {\n${this.#block(statement.body)}}\n`;
      case 'count': {
        const name = this.#name(statement.local);
        return `for (let ${name} = ${this.value(statement.from)}; ${name} < ${this.value(statement.to)}; ${name}++) {\n${this.#block(statement.body)}}\n`;
      }
      case 'break':
      case 'continue':
        return `${statement.op} ${this.#name(statement.label)};\n`;
      case 'check':
        return `if (!${this.#inner(statement.holds)}) host.${statement.fault}(${this.#list(statement.of)});\n`;
      case 'push':
        return `queue[tail++] = ${this.value(statement.event)};\n`;
      case 'rewind':
        this.#usesQueue = true;
        return 'head = tail = 0;\n';
      case 'tell':
      case 'do':
        return `${statement.name}(${this.#list(statement.of)});\n`;
      case 'return':
        return statement.value === undefined ? 'return;\n' : `return ${this.value(statement.value)};\n`;
    }
  }

  #if({ test, body, otherwise }: Extract<Code[number], { op: 'if' }>): string {
    const head = `if (${this.value(test)}) {\n${this.#block(body)}}`;
    if (otherwise.length === 0) return `${head}\n`;
    const [only] = otherwise;
    if (otherwise.length === 1 && only!.op === 'if') return `${head} else ${this.#if(only!)}`;
    return `${head} else {\n${this.#block(otherwise)}}\n`;
  }

  /** One more or less of a slot is written so, which keeps long programs short. */
  #set(to: string, value: Value, slot: Value): string {
    if (value.op === 'binary' && value.operator === '+' && value.left === slot) {
      const { right } = value;
      if (right.op === 'constant' && Math.abs(right.value) === 1)
        return `${to}${right.value > 0 ? '++' : '--'};\n`;
      return `${to} += ${this.value(right)};\n`;
    }
    return `${to} = ${this.value(value)};\n`;
  }

  #list(values: readonly Value[]): string {
    return values.map((value) => this.value(value)).join(', ');
  }

  value(value: Value): string {
    const fixed = this.#fixed;
    const isWorkedOut = value.op === 'binary' || value.op === 'choose' || value.op === 'call';
    if (fixed === undefined || !isWorkedOut || !isFixed(value)) return this.#text(value);
    // Its parts need no names.
    this.#fixed = undefined;
    const text = this.#text(value);
    this.#fixed = fixed;
    return fixed(text);
  }

  #text(value: Value): string {
    const { spelling } = this;
    switch (value.op) {
      case 'constant':
        return written(value.value);
      case 'truth':
        return String(value.value);
      case 'never':
        return spelling.never;
      case 'dial':
        return spelling.dial?.(value.dial) ?? written(value.value);
      case 'slot':
        return spelling.slot(value.slot);
      case 'slotAt':
        return spelling.slotAt(value.base, this.#inner(value.at));
      case 'local':
        return this.#name(value.local);
      case 'table':
        return `${this.#table(value.table)}[${this.value(value.at)}]`;
      case 'negative':
        return `-${this.#inner(value.of)}`;
      case 'not':
        return `!${this.#inner(value.of)}`;
      case 'binary':
        return `${this.#inner(value.left)} ${operatorText[value.operator]} ${this.#inner(value.right)}`;
      case 'choose':
        return `${this.#inner(value.test)} ? ${this.#inner(value.yes)} : ${this.#inner(value.no)}`;
      case 'call': {
        const parts = spelling.nth && fewParts(value);
        if (parts !== undefined) return spelling.nth!(this.value(parts.drawn), this.value(parts.choices));
        return value.name === 'round'
          ? `Math.round(${this.#list(value.of)}) + 0`
          : `Math.${value.name}(${this.#list(value.of)})`;
      }
      case 'draw': {
        const { place, split } = value;
        const drawn = spelling.draw(this.#inner(place), place.op === 'constant' ? place.value : undefined);
        if (spelling.splits === undefined || split === undefined) return drawn;
        return `(${spelling.splits(splitKinds[split.kind], this.#list(split.of))}, ${drawn})`;
      }
      case 'ask':
        return `${value.name}(${this.#list(value.of)})`;
      case 'pending':
        return 'head !== tail';
      case 'pop':
        return 'queue[head++]';
    }
  }

  /** As an operand of something else. */
  #inner(value: Value): string {
    const isCompound =
      value.op === 'binary' ||
      value.op === 'choose' ||
      value.op === 'negative' ||
      value.op === 'pending' ||
      (value.op === 'call' && value.name === 'round');
    return isCompound ? `(${this.value(value)})` : this.value(value);
  }

  #table(table: Table): string {
    const known = this.#tables.get(table);
    if (known !== undefined) return known;
    let name = `${table.name}Of`;
    const taken = new Set(this.#tables.values());
    for (let number = 2; taken.has(name); number++) name = `${table.name}Of${number}`;
    this.#tables.set(table, name);
    return name;
  }

  #name(of: Local | Label): string {
    const known = this.#names.get(of);
    if (known !== undefined) return known;
    let name = of.name;
    for (let number = 2; this.#taken.has(name); number++) name = `${of.name}${number}`;
    this.#taken.add(name);
    this.#given.push(name);
    this.#names.set(of, name);
    return name;
  }
}

/** Words of the language, and names that the surroundings of printed code give. */
const reserved = [
  ...['default', 'case', 'break', 'continue', 'return', 'function', 'let', 'const', 'new', 'in', 'of', 'for'],
  ...['queue', 'head', 'tail', 'host', 'probe', 'log', 'player', 'cells', 'Math'],
];

/** Numbers that fit 32 bits are read fastest from an array that holds no others. */
const listed = (values: readonly number[]): string => {
  const isSmall = values.every((value) => (value | 0) === value && !Object.is(value, -0));
  return isSmall ? `new Int32Array([${values}])` : `[${values.map(written)}]`;
};

/** A number as JavaScript text; `String` loses the sign of a zero. */
const written = (value: number): string =>
  Object.is(value, -0) ? '(-0)' : value < 0 ? `(${value})` : String(value);

const operatorText: Readonly<Record<Operator, string>> = {
  '+': '+',
  '-': '-',
  '*': '*',
  '/': '/',
  '%': '%',
  '<': '<',
  '<=': '<=',
  '>': '>',
  '>=': '>=',
  '==': '===',
  '!=': '!==',
  and: '&&',
  or: '||',
  'bit or': '|',
  'bit and': '&',
  'shift left': '<<',
  'shift right': '>>',
};
