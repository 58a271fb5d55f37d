import type { Expression } from '../../design/language/expression.js';
import {
  comparisonsIn,
  conjunctsOf,
  countersIn,
  visitExpression,
} from '../../design/language/expression-parts.js';
import type { Counter, Design, Piece, Rule } from '../../design/model.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import { deedsOf, neededFor } from '../deeds.js';
import { type Finding, finding } from '../finding.js';
import { askedToHave, metFor } from '../played-for.js';
import { addedBy, takesAny, type Uses, usesOf, writesOf } from '../uses.js';

/**
 * What is paid for, asked for by what is done with it, and never taken: so much of it is enough for good, and whoever pays for more gets
 * nothing.
 */
export function neverUsedUp(design: Design, { writes, score, lives }: Uses): Finding[] {
  const deeds = deedsOf(design);
  const readOtherwise = readPastConditions(design, deeds);
  return design.counters.flatMap((counter): Finding[] => {
    const { name, kind, place } = counter;
    const own = writes.filter((write) => write.counter === name);
    const isOnlyRaised = own.every(
      (write) => write.kind === 'add' && rangeIn(design, write.amount)[0] > 0 && !write.rule?.passes,
    );
    if (kind !== 'number' || name === score || name === lives || !isOnlyRaised) return [];
    if (readOtherwise.has(name)) return [];
    const giving = deeds.filter(({ effects }) => addedBy(effects).some((write) => write.name === name));
    const priced = giving.find(({ effects }) => takesAny(design, effects, name));
    if (priced === undefined) return [];
    const enough = enoughOf(askingFor(design, name, giving, deeds), name);
    if (enough === undefined || limitOf(design, counter, priced) <= enough) return [];
    return [finding('never-used-up', { counter: name, rule: priced.name, enough }, place)];
  });
}

/** Pieces that need something and take none of it, where another piece needs the same and takes it. */
export function neededNotTaken(design: Design): Finding[] {
  const needing = design.pieces.flatMap((piece) => askedToHave(piece.needs).map((of) => ({ piece, of })));
  const hear = (piece: Piece): Rule[] =>
    design.rules.filter(({ events }) => events.includes(`${piece.name}.${metFor(piece)}`));
  const takes = (piece: Piece, of: string): boolean =>
    hear(piece).some(({ effects }) =>
      effects.some((effect) =>
        writesOf(effect).some(
          ({ name, amount }) => name === of && (effect.kind !== 'add' || rangeIn(design, amount)[0] < 0),
        ),
      ),
    );
  return needing.flatMap(({ piece, of }) => {
    const other = needing.find((each) => each.of === of && takes(each.piece, of));
    if (other === undefined || takes(piece, of) || hear(piece).length === 0) return [];
    const details = { piece: piece.name, counter: of, other: other.piece.name };
    return [finding('needed-not-taken', details, piece.place)];
  });
}

/** Counters that are read by more than what deeds ask for and pieces need: by a formula, or by what leads elsewhere. */
function readPastConditions(design: Design, deeds: readonly Rule[]): ReadonlySet<string> {
  const staying = new Set(deeds.map(({ place }) => place));
  return usesOf({
    ...design,
    rules: design.rules.map((rule) => ({ ...rule, condition: undefined })),
    transitions: design.transitions.map((each) =>
      staying.has(each.place) ? { ...each, condition: undefined } : each,
    ),
    pieces: design.pieces.map((piece) => ({ ...piece, needs: undefined })),
  }).read;
}

/** What asks for a counter, but for what gives it. */
function askingFor(
  design: Design,
  name: string,
  giving: readonly Rule[],
  deeds: readonly Rule[],
): Expression[] {
  const own = new Set(giving.flatMap((deed) => neededFor(design, deed)));
  const asked = [
    ...deeds.flatMap((deed) => (giving.includes(deed) ? [] : [deed.condition])),
    ...design.pieces.map(({ needs }) => needs),
  ];
  return asked.flatMap((each) =>
    each === undefined || own.has(each) || !countersIn(each).includes(name) ? [] : [each],
  );
}

/** From what on a counter meets all that asks for it, where that is at least so much of it; undefined: it is asked for otherwise, or nowhere. */
function enoughOf(asking: readonly Expression[], name: string): number | undefined {
  let enough: number | undefined;
  for (const condition of asking) {
    let reads = 0;
    visitExpression(condition, (part) => {
      if (part.kind === 'counter' && part.name === name) reads++;
    });
    for (const { operator, left, right } of comparisonsIn(condition, ['>', '>='])) {
      if (left.kind !== 'counter' || left.name !== name || right.kind !== 'number') continue;
      reads--;
      const least = operator === '>' ? Math.floor(right.value) + 1 : Math.ceil(right.value);
      enough = Math.max(enough ?? 0, least);
    }
    if (reads > 0) return undefined;
  }
  return enough;
}

/** Up to what a rule goes on to give of a counter. */
function limitOf(design: Design, counter: Counter, deed: Rule): number {
  const limits = [deed.condition, ...neededFor(design, deed)].flatMap(conjunctsOf).flatMap((part) => {
    if (part.kind !== 'binary' || part.left.kind !== 'counter' || part.left.name !== counter.name) return [];
    const { operator, right } = part;
    if (right.kind !== 'number') return [];
    return operator === '<' ? [right.value] : operator === '<=' || operator === '==' ? [right.value + 1] : [];
  });
  return Math.min(boundsOf(design, counter).max, ...limits);
}
