import type { Expression } from '../../design/language/expression.js';
import { conjunctsOf } from '../../design/language/expression-parts.js';
import type { Counter, Design } from '../../design/model.js';
import { type Finding, finding } from '../finding.js';
import { setBy } from '../uses.js';

/**
 * Words that a counter comes to and never leaves, where the others go round: an oven that is emptied and filled over and over, but for the loaf
 * that is burnt.
 */
export function stuckWords(design: Design): Finding[] {
  return design.counters.flatMap((counter): Finding[] => {
    const { name, words, place } = counter;
    if (words.length < 3) return [];
    const steps = stepsOf(design, counter);
    if (steps === undefined) return [];
    const after = (from: number): ReadonlySet<number> => {
      const found = new Set(
        steps.flatMap((step) => (step.from.has(from) && step.to !== from ? [step.to] : [])),
      );
      for (const word of found)
        for (const step of steps) if (step.from.has(word) && step.to !== word) found.add(step.to);
      return found;
    };
    const all = words.map((_, word) => after(word));
    const isRound = all.some((reached, word) => reached.has(word));
    const stuck = words.findIndex(
      (_, word) =>
        all[word]!.size === 0 && all.some((each) => each.has(word)) && !leadsOut(design, counter, word),
    );
    return isRound && stuck >= 0
      ? [finding('word-stuck', { counter: name, word: words[stuck]! }, place)]
      : [];
  });
}

/** Whether a transition that leads elsewhere, or begins something afresh, waits for a word: it is an end, and meant. */
const leadsOut = ({ transitions }: Design, { name, words }: Counter, word: number): boolean =>
  transitions.some(({ from, to, fresh, condition }) => {
    const allowed = wordsAllowed(condition, name, words.length);
    return (from !== to || fresh !== undefined) && allowed.size < words.length && allowed.has(word);
  });

/** What sets a counter to which of its words, and where it may stand before; undefined where one is worked out. */
function stepsOf(
  { rules, transitions }: Design,
  { name, words }: Counter,
): { readonly from: ReadonlySet<number>; readonly to: number }[] | undefined {
  const steps: { from: ReadonlySet<number>; to: number }[] = [];
  for (const { condition, effects } of [...rules, ...transitions]) {
    const written = setBy(effects).filter((write) => write.name === name);
    for (const { amount } of written) {
      if (amount.kind !== 'number') return undefined;
      steps.push({ from: wordsAllowed(condition, name, words.length), to: amount.value });
    }
  }
  return steps;
}

/** Words with which a condition may hold. */
function wordsAllowed(condition: Expression | undefined, name: string, count: number): ReadonlySet<number> {
  const allowed = new Set(Array.from({ length: count }, (_, word) => word));
  for (const part of conjunctsOf(condition)) {
    if (part.kind !== 'binary' || part.left.kind !== 'counter' || part.left.name !== name) continue;
    if (part.right.kind !== 'number') continue;
    const { operator, right } = part;
    if (operator !== '==' && operator !== '!=') continue;
    for (const word of [...allowed]) if ((word === right.value) !== (operator === '==')) allowed.delete(word);
  }
  return allowed;
}
