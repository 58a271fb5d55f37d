import type { Reception } from '../run/reception.js';
import type { EventForm } from './form.js';

/** Whether a game or a player can send events of a kind; the others are the design's own to fire. */
export const isOutside = (kind: EventForm['kind']): boolean =>
  kind === 'outcome' || kind === 'appeared' || kind === 'gone' || kind === 'input';

/** What a program gives for what became of an event. */
export const receptions = { ignored: 0, 'turned away': 1, handled: 2 } as const satisfies Partial<
  Record<Reception, number>
>;
