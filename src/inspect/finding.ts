import type { Design } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import {
  type CatalogueEntry,
  catalogue,
  type FindingCode,
  type FindingDetails,
  type Severity,
} from './finding-catalogue.js';

/** One thing that `check` says about a design. */
export interface Finding {
  /** That of its page in docs/findings; for a fault, the fault's own. */
  readonly code: string;
  readonly severity: Severity;
  /** The names and numbers involved. */
  readonly details: object;
  readonly message: string;
  readonly remedy: string;
  readonly place: Place;
  /** A session that shows it, in the words of a test; undefined where none can. */
  readonly witness: readonly string[] | undefined;
  /** Why the designer means it to be so; undefined where nobody said. */
  readonly accepted: string | undefined;
}

export function finding<Code extends FindingCode>(
  code: Code,
  details: FindingDetails[Code],
  place: Place,
  witness?: readonly string[],
): Finding {
  const { severity, message, remedy } = catalogue[code] as CatalogueEntry<FindingDetails[Code]>;
  return {
    code: code === 'fault' ? (details as FindingDetails['fault']).problem : code,
    severity,
    details,
    message: message(details),
    remedy: remedy(details),
    place,
    witness,
    accepted: undefined,
  };
}

/** Those that no acceptance of the design covers. */
export const openFindings = (findings: readonly Finding[]): Finding[] =>
  findings.filter(({ accepted }) => accepted === undefined);

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
