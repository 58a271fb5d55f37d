import type { Expression } from '../../design/language/expression.js';
import { conjunctsOf, countersIn, showExpression } from '../../design/language/expression-parts.js';
import type { Computed, Design, Piece } from '../../design/model.js';
import { mostPresent } from '../../engine/program/form.js';
import { onLevel, rangeIn } from '../../explore/abstraction/ranges.js';
import type { Exploration } from '../../explore/explore.js';
import { hardest } from '../../players/meeting/chance.js';
import { type Finding, finding } from '../finding.js';
import { asItMoves, askedToHave, floorIn, isLostFor, metFor, outcomesOf } from '../played-for.js';
import { addedBy, inLevels, madeBy, madeIn, type Uses } from '../uses.js';

/** Findings about pieces: where they come from, and what meeting them does. */
export function aboutPieces(design: Design, uses: Uses, { parts, transitions }: Exploration): Finding[] {
  const never = new Set(
    parts.flatMap(({ kind, name, verdict }) =>
      kind === 'outcome' && verdict === 'unreachable' ? [name] : [],
    ),
  );
  return [
    ...unheard(design, uses),
    ...nowhere(design, parts),
    ...harmUnheard(design, uses),
    ...gainUnheard(design, uses),
    ...successCosts(design, uses),
    ...leftOut(design, uses),
    ...difficultiesUnread(design),
    ...leftAlone(design, uses),
    ...checkpointsInVain(design, uses),
    ...computedTooFar(asItMoves(design, uses.writes)),
    ...neverMet(design, never, transitions),
    ...aboutSpawnsThatStay(design),
  ];
}

function unheard(design: Design, { heard, counted }: Uses): Finding[] {
  // A checkpoint on a course is where the player goes on after a fresh life.
  const isPlaceOnCourse = ({ name, role }: Piece): boolean =>
    role === 'checkpoint' && design.levels.some(({ course }) => course.includes(name));
  // Of one that never appears among others that do, that is told.
  const appear = madeIn(design);
  const isNowhere = (name: string): boolean => appear.size > 0 && !appear.has(name);
  return design.pieces.flatMap((piece) => {
    const { name, role, meets, outcomes, place } = piece;
    const isHeard = [...heard].some((event) => event.startsWith(`${name}.`));
    if (isHeard || role === 'prop' || counted.has(name) || isPlaceOnCourse(piece) || isNowhere(name))
      return [];
    const likely = outcomes.at(meets === 'arrives' ? -1 : 0)!.name;
    return [finding('piece-unheard', { piece: name, event: `${name}.${likely}` }, place)];
  });
}

function nowhere(design: Design, parts: Exploration['parts']): Finding[] {
  const silent = new Set(
    parts.flatMap(({ kind, name, verdict }) => (kind === 'rule' && verdict === 'unreachable' ? [name] : [])),
  );
  const rules = design.rules.filter(({ name }) => !silent.has(name));
  const appears = madeIn({ ...design, rules });
  const hasPieces = inLevels(design).length > 0;
  return design.pieces.flatMap(({ name, place }) => {
    if (appears.has(name)) return [];
    const rule = design.rules.find((each) => madeBy(each).includes(name))?.name;
    // Where levels have no pieces at all, that is told of the whole.
    return rule === undefined && !hasPieces ? [] : [finding('piece-nowhere', { piece: name, rule }, place)];
  });
}

/** Hazards and foes whose hit nothing hears, although what else becomes of them is heard and there is something to lose. */
function harmUnheard({ pieces, lives, screens }: Design, { heard }: Uses): Finding[] {
  const hasStake =
    lives !== undefined ||
    screens.some(({ ending }) => ending === 'lost') ||
    [...heard].some((event) => event.endsWith('.hit'));
  if (!hasStake) return [];
  return pieces.flatMap(({ name, role, meets, outcomes, place }) => {
    const other = outcomes.find((outcome) => outcome.name !== 'hit' && heard.has(`${name}.${outcome.name}`));
    const canHit = outcomes.some((outcome) => outcome.name === 'hit');
    if (!['hazard', 'foe'].includes(role) || meets === 'never' || !canHit) return [];
    if (other === undefined || heard.has(`${name}.hit`)) return [];
    return [finding('harm-unheard', { piece: name, other: `${name}.${other.name}` }, place)];
  });
}

