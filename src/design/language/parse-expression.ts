// One walk over the parser's tree: every kind of part is checked and lowered where it is met.

import { type Expression as AcornExpression, type Node as AcornNode, parse } from 'acorn';
import { healthPrefix } from '../health.js';
import { largestNumber } from '../limits.js';
import { type BinaryOperator, type Expression, functions, type ValueType } from './expression.js';
import { closest } from './names.js';

/** The names that an expression may use. */
export interface Scope {
  readonly counters: ReadonlySet<string>;
  readonly types: ReadonlyMap<string, ValueType>;
  /** The words that each counter can hold. */
  readonly words: ReadonlyMap<string, readonly string[]>;
  readonly dials: ReadonlySet<string>;
  readonly timers: ReadonlySet<string>;
  /** Pieces, groups and roles. */
  readonly pieces: ReadonlySet<string>;
  /** Each level value with the names of the levels that lack it. */
  readonly levelValues: ReadonlyMap<string, readonly string[]>;
}

export type ExpressionProblem =
  | { code: 'bad-expression'; reason: string; remedy: string }
  | { code: 'unknown-name'; name: string; kind: string; allowed: readonly string[] }
  | { code: 'missing-level-value'; value: string; levels: readonly string[] }
  | { code: 'wrong-value-type'; part: string; found: string; expected: string; remedy: string };

/** What is wrong with an expression, and at which of its characters. */
export class ExpressionFault extends Error {
  constructor(
    readonly fault: ExpressionProblem,
    readonly offset: number,
  ) {
    super(fault.code);
  }
}

const mostCharacters = 1000;

const operators: { readonly [written: string]: BinaryOperator } = {
  '+': '+',
  '-': '-',
  '*': '*',
  '/': '/',
  '%': '%',
  '<': '<',
  '<=': '<=',
  '>': '>',
  '>=': '>=',
  '==': '==',
  '===': '==',
  '!=': '!=',
  '!==': '!=',
  '&&': 'and',
  '||': 'or',
};

// Each replacement is as long as the word, so that the parser's positions stay true.
const words: { readonly [word: string]: string } = { and: '&& ', or: '||', not: '!  ' };

/** What a word may be the plural of. */
const singulars = (word: string): string[] =>
  [
    [/ies$/, 'y'],
    [/es$/, ''],
    [/s$/, ''],
  ].flatMap(([ending, instead]) =>
    word.search(ending!) > 0 ? [word.replace(ending!, instead as string)] : [],
  );

const languageRemedy =
  'Use numbers, counters, dials, level, course, present, left, timer, arithmetic, comparison, and, or, not, ?: and min, max, abs, floor, ceil, round.';

/**
 * Reads an expression and checks every name and type in it.
 *
 * @throws ExpressionFault at the first thing that is wrong
 */
