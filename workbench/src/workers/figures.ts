// What draws, with a document of its own, since a worker has none. It is as large as all that simulates, so it is loaded once somebody looks.

import { parseHTML } from 'linkedom';
import { balanceFigures, type Figure, type FigureDocument } from '../../../src/formats/report/index.js';
import type { Design, SimulationSummary } from '../../../src/index.js';

export const document = parseHTML('<html><body></body></html>').document as unknown as FigureDocument;

export const figuresOf = (design: Design, summary: SimulationSummary): readonly Figure[] =>
  balanceFigures({ design, summary, sensitivity: undefined }, document);
