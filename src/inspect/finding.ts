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
