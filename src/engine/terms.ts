import type { BinaryOperator, FunctionName } from '../design/expression.js';
import type { Form, Term } from './form.js';
import { applyFunction, applyOperator } from './lower-expression.js';

const operators: readonly BinaryOperator[] = ['+', '-', '*', '/', '%', '<', '<=', '>', '>=', '==', '!=', 'and', 'or'];
const functions: readonly FunctionName[] = ['min', 'max', 'abs', 'floor', 'ceil', 'round'];

/** Instructions of a term in postfix order. Each stands with two operands, so that a term is read in steps of three. */
const enum Op {
  End,
  Constant,
  Cell,
  Level,
  LastLevel,
  LevelValue,
  Left,
  Timer,
  Negative,
  Not,
  Binary,
  Choose,
  Call,
}

/** Terms as postfix code over one small stack. */
export class Terms {
  /** `[op, a, b]` for each instruction. */
  #code: number[] = [];
  readonly #stack: number[] = [];

  constructor(
    private readonly form: Form,
    private readonly cells: Float64Array,
  ) {}

  /** Where the code of a term begins. */
  add(term: Term): number {
    const start = this.#code.length;
    this.#push(term);
    this.#code.push(Op.End, 0, 0);
    return start;
  }

  #push(term: Term): void {
    const { cells } = this.form;
    const emit = (op: Op, a = 0, b = 0): void => {
      this.#code.push(op, a, b);
    };
    switch (term.op) {
      case 'constant':
        return emit(Op.Constant, term.value);
      case 'truth':
        return emit(Op.Constant, term.value ? 1 : 0);
      case 'counter':
        return emit(Op.Cell, cells.counters + term.counter);
      case 'level':
        return emit(Op.Level);
      case 'lastLevel':
        return emit(Op.LastLevel);
      case 'levelValue':
        return emit(Op.LevelValue, term.table);
      case 'present':
      case 'left':
        term.pieces.forEach((piece, index) => {
          if (term.op === 'left') emit(Op.Left, piece);
          else emit(Op.Cell, cells.present + piece);
          if (index > 0) emit(Op.Binary, operators.indexOf('+'));
        });
        return;
      case 'timer':
        return emit(Op.Timer, cells.timers + term.timer);
      case 'negative':
      case 'not':
        this.#push(term.of);
        return emit(term.op === 'not' ? Op.Not : Op.Negative);
      case 'binary':
        this.#push(term.left);
        this.#push(term.right);
        return emit(Op.Binary, operators.indexOf(term.operator));
      case 'choose':
        this.#push(term.test);
        this.#push(term.yes);
        this.#push(term.no);
        return emit(Op.Choose);
      case 'call':
        for (const part of term.of) this.#push(part);
        return emit(Op.Call, functions.indexOf(term.name), term.of.length);
    }
  }

  /** The value of a term; truth values are 1 and 0. */
  value(start: number): number {
    const code = this.#code;
    const stack = this.#stack;
    const { cells, form } = this;
    let top = -1;
    for (let at = start; ; at += 3) {
      const a = code[at + 1]!;
      switch (code[at] as Op) {
        case Op.End:
          return stack[0]!;
        case Op.Constant:
          stack[++top] = a;
          break;
        case Op.Cell:
          stack[++top] = cells[a]!;
          break;
        case Op.Level:
          stack[++top] = cells[form.cells.level]! + 1;
          break;
        case Op.LastLevel:
          stack[++top] = cells[form.cells.level] === form.levels.length - 1 ? 1 : 0;
          break;
        case Op.LevelValue:
          stack[++top] = form.levelTables[a]![cells[form.cells.level]!]!;
          break;
        case Op.Left:
          stack[++top] = cells[form.cells.present + a]! + this.#toCome(a);
          break;
        case Op.Timer: {
          const due = cells[a]!;
          stack[++top] = due === Number.POSITIVE_INFINITY ? 0 : (due - cells[form.cells.live]!) / 1000;
          break;
        }
        case Op.Negative:
          stack[top] = -stack[top]!;
          break;
        case Op.Not:
          stack[top] = stack[top] === 0 ? 1 : 0;
          break;
        case Op.Binary:
          top--;
          stack[top] = applyOperator(operators[a]!, stack[top]!, stack[top + 1]!);
          break;
        case Op.Choose:
          top -= 2;
          stack[top] = stack[top] !== 0 ? stack[top + 1]! : stack[top + 2]!;
          break;
        case Op.Call: {
          const count = code[at + 2]!;
          top -= count - 1;
          stack[top] = applyFunction(functions[a]!, stack.slice(top, top + count));
          break;
        }
      }
    }
  }

  #toCome(piece: number): number {
    const { cells, form } = this;
    let coming = 0;
    form.levels[cells[form.cells.level]!]!.spawns.forEach((spawn, slot) => {
      if (spawn.piece === piece) coming += spawn.total - cells[form.cells.spawnMade + slot]!;
    });
    return coming;
  }
}
