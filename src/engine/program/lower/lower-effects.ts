import type { Expression } from '../../../design/language/expression.js';
import { largestNumber } from '../../../design/limits.js';
import type { AmountWrite, Effect } from '../../../design/model.js';
import type { CounterForm, EffectForm, Term } from '../form.js';
import { inCells, rounded } from './amounts.js';
import { isWhole } from './lower-expression.js';
import { lowerText } from './lower-texts.js';
import type { Lowering } from './lowering.js';

export const lowerEffects = (lowering: Lowering, effects: readonly Effect[]): EffectForm[] =>
  effects.flatMap((effect) => lowerEffect(lowering, effect));

function lowerWrites(
  lowering: Lowering,
  writes: readonly AmountWrite[],
  adds: boolean,
  sign = 1,
): EffectForm[] {
  const { design } = lowering;
  if (writes.length === 0) return [];
  const lowered = writes.map(({ name, amount }) => {
    const { kind, places } = design.counters[lowering.counters.get(name)!]!;
    const inCell = inCells(amount, kind, places);
    const term = lowering.term(sign < 0 ? { kind: 'negative', of: rounded(inCell) } : inCell);
    return {
      counter: lowering.counters.get(name)!,
      adds,
      amount: term,
      rounds: !isWhole(term, lowering.tables.values),
    };
  });
  return [{ op: 'write', writes: lowered }];
}

function lowerEffect(lowering: Lowering, effect: Effect): EffectForm[] {
  const { cues, popups } = lowering;
  switch (effect.kind) {
    case 'add':
    case 'set': {
      const adds = effect.kind === 'add';
      const timed = effect.timers.map(
        ({ name, amount }): EffectForm => ({
          op: 'timerWrite',
          timer: lowering.timers.get(name)!,
          adds,
          amount: lowering.term(amount),
        }),
      );
      return [...lowerWrites(lowering, effect.writes, adds), ...timed];
    }
    case 'pay':
      return lowerWrites(lowering, effect.writes, true, -1);
    case 'spawn':
      return effect.pieces.map(({ piece, count }) => ({
        op: 'spawn',
        piece: lowering.pieces.get(piece)!,
        count: lowering.term(count),
      }));
    case 'clear':
      return [
        ...effect.pieces.map((piece) => ({ piece, count: undefined, isOldest: false })),
        ...effect.some.map(({ piece, count, which }) => ({
          piece,
          count: lowering.term(count),
          isOldest: which === 'oldest',
        })),
      ].map(({ piece, ...of }) => ({ op: 'clear', piece: lowering.pieces.get(piece)!, ...of }));
    case 'become':
      return effect.changes.map(({ from, to, count, which }) => ({
        op: 'become',
        from: lowering.pieces.get(from)!,
        to: lowering.pieces.get(to)!,
        count: count && lowering.term(count),
        isOldest: which === 'oldest',
      }));
    case 'start':
    case 'stop': {
      const op = effect.kind === 'start' ? 'timerStart' : 'timerStop';
      return effect.timers.map((timer) => ({ op, timer: lowering.timers.get(timer)! }));
    }
    case 'emit':
      return [{ op: 'emit', event: lowering.event(effect.name) }];
    case 'popup':
      popups.push(lowerText(lowering, effect.text));
      return [{ op: 'popup', popup: popups.length - 1 }];
    case 'grace':
      return [{ op: 'grace', duration: lowering.duration(effect.duration) }];
    case 'cue': {
      if (!cues.includes(effect.cue)) cues.push(effect.cue);
      return [{ op: 'cue', cue: cues.indexOf(effect.cue) }];
    }
  }
}

/** A condition that also asks whether what the list pays can be afforded. */
export function lowerCondition(
  lowering: Lowering,
  counters: readonly CounterForm[],
  condition: Expression | undefined,
  effects: readonly Effect[],
): Term | undefined {
  const { design } = lowering;
  const [first] = effects;
  const paid = first?.kind === 'pay' ? first.writes : [];
  const affordable = paid.map(({ name, amount }): Expression => {
    const { places, kind, min } = design.counters[lowering.counters.get(name)!]!;
    // Where there is no bound, nothing is paid below 0.
    const hasMin = counters[lowering.counters.get(name)!]!.min > -largestNumber;
    const least: Expression = typeof min === 'object' ? min : { kind: 'number', value: hasMin ? min : 0 };
    const left: Expression = { kind: 'cell', name };
    const right: Expression = {
      kind: 'binary',
      operator: '+',
      left: rounded(inCells(amount, kind, places)),
      right: rounded(inCells(least, kind, places)),
    };
    return { kind: 'binary', operator: '>=', left, right };
  });
  const all = [...(condition === undefined ? [] : [condition]), ...affordable];
  if (all.length === 0) return undefined;
  return lowering.term(all.reduce((left, right) => ({ kind: 'binary', operator: 'and', left, right })));
}
