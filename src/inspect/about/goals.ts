import type { Expression } from '../../design/language/expression.js';
import { comparisonsIn, readsAny, showExpression } from '../../design/language/expression-parts.js';
import { type Design, spans } from '../../design/model.js';
import { atLevel, levelAt, rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import { asItMoves } from '../played-for.js';
import type { Uses } from '../uses.js';

/** Findings about what transitions and pieces wait for. */
export const aboutGoals = (design: Design, uses: Uses, isFlowSound: boolean): Finding[] => [
  ...goalsAskedTwice(design),
  ...goalsCarriedOver(design),
  ...(isFlowSound ? goalsOfLevels(design, uses) : []),
  ...easierByLevel(design),
];

/** Two transitions from one screen that ask for the same goal, one for reaching it and one for more. */
function goalsAskedTwice({ transitions }: Design): Finding[] {
  const asked = new Map<string, { readonly operator: string; readonly line: number }>();
  return transitions.flatMap(({ from, to, condition, place }) => {
    const found: Finding[] = [];
    for (const part of comparisonsIn(condition, ['<', '<=', '>', '>='])) {
      const { operator, left, right } = part;
      const key = `${from} ${showExpression(left)} ${operator[0]} ${showExpression(right)}`;
      const first = asked.get(key);
      if (first === undefined) asked.set(key, { operator, line: place.line });
      else if (first.operator !== operator && found.length === 0)
        found.push(
          finding(
            'goal-asked-twice',
            { from, to, condition: showExpression(part), operator: first.operator, line: first.line },
            place,
          ),
        );
    }
    return found;
  });
}

/** Levels without a last one are looked at so far. */
const levelsTried = 5;

const countOf = ({ levels }: Design): number => levels.length + (levels.at(-1)?.endless ? levelsTried : 0);

/** What a level, by its number, asks for, where that is one number. */
function askedOn(design: Design, nth: number, goal: string): number | undefined {
  const written = levelAt(design, nth).values.get(goal);
  if (written === undefined) return undefined;
  const [least, most] = rangeIn(design, atLevel(design, written, nth));
  return least === most ? least : undefined;
}

/** Goals of levels that are asked of what is kept for longer than a level. */
function goalsCarriedOver(design: Design): Finding[] {
  const { counters, transitions, pieces, rules } = design;
  if (countOf(design) < 2 || !transitions.some(({ level, fresh }) => level === 'next' && fresh === 'level'))
    return [];
  const told = new Map<string, Finding>();
  const conditions = [...transitions.map(({ condition }) => condition), ...pieces.map(({ needs }) => needs)];
  const asked = [
    ...conditions.flatMap((condition) => comparisonsIn(condition, ['>=', '>', '=='])),
    ...rules.flatMap(({ condition }) => comparisonsIn(condition, ['>=', '>', '==', '<', '<='])),
  ];
  for (const { left, right } of asked) {
    if (left.kind !== 'counter' || right.kind !== 'levelValue') continue;
    const { name } = left;
    const { keep, place } = counters.find((counter) => counter.name === name)!;
    if (spans.indexOf(keep) <= spans.indexOf('level') || told.has(name)) continue;
    if (!growsByItself(design, right.name))
      told.set(name, finding('goal-carried-over', { counter: name, value: right.name, keep }, place));
  }
  return [...told.values()];
}

/** Pieces that a formula of the level makes easier from each level to the next, and hazards and foes that it makes rarer. */
function easierByLevel(design: Design): Finding[] {
  const { pieces, levels } = design;
  const isDanger = (name: string): boolean =>
    pieces.some(({ name: piece, role }) => piece === name && (role === 'hazard' || role === 'foe'));
  const formulas = [
    ...pieces.flatMap(({ name: piece, role, difficulty, place }) =>
      isDanger(piece) || role === 'collectible'
        ? [{ piece, what: 'difficulty' as const, by: difficulty, isFalling: true, place }]
        : [],
    ),
    ...levels[0]!.spawns.flatMap(({ piece, every, place }) =>
      isDanger(piece) &&
      'seconds' in every &&
      levels.every((level) => spawnsAlike(level, piece, every.seconds))
        ? [{ piece, what: 'every' as const, by: every.seconds, isFalling: false, place }]
        : [],
    ),
  ];
  return formulas.flatMap(({ piece, what, by, isFalling, place }) => {
    if (typeof by === 'number' || !readsAny(by, ['level'])) return [];
    const ranges = Array.from({ length: countOf(design) }, (_, index) =>
      rangeIn(design, atLevel(design, by, index + 1)),
    );
    const isEasier = ranges
      .slice(1)
      .every((range, at) =>
        range.every((end, side) => (isFalling ? end < ranges[at]![side]! : end > ranges[at]![side]!)),
      );
    if (ranges.length < 2 || !isEasier) return [];
    const [from, to] = [ranges[0]!, ranges.at(-1)!].map(([, most]) => Math.round(1000 * most) / 1000);
    return [finding('easier-by-level', { piece, what, from: from!, to: to!, levels: ranges.length }, place)];
  });
}

const spawnsAlike = ({ spawns }: Design['levels'][0], piece: string, seconds: Expression): boolean =>
  spawns.some(
    (each) =>
      each.piece === piece &&
      'seconds' in each.every &&
      showExpression(each.every.seconds) === showExpression(seconds),
  );

/** Whether a level's goal is at least twice that of the first by the second level, as goals that add up are. */
function growsByItself(design: Design, goal: string): boolean {
  const [first, second] = [1, 2].map((nth) => askedOn(design, nth, goal));
  return first !== undefined && second !== undefined && second >= 2 * first;
}

/** Levels whose goal is smaller than that of the level before, or nothing to be reached. */
function goalsOfLevels(design: Design, { writes }: Uses): Finding[] {
  const moving = asItMoves(design, writes);
  const { levels, screens, transitions, pieces } = design;
  const lost = screens.flatMap(({ name, ending }) => (ending === 'lost' ? [name] : []));
  const toGoOn = transitions.filter(({ to }) => !lost.includes(to)).map(({ condition }) => condition);
  const goals = new Map(
    [...toGoOn, ...pieces.map(({ needs }) => needs)]
      .flatMap((each) => comparisonsIn(each, ['>=', '>']))
      .flatMap(({ left, right, operator }) =>
        right.kind === 'levelValue' ? [[right.name, { counter: left, operator }] as const] : [],
      ),
  );
  const nameOf = (nth: number): string =>
    nth < levels.length || !levels.at(-1)?.endless ? levels[nth - 1]!.name : `level ${nth}`;
  const isToldOfAll = new Set<string>();
  return Array.from({ length: countOf(design) }, (_, index) => index + 1).flatMap((nth) =>
    [...goals].flatMap(([goal, { counter, operator }]): Finding[] => {
      const asks = askedOn(design, nth, goal);
      const asked = nth === 1 ? undefined : askedOn(design, nth - 1, goal);
      if (asks === undefined || isToldOfAll.has(goal)) return [];
      const least = counter.kind === 'counter' ? rangeIn(moving, counter)[0] : Number.NEGATIVE_INFINITY;
      const isNothing = operator === '>=' ? least >= asks : least > asks;
      if (!isNothing && (asked === undefined || asks >= asked)) return [];
      // What a formula does on the levels after the last that is written, it goes on to do.
      if (nth >= levels.length) isToldOfAll.add(goal);
      const { place } = levelAt(design, nth);
      const level = nameOf(nth);
      return isNothing
        ? [finding('goal-of-nothing', { level, value: goal, asks, counter: showExpression(counter) }, place)]
        : [
            finding(
              'level-asks-less',
              { level, before: nameOf(nth - 1), value: goal, asks: String(asks), asked: String(asked) },
              place,
            ),
          ];
    }),
  );
}
