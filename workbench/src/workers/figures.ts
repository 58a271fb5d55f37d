// What draws, with a document of its own, since a worker has none. It is as large as all that simulates, so it is loaded once somebody looks.

import { parseHTML } from 'linkedom';
import type { SimulationSummary } from '../../../src/balance/summary.js';
import type { Design } from '../../../src/design/model.js';
import { balanceFigures, type Figure, type FigureDocument } from '../../../src/formats/report/index.js';

export const document = parseHTML('<html><body></body></html>').document as unknown as FigureDocument;

export const figuresOf = (design: Design, summary: SimulationSummary): readonly Figure[] =>
  balanceFigures({ design, summary, sensitivity: undefined }, document);
