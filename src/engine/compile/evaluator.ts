import type { GameForm, Term } from '../program/form.js';
import { levelOf } from '../program/form.js';
import { applyFunction, applyOperator } from '../program/lower-expression.js';

/** One part of a term, always of the same shape so that the walk below stays quick. */
interface Node {
  readonly op: number;
  /** A constant, a cell, a piece, or the index of a table. */
  readonly at: number;
  readonly left: Node | undefined;
  readonly right: Node | undefined;
  readonly parts: readonly Node[];
  readonly term: Term;
}

const ops = {
  constant: 0,
  cell: 1,
  level: 2,
  lastLevel: 3,
  levelValue: 4,
  timer: 5,
  left: 6,
  sum: 7,
  not: 8,
  negative: 9,
  and: 10,
  or: 11,
  '==': 12,
  '>=': 13,
  '<=': 14,
  '>': 15,
  '<': 16,
  '+': 17,
  '*': 18,
  binary: 19,
  choose: 20,
  call: 21,
} as const;

const node = (op: number, term: Term, at = 0, parts: readonly Node[] = []): Node => ({
  op,
  at,
  left: parts[0],
  right: parts[1],
  parts,
  term,
});

/** Works out terms over the cells of a session by walking them: what does not run as generated code uses this. */
export class Terms {
  readonly #nodes: Node[] = [];

  constructor(
    private readonly form: GameForm,
    private readonly cells: Float64Array,
  ) {}

  /** The number by which `value` knows a term. */
  add(term: Term): number {
    this.#nodes.push(this.#node(term));
    return this.#nodes.length - 1;
  }

  /** The value of a term; truth values are 1 and 0. */
  value(index: number): number {
    return this.#side(this.#nodes[index]!);
  }

  #node(term: Term): Node {
    const { cells } = this.form;
    switch (term.op) {
      case 'constant':
      case 'dial':
        return node(ops.constant, term, term.value);
      case 'truth':
        return node(ops.constant, term, term.value ? 1 : 0);
      case 'counter':
        return node(ops.cell, term, cells.counters + term.counter);
      case 'level':
      case 'lastLevel':
        return node(ops[term.op], term);
      case 'course':
        return cells.courseLength === 0 ? node(ops.constant, term) : node(ops.cell, term, cells.course);
      case 'levelValue':
        return node(ops.levelValue, term, term.table);
      case 'timer':
        return node(ops.timer, term, term.timer);
      case 'present':
        return this.#sum(
          term,
          term.pieces.map((piece) => node(ops.cell, term, cells.present + piece)),
        );
      case 'left':
        return this.#sum(
          term,
          term.pieces.map((piece) => node(ops.left, term, piece)),
        );
      case 'not':
      case 'negative':
        return node(ops[term.op], term, 0, [this.#node(term.of)]);
      case 'binary': {
        const known = Object.hasOwn(ops, term.operator) ? ops[term.operator as 'and'] : ops.binary;
        return node(known, term, 0, [this.#node(term.left), this.#node(term.right)]);
      }
      case 'choose':
        return node(ops.choose, term, 0, [this.#node(term.yes), this.#node(term.no), this.#node(term.test)]);
      case 'call':
        return node(
          ops.call,
          term,
          0,
          term.of.map((part) => this.#node(part)),
        );
    }
  }

  #sum(term: Term, parts: readonly Node[]): Node {
    return parts.length === 1 ? parts[0]! : node(ops.sum, term, 0, parts);
  }

  /** Most sides are a counter or a constant, which need no walk. */
  #side(node: Node): number {
    if (node.op === ops.cell) return this.cells[node.at]!;
    return node.op === ops.constant ? node.at : this.#walk(node);
  }

  #walk(node: Node): number {
    const { cells, form } = this;
    switch (node.op) {
      case ops.constant:
        return node.at;
      case ops.cell:
        return cells[node.at]!;
      case ops.level:
        return cells[form.cells.level]! + 1;
      case ops.lastLevel:
        return !form.endless && cells[form.cells.level] === form.levels.length - 1 ? 1 : 0;
      case ops.levelValue:
        return form.levelTables[node.at]![Math.min(cells[form.cells.level]!, form.levels.length - 1)]!;
      case ops.timer: {
        const due = cells[form.cells.timers + node.at]!;
        const now = cells[form.timers[node.at]!.clockCell]!;
        return due === Number.POSITIVE_INFINITY ? 0 : (due - now) / 1000;
      }
      case ops.left:
        return cells[form.cells.present + node.at]! + this.#toCome(node.at);
      case ops.sum: {
        let sum = 0;
        for (const part of node.parts) sum += this.#side(part);
        return sum;
      }
      case ops.not:
        return this.#side(node.left!) === 0 ? 1 : 0;
      case ops.negative:
        return -this.#side(node.left!);
      case ops.and:
        return this.#side(node.left!) !== 0 && this.#side(node.right!) !== 0 ? 1 : 0;
      case ops.or:
        return this.#side(node.left!) !== 0 || this.#side(node.right!) !== 0 ? 1 : 0;
      case ops['==']:
        return this.#side(node.left!) === this.#side(node.right!) ? 1 : 0;
      case ops['>=']:
        return this.#side(node.left!) >= this.#side(node.right!) ? 1 : 0;
      case ops['<=']:
        return this.#side(node.left!) <= this.#side(node.right!) ? 1 : 0;
      case ops['>']:
        return this.#side(node.left!) > this.#side(node.right!) ? 1 : 0;
      case ops['<']:
        return this.#side(node.left!) < this.#side(node.right!) ? 1 : 0;
      case ops['+']:
        return this.#side(node.left!) + this.#side(node.right!);
      case ops['*']:
        return this.#side(node.left!) * this.#side(node.right!);
      case ops.choose:
        return this.#side(node.parts[2]!) !== 0 ? this.#side(node.left!) : this.#side(node.right!);
      default: {
        const { term } = node;
        if (term.op === 'binary')
          return applyOperator(term.operator, this.#side(node.left!), this.#side(node.right!));
        return applyFunction(
          (term as { name: 'min' }).name,
          node.parts.map((part) => this.#side(part)),
        );
      }
    }
  }

  #toCome(piece: number): number {
    const { cells, form } = this;
    let coming = 0;
    levelOf(form, cells).spawns.forEach((spawn, slot) => {
      if (spawn.piece === piece) coming += spawn.total - cells[form.cells.spawnMade + slot]!;
    });
    return coming;
  }
}
