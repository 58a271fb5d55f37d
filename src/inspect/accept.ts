import type { Design } from '../design/model.js';
import { type Finding, finding } from './finding.js';
import { catalogue } from './finding-catalogue.js';

/** Marks the findings that the design accepts, and adds one for each acceptance that applies to none. */
export function acceptIn(design: Design, findings: readonly Finding[]): Finding[] {
  const used = new Set<number>();
  const marked = findings.map((each) => {
    const index = design.accepted.findIndex(
      ({ finding: code, about }) =>
        code === each.code && (about === undefined || each.message.includes(about)),
    );
    if (index < 0) return each;
    used.add(index);
    return { ...each, accepted: design.accepted[index]!.because };
  });
  const stale = design.accepted.flatMap(({ finding: code, place }, index) =>
    used.has(index)
      ? []
      : [finding('accepts-nothing', { finding: code, known: Object.hasOwn(catalogue, code) }, place)],
  );
  return [...marked, ...stale];
}