/** Collectibles of which only what misses them is heard, and foes that pay when they hit and not when they are beaten. */
function gainUnheard(design: Design, { heard, counted, score }: Uses): Finding[] {
  const paysPoints = (event: string): boolean =>
    design.rules.some(
      ({ events, effects }) =>
        events.includes(event) &&
        effects.some(
          (effect) =>
            effect.kind === 'add' &&
            effect.writes.some(({ name, amount }) => name === score && rangeIn(design, amount)[0] > 0),
        ),
    );
  return design.pieces.flatMap(({ name, role, meets, outcomes, place }) => {
    const [success, failure] = [outcomes[0], outcomes.at(-1)].map((outcome) => `${name}.${outcome?.name}`);
    if (meets === 'never' || outcomes.length < 2 || counted.has(name)) return [];
    if (heard.has(success!) || !heard.has(failure!)) return [];
    if (role !== 'collectible' && !(role === 'foe' && paysPoints(failure!))) return [];
    return [finding('gain-unheard', { success: success!, failure: failure! }, place)];
  });
}

/** Rules that only take points, lives or what a run is lost for away where the player succeeds at a piece that is there to be had or reached, or beats a foe. */
function successCosts(design: Design, { score, lives }: Uses): Finding[] {
  const successes = new Set(
    design.pieces.flatMap(({ name, role, outcomes }) =>
      role === 'hazard' || role === 'prop' ? [] : [`${name}.${outcomes[0]!.name}`, `${name}.beaten`],
    ),
  );
  for (const { name, success, outcomes } of design.pieces)
    if (success !== undefined && outcomes.every(({ weight }) => weight !== undefined))
      successes.add(`${name}.${success}`);
  return design.rules.flatMap(({ events, effects, place }) => {
    const success = events.find((event) => successes.has(event));
    const writes = addedBy(effects);
    const isAll = effects.every(({ kind }) => ['add', 'cue', 'popup', 'grace'].includes(kind));
    const lost = writes.find(({ name }) => [score, lives].includes(name) || isLostFor(design, name));
    if (success === undefined || !isAll || lost === undefined) return [];
    const ranges = writes.map(({ amount }) => rangeIn(design, amount));
    const isLoss = ranges.every(([least, most]) => least < 0 && most <= 0);
    // What a failure costs as well is the price of trying.
    const { outcomes } = design.pieces.find(({ name }) => success.startsWith(`${name}.`))!;
    const failure = `${success.split('.')[0]}.${outcomes.at(-1)!.name}`;
    return isLoss && !events.includes(failure)
      ? [finding('success-costs', { success, counter: lost.name }, place)]
      : [];
  });
}

/** Outcomes that nothing hears of one piece, and something of another piece of its group. */
function leftOut({ pieces }: Design, { heard }: Uses): Finding[] {
  const groupsOf = ({ answersTo, name, role }: Piece): string[] =>
    answersTo.filter((each) => each !== name && each !== role);
  return pieces.flatMap((piece) => {
    for (const group of groupsOf(piece)) {
      for (const outcome of piece.outcomes) {
        const event = `${piece.name}.${outcome.name}`;
        const sister = pieces.find(
          (each) =>
            each !== piece && groupsOf(each).includes(group) && heard.has(`${each.name}.${outcome.name}`),
        );
        if (sister !== undefined && !heard.has(event))
          return [
            finding(
              'left-out',
              { event, sister: `${sister.name}.${outcome.name}`, group: `${group}.${outcome.name}` },
              piece.place,
            ),
          ];
      }
    }
    return [];
  });
}

/** Pieces with a difficulty that nothing reads: weights decide how meeting them ends, or nobody meets them. */
const difficultiesUnread = (design: Design): Finding[] =>
  design.pieces.flatMap(({ name, difficulty, isSkilled, meets, place }) =>
    difficulty === 0 || (isSkilled && meets !== 'never')
      ? []
      : [finding('difficulty-unread', { piece: name, byWeight: !isSkilled }, place)],
  );

/** How many pieces of a kind at once make a search large, and a screen full. */
const manyPieces = 100;

/** Numbers of pieces, and difficulties, that an expression can bring further than anybody means. */
function computedTooFar(design: Design): Finding[] {
  const crowds = design.levels.flatMap(({ name: level, placed, spawns, place: onLevels }, index) => {
    const onIt = (of: Computed): Computed => (typeof of === 'number' ? of : onLevel(design, of, index));
    return [
      ...placed.map(({ piece, count }) => ({ piece, of: onIt(count), level, place: onLevels })),
      ...spawns.flatMap(({ piece, atOnce, place }) =>
        atOnce === undefined ? [] : [{ piece, of: onIt(atOnce), level, place }],
      ),
    ];
  });
  const told = new Set<string>();
  const many = crowds.flatMap(({ piece, of, level, place }) => {
    if (typeof of === 'number' || told.has(piece)) return [];
    const [, most] = rangeIn(design, of);
    const count = Math.round(most);
    if (!(most > manyPieces || count < 0)) return [];
    told.add(piece);
    if (count < 0) return [finding('fewer-than-none', { piece, level, count }, place)];
    const found = Math.min(mostPresent, count);
    return [finding('many-pieces', { piece, most: found, computed: showExpression(of) }, place)];
  });
  const hard = design.pieces.flatMap(({ name, difficulty, place }) => {
    if (typeof difficulty === 'number') return [];
    // Where levels go on without end, so does what grows with them.
    const far = rangeIn(design, difficulty).find((end) => Number.isFinite(end) && Math.abs(end) > hardest);
    return far === undefined ? [] : [finding('difficulty-held', { piece: name, difficulty: far }, place)];
  });
  return [...many, ...hard];
}

