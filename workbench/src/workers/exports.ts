import { turnableDials } from '../../../src/design/settings.js';
import { formOf } from '../../../src/engine/program/lower/lower.js';
import { moduleText } from '../../../src/engine/run/module-text.js';
import type { FigureDocument } from '../../../src/formats/report/figure.js';
import { reportToHtml } from '../../../src/formats/report/report-html.js';
import { runColumnNames } from '../../../src/formats/tables/rows.js';
import {
  check,
  checkToJunit,
  checkToSarif,
  type Design,
  flowToScxml,
  flowToSvg,
  type Row,
  reportOn,
  rowsToText,
  runRows,
  sensitivity as sensitivityOf,
  simulate,
} from '../../../src/index.js';

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
