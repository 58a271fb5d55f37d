export { balanceFigures, type Figure, type FigureDocument, figuresOf } from './figures.js';
export { reportToHtml } from './report-html.js';
export { reportToMarkdown } from './report-markdown.js';