/** Pieces with a condition on meeting them that no state fulfils, where nothing else in the flow is in the way. */
function neverMet(
  { pieces, transitions }: Design,
  never: ReadonlySet<string>,
  verdicts: Exploration['transitions'],
): Finding[] {
  const open = transitions.filter((_, at) => verdicts[at]!.inAnyOrder !== 'reached');
  return pieces.flatMap((piece) => {
    const { name, needs, place } = piece;
    const own = outcomesOf(piece);
    const isCause = open.every(
      ({ events }) => events.length > 0 && events.every((event) => own.includes(event)),
    );
    return needs !== undefined && isCause && own.every((event) => never.has(event))
      ? [finding('needs-never-hold', { piece: name, needs: showExpression(needs) }, place)]
      : [];
  });
}

/** Spawns that stop, since their pieces stay when they are met and only a limited number may be present. */
function aboutSpawnsThatStay(design: Design): Finding[] {
  const isTakenAway = (name: string): boolean =>
    [...design.rules, ...design.transitions].some(({ effects }) =>
      effects.some(
        (effect) =>
          (effect.kind === 'clear' &&
            (effect.pieces.includes(name) || effect.some.some(({ piece }) => piece === name))) ||
          (effect.kind === 'become' && effect.changes.some(({ from }) => from === name)),
      ),
    );
  return design.levels.flatMap(({ spawns }) =>
    spawns.flatMap(({ piece: name, atOnce, total, place }) => {
      const { meets, lasts, outcomes, ends } = design.pieces.find((piece) => piece.name === name)!;
      const stays = meets === 'sought' && lasts === undefined && !ends.includes(outcomes[0]!.name);
      const isAll = typeof total === 'number' && typeof atOnce === 'number' && total <= atOnce;
      if (!stays || typeof atOnce !== 'number' || isAll || isTakenAway(name)) return [];
      return [finding('spawn-blocked', { piece: name, atOnce }, place)];
    }),
  );
}

/** Checkpoints on courses where lives are lost and nothing leads back to them. */
function checkpointsInVain({ pieces, levels, transitions }: Design, { lives }: Uses): Finding[] {
  if (lives === undefined || transitions.some(({ fresh }) => fresh === 'life')) return [];
  return pieces.flatMap(({ name, role, place }) =>
    role === 'checkpoint' && levels.some(({ course }) => course.includes(name))
      ? [finding('checkpoint-in-vain', { piece: name }, place)]
      : [],
  );
}

/**
 * Pieces that wait for so long and need something. Where that does not hold, they are gone without the outcome that is heard when nobody meets
 * them; where that outcome takes some of what they need, as the price of trying, it does so of those that nobody has tried as well.
 */
function leftAlone(design: Design, { heard }: Uses): Finding[] {
  const { pieces, rules } = design;
  return pieces.flatMap((piece): Finding[] => {
    const { name, meets, lasts, needs, outcomes, place } = piece;
    const left = outcomesOf(piece).at(-1)!;
    if (lasts === undefined || needs === undefined || outcomes.length < 2 || !heard.has(left)) return [];
    const needed = countersIn(needs);
    const [price] = rules.flatMap(({ events, effects: [first] }) =>
      events.includes(left) && first?.kind === 'pay'
        ? first.writes.filter((each) => needed.includes(each.name))
        : [],
    );
    if (price !== undefined) {
      const details = { piece: name, event: left, counter: price.name, met: metFor(piece) };
      return meets === 'sought' ? [finding('untried-costs', details, place)] : [];
    }
    return heard.has(`${name}.gone`) || isNeverShort(design, needs)
      ? []
      : [finding('gone-unheard', { piece: name, event: left, needs: showExpression(needs) }, place)];
  });
}

/** Whether play is over wherever there is none of what a condition asks to have. */
const isNeverShort = ({ screens, transitions }: Design, needs: Expression): boolean =>
  conjunctsOf(needs).every((part) => {
    const [counter] = askedToHave(part);
    return screens.every(
      ({ name, live }) =>
        !live ||
        transitions.some(
          ({ from, events, wait, condition }) =>
            from === name &&
            events.length === 0 &&
            wait === 0 &&
            counter !== undefined &&
            floorIn(condition, counter) !== undefined,
        ),
    );
  });
