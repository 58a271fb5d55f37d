// One pass over a file: every way in which a value is read and reported, which all sections share.

import type { z } from 'zod';
import { longestDuration, milliseconds, secondsIn } from '../language/duration.js';
import type { Expression, ValueType } from '../language/expression.js';
import { showExpression, visitExpression } from '../language/expression-parts.js';
import { nameFault } from '../language/names.js';
import { ExpressionFault, parseExpression, type Scope } from '../language/parse-expression.js';
import { roleFor } from '../language/roles.js';
import type { Computed, ComputedInterval, Interval } from '../model.js';
import { inOneLine, isPlainMap, measureIn, percentIn } from '../problems/meant.js';
import type { AllDetails, ProblemDetails } from '../problems/problem-details.js';
import type { ProblemList } from '../problems/problem-list.js';
import { expectedFor } from '../schema/expected.js';
import { isEffectOutsideDo, isKnownKey, keysOf, meantKeys, purposeOf } from '../schema/keys.js';
import type { Path, Source } from '../text/source.js';

/** The names taken so far: what each stands for, and the line that gave it. */
export type Names = Map<string, { kind: string; line: number }>;

/** One pass over a design file: what has been read so far, and every problem found on the way. */
export class Reading {
  /** The one space of names that counters, dials, timers, pieces, groups, levels and screens share. */
  readonly names: Names = new Map();
  /** Names whose own entry is wrong: what does not fit them elsewhere follows from that. */
  readonly doubtful = new Set<string>();

  constructor(
    readonly source: Source,
    readonly problems: ProblemList,
  ) {}

  fail<Code extends keyof ProblemDetails>(code: Code, details: AllDetails[Code], path: Path): void {
    this.problems.add(code, details, this.source.placeOf(path));
  }

  failAtKey<Code extends keyof ProblemDetails>(code: Code, details: AllDetails[Code], path: Path): void {
    this.problems.add(code, details, this.source.keyPlaceOf(path));
  }

  /** The value at a path in the form of a schema, or undefined with every departure from it reported. */
  parse<Schema extends z.ZodType>(
    schema: Schema,
    value: unknown,
    path: Path,
    where: string,
  ): z.output<Schema> | undefined {
    const result = schema.safeParse(value, { jitless: true, reportInput: true });
    if (result.success) return result.data;
    const outside = this.#changesOutsideDo(schema, result.error.issues, path, where);
    // A key under another word is not lacking too.
    const meant = meantKeys(schema, result.error.issues);
    for (const issue of result.error.issues) {
      if (outside.has(issue)) continue;
      const at = [...path, ...(issue.path as (string | number)[])];
      if (issue.code === 'unrecognized_keys') {
        const allowed = keysOf(schema, issue.path as (string | number)[]);
        for (const key of issue.keys) {
          const { [key]: value, is: role } = issue.input as Record<string, unknown>;
          const details = { key, allowed, where: partOf(where, issue.path) };
          const more = {
            instead: this.#named(key, value, allowed),
            role: typeof role === 'string' ? role : undefined,
          };
          this.failAtKey('unknown-key', { ...details, ...more }, [...at, key]);
        }
      } else if (
        (issue.code === 'invalid_type' || issue.code === 'invalid_union') &&
        issue.input === undefined &&
        issue.path.length > 0
      ) {
        if (meant.has(issue.path.join('.'))) continue;
        const purpose = purposeOf(schema, issue.path as (string | number)[]);
        this.failAtKey('missing-key', { key: String(issue.path.at(-1)), where, purpose }, at.slice(0, -1));
      } else {
        this.#wrongType(issue.input, expectedFor(schema, issue), at);
      }
    }
    return undefined;
  }

