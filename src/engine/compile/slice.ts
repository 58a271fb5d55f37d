import { visitValue, writtenOut } from './footprint.js';
import { type Code, type Local, type Slot, type Statement, type Value, when } from './representation.js';

/** What is left of code that is run for some of its slots only. */
export interface Slicing {
  /** What a slot is set to; undefined: nobody follows it. */
  value(slot: Slot, value: Value): Value | undefined;
  /** Whether a check can fail, variables in it written out. */
  canFail(holds: Value): boolean;
}

/**
 * Code without what nobody follows: neither what sets such slots nor what is worked out, or drawn, for that alone. A check that can fail stays.
 */
export function sliced(code: Code, slicing: Slicing): Code {
  return withoutUnread(without(code, slicing, new Map()));
}

function without(code: Code, slicing: Slicing, known: Map<Local, Value>): Code {
  const of = (body: Code): Code => without(body, slicing, known);
  return code.flatMap((statement): Code => {
    switch (statement.op) {
      case 'set': {
        const value = slicing.value(statement.slot, statement.value);
        return value === undefined ? [] : [{ ...statement, value }];
      }
      case 'let':
        known.set(statement.local, writtenOut(statement.value, known));
        return [statement];
      case 'assign':
        known.delete(statement.local);
        return [statement];
      case 'check':
        return slicing.canFail(writtenOut(statement.holds, known)) ? [statement] : [];
      case 'if':
        return when(statement.test, of(statement.body), of(statement.otherwise));
      case 'switch': {
        const cases = statement.cases.map((each) => ({ ...each, body: of(each.body) }));
        const otherwise = of(statement.otherwise);
        const isEmpty = otherwise.length === 0 && cases.every(({ body }) => body.length === 0);
        return isEmpty ? [] : [{ ...statement, cases, otherwise }];
      }
      case 'loop':
        return [{ ...statement, body: of(statement.body) }];
      case 'count': {
        const body = of(statement.body);
        return body.length === 0 ? [] : [{ ...statement, body }];
      }
      default:
        return [statement];
    }
  });
}

/** Code without variables that nothing reads, and without what is read only for them. */
function withoutUnread(code: Code): Code {
  const read = new Set<Local>();
  for (const statement of code) localsRead(statement, read);
  const left = withoutLets(code, read);
  return left.count === 0 ? code : withoutUnread(left.code);
}

function withoutLets(code: Code, read: ReadonlySet<Local>): { readonly code: Code; readonly count: number } {
  let count = 0;
  const of = (body: Code): Code => {
    const left = withoutLets(body, read);
    count += left.count;
    return left.code;
  };
  const left = code.flatMap((statement): Code => {
    switch (statement.op) {
      case 'let':
        if (read.has(statement.local)) return [statement];
        count++;
        return [];
      case 'if': {
        const [body, otherwise] = [of(statement.body), of(statement.otherwise)];
        if (body.length + otherwise.length === 0) count++;
        return when(statement.test, body, otherwise);
      }
      case 'switch': {
        const cases = statement.cases.map((each) => ({ ...each, body: of(each.body) }));
        return [{ ...statement, cases, otherwise: of(statement.otherwise) }];
      }
      case 'loop':
      case 'count':
        return [{ ...statement, body: of(statement.body) }];
      default:
        return [statement];
    }
  });
  return { code: left, count };
}

function localsRead(statement: Statement, read: Set<Local>): void {
  const value = (of: Value): void =>
    visitValue(of, (part) => {
      if (part.op === 'local') read.add(part.local);
    });
  const all = (body: Code): void => {
    for (const each of body) localsRead(each, read);
  };
  switch (statement.op) {
    case 'set':
      value(statement.value);
      if (statement.slot.op === 'slotAt') value(statement.slot.at);
      return;
    case 'let':
      value(statement.value);
      return;
    case 'assign':
      // What is set again later may be read in a loop before that.
      read.add(statement.local);
      value(statement.value);
      return;
    case 'if':
      value(statement.test);
      all(statement.body);
      all(statement.otherwise);
      return;
    case 'switch':
      value(statement.on);
      for (const { body } of statement.cases) all(body);
      all(statement.otherwise);
      return;
    case 'count':
      value(statement.from);
      value(statement.to);
      all(statement.body);
      return;
    case 'loop':
      all(statement.body);
      return;
    case 'check':
      value(statement.holds);
      for (const each of statement.of) value(each);
      return;
    case 'push':
      value(statement.event);
      return;
    case 'tell':
    case 'do':
      for (const each of statement.of) value(each);
      return;
    case 'return':
      if (statement.value !== undefined) value(statement.value);
  }
}
