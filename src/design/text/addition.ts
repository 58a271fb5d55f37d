import type { Problem } from '../problems/problem.js';
import { eventAnswer, nameAnswer } from '../problems/remedies.js';
import type { Change } from './change.js';

/** The change of a design's text that adds what a problem says is missing; undefined where somebody has to think. */
export function additionFor({ code, details }: Problem): Change | undefined {
  const answer =
    code === 'unknown-name' ? nameAnswer(details) : code === 'unknown-event' ? eventAnswer(details) : '';
  return typeof answer === 'string'
    ? undefined
    : { kind: 'set', path: [answer.section, answer.name], value: answer.entry };
}
