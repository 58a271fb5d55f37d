import type { BinaryOperator, Expression } from '../../design/language/expression.js';
import {
  comparisonsIn,
  conjunctsOf,
  disjunctsOf,
  readsAny,
  showExpression,
  withParts,
} from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { atLevel, onLevel, rangeIn } from '../../explore/abstraction/ranges.js';
import type { Judgement } from '../../explore/evidence/verdict.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { asksPast, passedBy } from '../passed-by.js';
import { isLoss, mayMove } from '../played-for.js';
import { isLive, type Uses, writesOf, writtenRules } from '../uses.js';

/** Findings about what is asked for: parts of conditions, and choices, that come out one way only, and numbers that are passed by. */
export const aboutConditions = (
  design: Design,
  uses: Uses,
  exploration: Exploration,
  isOver: () => boolean,
): Finding[] => [
  ...numbersPassedBy(design, uses, exploration, isOver),
  ...partsThatNeverHold(design),
  ...partsThatAlwaysHold(design),
  ...choicesNeverTaken(design),
];

/** What asks for a condition: where it stands, and on which screens it is asked; `to` is where it leads. */
const askedIn = (design: Design) => [
  ...design.transitions.map(({ from, to, condition, effects, index, place }) => ({
    what: `${from} -> ${to}`,
    path: ['transitions', index, 'if'],
    screens: [from],
    to,
    condition,
    effects,
    place,
  })),
  ...writtenRules(design).map(({ name, screens, condition, effects, place }, index) => ({
    what: name,
    path: ['rules', index, 'if'],
    screens,
    to: undefined,
    condition,
    effects,
    place,
  })),
];

/** Conditions that ask for one number of a counter, which was seen to step over it. */
function numbersPassedBy(
  design: Design,
  { writes }: Uses,
  { transitions, parts }: Exploration,
  isOver: () => boolean,
): Finding[] {
  const told = new Set<Place>();
  const ofRules = writes.filter(({ rule }) => rule !== undefined);
  const isReached = ({ verdict }: Pick<Judgement, 'verdict'>): boolean => verdict === 'reached';
  return askedIn(design).flatMap(({ what, path, screens, to, condition, place }) => {
    const screen = screens.find((name) => isLive(design, name));
    const entered = parts.find(({ kind, name }) => kind === 'screen' && name === screen)?.witness;
    const isTaken =
      transitions.some((each) => each.place === place && each.from === screen && isReached(each)) ||
      parts.some((each) => each.place === place && isReached(each));
    if (told.has(place) || !isTaken || screen === undefined || entered === undefined) return [];
    for (const part of conjunctsOf(condition)) {
      if (part.kind !== 'binary' || part.operator !== '==') continue;
      const { left, right } = part;
      const counter = design.counters.find(({ name }) => left.kind === 'counter' && left.name === name);
      if (counter?.kind !== 'number') continue;
      const numberOn = (level: number): number | undefined => {
        const [least, most] = rangeIn(design, atLevel(design, right, level));
        return least === most ? least : undefined;
      };
      const shown = passedBy(design, counter, screen, entered, numberOn, isOver);
      if (shown === undefined) continue;
      const { before, after, steps } = shown;
      // What comes back may be meant to be met exactly; what is lost with is not. And whoever asks for what is past it has thought of it.
      const isUp = after > before;
      const mayComeBack = mayMove(design, ofRules, counter.name, !isUp);
      const isLostWith = to !== undefined && isLoss(design, to);
      if ((mayComeBack && !isLostWith) || asksPast(design, counter.name, isUp)) continue;
      told.add(place);
      const instead: Expression = { ...part, operator: isUp ? '>=' : '<=' };
      const details = {
        what,
        part: showExpression(part),
        counter: counter.name,
        before,
        after,
        instead: showExpression(instead),
        path,
        condition: showExpression(withParts(condition!, (each) => (each === part ? instead : undefined))),
      };
      return [finding('passed-by', details, place, steps)];
    }
    return [];
  });
}

/** The bound that decides a comparison of a counter, by how its operator begins. */
const boundOf: { readonly [operator: string]: 'min' | 'max' | undefined } = { '>': 'min', '<': 'max' };

/** Comparisons of a counter that its min or its max decides: they ask for nothing. */
function partsThatAlwaysHold(design: Design): Finding[] {
  const needs = design.pieces.map(({ name, needs: condition, place }) => ({ what: name, condition, place }));
  const told = new Set<Place>();
  return [...askedIn(design), ...needs].flatMap(({ what, condition, place }) => {
    const part = comparisonsIn(condition, ['>=', '>', '<=', '<', '!=']).find(
      (each) => each.left.kind === 'counter' && rangeIn(design, each)[0] === 1,
    );
    if (part === undefined || told.has(place)) return [];
    told.add(place);
    const [least, most] = rangeIn(design, part.left);
    const { operator } = part;
    const bound = boundOf[operator[0]!];
    const stricter = operator === '>=' ? '>' : operator === '<=' ? '<' : undefined;
    const details = {
      what,
      part: showExpression(part),
      counter: showExpression(part.left),
      bound,
      value: bound === 'min' ? least : most,
      instead: stricter && showExpression({ ...part, operator: stricter }),
    };
    return [finding('part-always-holds', details, place)];
  });
}

/** Conditions of several parts, one of which would do, where one can never hold. */
function partsThatNeverHold(design: Design): Finding[] {
  const told = new Set<Place>();
  return askedIn(design).flatMap(({ what, condition, place }) => {
    const parts = disjunctsOf(condition);
    const never = parts.filter((part) => rangeIn(design, part)[1] === 0);
    if (never.length === 0 || never.length === parts.length || told.has(place)) return [];
    told.add(place);
    return never.map((part) => finding('part-never-holds', { what, part: showExpression(part) }, place));
  });
}

