import { reportOn } from '../../../src/balance/report.js';
import { sensitivity as sensitivityOf } from '../../../src/balance/sensitivity.js';
import type { Design } from '../../../src/design/model.js';
import { turnableDials } from '../../../src/design/settings.js';
import { formOf } from '../../../src/engine/program/lower/lower.js';
import { moduleText } from '../../../src/engine/run/module-text.js';
import { flowToSvg } from '../../../src/formats/flow-svg.js';
import { checkToJunit } from '../../../src/formats/junit.js';
import type { FigureDocument } from '../../../src/formats/report/figure.js';
import { reportToHtml } from '../../../src/formats/report/report-html.js';
import { checkToSarif } from '../../../src/formats/sarif.js';
import { flowToScxml } from '../../../src/formats/scxml.js';
import { type Row, rowsToText, runColumnNames, runRows } from '../../../src/formats/tables/rows.js';
import { check } from '../../../src/inspect/check.js';
import { simulate } from '../../../src/simulate/simulate.js';

const seed = 1;
const sessions = 1000;
const sessionsOfDials = 200;

/** What a design can be exported as: the ending of the file, and what makes its text. */
export const exporters = {
  report: {
    file: 'report.html',
    make(design: Design, document: FigureDocument): string {
      const turned =
        turnableDials(design).length > 0
          ? sensitivityOf(design, { sessions: sessionsOfDials, seed })
          : undefined;
      return reportToHtml(reportOn(simulate(design, { sessions, seed }), turned), document);
    },
  },
  svg: {
    file: 'flow.svg',
    make: (design: Design): string => flowToSvg(design, check(design).exploration),
  },
  scxml: {
    file: 'flow.scxml',
    make: (design: Design): string => flowToScxml(design, check(design).exploration),
  },
  sarif: {
    file: 'findings.sarif',
    make: (design: Design): string => `${JSON.stringify(checkToSarif(check(design)), null, 2)}\n`,
  },
  junit: {
    file: 'check.xml',
    make: (design: Design): string => checkToJunit(check(design)),
  },
  csv: {
    file: 'runs.csv',
    make(design: Design): string {
      const rows: Row[] = [];
      simulate(design, {
        sessions,
        seed,
        onSession: (player, sheet) => rows.push(...runRows(design, player, sheet)),
      });
      return rowsToText(rows, runColumnNames, 'csv', true);
    },
  },
  module: {
    file: 'game.js',
    async make(design: Design): Promise<string> {
      const { default: runtime } = await import('../../../dist/engine.iife.js?raw');
      return moduleText(formOf(design), { runtime });
    },
  },
} as const;

export type ExportName = keyof typeof exporters;