export function parseExpression(text: string, scope: Scope, expected: ValueType): Expression {
  const bad = (reason: string, remedy: string, offset = 0): never => {
    throw new ExpressionFault({ code: 'bad-expression', reason, remedy }, offset);
  };
  if (text.trim() === '') bad('it is empty', 'Write a number, a name or a condition.');
  if (text.length > mostCharacters) bad(`it is longer than ${mostCharacters} characters`, 'Split it.');
  const semicolon = text.search(/;|\/\/|\/\*/);
  if (semicolon >= 0)
    bad(
      'it holds more than one expression or a comment',
      text[semicolon] === ';' ? 'Keep one expression.' : 'A comment begins with #, after a space.',
      semicolon,
    );

  const root = ((): AcornExpression => {
    try {
      const program = parse(
        text.replace(/\b(?:and|or|not)\b/g, (word) => words[word] as string),
        {
          ecmaVersion: 2023,
        },
      );
      const [statement] = program.body;
      if (program.body.length === 1 && statement?.type === 'ExpressionStatement') return statement.expression;
    } catch (error) {
      const at = (error as { pos?: number }).pos ?? 0;
      if (/^is\b/.test(text.slice(at))) return bad('it compares with "is"', 'To compare, write ==.', at);
      const found =
        text[at] === undefined ? 'it ends too early' : `"${text.slice(at, at + 12)}" cannot stand here`;
      return bad(found, 'Check brackets and operators; names are written without spaces.', at);
    }
    return bad('it is a statement', languageRemedy);
  })();

  const source = (node: AcornNode): string => text.slice(node.start, node.end);

  function name(
    kind: 'counter' | 'piece or group' | 'piece with a health' | 'timer' | 'word',
    found: string,
    allowed: Iterable<string>,
    at: number,
  ): never {
    throw new ExpressionFault({ code: 'unknown-name', name: found, kind, allowed: [...allowed] }, at);
  }

  /** A bare word, or a choice of them, where a word of some counter is needed. */
  function word(node: AcornNode, needed: ValueType): Expression | undefined {
    if (!needed.startsWith('word of ')) return undefined;
    const expression = node as AcornExpression;
    if (expression.type === 'ConditionalExpression') {
      const test = typed(expression.test, 'truth value');
      return {
        kind: 'choose',
        test,
        yes: typed(expression.consequent, needed),
        no: typed(expression.alternate, needed),
      };
    }
    if (expression.type !== 'Identifier') return undefined;
    const written = source(node);
    const known = scope.words.get(needed.slice('word of '.length)) ?? [];
    const index = known.indexOf(written);
    if (index >= 0) return { kind: 'number', value: index, word: written };
    if (scope.counters.has(written)) return undefined;
    return name('word', written, known, node.start);
  }

  function typed(node: AcornNode, needed: ValueType): Expression {
    const held = word(node, needed);
    if (held !== undefined) return held;
    const { expression, type } = walk(node);
    if (type === needed) return expression;
    const part = source(node);
    const remedy =
      needed === 'number'
        ? `Write a number here, or choose one: (${part}) ? 1 : 0. Brackets may be missing.`
        : `Compare it with something, such as ${part} > 0.`;
    throw new ExpressionFault(
      { code: 'wrong-value-type', part, found: type, expected: needed, remedy },
      node.start,
    );
  }

  function walk(node: AcornNode): { expression: Expression; type: ValueType } {
    const number = (expression: Expression) => ({ expression, type: 'number' as const });
    const truth = (expression: Expression) => ({ expression, type: 'truth value' as const });
    const expression = node as AcornExpression;
    switch (expression.type) {
      case 'ParenthesizedExpression':
        return walk(expression.expression);
      case 'Literal': {
        if (typeof expression.value === 'boolean') return truth({ kind: 'truth', value: expression.value });
        if (typeof expression.value !== 'number') break;
        if (expression.value > largestNumber) {
          return bad(`${source(node)} is past 2^53`, 'Choose a smaller number.', node.start);
        }
        return number({ kind: 'number', value: expression.value });
      }
      case 'Identifier':
        return {
          expression: identifier(expression.name, node.start),
          type: scope.types.get(expression.name) ?? 'number',
        };
      case 'MemberExpression': {
        const { object, property } = expression;
        if (expression.computed || expression.optional) break;
        if (object.type !== 'Identifier' || property.type !== 'Identifier') break;
        return member(object.name, property.name, node.start, property.start);
      }
      case 'UnaryExpression':
        if (expression.operator === '!')
          return truth({ kind: 'not', of: typed(expression.argument, 'truth value') });
        if (expression.operator === '-')
          return number({ kind: 'negative', of: typed(expression.argument, 'number') });
        if (expression.operator === '+') return number(typed(expression.argument, 'number'));
        break;
      case 'BinaryExpression':
      case 'LogicalExpression': {
        const operator = Object.hasOwn(operators, expression.operator)
          ? operators[expression.operator]
          : undefined;
        if (operator === undefined) break;
        const { left, right } = expression;
        if (operator === 'and' || operator === 'or') {
          const parts = { left: typed(left, 'truth value'), right: typed(right, 'truth value') };
          return truth({ kind: 'binary', operator, ...parts });
        }
        if (operator === '==' || operator === '!=') {
          // A word may stand on either side; the counter beside it says whose it is.
          const isWordFirst = left.type === 'Identifier' && isOnlyWord(left.name);
          const first = isWordFirst ? walk(right) : walk(left);
          const second = typed(isWordFirst ? left : right, first.type);
          return truth({ kind: 'binary', operator, left: first.expression, right: second });
        }
        const parts = { left: typed(left, 'number'), right: typed(right, 'number') };
        const made: Expression = { kind: 'binary', operator, ...parts };
        return '+-*/%'.includes(operator) ? number(made) : truth(made);
      }
      case 'ConditionalExpression': {
        const yes = walk(expression.consequent);
        const no = typed(expression.alternate, yes.type);
        const test = typed(expression.test, 'truth value');
        return { expression: { kind: 'choose', test, yes: yes.expression, no }, type: yes.type };
      }
      case 'CallExpression': {
        const { callee } = expression;
        if (callee.type !== 'Identifier' || expression.optional) break;
        const called = functions.find((each) => each === callee.name);
        if (called === undefined) {
          const reason = `there is no function ${callee.name}`;
          const [first] = expression.arguments;
          if (first?.type === 'Identifier' && scope.pieces.has(first.name))
            return bad(reason, `Write present.${first.name} for how many are there.`, node.start);
          if (/^rand/i.test(callee.name))
            return bad(reason, 'Chance is said in a rule, such as chance: 0.5.', node.start);
          return bad(reason, `Allowed here: ${functions.join(', ')}.`, node.start);
        }
        const several = called === 'min' || called === 'max';
        const count = expression.arguments.length;
        if (several ? count < 1 : count !== 1) {
          return bad(
            `${called} takes ${several ? 'one or more numbers' : 'one number'}, not ${count}`,
            'Mend the list in its brackets.',
            node.start,
          );
        }
        return number({
          kind: 'call',
          name: called,
          of: expression.arguments.map((each) => typed(each, 'number')),
        });
      }
      case 'AssignmentExpression':
        return bad(`"${expression.operator}" would write a counter`, 'To compare, write ==.', node.start);
      default:
        break;
    }
    if (expression.type === 'Literal' && typeof expression.value === 'string')
      return bad(`${source(node)} stands in quotes`, 'Names and words stand without quotes.', node.start);
    return bad(`"${source(node)}" is outside the language of expressions`, languageRemedy, node.start);
  }

  const isOnlyWord = (found: string): boolean =>
    !scope.counters.has(found) &&
    !scope.dials.has(found) &&
    [...scope.words.values()].some((words) => words.includes(found));

  function identifier(found: string, at: number): Expression {
    if (scope.counters.has(found)) return { kind: 'counter', name: found };
    if (scope.dials.has(found)) return { kind: 'dial', name: found };
    if (found === 'level' || found === 'course') return { kind: found };
    if (scope.timers.has(found)) bad(`${found} is a timer`, `Write timer.${found} for its seconds.`, at);
    const piece = [found, ...singulars(found)].find((each) => scope.pieces.has(each));
    if (piece !== undefined) bad(`${piece} is a piece`, `Write present.${piece} for how many are there.`, at);
    return name('counter', found, [...scope.counters, ...scope.dials, 'level', 'course'], at);
  }

  function member(
    object: string,
    property: string,
    at: number,
    propertyAt: number,
  ): { expression: Expression; type: ValueType } {
    if (object === 'level') {
      if (property === 'last') return { expression: { kind: 'lastLevel' }, type: 'truth value' };
      const lacking = scope.levelValues.get(property);
      if (lacking === undefined) {
        const fault = {
          code: 'unknown-name',
          name: property,
          kind: 'level value',
          allowed: ['last', ...scope.levelValues.keys()],
        } as const;
        throw new ExpressionFault(fault, propertyAt);
      }
      if (lacking.length > 0) {
        throw new ExpressionFault(
          { code: 'missing-level-value', value: property, levels: lacking },
          propertyAt,
        );
      }
      return { expression: { kind: 'levelValue', name: property }, type: 'number' };
    }
    if (object === 'present' || object === 'left') {
      if (!scope.pieces.has(property)) name('piece or group', property, scope.pieces, propertyAt);
      return { expression: { kind: object, name: property }, type: 'number' };
    }
    if (object === 'health') {
      const counters = [...scope.counters].filter((each) => each.startsWith(healthPrefix));
      const known = counters.map((each) => each.slice(healthPrefix.length));
      if (!known.includes(property)) name('piece with a health', property, new Set(known), propertyAt);
      return { expression: { kind: 'counter', name: `${healthPrefix}${property}` }, type: 'number' };
    }
    if (object === 'timer') {
      if (!scope.timers.has(property)) name('timer', property, scope.timers, propertyAt);
      return { expression: { kind: 'timer', name: property }, type: 'number' };
    }
    if (scope.pieces.has(object)) {
      bad(
        `"${object}.${property}" is an event, and happens at one moment`,
        'Count it in a counter to which a rule adds, and ask for that.',
        at,
      );
    }
    const near = closest(object, ['level', 'present', 'left', 'timer', 'health']);
    return bad(
      `"${object}.${property}" is not a value`,
      near === undefined
        ? 'Values with a dot begin with level, present, left or timer.'
        : `Did you mean ${near}.${property}?`,
      at,
    );
  }

  return typed(root, expected);
}
