import { footprintsOf, sets } from '../../engine/program/footprints.js';
import type { Form, Term } from '../../engine/program/form.js';
import { visitTerm } from '../../engine/program/lower/lower-expression.js';
import { type Cone, coneOf, type Following } from './cone.js';

/** What a search keeps apart although nothing but conditions asks for it: counters and pieces, by index. */
export interface Kept {
  readonly counters: ReadonlySet<number>;
  readonly pieces: ReadonlySet<number>;
}

export const keepsNothing: Kept = { counters: new Set(), pieces: new Set() };

/** A counter that is not followed, held against what is known in every state. */
export interface Comparison {
  readonly counter: number;
  readonly operator: '<' | '<=' | '>' | '>=' | '==' | '!=';
  readonly to: Term;
}

/** A form whose conditions ask for a guess where they read what is not kept, and what is followed of it. */
export interface Loosened {
  readonly form: Form;
  readonly cone: Cone;
  /** What is kept of it; undefined: all. */
  readonly kept: Kept | undefined;
  /** Pieces that are counted where all is kept, and are not here. */
  readonly uncounted: ReadonlySet<number>;
  /** What each guess stands for, by the number of its draw less `first`. */
  readonly guessed: readonly Term[];
  /** Those guesses that are asked for until none lets a transition be taken: by conditions of transitions that wait for no event. */
  readonly settling: ReadonlySet<number>;
  /** For each guess, the first that stands for the same. */
  readonly same: readonly number[];
  /** For each guess, what it says of a counter; undefined: nothing that can be held against another guess. */
  readonly comparisons: readonly (Comparison | undefined)[];
  readonly first: number;
}

/**
 * What is followed of a form, as little as need be: what is not kept, and asked for by conditions alone, is left out, and rules without an
 * event that wait for it and change nothing else. Without anything kept to begin with, all is followed that something depends on.
 */
export function loosenedBy(form: Form, given: Kept | undefined, following: Following): Loosened {
  const whole = coneOf(form, following);
  const first = firstGuess(form);
  if (given === undefined)
    return {
      form,
      cone: whole,
      guessed: [],
      settling: new Set(),
      same: [],
      comparisons: [],
      first,
      kept: undefined,
      uncounted: new Set(),
    };
  let kept = given;
  const waiting = waitingIn(form);
  for (;;) {
    const loose = loosened(form, kept, waiting);
    const unasked = [...waiting].filter((rule) => sizeOf(readByRule({ form, kept }, rule)) > 0);
    const cone = coneOf(loose.form, { ...following, unasked: new Set(unasked), counted: kept.pieces });
    // What is followed all the same need not be guessed, and can be asked for.
    const more = leftOutOf([...loose.guessed, ...unasked.map((rule) => form.rules[rule]!.condition!)], kept);
    const counters = cone.counters.filter((counter) => more.counters.has(counter));
    const pieces = cone.pieces.filter((piece) => more.pieces.has(piece));
    if (counters.length + pieces.length === 0) {
      const uncounted = new Set(whole.pieces.filter((piece) => !cone.pieces.includes(piece)));
      const comparisons = loose.guessed.map((part) => {
        const comparison = comparisonIn(part, kept);
        return comparison && isChangedInSight(form, comparison.counter, waiting) ? comparison : undefined;
      });
      return { ...loose, comparisons, cone, first, kept, uncounted };
    }
    kept = both(kept, { counters: new Set(counters), pieces: new Set(pieces) });
  }
}

/**
 * Whether no rule changes a counter unseen: each that writes it hears an event, and asks for nothing but what is guessed or known exactly, so that
 * it fires here wherever it does in play.
 */
function isChangedInSight(form: Form, counter: number, waiting: ReadonlySet<number>): boolean {
  const footprints = footprintsOf(form);
  return form.rules.every(({ condition }, rule) => {
    if (!footprints.rules[rule]!.writes.some((write) => sets(write, form.cells.counters + counter)))
      return true;
    let isSeen = !waiting.has(rule);
    if (condition !== undefined)
      visitTerm(condition, ({ op }) => {
        const readsLevel = op === 'level' || op === 'lastLevel' || op === 'levelValue';
        if (op === 'course' || (readsLevel && form.endless)) isSeen = false;
      });
    return isSeen;
  });
}

/** The same comparison, seen from its other side. */
const mirrored = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '==': '==', '!=': '!=' } as const;

