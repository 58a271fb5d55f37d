/**
 * A program: functions of statements and expressions over numbered slots. It knows nothing of rules, timers or pieces; what a design
 * means stands in `program/build/`, which makes one.
 */
export interface Program {
  /** Slots that hold the state; each is a double. */
  readonly slots: number;
  readonly functions: ReadonlyMap<string, FunctionCode>;
  /** Of its draws, how often each was asked stands in a slot from here on. */
  readonly asked: number;
  /** Whether the host hears, before each draw, how it is told apart: `host.splits`. */
  readonly tellsSplits?: boolean;
}

export interface FunctionCode {
  readonly parameters: readonly Local[];
  readonly body: Code;
}

/** A variable of one function. */
export interface Local {
  readonly name: string;
}

/** A loop that can be left or begun again from within. */
export interface Label {
  readonly name: string;
}

/** Numbers that never change, by index. */
export interface Table {
  readonly name: string;
  readonly values: readonly number[];
}

export type Code = readonly Statement[];

export type Operator =
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
  | 'or'
  /** Of 32-bit words. */
  | 'bit or'
  | 'bit and'
  | 'shift left'
  | 'shift right';

export type Call = 'min' | 'max' | 'abs' | 'floor' | 'ceil' | 'round';

/** A value: a number, or a truth where it is the answer of a comparison. Only a draw, a pop and a function that is asked change anything. */
export type Value =
  | { readonly op: 'constant'; readonly value: number }
  | { readonly op: 'truth'; readonly value: boolean }
  /** A moment that never comes; whoever lays the slots out says which number that is. */
  | { readonly op: 'never' }
  /** A dial that code reads where it runs, so that the same code serves all its settings. */
  | { readonly op: 'dial'; readonly dial: number; readonly value: number }
  | Slot
  | { readonly op: 'local'; readonly local: Local }
  | { readonly op: 'table'; readonly table: Table; readonly at: Value }
  | { readonly op: 'negative' | 'not'; readonly of: Value }
  | { readonly op: 'binary'; readonly operator: Operator; readonly left: Value; readonly right: Value }
  | { readonly op: 'choose'; readonly test: Value; readonly yes: Value; readonly no: Value }
  | { readonly op: 'call'; readonly name: Call; readonly of: readonly Value[] }
  /** A whole number below 2^32, another one each time that the place is asked. */
  | { readonly op: 'draw'; readonly place: Value; readonly split: Split | undefined }
  /** What another function of the program gives. */
  | { readonly op: 'ask'; readonly name: string; readonly of: readonly Value[] }
  /** Whether an event waits its turn; and the first that does, which is taken off. */
  | { readonly op: 'pending' | 'pop' };

/**
 * What is told apart of a draw, for whoever follows each way that it can fall: whether it is below a threshold; which of so many equal parts
 * it falls into; which of parts as wide as their weights.
 */
export interface Split {
  readonly kind: 'threshold' | 'choices' | 'weights';
  readonly of: readonly Value[];
}

/** How `host.splits` is told the kind of a split. */
export const splitKinds = { threshold: 0, choices: 1, weights: 2 } as const;

/** A slot whose number is known. */
export interface KnownSlot {
  readonly op: 'slot';
  readonly slot: number;
}

export type Slot =
  | KnownSlot
  /** One of `length` slots from `base` on. */
  | { readonly op: 'slotAt'; readonly base: number; readonly length: number; readonly at: Value };

export type Statement =
  | { readonly op: 'set'; readonly slot: Slot; readonly value: Value }
  | { readonly op: 'let' | 'assign'; readonly local: Local; readonly value: Value }
  | { readonly op: 'if'; readonly test: Value; readonly body: Code; readonly otherwise: Code }
  | { readonly op: 'switch'; readonly on: Value; readonly cases: readonly Case[]; readonly otherwise: Code }
  /** Again and again, until it is left. */
  | { readonly op: 'loop'; readonly label: Label; readonly body: Code }
  /** Once for each whole number from one up to, and without, another. */
  | {
      readonly op: 'count';
      readonly local: Local;
      readonly from: Value;
      readonly to: Value;
      readonly body: Code;
    }
  | { readonly op: 'break' | 'continue'; readonly label: Label }
  /** A fault of the session where it does not hold. */
  | { readonly op: 'check'; readonly holds: Value; readonly fault: string; readonly of: readonly Value[] }
  | { readonly op: 'push'; readonly event: Value }
  /** Forgets the events that have had their turn; none waits. */
  | { readonly op: 'rewind' }
  /** Tells whoever runs the program; where nobody listens, it is left out when the program is built. */
  | { readonly op: 'tell'; readonly name: string; readonly of: readonly Value[] }
  | { readonly op: 'do'; readonly name: string; readonly of: readonly Value[] }
  | { readonly op: 'return'; readonly value: Value | undefined };

