/**
 * What became of an event: handled, of no meaning here, turned away by grace, the same contact that has counted already, or queued until
 * all have heard the step that a listener hears.
 */
export type Reception = 'handled' | 'ignored' | 'turned away' | 'repeated' | 'queued';
