import type { Log, ReportingDescriptor, Result } from 'sarif';
import type { Check } from '../inspect/check.js';
import { catalogue, type Severity } from '../inspect/finding-catalogue.js';

const levels: { readonly [Name in Severity]: 'error' | 'warning' | 'note' } = {
  error: 'error',
  warning: 'warning',
  hint: 'note',
};

/** A path as a relative reference (RFC 3986): `#` and `?` in a name would end it. */
const uriOf = (path: string): string => path.split(/[\\/]/).map(encodeURIComponent).join('/');

/** The findings of a check as SARIF 2.1.0 (OASIS), for editors and code review. Accepted ones are suppressed there as well. */
export function checkToSarif({ findings }: Check): Log {
  const rules = Object.entries(catalogue).map(
    ([id, { severity, title, why }]): ReportingDescriptor => ({
      id,
      shortDescription: { text: title },
      fullDescription: { text: why },
      defaultConfiguration: { level: levels[severity] },
    }),
  );
  const results = findings.map(
    ({ code, severity, message, remedy, place, witness, accepted }): Result => ({
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
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [{ tool: { driver: { name: 'jocus', rules } }, columnKind: 'utf16CodeUnits', results }],
  };
}
