import type { Expression } from '../../../design/language/expression.js';
import { visitExpression } from '../../../design/language/expression-parts.js';
import { type Computed, type Design, type Dial, type Keep, spans } from '../../../design/model.js';
import { applyCall, applyOperator } from '../../compile/representation.js';
import type { Term } from '../form.js';

/** What names stand for while a design is lowered. */
export interface TermScope {
  readonly counters: ReadonlyMap<string, number>;
  readonly kinds: ReadonlyMap<
    string,
    { readonly kind: 'number' | 'flag' | 'words'; readonly places: number }
  >;
  readonly timers: ReadonlyMap<string, number>;
  readonly dials: ReadonlyMap<string, Term>;
  piecesOf(name: string): readonly number[];
  levelValue(name: string): Term;
  /** The number of the level, where it is known. */
  readonly level?: number;
}

/** Names become integers, dials become constants, and what is constant is computed now. */
export function lowerExpression(expression: Expression, scope: TermScope): Term {
  const lower = (part: Expression): Term => lowerExpression(part, scope);
  switch (expression.kind) {
    case 'number':
      return { op: 'constant', value: expression.value };
    case 'truth':
      return { op: 'truth', value: expression.value };
    case 'cell':
      return { op: 'counter', counter: scope.counters.get(expression.name)! };
    case 'counter': {
      const cell: Term = { op: 'counter', counter: scope.counters.get(expression.name)! };
      const { kind, places } = scope.kinds.get(expression.name)!;
      if (kind === 'flag')
        return { op: 'binary', operator: '!=', left: cell, right: { op: 'constant', value: 0 } };
      if (places === 0) return cell;
      return { op: 'binary', operator: '/', left: cell, right: { op: 'constant', value: 10 ** places } };
    }
    case 'dial':
      return scope.dials.get(expression.name)!;
    case 'level':
      if (scope.level !== undefined) return { op: 'constant', value: scope.level };
      return { op: 'level' };
    case 'lastLevel':
    case 'course':
      return { op: expression.kind };
    case 'levelValue':
      return scope.levelValue(expression.name);
    case 'present':
    case 'left':
      return { op: expression.kind, pieces: scope.piecesOf(expression.name) };
    case 'timer':
      return { op: 'timer', timer: scope.timers.get(expression.name)! };
    case 'negative':
    case 'not':
      return folded({ op: expression.kind, of: lower(expression.of) });
    case 'binary':
      return folded({
        op: 'binary',
        operator: expression.operator,
        left: lower(expression.left),
        right: lower(expression.right),
      });
    case 'choose': {
      const test = lower(expression.test);
      if (test.op === 'truth') return lower(test.value ? expression.yes : expression.no);
      return {
        op: 'choose',
        test,
        yes: lower(expression.yes),
        no: lower(expression.no),
      };
    }
    case 'call':
      return folded({ op: 'call', name: expression.name, of: expression.of.map(lower) });
  }
}

/** A number that depends on nothing but dials, where they stand, and perhaps a level's number; what is no number is 0. */
export function fromDials(of: Computed, dials: readonly Dial[], level?: number): number {
  if (typeof of === 'number') return of;
  const none = new Map();
  const known = new Map(dials.map(({ name, value }): [string, Term] => [name, { op: 'constant', value }]));
  const scope: TermScope = {
    counters: none,
    kinds: none,
    timers: none,
    dials: known,
    piecesOf: () => [],
    levelValue: () => ({ op: 'constant', value: 0 }),
    ...(level !== undefined && { level }),
  };
  const term = lowerExpression(of, scope);
  return term.op === 'constant' && !Number.isNaN(term.value) ? term.value : 0;
}

/** The same term, computed where all of its parts are constant. */
function folded(term: Term): Term {
  if (term.op === 'negative' && term.of.op === 'constant') return { op: 'constant', value: -term.of.value };
  if (term.op === 'binary' && term.left.op === 'constant' && term.right.op === 'constant') {
    const value = applyOperator(term.operator, term.left.value, term.right.value);
    return '+-*/%'.includes(term.operator) ? { op: 'constant', value } : { op: 'truth', value: value === 1 };
  }
  if (term.op === 'call' && term.of.every((part) => part.op === 'constant')) {
    const value = applyCall(
      term.name,
      term.of.map((part) => (part as { value: number }).value),
    );
    return { op: 'constant', value };
  }
  return term;
}

/** True where a term can only be a whole number. */
export function isWhole(term: Term, levelTables: readonly (readonly number[])[]): boolean {
  const whole = (part: Term): boolean => isWhole(part, levelTables);
  switch (term.op) {
    case 'constant':
    case 'dial':
      return Number.isInteger(term.value);
    case 'counter':
    case 'level':
    case 'course':
    case 'present':
    case 'left':
      return true;
    case 'levelValue':
      return levelTables[term.table]!.every(Number.isInteger);
    case 'negative':
      return whole(term.of);
    case 'binary':
      return '+-*%'.includes(term.operator) && whole(term.left) && whole(term.right);
    case 'choose':
      return whole(term.yes) && whole(term.no);
    case 'call':
      return ['floor', 'ceil', 'round'].includes(term.name) || term.of.every(whole);
    default:
      return false;
  }
}

/** Calls `visit` for a term and every part of it. */
export function visitTerm(term: Term, visit: (part: Term) => void): void {
  visit(term);
  if (term.op === 'negative' || term.op === 'not') visitTerm(term.of, visit);
  else if (term.op === 'call') for (const part of term.of) visitTerm(part, visit);
  else if (term.op === 'binary') for (const part of [term.left, term.right]) visitTerm(part, visit);
  else if (term.op === 'choose') for (const part of [term.test, term.yes, term.no]) visitTerm(part, visit);
}

/** The span of the longest-kept thing that an expression reads: pieces and level values last a level, the level's number a run. */
export function longestKept(expression: Expression, design: Pick<Design, 'counters' | 'timers'>): number {
  let longest = 0;
  const keepOf = (named: readonly { name: string; keep: Keep }[], name: string): number =>
    spans.indexOf(named.find((each) => each.name === name)!.keep);
  visitExpression(expression, (part) => {
    if (part.kind === 'counter') longest = Math.max(longest, keepOf(design.counters, part.name));
    else if (part.kind === 'timer') longest = Math.max(longest, keepOf(design.timers, part.name));
    else if (part.kind === 'present' || part.kind === 'left' || part.kind === 'levelValue') {
      longest = Math.max(longest, spans.indexOf('level'));
    } else if (part.kind === 'level' || part.kind === 'lastLevel') {
      longest = Math.max(longest, spans.indexOf('run'));
    }
  });
  return longest;
}

/** Whether a term reads what meeting a piece changes by itself, whatever the rules do. */
export function readsPresence(term: Term | undefined): boolean {
  let reads = false;
  if (term !== undefined)
    visitTerm(term, ({ op }) => (reads ||= op === 'present' || op === 'left' || op === 'course'));
  return reads;
}
