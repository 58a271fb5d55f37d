/** What a report can be asked for; apart from what draws it, so that asking costs nothing. */
export const figureNames = ['flow', 'score', 'endings', 'funnel', 'pace', 'points', 'dials'] as const;
export type FigureName = (typeof figureNames)[number];

export const reportFormats = ['html', 'markdown'] as const;
export type ReportFormat = (typeof reportFormats)[number];
