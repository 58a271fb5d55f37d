import type { Place } from '../design/problem.js';

/** What each finding carries. The words stand in {@link catalogue} and nowhere else. */
export interface FindingDetails {
  'transition-unreachable': { from: string; to: string; reason: string };
  'transition-undecided': { from: string; to: string; reason: string };
  'screen-unreachable': { screen: string; causes: readonly string[] };
  'no-way-back': { ending: string; target: string };
  'dead-end': { screen: string };
  fault: { problem: string; message: string; remedy: string };
  'no-screens': { screen: string };
  'no-ending': Record<string, never>;
  'piece-unheard': { piece: string; event: string };
  'nothing-appears': { piece: string };
  'nothing-on-the-hud': Record<string, never>;
}

export type FindingCode = keyof FindingDetails;
export type Severity = 'error' | 'warning' | 'hint';

/** One thing that `check` says about a design. */
export interface Finding {
  readonly code: string;
  readonly severity: Severity;
  readonly message: string;
  readonly remedy: string;
  readonly place: Place;
  /** A session that shows it, in the words of a test; undefined where none can. */
  readonly witness: readonly string[] | undefined;
}

type Words = { readonly severity: Severity; readonly message: string; readonly remedy: string };

const catalogue: { readonly [Code in FindingCode]: (details: FindingDetails[Code]) => Words } = {
  'transition-unreachable': ({ from, to, reason }) => ({
    severity: 'error',
    message: `${from} -> ${to} can never be taken: ${reason}.`,
    remedy: 'Change the condition or what it reads, or take the transition out.',
  }),
  'transition-undecided': ({ from, to, reason }) => ({
    severity: 'warning',
    message: `Whether ${from} -> ${to} can be taken is not decided: ${reason}.`,
    remedy: 'Give the counters it depends on a min and a max, or simplify its condition.',
  }),
  'screen-unreachable': ({ screen, causes }) => ({
    severity: 'error',
    message: `The screen ${screen} is never entered${causes.length === 0 ? ': no transition leads to it' : `: ${causes.join(' and ')} cannot be taken`}.`,
    remedy: causes.length === 0 ? 'Add a transition to it, or take it out.' : 'Mend those first.',
  }),
  'no-way-back': ({ ending, target }) => ({
    severity: 'error',
    message: `From the ending ${ending} no fresh start can be reached: the game is over for good.`,
    remedy: `Add a way back, such as { from: ${ending}, to: ${target}, when: input.again, fresh: run }.`,
  }),
  'dead-end': ({ screen }) => ({
    severity: 'error',
    message: `Nothing leads out of the screen ${screen}.`,
    remedy: `Add a transition from ${screen}, or give it an ending.`,
  }),
  fault: ({ message, remedy }) => ({ severity: 'error', message, remedy }),
  'no-screens': ({ screen }) => ({
    severity: 'hint',
    message: `The design names no screens, so there is one live screen called ${screen}.`,
    remedy: 'Add screens and transitions once the scoring works.',
  }),
  'no-ending': () => ({
    severity: 'hint',
    message: 'No screen is an ending, so a run never ends.',
    remedy: 'Give a screen ending: lost or ending: won.',
  }),
  'piece-unheard': ({ piece, event }) => ({
    severity: 'hint',
    message: `No rule says what meeting a ${piece} does.`,
    remedy: `Add a rule with when: ${event}.`,
  }),
  'nothing-appears': ({ piece }) => ({
    severity: 'hint',
    message: 'No level places or spawns anything, so simulated players meet nothing.',
    remedy: `Add a level such as levels: [{ spawn: [{ piece: ${piece}, every: 1, atOnce: 5 }] }].`,
  }),
  'nothing-on-the-hud': () => ({
    severity: 'hint',
    message: 'The HUD shows no counter.',
    remedy: 'Add a line such as hud: [{ show: score }].',
  }),
};

export function finding<Code extends FindingCode>(
  code: Code,
  details: FindingDetails[Code],
  place: Place,
  witness?: readonly string[],
): Finding {
  const words = catalogue[code](details);
  return {
    code: code === 'fault' ? (details as FindingDetails['fault']).problem : code,
    ...words,
    place,
    witness,
  };
}
