import { isAbout, type Sentence, type SentenceGroups, type Spot } from '../../../src/sentences/sentence.js';

/**
 * What is known of a sentence, of all that is known of a text: where that is an earlier one, whose lines may have stood elsewhere, what was
 * known of the sentence there.
 *
 * @param groups of the text that something is known of
 */
export function knownOf<Told extends Spot>(
  sentence: Sentence,
  groups: SentenceGroups,
  told: readonly Told[],
): readonly Told[] {
  const path = sentence.path.join('.');
  const then = Object.values(groups)
    .flat()
    .find((each) => each.path.join('.') === path);
  return then === undefined ? [] : told.filter((each) => isAbout(then, each));
}

/** What is known and stands at no sentence of its text. */
export function knownElsewhere<Told extends Spot>(
  groups: SentenceGroups,
  told: readonly Told[],
): readonly Told[] {
  const all = Object.values(groups).flat();
  return told.filter((each) => !all.some((sentence) => isAbout(sentence, each)));
}
