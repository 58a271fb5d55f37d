import type { BinaryOperator, Expression } from './expression.js';

/** The parts that all have to hold for a condition to hold; none where there is no condition. */
export function conjunctsOf(condition: Expression | undefined): Expression[] {
  if (condition === undefined) return [];
  if (condition.kind !== 'binary' || condition.operator !== 'and') return [condition];
  return [...conjunctsOf(condition.left), ...conjunctsOf(condition.right)];
}

/** The parts of which one has to hold for a condition to hold; none where there is no condition. */
export function disjunctsOf(condition: Expression | undefined): Expression[] {
  if (condition === undefined) return [];
  if (condition.kind !== 'binary' || condition.operator !== 'or') return [condition];
  return [...disjunctsOf(condition.left), ...disjunctsOf(condition.right)];
}

/** Calls `visit` for an expression and every part of it. */
export function visitExpression(expression: Expression, visit: (part: Expression) => void): void {
  visit(expression);
  switch (expression.kind) {
    case 'negative':
    case 'not':
      visitExpression(expression.of, visit);
      break;
    case 'binary':
      visitExpression(expression.left, visit);
      visitExpression(expression.right, visit);
      break;
    case 'choose':
      visitExpression(expression.test, visit);
      visitExpression(expression.yes, visit);
      visitExpression(expression.no, visit);
      break;
    case 'call':
      for (const part of expression.of) visitExpression(part, visit);
      break;
    default:
      break;
  }
}

/** The comparisons by some operators that stand anywhere in a condition. */
export function comparisonsIn(
  condition: Expression | undefined,
  operators: readonly BinaryOperator[],
): Extract<Expression, { kind: 'binary' }>[] {
  const found: Extract<Expression, { kind: 'binary' }>[] = [];
  if (condition !== undefined)
    visitExpression(condition, (part) => {
      if (part.kind === 'binary' && operators.includes(part.operator)) found.push(part);
    });
  return found;
}

/** The same expression with parts of it replaced; undefined leaves a part as it is. */
export function withParts(
  expression: Expression,
  replace: (part: Expression) => Expression | undefined,
): Expression {
  const found = replace(expression);
  if (found !== undefined) return found;
  const of = (part: Expression): Expression => withParts(part, replace);
  switch (expression.kind) {
    case 'negative':
    case 'not':
      return { ...expression, of: of(expression.of) };
    case 'binary':
      return { ...expression, left: of(expression.left), right: of(expression.right) };
    case 'choose':
      return { ...expression, test: of(expression.test), yes: of(expression.yes), no: of(expression.no) };
    case 'call':
      return { ...expression, of: expression.of.map(of) };
    default:
      return expression;
  }
}

/** Whether an expression has a part of one of some kinds. */
export function readsAny(expression: Expression, kinds: readonly Expression['kind'][]): boolean {
  let isRead = false;
  visitExpression(expression, ({ kind }) => {
    isRead ||= kinds.includes(kind);
  });
  return isRead;
}

/** Whether an expression is the same wherever a session stands: it reads nothing but dials. */
export function readsDialsAlone(expression: Expression): boolean {
  let isAlone = true;
  visitExpression(expression, ({ kind }) => {
    if (!steadyKinds.has(kind)) isAlone = false;
  });
  return isAlone;
}

const steadyKinds: ReadonlySet<Expression['kind']> = new Set([
  'number',
  'dial',
  'negative',
  'binary',
  'not',
  'choose',
  'call',
]);

/** The counters that an expression reads, as often as it does. */
export function countersIn(expression: Expression): string[] {
  const found: string[] = [];
  visitExpression(expression, (part) => {
    if (part.kind === 'counter') found.push(part.name);
  });
  return found;
}

/** An expression written as a designer would, with no more brackets than it needs at each part. */
export function showExpression(expression: Expression): string {
  const part = (inner: Expression): string =>
    inner.kind === 'binary' || inner.kind === 'choose' ? `(${showExpression(inner)})` : showExpression(inner);
  const side = (inner: Expression, weakest: number): string =>
    inner.kind === 'choose' || (inner.kind === 'binary' && binding[inner.operator] < weakest)
      ? part(inner)
      : showExpression(inner);
  switch (expression.kind) {
    case 'number':
      return expression.word ?? (Object.is(expression.value, -0) ? '-0' : String(expression.value));
    case 'truth':
      return String(expression.value);
    case 'counter':
    case 'cell':
    case 'dial':
      return expression.name;
    case 'levelValue':
      return `level.${expression.name}`;
    case 'present':
    case 'left':
    case 'timer':
      return `${expression.kind}.${expression.name}`;
    case 'level':
    case 'course':
      return expression.kind;
    case 'lastLevel':
      return 'level.last';
    case 'negative': {
      // Two signs in a row would be another operator of ECMAScript.
      const of = part(expression.of);
      return of.startsWith('-') ? `-(${of})` : `-${of}`;
    }
    case 'not':
      return `not ${part(expression.of)}`;
    case 'binary': {
      const own = binding[expression.operator];
      return `${side(expression.left, own)} ${expression.operator} ${side(expression.right, own + 1)}`;
    }
    case 'choose':
      return `${part(expression.test)} ? ${part(expression.yes)} : ${part(expression.no)}`;
    case 'call':
      return `${expression.name}(${expression.of.map(showExpression).join(', ')})`;
  }
}

const binding: { readonly [Operator in BinaryOperator]: number } = {
  or: 1,
  and: 2,
  '==': 3,
  '!=': 3,
  '<': 4,
  '<=': 4,
  '>': 4,
  '>=': 4,
  '+': 5,
  '-': 5,
  '*': 6,
  '/': 6,
  '%': 6,
};
