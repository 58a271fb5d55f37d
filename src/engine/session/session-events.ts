import type { GameNames } from '../../design/names-of.js';
import type { Reception } from '../run/reception.js';
import type { PieceChange, Step, Write } from '../run/step.js';

/** What a session reports, by name. */
export interface SessionEvents<Names extends GameNames = GameNames> {
  /** A counter has another value. */
  readonly counter: Write;
  /** Another screen is shown. */
  readonly screen: { readonly from: Names['screens']; readonly to: Names['screens'] };
  /** The design itself made a piece appear, or cleared away all of one name. */
  readonly piece: PieceChange;
  readonly rule: { readonly name: string };
  readonly cue: { readonly name: Names['cues'] };
  readonly popup: { readonly text: string; readonly event: string };
  /** An outside event meant nothing here, or was turned away by grace. */
  readonly ignored: { readonly event: string; readonly reception: Reception };
  /** The design was changed while the session ran; what became of it, in words. */
  readonly reload: { readonly told: string };
}

/** The kinds of things that a session reports. */
export const sessionEvents: readonly (keyof SessionEvents)[] = [
  'counter',
  'screen',
  'piece',
  'rule',
  'cue',
  'popup',
  'ignored',
  'reload',
];

/** The parts of a step that listeners of one kind hear. */
export function tell(step: Step, kind: keyof SessionEvents): readonly SessionEvents[keyof SessionEvents][] {
  switch (kind) {
    case 'counter':
      return step.writes.filter(({ before, after }) => before !== after);
    case 'screen':
      return step.transitions;
    case 'piece':
      return step.pieces;
    case 'rule':
      return step.rules.map((name) => ({ name }));
    case 'cue':
      return step.cues.map((name) => ({ name }));
    case 'popup':
      return step.popups.map((text) => ({ text, event: step.name }));
    case 'reload':
      return step.cause === 'reload' ? [{ told: step.name }] : [];
    case 'ignored':
      return step.reception === 'handled' ? [] : [{ event: step.name, reception: step.reception }];
  }
}
