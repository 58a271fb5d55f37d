/**
 * The report as a page or as Markdown, and its figures as SVG.
 *
 * @module jocus/report
 */

export type { Figure, FigureDocument } from './figure.js';
export { balanceFigures, figuresOf } from './figures.js';
export { type ReportPageOptions, reportToHtml } from './report-html.js';
export { reportToMarkdown } from './report-markdown.js';
