import type { Report } from '../../balance/report.js';
import type { FigureName } from './choices.js';

/** A picture with the table that stands behind it. */
export interface Figure {
  readonly name: FigureName;
  readonly title: string;
  /** How to read it, and what to turn. */
  readonly caption: string;
  readonly svg: string;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** A browser's document, or one that makes elements without any, such as linkedom's. */
export interface FigureDocument {
  createElementNS(namespace: 'http://www.w3.org/2000/svg', name: string): unknown;
}

/** What figures of simulated sessions are drawn from. */
export type Simulated = Pick<Report, 'design' | 'summary' | 'sensitivity'>;