export interface Case {
  readonly of: readonly number[];
  readonly body: Code;
}

export const constant = (value: number): Value => ({ op: 'constant', value });
export const truth = (value: boolean): Value => ({ op: 'truth', value });
export const never: Value = { op: 'never' };
export const slot = (index: number): KnownSlot => ({ op: 'slot', slot: index });
export const slotAt = (base: number, length: number, at: Value): Slot =>
  at.op === 'constant' ? slot(base + at.value) : { op: 'slotAt', base, length, at };
export const local = (name: string): Local => ({ name });
export const label = (name: string): Label => ({ name });
export const get = (of: Local): Value => ({ op: 'local', local: of });

export const binary = (operator: Operator, left: Value, right: Value): Value => {
  if (left.op === 'constant' && right.op === 'constant') {
    const value = applyOperator(operator, left.value, right.value);
    return isTruth(operator) ? truth(value === 1) : constant(value);
  }
  return { op: 'binary', operator, left, right };
};

const isTruth = (operator: Operator): boolean =>
  ['<', '<=', '>', '>=', '==', '!=', 'and', 'or'].includes(operator);

export const plus = (left: Value, right: Value | number): Value => binary('+', left, asValue(right));
export const minus = (left: Value, right: Value | number): Value => binary('-', left, asValue(right));
export const isLess = (left: Value, right: Value | number): Value => binary('<', left, asValue(right));
export const isAtLeast = (left: Value, right: Value | number): Value => binary('>=', left, asValue(right));
export const isMore = (left: Value, right: Value | number): Value => binary('>', left, asValue(right));
export const isEqual = (left: Value, right: Value | number): Value => binary('==', left, asValue(right));

/** A number stands for itself as a constant. */
export const asValue = (value: Value | number): Value =>
  typeof value === 'number' ? constant(value) : value;

/** All of them hold, asked in this order until one does not. */
export function and(...values: readonly Value[]): Value {
  const open = values.filter((value) => value.op !== 'truth' || !value.value);
  if (open.some((value) => value.op === 'truth')) return truth(false);
  if (open.length === 0) return truth(true);
  return open.reduce((left, right) => ({ op: 'binary', operator: 'and', left, right }));
}

export function or(...values: readonly Value[]): Value {
  const open = values.filter((value) => value.op !== 'truth' || value.value);
  if (open.some((value) => value.op === 'truth')) return truth(true);
  if (open.length === 0) return truth(false);
  return open.reduce((left, right) => ({ op: 'binary', operator: 'or', left, right }));
}

export function not(of: Value): Value {
  return of.op === 'truth' ? truth(!of.value) : { op: 'not', of };
}

export function choose(test: Value, yes: Value | number, no: Value | number): Value {
  if (test.op === 'truth') return asValue(test.value ? yes : no);
  return { op: 'choose', test, yes: asValue(yes), no: asValue(no) };
}

export function call(name: Call, ...of: readonly (Value | number)[]): Value {
  const values = of.map(asValue);
  if (values.every((value) => value.op === 'constant')) {
    return constant(
      applyCall(
        name,
        values.map((value) => (value as { value: number }).value),
      ),
    );
  }
  return { op: 'call', name, of: values };
}

/** A value that is the same whatever the index needs no table. */
export function tableAt(table: Table, at: Value): Value {
  const [first] = table.values;
  if (at.op === 'constant') return constant(table.values[at.value]!);
  if (first !== undefined && table.values.every((value) => Object.is(value, first))) return constant(first);
  return { op: 'table', table, at };
}

export const ask = (name: string, ...of: readonly (Value | number)[]): Value => ({
  op: 'ask',
  name,
  of: of.map(asValue),
});
/** Whether the next draw of a place is below a threshold. */
export const isBelow = (place: Value, threshold: Value | number): Value =>
  isLess({ op: 'draw', place, split: { kind: 'threshold', of: [asValue(threshold)] } }, threshold);
