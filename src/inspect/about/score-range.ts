import type { Design } from '../../design/model.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { addsNothing, type Uses } from '../uses.js';

/** Findings that follow from how low and how high the score was proved to go. */
export function aboutScoreRange(design: Design, uses: Uses, exploration: Exploration): Finding[] {
  const constant = constantScore(design, uses, exploration);
  // What a score that never changes cannot reach follows from that.
  return constant.length > 0 ? constant : targetsOutOfReach(design, exploration);
}

/** A score that was proved to keep one value, although something that can happen writes to it. */
function constantScore(design: Design, { writes }: Uses, { score, parts }: Exploration): Finding[] {
  if (score?.lowest === undefined || score.lowest.value !== score.highest?.value) return [];
  const { counter, lowest, supply } = score;
  const own = writes.filter((write) => write.counter === counter);
  const canHappen = own.some(
    ({ rule }) =>
      rule === undefined || parts.some(({ place, verdict }) => place === rule.place && verdict === 'reached'),
  );
  if (!canHappen || own.some((write) => addsNothing(design, write))) return [];
  const { place } = design.counters.find(({ name }) => name === counter)!;
  return [finding('score-constant', { counter, value: lowest.value, supply }, place)];
}

/** Targets that ask for more than any session can score. */
function targetsOutOfReach({ targets }: Design, { score }: Exploration): Finding[] {
  if (score?.highest === undefined) return [];
  const { counter, highest, supply } = score;
  return targets.flatMap(({ measure, from, place }) =>
    measure === 'score' && from > highest.value
      ? [finding('target-out-of-reach', { counter, from, highest: highest.value, supply }, place)]
      : [],
  );
}
