export const functions = ['min', 'max', 'abs', 'floor', 'ceil', 'round'] as const;

export type FunctionName = (typeof functions)[number];

export type BinaryOperator =
  | '+'
  | '-'
  | '*'
  | '/'
  | '%'
  | '<'
  | '<='
  | '>'
  | '>='
  | '=='
  | '!='
  | 'and'
  | 'or';

/** A checked expression: every name exists and every part has the type its place needs. */
export type Expression =
  /** Of a word, its place among those that its counter can hold. */
  | { readonly kind: 'number'; readonly value: number; readonly word?: string }
  | { readonly kind: 'truth'; readonly value: boolean }
  | { readonly kind: 'counter' | 'dial' | 'levelValue' | 'present' | 'left' | 'timer'; readonly name: string }
  /** A counter as its cell holds it; lowering makes it, no designer writes it. */
  | { readonly kind: 'cell'; readonly name: string }
  /** `course`: how many pieces of the level's course are behind the player. */
  | { readonly kind: 'level' | 'lastLevel' | 'course' }
  | { readonly kind: 'negative' | 'not'; readonly of: Expression }
  | {
      readonly kind: 'binary';
      readonly operator: BinaryOperator;
      readonly left: Expression;
      readonly right: Expression;
    }
  | { readonly kind: 'choose'; readonly test: Expression; readonly yes: Expression; readonly no: Expression }
  | { readonly kind: 'call'; readonly name: FunctionName; readonly of: readonly Expression[] };

/** A word belongs to the counter that can hold it. */
export type ValueType = 'number' | 'truth value' | `word of ${string}`;
