export type { Figure, FigureDocument } from './figure.js';
export { balanceFigures, figuresOf } from './figures.js';
export { type ReportPageOptions, reportToHtml } from './report-html.js';
export { reportToMarkdown } from './report-markdown.js';