/** A part of a condition that is known to hold, or not to, wherever something is asked. */
interface Known {
  readonly part: Expression;
  readonly holds: boolean;
}

type Choice = Extract<Expression, { kind: 'choose' }>;

/** Choices one side of which is never taken: a bound decides what they ask for, or what was asked before does. */
function choicesNeverTaken(design: Design): Finding[] {
  const told = new Set<Place>();
  return askedIn(design).flatMap(({ what, condition, effects, place }) => {
    const amounts = effects.flatMap(writesOf).map(({ amount }) => amount);
    for (const expression of [...amounts, ...conjunctsOf(condition)]) {
      for (const { choice, known } of choicesIn(expression, [])) {
        const found = told.has(place) ? undefined : neverTaken(design, choice, known);
        if (found === undefined) continue;
        told.add(place);
        return [finding('choice-never-taken', { what, ...found }, place)];
      }
    }
    return [];
  });
}

/** The choices of an expression, each with what is known where it is asked. */
function choicesIn(
  of: Expression,
  known: readonly Known[],
): { readonly choice: Choice; readonly known: readonly Known[] }[] {
  const outermost: Choice[] = [];
  withParts(of, (part) => {
    if (part.kind !== 'choose') return undefined;
    outermost.push(part);
    return part;
  });
  const also = (parts: readonly Expression[], holds: boolean): readonly Known[] => [
    ...known,
    ...parts.map((part) => ({ part, holds })),
  ];
  return outermost.flatMap((choice) => [
    { choice, known },
    ...choicesIn(choice.test, known),
    ...choicesIn(choice.yes, also(conjunctsOf(choice.test), true)),
    ...choicesIn(choice.no, also(disjunctsOf(choice.test), false)),
  ]);
}

function neverTaken(design: Design, { test, yes, no }: Choice, known: readonly Known[]) {
  // A dial may be turned, and a design with one level may get more.
  if (readsAny(test, ['dial']) || (design.levels.length === 1 && readsAny(test, levelNumber)))
    return undefined;
  const told = (holds: boolean, decidedBy: Known | undefined, level: number) => ({
    test: showExpression(test),
    holds,
    never: showExpression(holds ? no : yes),
    known: decidedBy && { part: showExpression(decidedBy.part), holds: decidedBy.holds },
    level: design.levels.length === 1 || level < 0 ? undefined : design.levels[level]!.name,
  });
  const onEach = design.levels.map((_, level) => decidedOn(design, level, test, known));
  for (const holds of [false, true])
    if (onEach.every((each) => each?.holds === holds)) return told(holds, onEach[0]!.known, -1);
  // What levels ask for may leave a side out on one of them; of two numbers of one level, one is the wrong way round.
  const level = onEach.findIndex((each) => each?.known !== undefined);
  return level < 0 || readsAny(test, levelNumber)
    ? undefined
    : told(onEach[level]!.holds, onEach[level]!.known, level);
}

const levelNumber: readonly Expression['kind'][] = ['level', 'lastLevel'];

/** Whether what is asked holds always or never on a level, and by what known before, where it is not by what can be; undefined: either. */
function decidedOn(
  design: Design,
  level: number,
  test: Expression,
  known: readonly Known[],
): { readonly holds: boolean; readonly known: Known | undefined } | undefined {
  const [least, most] = rangeIn(design, onLevel(design, test, level));
  if (least === 1 || most === 0) return { holds: least === 1, known: undefined };
  const asked = stretchOf(design, level, { part: test, holds: true });
  if (asked === undefined) return undefined;
  for (const each of known) {
    const left = stretchOf(design, level, each);
    if (left === undefined || left.of !== asked.of) continue;
    if (isBefore(left.to, asked.from) || isBefore(asked.to, left.from)) return { holds: false, known: each };
    if (!isAfter(asked.from, left.from) && !isAfter(left.to, asked.to)) return { holds: true, known: each };
  }
  return undefined;
}

/** An end of a stretch of numbers, just past it where it is not part of it: -1 below, 1 above. */
interface End {
  readonly at: number;
  readonly past: -1 | 0 | 1;
}
const isAfter = (one: End, other: End): boolean =>
  one.at > other.at || (one.at === other.at && one.past > other.past);
const isBefore = (one: End, other: End): boolean => isAfter(other, one);

const opposite: { readonly [Operator in BinaryOperator]?: BinaryOperator } = {
  '<': '>=',
  '<=': '>',
  '>': '<=',
  '>=': '<',
  '==': '!=',
  '!=': '==',
};

/** Between which numbers something lies where a comparison of it with one number comes out as it does; undefined where it is no such. */
function stretchOf(
  design: Design,
  level: number,
  { part, holds }: Known,
): { readonly of: string; readonly from: End; readonly to: End } | undefined {
  if (part.kind !== 'binary' || readsAny(part, ['dial'])) return undefined;
  const operator = holds ? part.operator : opposite[part.operator];
  const [least, most] = rangeIn(design, onLevel(design, part.right, level));
  if (least !== most) return undefined;
  const of = showExpression(part.left);
  const end = (past: End['past']): End => ({ at: least, past });
  const [lowest, highest]: End[] = [
    { at: Number.NEGATIVE_INFINITY, past: 0 },
    { at: Number.POSITIVE_INFINITY, past: 0 },
  ];
  switch (operator) {
    case '<':
      return { of, from: lowest!, to: end(-1) };
    case '<=':
      return { of, from: lowest!, to: end(0) };
    case '>':
      return { of, from: end(1), to: highest! };
    case '>=':
      return { of, from: end(0), to: highest! };
    case '==':
      return { of, from: end(0), to: end(0) };
    default:
      return undefined;
  }
}