function comparisonIn(part: Term, kept: Kept): Comparison | undefined {
  if (part.op !== 'binary' || !(part.operator in mirrored)) return undefined;
  const operator = part.operator as Comparison['operator'];
  const { left, right } = part;
  if (left.op === 'counter' && !readsLeftOut(right, kept))
    return { counter: left.counter, operator, to: right };
  if (right.op === 'counter' && !readsLeftOut(left, kept))
    return { counter: right.counter, operator: mirrored[operator], to: left };
  return undefined;
}

export const sizeOf = ({ counters, pieces }: Kept): number => counters.size + pieces.size;

export const both = (one: Kept, other: Kept): Kept => ({
  counters: new Set([...one.counters, ...other.counters]),
  pieces: new Set([...one.pieces, ...other.pieces]),
});

/**
 * Each part of a condition that reads what is not kept becomes a guess, made anew each time that it may have changed: the form then allows all that the design
 * does, and more. Conditions that rules without an event wait for stay as they are, since a guess there could come true without end.
 */
function loosened(
  form: Form,
  kept: Kept,
  waiting: ReadonlySet<number>,
): Pick<Loosened, 'form' | 'guessed' | 'settling' | 'same'> {
  const guessed: Term[] = [];
  const first = firstGuess(form);
  const condition = (of: Term): Term => {
    if (!readsLeftOut(of, kept)) return of;
    if (of.op === 'not') return { op: 'not', of: condition(of.of) };
    if (of.op === 'binary' && (of.operator === 'and' || of.operator === 'or'))
      return { ...of, left: condition(of.left), right: condition(of.right) };
    if (of.op === 'choose')
      return { op: 'choose', test: condition(of.test), yes: condition(of.yes), no: condition(of.no) };
    return { op: 'guess', draw: first + guessed.push(of) - 1 };
  };
  const settles = new Set(form.screens.flatMap(({ conditionTransitions }) => conditionTransitions));
  const settling = new Set<number>();
  const transitions = form.transitions.map((each, index) => {
    const before = guessed.length;
    const loose = { ...each, condition: each.condition && condition(each.condition) };
    if (settles.has(index)) for (let part = before; part < guessed.length; part++) settling.add(part);
    return loose;
  });
  const rules = form.rules.map((each, index) => ({
    ...each,
    condition: waiting.has(index) ? each.condition : each.condition && condition(each.condition),
  }));
  const pieces = form.pieces.map((each) => ({ ...each, needs: each.needs && condition(each.needs) }));
  const cells = { ...form.cells, size: form.cells.size + guessed.length };
  const texts = guessed.map((term) => JSON.stringify(term));
  return {
    form: { ...form, transitions, rules, pieces, cells },
    guessed,
    settling,
    same: texts.map((text) => texts.indexOf(text)),
  };
}

/** The number of the draw of the first guess: how often it was asked is counted behind all other cells. */
const firstGuess = ({ cells }: Form): number => cells.size - cells.asked;

/** Rules that have only a condition. */
const waitingIn = ({ screens }: Form): ReadonlySet<number> =>
  new Set(screens.flatMap(({ conditionRules }) => conditionRules));

/** What the condition of a rule reads that is not kept. */
export const readByRule = (
  { form, kept = keepsNothing }: Pick<Loosened, 'form' | 'kept'>,
  rule: number,
): Kept => {
  const { condition } = form.rules[rule]!;
  return leftOutOf(condition === undefined ? [] : [condition], kept);
};

/** What conditions read that is not kept. */
function leftOutOf(conditions: readonly Term[], kept: Kept): Kept {
  const counters = new Set<number>();
  const pieces = new Set<number>();
  for (const condition of conditions)
    visitTerm(condition, (part) => {
      if (part.op === 'counter' && !kept.counters.has(part.counter)) counters.add(part.counter);
      if (part.op === 'present' || part.op === 'left')
        for (const piece of part.pieces) if (!kept.pieces.has(piece)) pieces.add(piece);
    });
  return { counters, pieces };
}

/** What guesses read that is not kept, by their numbers. */
export const readBy = (
  { guessed, kept = keepsNothing }: Pick<Loosened, 'guessed' | 'kept'>,
  guesses: Iterable<number>,
): Kept =>
  leftOutOf(
    [...guesses].map((part) => guessed[part]!),
    kept,
  );

export function readsLeftOut(condition: Term, kept: Kept): boolean {
  let readsTimer = false;
  // Of timers only whether they run is followed, never how long they still do.
  visitTerm(condition, ({ op }) => {
    readsTimer ||= op === 'timer';
  });
  return readsTimer || sizeOf(leftOutOf([condition], kept)) > 0;
}
