import { missingName, missingSender } from '../problems/missing.js';
import type { Problem } from '../problems/problem.js';
import type { Change } from './change.js';

/** The change of a design's text that adds what a problem says is missing; undefined where somebody has to think. */
export function additionFor({ code, details }: Problem): Change | undefined {
  const missing =
    code === 'unknown-name'
      ? missingName(details)
      : code === 'unknown-event'
        ? missingSender(details)
        : undefined;
  return missing && { kind: 'set', path: [missing.section, missing.name], value: missing.entry };
}
