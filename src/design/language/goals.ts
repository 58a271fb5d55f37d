import type { Design, Transition } from '../model.js';

/** The screens that a transition leads to: where it goes back, each that its own may have been entered from. */
export const goalsOf = ({ transitions }: Design, { from, to }: Transition): string[] =>
  to === 'back'
    ? [...new Set(transitions.filter((each) => each.to === from).map((each) => each.from))]
    : [to];
