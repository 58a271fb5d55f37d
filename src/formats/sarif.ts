import type { Log } from 'sarif';
import type { Check } from '../inspect/check.js';
import { catalogue, type FindingCode, type Severity } from '../inspect/finding-catalogue.js';
import { meanings } from '../inspect/finding-meanings.js';

const levels: { readonly [Name in Severity]: SarifLevel } = {
  error: 'error',
  warning: 'warning',
  hint: 'note',
};

/** A log in the Static Analysis Results Interchange Format, 2.1.0, as far as one is written here. */
export interface SarifLog {
  $schema: string;
  version: '2.1.0';
  runs: SarifRun[];
}

interface SarifRun {
  tool: { driver: { name: string; rules: SarifRule[] } };
  columnKind: 'utf16CodeUnits';
  results: SarifResult[];
}

type SarifLevel = 'error' | 'warning' | 'note';

interface SarifRule {
  id: string;
  shortDescription: { text: string };
  fullDescription: { text: string };
  defaultConfiguration: { level: SarifLevel };
}

interface SarifResult {
  ruleId: string;
  level: SarifLevel;
  message: { text: string };
  locations: {
    physicalLocation: {
      artifactLocation: { uri: string };
      region: { startLine: number; startColumn: number };
    };
  }[];
  suppressions?: { kind: 'inSource'; justification: string }[];
  properties?: { witness: string[] };
}

/** A path as a relative reference (RFC 3986): `#` and `?` in a name would end it. */
const uriOf = (path: string): string => path.split(/[\\/]/).map(encodeURIComponent).join('/');

/** The findings of a check as SARIF 2.1.0 (OASIS), for editors and code review. Accepted ones are suppressed there as well. */
export function checkToSarif({ findings }: Check): SarifLog {
  const rules = Object.entries(catalogue).map(
    ([id, { severity }]): SarifRule => ({
      id,
      shortDescription: { text: meanings[id as FindingCode].title },
      fullDescription: { text: meanings[id as FindingCode].why },
      defaultConfiguration: { level: levels[severity] },
    }),
  );
  const results = findings.map(
    ({ code, severity, message, remedy, place, witness, accepted }): SarifResult => ({
      ruleId: Object.hasOwn(catalogue, code) ? code : 'fault',
      level: levels[severity],
      message: { text: `${message} ${remedy}` },
      locations: [
        {
          physicalLocation: {
            artifactLocation: { uri: uriOf(place.file) },
            region: { startLine: Math.max(1, place.line), startColumn: Math.max(1, place.column) },
          },
        },
      ],
      ...(accepted === undefined ? {} : { suppressions: [{ kind: 'inSource', justification: accepted }] }),
      ...(witness === undefined ? {} : { properties: { witness: [...witness] } }),
    }),
  );
  const log: SarifLog = {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [{ tool: { driver: { name: 'jocus', rules } }, columnKind: 'utf16CodeUnits', results }],
  };
  // The published types of the format hold ours; whoever calls needs no package for them.
  return log satisfies Log;
}
