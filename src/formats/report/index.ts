export type { Figure, FigureDocument } from './figure-parts.js';
export { balanceFigures, figuresOf } from './figures.js';
export { reportToHtml } from './report-html.js';
export { reportToMarkdown } from './report-markdown.js';
