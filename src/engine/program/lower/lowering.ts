import { membersOf } from '../../../design/language/events.js';
import type { Expression } from '../../../design/language/expression.js';
import {
  type Computed,
  type ComputedInterval,
  type Design,
  type Interval,
  type Keep,
  spans,
} from '../../../design/model.js';
import { placeKey } from '../../run/draw.js';
import {
  type Amount,
  type DrawForm,
  type Duration,
  type IntervalForm,
  longestTimer,
  type Term,
  type TextForm,
} from '../form.js';
import { lowerExpression, type TermScope } from './lower-expression.js';

export const spanIndex = (keep: Keep): number => spans.indexOf(keep);

const indexByName = (named: readonly { name: string }[]): ReadonlyMap<string, number> =>
  new Map(named.map(({ name }, index) => [name, index]));

/** What all sections of a design are lowered over: numbers for names, and what is numbered on the way. */
export class Lowering {
  readonly counters: ReadonlyMap<string, number>;
  readonly pieces: ReadonlyMap<string, number>;
  readonly timers: ReadonlyMap<string, number>;
  readonly screens: ReadonlyMap<string, number>;
  readonly events: ReadonlyMap<string, number>;
  /** Places that ask for draws, as they come up. */
  readonly draws: DrawForm[] = [];
  readonly cues: string[] = [];
  readonly popups: TextForm[] = [];
  /** What texts and the HUD show. */
  readonly values: Term[] = [];
  readonly tables: LevelTables;
  readonly scope: TermScope;

  constructor(readonly design: Design) {
    this.counters = indexByName(design.counters);
    this.pieces = indexByName(design.pieces);
    this.timers = indexByName(design.timers);
    this.screens = indexByName(design.screens);
    this.events = new Map(design.events.map((name, index) => [name, index]));
    this.tables = new LevelTables(design);
    this.scope = {
      counters: this.counters,
      kinds: new Map(design.counters.map(({ name, kind, places }) => [name, { kind, places }])),
      timers: this.timers,
      dials: new Map(
        design.dials.map(({ name, value }, dial) => [
          name,
          design.looseOf !== undefined ? { op: 'dial', dial, value } : { op: 'constant', value },
        ]),
      ),
      piecesOf: (name) => membersOf(name, design.pieces).map((piece) => this.pieces.get(piece)!),
      levelValue: (value) => this.tables.term(value, this.scope),
    };
  }

  event(name: string): number {
    return this.events.get(name)!;
  }

  term(expression: Expression): Term {
    return lowerExpression(expression, this.scope);
  }

  /** A place that asks for draws; its number. */
  asks(name: string): number {
    return this.draws.push({ name, ...placeKey(name) }) - 1;
  }

  /** A value that is shown; its number in `values`. */
  shows(expression: Expression): number {
    return this.values.push(this.term(expression)) - 1;
  }

  computed({ seconds, upTo }: ComputedInterval): NonNullable<IntervalForm['computed']> {
    return { seconds: this.term(seconds), upTo: upTo && this.term(upTo) };
  }

  /** A number, known where nothing but numbers and dials that stand still are in it. */
  amount(of: Computed): Amount {
    if (typeof of === 'number') return of;
    const term = this.term(of);
    return term.op === 'constant' ? heldCount(term.value) : term;
  }

  /** The same of a duration. */
  duration(of: Computed): Duration {
    if (typeof of === 'number') return of;
    const term = this.term(of);
    return term.op === 'constant' ? heldDuration(term.value) : term;
  }

  interval(interval: Interval | ComputedInterval, asks: string): IntervalForm {
    if ('seconds' in interval) {
      const computed = this.computed(interval);
      const draw = computed.upTo === undefined ? -1 : this.asks(asks);
      return { least: 0, step: interval.grid, choices: 1, draw, computed };
    }
    const { least, most, grid } = interval;
    if (least === most) return { least, step: 0, choices: 1, draw: -1, computed: undefined };
    const choices = (most - least) / grid + 1;
    return { least, step: grid, choices, draw: this.asks(asks), computed: undefined };
  }
}

/** How many are meant by a number that is computed: rounded, none at the least; what is no number is none. */
const heldCount = (of: number): number => Math.max(0, Math.round(of) || 0);
/** Milliseconds that are meant by seconds that are computed: none at the least, a day at the most. */
export const heldDuration = (seconds: number): number =>
  Math.min(longestTimer, Math.max(0, Math.round(seconds * 1000) || 0));

/**
 * Values of levels, one table for each that an expression reads. Where a formula cannot be worked out now, since there is no last level or its
 * dials are loose, it is worked out where it is read.
 */
class LevelTables {
  readonly values: number[][] = [];
  readonly #names: string[] = [];

  constructor(private readonly design: Design) {}

  term(name: string, scope: TermScope): Term {
    const { levels } = this.design;
    const isEndless = levels.at(-1)!.endless;
    const terms = levels.map(({ values }, index) => {
      const isOne = index < levels.length - 1 || !isEndless;
      return lowerExpression(values.get(name)!, isOne ? { ...scope, level: index + 1 } : scope);
    });
    if (!terms.every((term) => term.op === 'constant')) return this.#chain(terms);
    const known = this.#names.indexOf(name);
    if (known >= 0) return { op: 'levelValue', table: known };
    this.#names.push(name);
    this.values.push(terms.map((term) => term.value));
    return { op: 'levelValue', table: this.values.length - 1 };
  }

  /** Terms by level, each up to the last level that has the same. */
  #chain(terms: readonly Term[]): Term {
    const texts = terms.map((term) => JSON.stringify(term));
    return terms.reduceRight((otherwise, term, index) => {
      if (texts[index] === texts[index + 1]) return otherwise;
      const number: Term = { op: 'constant', value: index + 1 };
      const test: Term = { op: 'binary', operator: '<=', left: { op: 'level' }, right: number };
      return { op: 'choose', test, yes: term, no: otherwise };
    });
  }
}
