import { flowToSvg } from '../../../src/formats/flow-svg.js';
import { checkToJunit } from '../../../src/formats/junit.js';
import { checkToSarif } from '../../../src/formats/sarif.js';
import { flowToScxml } from '../../../src/formats/scxml.js';
import type { Check } from '../../../src/inspect/check.js';

/** What a check can be exported as: the name of the file, and what makes its text. */
export const checkExporters = {
  svg: {
    file: 'flow.svg',
    make: ({ design, exploration }: Check): string => flowToSvg(design, exploration),
  },
  scxml: {
    file: 'flow.scxml',
    make: ({ design, exploration }: Check): string => flowToScxml(design, exploration),
  },
  sarif: {
    file: 'findings.sarif',
    make: (check: Check): string => `${JSON.stringify(checkToSarif(check), null, 2)}\n`,
  },
  junit: { file: 'check.xml', make: checkToJunit },
} as const;

export type CheckExportName = keyof typeof checkExporters;
