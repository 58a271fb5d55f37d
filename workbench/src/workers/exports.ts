import { reportOn } from '../../../src/balance/report.js';
import { sensitivity as sensitivityOf } from '../../../src/balance/sensitivity.js';
import type { Design } from '../../../src/design/model.js';
import { turnableDials } from '../../../src/design/settings.js';
import { formOf } from '../../../src/engine/program/lower/lower.js';
import { moduleText } from '../../../src/engine/run/module-text.js';
import { reportToHtml } from '../../../src/formats/report/report-html.js';
import { type Row, rowsToText, runColumnNames, runRows } from '../../../src/formats/tables/rows.js';
import { simulate } from '../../../src/simulate/simulate.js';

const seed = 1;
const sessions = 1000;
const sessionsOfDials = 200;

/** What sessions of a design, and the design itself, can be exported as: the name of the file, and what makes its text. */
export const exporters = {
  report: {
    file: 'report.html',
    async make(design: Design): Promise<string> {
      const { document } = await import('./figures.js');
      const turned =
        turnableDials(design).length > 0
          ? sensitivityOf(design, { sessions: sessionsOfDials, seed })
          : undefined;
      return reportToHtml(reportOn(simulate(design, { sessions, seed }), turned), document);
    },
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
