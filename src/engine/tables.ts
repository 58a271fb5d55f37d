import { nearLimit } from './emit.js';
import { choose } from './draw.js';
import { largestNumber } from '../design/schema.js';
import type { EffectForm, Form, IntervalForm, RuleForm, Term, TransitionForm } from './form.js';
import { mostPresent } from './form.js';
import { applyFunction, applyOperator, roundHalfUp } from './lower-expression.js';
import type { Carrier, Host, Probe } from './carrier.js';
import type { BinaryOperator, FunctionName } from '../design/expression.js';

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

/** Terms of a form as postfix code over one small stack. */
class Terms {
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

interface Guarded {
  readonly condition: number;
  readonly wait: number;
}

/** The carrier that walks tables: for pages whose content security policy forbids generated code. */
export function tableCarrier(form: Form, cells: Float64Array, host: Host, probe: Probe | undefined): Carrier {
  const at = form.cells;
  const terms = new Terms(form, cells);
  const compile = (term: Term | undefined): number => (term === undefined ? -1 : terms.add(term));
  const ruleConditions = form.rules.map((rule) => compile(rule.condition));
  const guards = form.transitions.map(
    (transition): Guarded => ({ condition: compile(transition.condition), wait: transition.wait }),
  );
  const amounts = new Map<Term, number>();
  for (const { effects } of [...form.rules, ...form.transitions]) {
    for (const effect of effects) {
      if (effect.op === 'write') for (const { amount } of effect.writes) amounts.set(amount, terms.add(amount));
    }
  }
  /** `[screen][event]`, sparse. */
  const handlers = form.screens.map((screen) => form.events.map((_, event) => screen.handlers.get(event)));
  const appearanceHeard = form.pieces.map(({ appeared }) => form.screens.some((screen) => screen.handlers.has(appeared)));
  const queue: number[] = [];
  const wanted: number[] = [];
  let steps = 0;

  const step = (source: number): void => {
    if (++steps > nearLimit) host.step(steps, source);
  };
  const interval = ({ least, step: size, choices, draw }: IntervalForm): number =>
    draw < 0 ? least : least + size * choose(host.draw(draw, cells[at.asked + draw]!++), choices);

  function isReady({ condition, wait }: Guarded): boolean {
    return cells[at.waited]! >= wait && (condition < 0 || terms.value(condition) !== 0);
  }

  const isRested = ({ rest, restCell }: RuleForm): boolean => rest === 0 || cells[at.live]! >= cells[restCell]!;

  function fire(index: number, rule: RuleForm): void {
    probe?.rule(index);
    if (rule.rest > 0) cells[rule.restCell] = cells[at.live]! + rule.rest;
    for (const effect of rule.effects) apply(effect, index);
  }

  function apply(effect: EffectForm, source: number): void {
    switch (effect.op) {
      case 'write': {
        const { writes } = effect;
        for (let index = 0; index < writes.length; index++) {
          const { counter, adds, rounds, amount } = writes[index]!;
          const value = terms.value(amounts.get(amount)!);
          const whole = rounds ? roundHalfUp(value) : value;
          const found = adds ? cells[at.counters + counter]! + whole : whole + 0;
          if (!(found >= -largestNumber && found <= largestNumber)) host.tooLarge(source, counter, found);
          wanted[index] = found;
        }
        for (let index = 0; index < writes.length; index++) {
          const { counter } = writes[index]!;
          const { min, max } = form.counters[counter]!;
          const before = cells[at.counters + counter]!;
          const found = wanted[index]!;
          const after = found < min ? min : found > max ? max : found;
          cells[at.counters + counter] = after;
          probe?.write(counter, source, before, after, found);
        }
        return;
      }
      case 'spawn':
        appear(effect.piece, effect.count);
        if (cells[at.present + effect.piece]! > mostPresent) host.tooMany(effect.piece);
        if (appearanceHeard[effect.piece]) {
          for (let count = 0; count < effect.count; count++) queue.push(form.pieces[effect.piece]!.appeared);
        }
        return;
      case 'clear':
        cells[at.present + effect.piece] = 0;
        probe?.cleared(effect.piece);
        return;
      case 'grace':
        cells[at.graceEnds] = cells[at.live]! + effect.duration;
        return;
      case 'cue':
        probe?.cue(effect.cue);
    }
  }

  function appear(piece: number, count: number): void {
    cells[at.present + piece]! += count;
    for (let told = 0; told < count; told++) probe?.appeared(piece);
  }

  function take(index: number, transition: TransitionForm): void {
    const source = form.rules.length + index;
    step(source);
    probe?.transition(index);
    for (const effect of transition.effects) apply(effect, source);
    if (transition.level === -2) {
      if (cells[at.level] === form.levels.length - 1) host.noNextLevel(source);
      cells[at.level]!++;
    } else if (transition.level >= 0) cells[at.level] = transition.level;
    if (transition.fresh >= 0) putBack(transition.fresh);
    if (transition.respawns) respawn();
    if (transition.grace > 0) cells[at.graceEnds] = cells[at.live]! + transition.grace;
    cells[at.screen] = transition.to;
    cells[at.entered] = cells[at.now]!;
    cells[at.waited] = 0;
    const { enteredEvent } = form.screens[transition.to]!;
    if (enteredEvent >= 0) queue.push(enteredEvent);
  }

  function putBack(fresh: number): void {
    form.counters.forEach(({ keep, start }, counter) => {
      if (keep <= fresh) cells[at.counters + counter] = start;
    });
    form.timers.forEach((timer, index) => {
      if (timer.keep <= fresh) cells[at.timers + index] = cells[at.live]! + interval(timer.interval);
    });
    for (const { restCell } of form.rules) if (restCell >= 0) cells[restCell] = 0;
    cells[at.graceEnds] = 0;
    for (const { memoryCell, forgets } of form.rules) if (memoryCell >= 0 && forgets <= fresh) cells[memoryCell] = 0;
  }

  function respawn(): void {
    form.pieces.forEach((_, piece) => {
      cells[at.present + piece] = 0;
      probe?.cleared(piece);
    });
    const level = form.levels[cells[at.level]!]!;
    level.placed.forEach((count, piece) => {
      if (count > 0) appear(piece, count);
    });
    for (let slot = 0; slot < at.spawnMade - at.spawnDue; slot++) {
      const spawn = level.spawns[slot];
      cells[at.spawnMade + slot] = 0;
      cells[at.spawnDue + slot] =
        spawn === undefined ? Number.POSITIVE_INFINITY : cells[at.live]! + (spawn.first >= 0 ? spawn.first : interval(spawn.every));
    }
  }

  /** Condition rules of the present screen, until none becomes true. */
  function fireConditionRules(rules: readonly number[]): void {
    for (let again = rules.length > 0; again; ) {
      again = false;
      for (const index of rules) {
        const rule = form.rules[index]!;
        if (terms.value(ruleConditions[index]!) === 0) {
          cells[rule.memoryCell] = 0;
        } else if (cells[rule.memoryCell] === 0) {
          cells[rule.memoryCell] = 1;
          if (isRested(rule)) {
            again = true;
            step(index);
            fire(index, rule);
          }
        }
      }
    }
  }

  function run(event: number, transition: number): void {
    let next = event;
    let taken = transition;
    let head = 0;
    steps = 0;
    queue.length = 0;
    for (;;) {
      const handler = next < 0 ? undefined : handlers[cells[at.screen]!]![next];
      if (handler !== undefined) {
        for (const index of handler.rules) {
          const rule = form.rules[index]!;
          const condition = ruleConditions[index]!;
          if (isRested(rule) && (condition < 0 || terms.value(condition) !== 0)) fire(index, rule);
        }
        taken = handler.transitions.find((each) => isReady(guards[each]!)) ?? -1;
      }
      for (;;) {
        if (taken >= 0) take(taken, form.transitions[taken]!);
        const screen = form.screens[cells[at.screen]!]!;
        fireConditionRules(screen.conditionRules);
        taken = screen.conditionTransitions.find((each) => isReady(guards[each]!)) ?? -1;
        if (taken < 0) break;
      }
      if (head === queue.length) break;
      next = queue[head++]!;
      step(form.rules.length + form.transitions.length + next);
    }
  }

  return { run, respawn };
}