  /** How it is written where an effect, or the name of a piece or of a counter, stands as a key; undefined where it is none of these. */
  #named(key: string, value: unknown, allowed: readonly string[]): string | undefined {
    if (isEffectOutsideDo(key, allowed)) {
      const list = inOneLine([{ [key]: value }]);
      return list && `do: ${list}`;
    }
    const kind = this.names.get(key)?.kind;
    const amount = typeof value === 'number' || typeof value === 'string' ? value : 1;
    if (kind === 'piece' && allowed.includes('place')) return `place: { ${key}: ${amount} }`;
    if (kind === 'counter' && allowed.includes('add')) return `add: { ${key}: ${amount} }`;
    if (kind === 'counter' && allowed.includes('expect')) return `expect: { ${key}: ${amount} }`;
    if ((kind === 'counter' || kind === 'timer') && allowed.includes('tenths')) return `show: ${key}`;
    // Levels stand in a list; a single one may stand alone.
    if (isPlainMap(value) && allowed.includes('endless') && !isKnownKey(key, allowed))
      return `levels: ${inOneLine([{ name: key, ...value }]) ?? `[{ name: ${key}, ... }]`}`;
    return undefined;
  }

  /** A counter that stands in a rule as if it were a key: the list of effects that is lacking then is the same slip. */
  #changesOutsideDo(
    schema: z.ZodType,
    issues: readonly z.core.$ZodIssue[],
    path: Path,
    where: string,
  ): ReadonlySet<z.core.$ZodIssue> {
    const unknown = issues.find((issue) => issue.code === 'unrecognized_keys' && issue.path.length === 0);
    const allowed = keysOf(schema, []);
    const isOfEffects = allowed.includes('do') && !allowed.includes('expect');
    if (unknown?.code !== 'unrecognized_keys' || !isOfEffects) return new Set();
    if (!unknown.keys.every((key) => this.names.get(key)?.kind === 'counter')) return new Set();
    const written = unknown.input as Readonly<Record<string, unknown>>;
    for (const counter of unknown.keys) {
      const amount = written[counter];
      const told = typeof amount === 'number' || typeof amount === 'string' ? String(amount) : '1';
      this.failAtKey('change-outside-do', { counter, amount: told, where }, [...path, counter]);
    }
    return new Set([unknown, ...issues.filter((issue) => issue.path.length === 1 && issue.path[0] === 'do')]);
  }

  #wrongType(input: unknown, expected: string, at: Path): void {
    if (typeof input === 'string') {
      const isTime = expected.includes('seconds') || at[0] === 'targets';
      if (this.#failAsMeasure(input, isTime, expected.includes('number'), at)) return;
      if (at.at(-1) === 'is') {
        this.fail('not-a-role', { found: input, near: roleFor(input) }, at);
        return;
      }
    }
    if (typeof input === 'number' && input > longestDuration && expected.includes('seconds')) {
      const meant = `${input / 1000} for ${input} milliseconds: times are in seconds, ${longestDuration} at most`;
      this.fail('wrong-type', { found: show(input), expected: meant }, at);
      return;
    }
    const isMeasure = typeof input === 'string' && at.at(-1) === 'measure';
    const meant = isMeasure ? measureIn(input, this.names.get(input)?.kind) : undefined;
    this.fail('wrong-type', { found: show(input), expected: meant ?? expected }, at);
  }

  /** Reports a number with a unit of time after it, or a percent sign, where a plain one belongs; false where it has neither. */
  #failAsMeasure(text: string, isTime: boolean, isNumber: boolean, at: Path): boolean {
    const seconds = isTime ? secondsIn(text) : undefined;
    const percent = isNumber ? percentIn(text) : undefined;
    if (seconds !== undefined) this.fail('unit-written', { found: text, seconds }, at);
    else if (percent !== undefined) this.fail('wrong-type', { found: show(text), expected: percent }, at);
    return seconds !== undefined || percent !== undefined;
  }

  /** Takes a name for one kind of thing; false where it cannot be written, which is reported. */
  claim(name: string, kind: string, path: Path, names: Names = this.names): boolean {
    const fault = nameFault(name);
    if (fault !== undefined) {
      this.failAtKey(fault, { name }, path);
      this.doubtful.add(name);
      return false;
    }
    this.claimText(name, kind, path, names);
    return true;
  }

  /** The same for a name that may be any text. */
  claimText(name: string, kind: string, path: Path, names: Names = this.names): void {
    const earlier = names.get(name);
    if (earlier === undefined) names.set(name, { kind, line: this.source.keyPlaceOf(path).line });
    else this.failAtKey('name-clash', { name, first: earlier.kind, second: kind, line: earlier.line }, path);
  }

  /** Seconds as milliseconds; what is no whole number of them is reported and read as the nearest. */
  duration(seconds: number, path: Path): number {
    const exact = milliseconds(seconds);
    if (exact === undefined) this.fail('not-milliseconds', { seconds }, path);
    return exact ?? Math.round(seconds * 1000);
  }

  /** A number as it stands, or an expression that gives one. */
  computed(written: number | string, scope: Scope, path: Path): Computed {
    if (typeof written === 'number') return written;
    return this.expression(written, scope, 'number', path) ?? nothing;
  }

  /** Seconds as milliseconds; or an expression that gives seconds. */
  computedDuration(written: number | string, scope: Scope, path: Path): Computed {
    if (typeof written === 'number') return this.duration(written, path);
    return this.expression(written, scope, 'number', path) ?? nothing;
  }

  /** Reports what an expression reads though it must not; `kind` is what stands in its place. */
  mustNotRead(
    of: Computed,
    kinds: readonly ('level' | 'lastLevel' | 'course')[],
    kind: string,
    { dials }: Scope,
    path: Path,
  ): void {
    if (typeof of === 'number') return;
    visitExpression(of, (part) => {
      if (!kinds.some((each) => each === part.kind)) return;
      this.fail('unknown-name', { name: showExpression(part), kind, allowed: [...dials] }, path);
    });
  }

  interval(written: number | readonly [number, number], grid: number, path: Path): Interval {
    if (typeof written === 'number') {
      const fixed = this.duration(written, path);
      return { least: fixed, most: fixed, grid };
    }
    const [least, most] = written.map((each, index) => this.duration(each, [...path, index])) as [
      number,
      number,
    ];
    if (least > most) this.fail('bad-order', { what: 'The range', from: written[0], to: written[1] }, path);
    else if ((most - least) % grid !== 0) {
      this.fail('off-grid', { least: written[0], most: written[1], grid: grid / 1000 }, path);
    }
    return { least, most, grid };
  }

  /** The same where each end may be an expression. */
  timed(written: WrittenInterval, grid: number, scope: Scope, path: Path): Interval | ComputedInterval {
    if (typeof written === 'number') return this.interval(written, grid, path);
    if (typeof written === 'string') {
      return { seconds: this.expression(written, scope, 'number', path) ?? nothing, upTo: undefined, grid };
    }
    const [least, most] = written;
    if (typeof least === 'number' && typeof most === 'number')
      return this.interval([least, most], grid, path);
    const read = (each: number | string, index: number) =>
      this.expression(each, scope, 'number', [...path, index]) ?? nothing;
    return { seconds: read(least, 0), upTo: read(most, 1), grid };
  }

  /** The same for a clock that runs again and again, or once: it takes time. */
  period(written: WrittenInterval, grid: number, scope: Scope, path: Path): Interval | ComputedInterval {
    const read = this.timed(written, grid, scope, path);
    if ('most' in read && read.most === 0) {
      const details = { what: 'The most of an interval', found: 0, from: 0.001, to: longestDuration };
      this.fail('out-of-range', details, path);
    }
    return read;
  }

  /** A checked expression, or undefined with its fault reported at the very character. */
  expression(
    written: string | number | boolean,
    scope: Scope,
    expected: ValueType,
    path: Path,
  ): Expression | undefined {
    const text = String(written);
    if (expected === 'number' && this.#failAsMeasure(text, true, true, path)) return undefined;
    try {
      return parseExpression(text, scope, expected);
    } catch (error) {
      if (!(error instanceof ExpressionFault)) throw error;
      const { fault, offset } = error;
      const place = this.source.placeInside(path, offset);
      if (fault.code === 'bad-expression')
        this.problems.add('bad-expression', { text, reason: fault.reason, remedy: fault.remedy }, place);
      else if (fault.code === 'wrong-value-type') {
        const { part, found, expected: needed, remedy } = fault;
        this.problems.add('wrong-value-type', { text: part, found, expected: needed, remedy }, place);
      } else if (fault.code === 'missing-level-value')
        this.problems.add('missing-level-value', { value: fault.value, levels: fault.levels }, place);
      else {
        const { name, kind, allowed } = fault;
        if (this.doubtful.has(name)) return undefined;
        this.problems.add('unknown-name', { name, kind, allowed, is: this.#otherKind(name, kind) }, place);
      }
      return undefined;
    }
  }

  /** What a name stands for, where that is not what is needed. */
  #otherKind(name: string, needed: string): string | undefined {
    const kind = this.names.get(name)?.kind;
    return kind === needed ? undefined : kind;
  }

  /** True where a name is among the allowed; else it is reported. */
  known(
    name: string,
    kind: string,
    allowed: readonly string[] | ReadonlySet<string> | ReadonlyMap<string, unknown>,
    path: Path,
    atKey = false,
  ): boolean {
    if ('has' in allowed ? allowed.has(name) : allowed.includes(name)) return true;
    if (this.doubtful.has(name)) return false;
    const details = {
      name,
      kind,
      allowed: 'has' in allowed ? [...allowed.keys()] : allowed,
      is: this.#otherKind(name, kind),
    };
    if (atKey) this.failAtKey('unknown-name', details, path);
    else this.fail('unknown-name', details, path);
    return false;
  }
}

/** An interval as it stands in a file. */
export type WrittenInterval = number | string | readonly [number | string, number | string];

/** Something as it stands in the file, and where. */
export interface Written<Value> {
  readonly value: Value;
  readonly path: Path;
}

/** Stands for an expression that could not be read, which is reported. */
const nothing: Expression = { kind: 'number', value: 0 };

/** What may be named where nothing of a session is known: dials, and the level's number. */
export const dialsAlone = ({ dials }: Pick<Scope, 'dials'>): Scope => ({
  counters: new Set(),
  types: new Map(),
  words: new Map(),
  dials,
  timers: new Set(),
  pieces: new Set(),
  levelValues: new Map(),
});

/** One name or a list of them, each with its path. */
export function listed(written: string | readonly string[], path: Path): { name: string; path: Path }[] {
  return typeof written === 'string'
    ? [{ name: written, path }]
    : written.map((name, index) => ({ name, path: [...path, index] }));
}

/** What a part of an entry is called in a message. */
const partOf = (where: string, path: readonly PropertyKey[]): string =>
  path.length === 0
    ? where
    : path[0] === 'do' && path.length === 2
      ? `An effect of ${where[0]!.toLowerCase()}${where.slice(1)}`
      : `"${path.join('.')}"`;

/** A found value in a few words. */
export function show(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  if (Array.isArray(value)) return value.length === 0 ? 'an empty list' : `a list of ${value.length}`;
  if (typeof value === 'object') return 'a map of keys';
  if (typeof value === 'string') return `the text "${value.length > 40 ? `${value.slice(0, 40)}…` : value}"`;
  return String(value);
}
