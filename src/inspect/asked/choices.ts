import type { Expression } from '../../design/language/expression.js';
import {
  conjunctsOf,
  disjunctsOf,
  readsAny,
  showExpression,
  withParts,
} from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { onLevel, rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import { writesOf } from '../uses.js';
import { askedIn } from './asked.js';
import { isAfter, isBefore, type Known, stretchOf } from './stretch.js';

type Choice = Extract<Expression, { kind: 'choose' }>;

/** Choices one side of which is never taken: a bound decides what they ask for, or what was asked before does. */
export function choicesNeverTaken(design: Design): Finding[] {
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
