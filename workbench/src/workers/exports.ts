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
  flowToScxml,
  flowToSvg,
  type Row,
  readDesign,
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
    make(text: string, document: FigureDocument): string {
      const design = readDesign(text, 'design');
      const turned =
        turnableDials(design).length > 0
          ? sensitivityOf(design, { sessions: sessionsOfDials, seed })
          : undefined;
      return reportToHtml(reportOn(simulate(design, { sessions, seed }), turned), document);
    },
  },
  svg: {
    file: 'flow.svg',
    make(text: string): string {
      const { design, exploration } = check(readDesign(text, 'design'));
      return flowToSvg(design, exploration);
    },
  },
  scxml: {
    file: 'flow.scxml',
    make(text: string): string {
      const { design, exploration } = check(readDesign(text, 'design'));
      return flowToScxml(design, exploration);
    },
  },
  sarif: {
    file: 'findings.sarif',
    make: (text: string): string =>
      `${JSON.stringify(checkToSarif(check(readDesign(text, 'design'))), null, 2)}\n`,
  },
  junit: {
    file: 'check.xml',
    make: (text: string): string => checkToJunit(check(readDesign(text, 'design'))),
  },
  csv: {
    file: 'runs.csv',
    make(text: string): string {
      const design = readDesign(text, 'design');
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
    async make(text: string): Promise<string> {
      const { default: runtime } = await import('../../../dist/engine.iife.js?raw');
      return moduleText(formOf(readDesign(text, 'design')), { runtime });
    },
  },
} as const;

export type ExportName = keyof typeof exporters;
