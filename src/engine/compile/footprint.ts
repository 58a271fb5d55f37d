import type { Code, Local, Slot, Statement, Value } from './representation.js';

/** One slot that code sets, or several of which it sets one. Variables in it are written out, as far as they hold one value. */
export interface Write {
  readonly first: number;
  readonly length: number;
  readonly value: Value;
  /** All that it stands under; each must hold, or be more than nothing, for it to happen. */
  readonly under: readonly Value[];
}

/** What code does, in whichever order: what it sets, which events it pushes, and what it checks. */
export interface Footprint {
  readonly writes: readonly Write[];
  readonly pushes: readonly { readonly event: Value; readonly under: readonly Value[] }[];
  readonly checks: readonly { readonly holds: Value; readonly under: readonly Value[] }[];
}

/** Each value of which a value is made, and itself, outermost first; what a visit answers with false is not gone into. */
export function visitValue(value: Value, visit: (part: Value) => unknown): void {
  if (visit(value) === false) return;
  for (const part of partsOf(value)) visitValue(part, visit);
}

function partsOf(value: Value): readonly Value[] {
  switch (value.op) {
    case 'slotAt':
    case 'table':
      return [value.at];
    case 'negative':
    case 'not':
      return [value.of];
    case 'binary':
      return [value.left, value.right];
    case 'choose':
      return [value.test, value.yes, value.no];
    case 'call':
    case 'ask':
      return value.of;
    case 'draw':
      return [value.place];
    default:
      return [];
  }
}

/** A value with each variable written out that holds one value. */
export function writtenOut(value: Value, known: ReadonlyMap<Local, Value>): Value {
  const of = (part: Value): Value => writtenOut(part, known);
  switch (value.op) {
    case 'local':
      return known.get(value.local) ?? value;
    case 'slotAt':
    case 'table':
      return { ...value, at: of(value.at) };
    case 'negative':
    case 'not':
      return { ...value, of: of(value.of) };
    case 'binary':
      return { ...value, left: of(value.left), right: of(value.right) };
    case 'choose':
      return { ...value, test: of(value.test), yes: of(value.yes), no: of(value.no) };
    case 'call':
    case 'ask':
      return { ...value, of: value.of.map(of) };
    default:
      return value;
  }
}

/** Calls `visit` for each slot that a value reads: the first of them, and how many it may be one of. */
export function slotsRead(value: Value, visit: (first: number, length: number) => void): void {
  visitValue(value, (part) => {
    if (part.op === 'slot') visit(part.slot, 1);
    if (part.op === 'slotAt') visit(part.base, part.length);
  });
}

export function footprintOf(code: Code): Footprint {
  const writes: Write[] = [];
  const pushes: Footprint['pushes'][0][] = [];
  const checks: Footprint['checks'][0][] = [];
  const known = new Map<Local, Value>();
  const walk = (statements: Code, under: readonly Value[]): void => {
    for (const statement of statements) step(statement, under);
  };
  const out = (value: Value): Value => writtenOut(value, known);
  const step = (statement: Statement, under: readonly Value[]): void => {
    switch (statement.op) {
      case 'set':
        writes.push({ ...placeOf(statement.slot), value: out(statement.value), under });
        return;
      case 'let':
        known.set(statement.local, out(statement.value));
        return;
      case 'assign':
        known.delete(statement.local);
        return;
      case 'if':
        walk(statement.body, [...under, out(statement.test)]);
        walk(statement.otherwise, [...under, { op: 'not', of: out(statement.test) }]);
        return;
      case 'switch':
        for (const { body } of statement.cases) walk(body, [...under, out(statement.on)]);
        walk(statement.otherwise, [...under, out(statement.on)]);
        return;
      case 'loop':
        walk(statement.body, under);
        return;
      case 'count':
        known.delete(statement.local);
        walk(statement.body, [...under, out(statement.to)]);
        return;
      case 'check':
        checks.push({ holds: out(statement.holds), under });
        return;
      case 'push':
        pushes.push({ event: out(statement.event), under });
    }
  };
  walk(code, []);
  return { writes, pushes, checks };
}

const placeOf = (slot: Slot): { readonly first: number; readonly length: number } =>
  slot.op === 'slot' ? { first: slot.slot, length: 1 } : { first: slot.base, length: slot.length };