export const isNever = (value: Value): Value => isEqual(value, never);

export const set = (to: Slot, value: Value | number): Statement => ({
  op: 'set',
  slot: to,
  value: asValue(value),
});
export const add = (to: Slot, amount: Value | number): Statement => set(to, plus(to, amount));
export const declare = (of: Local, value: Value | number): Statement => ({
  op: 'let',
  local: of,
  value: asValue(value),
});
export const assign = (of: Local, value: Value | number): Statement => ({
  op: 'assign',
  local: of,
  value: asValue(value),
});

/** What is known to hold, or not to, is not asked. */
export function when(test: Value, body: Code, otherwise: Code = []): Code {
  if (test.op === 'truth') return test.value ? body : otherwise;
  if (body.length === 0 && otherwise.length === 0) return [];
  if (body.length === 0) return [{ op: 'if', test: not(test), body: otherwise, otherwise: [] }];
  return [{ op: 'if', test, body, otherwise }];
}

/** Cases that do nothing, where all others do nothing either, are left out. */
export function select(on: Value, cases: readonly Case[], otherwise: Code = []): Code {
  if (on.op === 'constant') return cases.find(({ of }) => of.includes(on.value))?.body ?? otherwise;
  const open = otherwise.length > 0 ? cases : cases.filter(({ body }) => body.length > 0);
  if (open.length === 0) return otherwise;
  return [{ op: 'switch', on, cases: open, otherwise }];
}

export const loop = (name: Label, body: Code): Statement => ({ op: 'loop', label: name, body });
export const leave = (name: Label): Statement => ({ op: 'break', label: name });
export const repeat = (name: Label): Statement => ({ op: 'continue', label: name });
export const check = (holds: Value, fault: string, ...of: readonly (Value | number)[]): Code =>
  holds.op === 'truth' && holds.value ? [] : [{ op: 'check', holds, fault, of: of.map(asValue) }];
export const push = (event: Value | number): Statement => ({ op: 'push', event: asValue(event) });
export const tell = (name: string, ...of: readonly (Value | number)[]): Statement => ({
  op: 'tell',
  name,
  of: of.map(asValue),
});
export const run = (name: string, ...of: readonly (Value | number)[]): Statement => ({
  op: 'do',
  name,
  of: of.map(asValue),
});
export const give = (value: Value | number): Statement => ({ op: 'return', value: asValue(value) });

/** Once for each whole number from `from` up to, and without, `to`. */
export function count(of: Local, from: Value | number, to: Value | number, body: Code): Code {
  if (body.length === 0) return [];
  return [{ op: 'count', local: of, from: asValue(from), to: asValue(to), body }];
}

/** Truth values are 1 and 0. */
export function applyOperator(operator: Operator, left: number, right: number): number {
  switch (operator) {
    case '+':
      return left + right;
    case '-':
      return left - right;
    case '*':
      return left * right;
    case '/':
      return left / right;
    case '%':
      return left % right;
    case '<':
      return left < right ? 1 : 0;
    case '<=':
      return left <= right ? 1 : 0;
    case '>':
      return left > right ? 1 : 0;
    case '>=':
      return left >= right ? 1 : 0;
    case '==':
      return left === right ? 1 : 0;
    case '!=':
      return left !== right ? 1 : 0;
    case 'and':
      return left !== 0 && right !== 0 ? 1 : 0;
    case 'or':
      return left !== 0 || right !== 0 ? 1 : 0;
    case 'bit or':
      return left | right;
    case 'bit and':
      return left & right;
    case 'shift left':
      return left << right;
    case 'shift right':
      return left >> right;
  }
}

export function applyCall(name: Call, of: readonly number[]): number {
  const [first] = of as [number];
  switch (name) {
    case 'min':
      return Math.min(...of);
    case 'max':
      return Math.max(...of);
    case 'abs':
      return Math.abs(first);
    case 'floor':
      return Math.floor(first);
    case 'ceil':
      return Math.ceil(first);
    case 'round':
      return roundHalfUp(first);
  }
}

/** To the nearest whole number, a half upwards: 2.5 to 3, -2.5 to -2. Never -0. */
const roundHalfUp = (value: number): number => Math.round(value) + 0;
