// A catalogue: one entry a finding, with its wording and its remedy.

import { withArticle } from '../design/language/names.js';
import type { Keep } from '../design/model.js';
import { capital } from '../sentences/grammar/words.js';
import type { Shortage } from './about/supply.js';

/** How bad a finding is: the design falls short, is probably not what was meant, or lacks something for now. */
export type Severity = 'error' | 'warning' | 'hint';

/** What each finding carries. The words stand in {@link catalogue} and nowhere else. */
export interface FindingDetails {
  'transition-unreachable': { from: string; to: string; reason: string; shortage: Shortage | undefined };
  'transition-shadowed': { from: string; to: string; first: string; line: number; isOneOfSeveral: boolean };
  'transition-undecided': { from: string; to: string; reason: string };
  'out-of-time': { from: string; to: string; pace: number };
  'screen-unreachable': { screen: string; causes: readonly string[] };
  'level-unreachable': { level: string };
  'no-way-back': { ending: string; target: string };
  'way-back-lost': { ending: string; values: string };
  'dead-end': { screen: string };
  trap: { screen: string; values: string; isLive: boolean };
  'missed-for-good': { screen: string; event: string };
  'over-at-once': { screen: string; to: string; condition: string };
  'no-loss': { screen: string };
  'ending-untold': { ending: string };
  fault: { problem: string; message: string; remedy: string };
  residue: { from: string; to: string; differences: string };
  'set-and-put-back': { counter: string; span: string };
  'level-not-fresh': { from: string; to: string; kept: readonly string[] };
  'outlives-the-run': { what: string; keep: string };
  'hit-at-once': { piece: string; seconds: number };
  'hit-unforeseen': { piece: string; seconds: number };
  'rule-unreachable': { rule: string; reason: string };
  'rule-shadowed': { rule: string; first: string; line: number };
  'rule-deaf': { rule: string; event: string; screens: string; needs: readonly string[] };
  'event-unheard': { event: string };
  'piece-unheard': { piece: string; event: string };
  'piece-nowhere': { piece: string; rule: string | undefined };
  'counter-unwritten': { counter: string };
  'counter-unread': { counter: string };
  unused: { kind: 'counter' | 'dial' | 'level value'; name: string };
  'counter-unshown': { counter: string };
  'set-past-bound': { counter: string; value: number; held: number };
  'score-constant': { counter: string; value: number; supply: readonly string[] };
  'target-out-of-reach': { counter: string; from: number; highest: number; supply: readonly string[] };
  'best-adds-up': { counter: string; score: string };
  'score-set': { counter: string; value: number; by: string };
  'only-set': { counter: string; values: string; max: number };
  'set-twice': { counter: string; event: string; first: string; second: string };
  'hit-without-pause': { counter: string; event: string };
  'below-zero': { counter: string; by: string };
  'points-lost': { counter: string; max: number; rule: string };
  'points-after-the-end': { counter: string; screen: string };
  'changes-nothing': { counter: string };
  'spawn-unbounded': { piece: string };
  'interval-too-short': { what: string; seconds: number };
  'in-milliseconds': { what: string; seconds: number; path: readonly (string | number)[] | undefined };
  'many-pieces': { piece: string; most: number; computed: string };
  'difficulty-held': { piece: string; difficulty: number };
  'acted-by-nobody': { piece: string; by: string };
  'difficulty-unread': { piece: string; byWeight: boolean };
  'max-below-min': { counter: string; min: number; max: number };
  'runs-idle': { timer: string; screens: string };
  'countdown-unshown': { timer: string };
  'timer-unheard': { timer: string; event: string };
  'too-wide': { counter: string; width: number; max: number };
  'never-shown': { what: string; condition: string };
  'clock-stands': { timer: string; screen: string };
  'shown-in-vain': { counter: string; screen: string };
  'input-unused': { input: string };
  'input-not-taken': { input: string; screens: string };
  'needs-the-game': { from: string; to: string; pieces: readonly string[] };
  'first-pays-nothing': { counter: string; factor: string };
  'next-level-of-a-fresh-run': { from: string; to: string };
  'read-after-set': { counter: string; value: string };
  'best-overwritten': { counter: string; score: string };
  'goal-carried-over': { counter: string; value: string; keep: string };
  'lives-without-end': { counter: string };
  'harm-that-helps': { counter: string; event: string };
  'part-never-holds': { what: string; part: string };
  'ends-early': { counter: string; left: number; to: string };
  'win-lost-for-good': { screen: string; event: string };
  'harm-unheard': { piece: string; other: string };
  'gain-unheard': { success: string; failure: string };
  'success-costs': { success: string; counter: string };
  'left-out': { event: string; sister: string; group: string };
  'hard-for-nothing': { piece: string; easier: string };
  'needs-never-hold': { piece: string; needs: string };
  'spawn-blocked': { piece: string; atOnce: number };
  'spawned-in-vain': { rule: string; piece: string; screen: string };
  'spawn-too-late': { piece: string; seconds: number; timer: string; ends: number };
  'grace-too-long': { rule: string; grace: number; every: number };
  'timer-each-level': { timer: string; seconds: number };
  'runs-from-start': { timer: string; keep: string; seconds: number | undefined };
  'level-asks-less': { level: string; before: string; value: string; asks: string; asked: string };
  'put-back-in-the-run': { counter: string; keep: string; from: string; to: string; fresh: string };
  'best-of-one-run': { counter: string; score: string; keep: string };
  'best-stuck-low': { counter: string; value: number; other: string };
  unpaid: { rule: string; counter: string; amount: number; left: number; gives: string | undefined };
  'taken-for-nothing': { piece: string; event: string; rule: string; purse: string; needs: string };
  'put-back-on-leaving': { rule: string; counter: string; screen: string; span: string; longer: Keep };
  'added-twice': { counter: string; event: string; first: string; second: string; line: number };
  'ending-after-ending': { from: string; first: string; to: string; second: string };
  'ending-unmarked': { screen: string };
  'last-level-lost': { event: string; to: string; next: string };
  'best-of-some-endings': {
    counter: string;
    on: readonly string[];
    left: readonly string[];
    isList: boolean;
  };
  'failure-pays': { event: string; counter: string };
  'pays-for-nothing': { rule: string; counters: string; paid: string; guard: string };
  'goal-asked-twice': { from: string; to: string; condition: string; operator: string; line: number };
  'best-before-bonus': {
    counter: string;
    score: string;
    event: string | undefined;
    first: string;
    second: string;
  };
  'undone-at-once': {
    counter: string;
    value: number;
    event: string;
    first: string;
    second: string;
    line: number;
  };
  'part-always-holds': {
    what: string;
    part: string;
    counter: string;
    bound: 'min' | 'max' | undefined;
    value: number;
    instead: string | undefined;
  };
  'lives-at-once': { counter: string; lives: number; rule: string };
  'stake-unnamed': { counter: string; by: readonly string[] };
  'score-unnamed': { counter: string };
  'word-unset': { counter: string; words: readonly string[] };
  'way-on-untold': { screen: string; said: readonly string[]; onward: readonly string[] };
  'endless-in-vain': { level: string };
  'timer-spent': { timer: string; keep: string; way: string; to: string; fresh: string };
  'timer-not-started': { timer: string; rule: string; counter: string; setter: string };
  'goal-of-nothing': { level: string; value: string; asks: number; counter: string };
  'pause-not-kept': { screen: string; to: string; fresh: string };
  'pause-gives-grace': { screen: string; grace: string };
  'press-skips': { screen: string; input: string; before: string };
  'text-without-input': { screen: string; said: string };
  'text-too-brief': { screen: string; seconds: number; words: number; enough: number };
  'label-twice': { label: string; line: number; screen: string };
  'icons-never-full': { counter: string; start: number; max: number };
  'accepts-nothing': { finding: string; known: boolean };
  'no-screens': { screen: string };
  'no-ending': Record<string, never>;
  'nothing-appears': { piece: string };
  'nothing-on-the-hud': Record<string, never>;
}

export type FindingCode = keyof FindingDetails;

export interface CatalogueEntry<Details> {
  readonly severity: Severity;
  readonly title: string;
  /** Why it matters to a designer, and how it is found. */
  readonly why: string;
  readonly message: (details: Details) => string;
  readonly remedy: (details: Details) => string;
}

/** What a claim about the score rests on, where pieces run out. */
const withSupply = (supply: readonly string[]): string =>
  supply.length === 0 ? '' : `, with no more ${supply.join(' or ')} than the levels have`;

/** Every finding: how bad it is, what it says and how to fix it. `docs/findings` is made from this. */
export const catalogue: { readonly [Code in FindingCode]: CatalogueEntry<FindingDetails[Code]> } = {
  'transition-unreachable': {
    severity: 'error',
    title: 'Transition that can never be taken',
    why: 'The search visited every state the design can be in (in a game that allows at least as much as the real one), and no state takes this transition. The reason names the condition that never holds and how close the counters came.',
    message: ({ from, to, reason }) => `${from} -> ${to} can never be taken: ${reason}.`,
    remedy: ({ shortage }) => {
      if (shortage === undefined) return 'Change the condition or what it reads, or remove the transition.';
      const { counter, event, piece, count, couldStay } = shortage;
      const more = couldStay
        ? 'Let it stay with ends: [], or place more'
        : 'Place or spawn more, or ask for less';
      return `Only ${event} raises ${counter}, and no level has more than ${count} x ${piece}. ${more}.`;
    },
  },
  'transition-shadowed': {
    severity: 'error',
    title: 'Transition always pre-empted by an earlier one',
    why: 'When several transitions of a screen could be taken at the same moment, the first in the file is. Whenever this one could be taken, an earlier one is.',
    message: ({ from, to, first, line, isOneOfSeveral }) =>
      `${from} -> ${to} can never be taken: ${
        isOneOfSeveral
          ? `an earlier one is always taken first, such as ${first} (line ${line})`
          : `${first} (line ${line}) is always taken first`
      }.`,
    remedy: () => 'Move it above the other one, or give the other one a condition.',
  },
  'transition-undecided': {
    severity: 'warning',
    title: 'Undecided transition',
    why: 'The search hit a limit, or found a path that ignores time and no session that follows it in real time. Nothing is claimed either way.',
    message: ({ from, to, reason }) => `${from} -> ${to} is undecided: ${reason}.`,
    remedy: () => 'Give the counters it depends on a min and a max, or simplify its condition.',
  },
  'out-of-time': {
    severity: 'error',
    title: 'Transition no player is fast enough for',
    why: 'A player attends to one piece at a time, and each attempt takes time. Even the fastest player of the design, succeeding every time, is too late: a timer ends first.',
    message: ({ from, to, pace }) =>
      `${from} -> ${to} is too late for every player: even at pace ${pace} without a miss, a timer ends first.`,
    remedy: () => 'Allow more time, ask for less, or shorten the time the pieces take.',
  },
  'screen-unreachable': {
    severity: 'error',
    title: 'Screen never entered',
    why: 'No transition leads to it, or none of those that do can be taken.',
    message: ({ screen, causes }) =>
      `The screen ${screen} is never entered${causes.length === 0 ? ': no transition leads to it' : `: ${causes.join(' and ')} cannot be taken`}.`,
    remedy: ({ causes }) =>
      causes.length === 0 ? 'Add a transition to it, or remove it.' : 'Fix those first.',
  },
  'level-unreachable': {
    severity: 'error',
    title: 'Level never reached',
    why: 'No transition that can be taken leads to it: often a `level: next` is missing, or its condition never holds.',
    message: ({ level }) => `The level ${level} is never reached.`,
    remedy: () => 'Lead to it with level: next or its number, or remove it.',
  },
  'no-way-back': {
    severity: 'error',
    title: 'Ending with no way back',
    why: 'A player who lost, or won, wants to play again. From this ending no fresh start of a run can be reached.',
    message: ({ ending }) =>
      `From the ending ${ending} no fresh start can be reached: the game is over for good.`,
    remedy: ({ ending, target }) =>
      `Add a way back, such as { from: ${ending}, to: ${target}, when: input.again, fresh: run }.`,
  },
  'way-back-lost': {
    severity: 'error',
    title: 'Ending that lost its way back',
    why: 'A fresh start exists, but not from here: its condition no longer holds, or the way back into play resets nothing, so the run ends again at once. The session shown leads there.',
    message: ({ ending, values }) => `On ${ending}, with ${values}, no fresh run can be reached.`,
    remedy: () => 'Add fresh: run to the transition back into play, or add one without a condition.',
  },
  'dead-end': {
    severity: 'error',
    title: 'Screen with no way out',
    why: 'Nothing leads out of a screen that is neither live nor an ending.',
    message: ({ screen }) => `Nothing leads out of the screen ${screen}.`,
    remedy: ({ screen }) => `Add a transition from ${screen}, or give it an ending.`,
  },
  trap: {
    severity: 'error',
    title: 'State with no way to an ending',
    why: 'A player who gets here plays on for ever: whatever happens, no ending follows. Often something waits for a piece that was missed. The session shown leads there.',
    message: ({ screen, values }) => `On ${screen}, with ${values}, no ending can be reached.`,
    remedy: ({ screen, isLive }) =>
      isLive
        ? 'Add a way to lose, let the piece appear again, or leave the screen when it is gone.'
        : `Add a transition from ${screen} without a condition.`,
  },
  'missed-for-good': {
    severity: 'error',
    title: 'Level that cannot end once a piece is missed',
    why: 'Something waits for a piece that never appears again. Once it is missed, no ending can be reached and the player plays on for ever. The session shown misses it.',
    message: ({ screen, event }) => `On ${screen}, no ending can be reached after ${event}.`,
    remedy: () =>
      'Test what is left instead of what was taken, let the piece appear again, or add a way to lose.',
  },
  'over-at-once': {
    severity: 'error',
    title: 'Level over the moment it begins',
    why: 'The condition that ends it already holds at the start: "none left" before any appeared, or a counter the fresh start did not reset.',
    message: ({ screen, to, condition }) =>
      `${screen} goes on to ${to} the moment it begins: ${condition} already holds.`,
    remedy: ({ screen, condition }) =>
      condition.includes('present.')
        ? 'Use left instead of present: it also counts what is still to appear.'
        : `Reset what the condition reads, such as by fresh: run on the transition to ${screen}, or by a shorter keep.`,
  },
  'no-loss': {
    severity: 'hint',
    title: 'Live screen without a way to lose',
    why: 'The design has endings, but from this live screen none that is lost can be reached: nothing is at stake.',
    message: ({ screen }) => `Nothing can be lost on ${screen}: no lost ending can be reached from it.`,
    remedy: () => 'Add a way to lose, or leave it as it is if that is intended.',
  },
  'ending-untold': {
    severity: 'hint',
    title: 'Ending without a text',
    why: 'A player who is shown nothing does not know that the run is over, or why.',
    message: ({ ending }) => `The ending ${ending} has no text.`,
    remedy: () => 'Say what happened, such as text: "Dusk fell. You scored {score}."',
  },
  fault: {
    severity: 'error',
    title: 'Session that ends in a fault',
    why: 'Rules that trigger each other endlessly, a counter past 2^53, a level past the last, or ten thousand pieces at once. The code is that of the fault; the session shown runs into it.',
    message: ({ message }) => message,
    remedy: ({ remedy }) => remedy,
  },
  residue: {
    severity: 'error',
    title: 'Restart that leaves stale state',
    why: 'After this transition back into play, something kept for a run or shorter differs from a first start. It was found by playing: the session shown leads there.',
    message: ({ from, to, differences }) =>
      `After ${from} -> ${to}, play does not start as it does the first time: ${differences}.`,
    remedy: () => 'Add fresh: run to the transition, or keep for the session what is meant to last.',
  },
  'set-and-put-back': {
    severity: 'warning',
    title: 'Counter set and reset in one transition',
    why: 'A transition runs its effects before its fresh start, so what is set here is reset at once: two places write one counter.',
    message: ({ counter, span }) => `${counter} is set here, and fresh: ${span} resets it right after.`,
    remedy: ({ counter }) => `Remove the write, or keep ${counter} longer.`,
  },
  'level-not-fresh': {
    severity: 'warning',
    title: 'Next level without a fresh start',
    why: 'It goes to another level with no fresh: level, so that what is kept for a level is carried over into the next.',
    message: ({ from, to, kept }) =>
      `${from} -> ${to} goes to another level and carries over what is kept for a level: ${kept.join(', ')}.`,
    remedy: () => 'Add fresh: level, or keep what is meant to go on for the run.',
  },
  'outlives-the-run': {
    severity: 'hint',
    title: 'Timer, score, stake or streak not reset by a fresh run',
    why: 'A timer, the score, a counter that an ending depends on, or one that play builds up and sets back is kept for longer than a run: it goes on where it was when the player starts again.',
    message: ({ what, keep }) =>
      `${what} is kept for ${keep === 'forever' ? 'ever' : `a ${keep}`}, so fresh: run does not reset it.`,
    remedy: () => 'Keep it for a level or a run, unless it is meant to go on.',
  },
  'hit-at-once': {
    severity: 'hint',
    title: 'Hazard that can hit at the start',
    why: 'A fresh start drops the player next to something that can hurt within a second, with no grace.',
    message: ({ piece, seconds }) =>
      `${capital(withArticle(piece))} can reach the player ${seconds} s after the level begins.`,
    remedy: () => 'Add grace to the transition into play, or delay the spawn with first.',
  },
  'hit-unforeseen': {
    severity: 'hint',
    title: 'Hazard that nobody can see coming',
    why: 'It reaches the player sooner after it appears than anybody reacts to what they see, so that only luck avoids it.',
    message: ({ piece, seconds }) =>
      `${capital(withArticle(piece))} reaches the player ${seconds} s after it appears, sooner than anybody reacts.`,
    remedy: () => 'Give it a longer lead, such as lead: [0.8, 1.5].',
  },
  'rule-unreachable': {
    severity: 'warning',
    title: 'Rule that can never fire',
    why: 'Every state that the design can be in was visited, and none fires it.',
    message: ({ rule, reason }) => `The rule "${rule}" can never fire: ${reason}.`,
    remedy: () => 'Change its condition or what it reads, or remove it.',
  },
  'rule-shadowed': {
    severity: 'warning',
    title: 'Rule always pre-empted by an earlier one',
    why: 'Rules on one event fire in the order of the file, each seeing what the one before it did. Whenever this one could fire, an earlier one has already changed what its condition reads.',
    message: ({ rule, first, line }) =>
      `The rule "${rule}" can never fire: "${first}" (line ${line}) goes first and changes what its condition reads.`,
    remedy: () => 'Move it above the other rule, or test the value the other rule leaves.',
  },
  'rule-deaf': {
    severity: 'warning',
    title: 'Rule on screens where its event cannot happen',
    why: 'Pieces are met on live screens only, and a timer fires only where it runs.',
    message: ({ rule, event, screens }) =>
      `The rule "${rule}" hears ${event} only on ${screens}, where it never happens.`,
    remedy: ({ needs }) =>
      needs.length === 0
        ? 'Name a screen where it can happen, or leave screens out.'
        : `Give the rule screens: ${needs.length === 1 ? needs[0] : `[${needs.join(', ')}]`}.`,
  },
  'event-unheard': {
    severity: 'warning',
    title: 'Event of your own that nothing hears',
    why: 'It is emitted, and no rule or transition has it in its when.',
    message: ({ event }) => `${event} is emitted, and nothing hears it.`,
    remedy: ({ event }) => `Add a rule with when: ${event}, or do not emit it.`,
  },
  'piece-unheard': {
    severity: 'hint',
    title: 'Piece that no rule mentions',
    why: 'Meeting it changes nothing.',
    message: ({ piece }) => `No rule says what happens when ${withArticle(piece)} is met.`,
    remedy: ({ event }) => `Add a rule with when: ${event}.`,
  },
  'piece-nowhere': {
    severity: 'warning',
    title: 'Piece that never appears',
    why: 'Levels place or spawn other pieces, but nothing makes this one appear.',
    message: ({ piece, rule }) =>
      rule === undefined
        ? `Nothing makes ${withArticle(piece)} appear: no level has it and no rule spawns it.`
        : `Nothing makes ${withArticle(piece)} appear: only the rule "${rule}" would, and it can never fire.`,
    remedy: ({ piece }) => `Place or spawn it in a level, such as { piece: ${piece}, every: 5 }.`,
  },
  'counter-unwritten': {
    severity: 'hint',
    title: 'Counter that nothing changes',
    why: 'It is read or shown, and always holds what it started with.',
    message: ({ counter }) => `Nothing ever changes ${counter}.`,
    remedy: ({ counter }) => `Add a rule that writes it, such as add: { ${counter}: 1 }; or make it a dial.`,
  },
  'target-out-of-reach': {
    severity: 'warning',
    title: 'Target above what any session can score',
    why: 'The highest score was proved, and the target asks for more: no setting of the players can meet it.',
    message: ({ counter, from, highest, supply }) =>
      `The target asks for a ${counter} of at least ${from}, and no session gets past ${highest}${withSupply(supply)}.`,
    remedy: ({ counter }) => `Lower the target, or let more add to ${counter}.`,
  },
  'score-constant': {
    severity: 'warning',
    title: 'Score that never changes',
    why: 'Rules write the score, and in every session it keeps the value that it started with: what multiplies 0, or takes from a score at its min, changes nothing.',
    message: ({ counter, value, supply }) =>
      `${counter} stays ${value} whatever happens${withSupply(supply)}.`,
    remedy: ({ counter }) => `Let something add to it, such as add: { ${counter}: 10 }.`,
  },
  'counter-unread': {
    severity: 'hint',
    title: 'Counter that nothing reads or shows',
    why: 'It is written, and neither a condition, an amount, a text nor the HUD ever looks.',
    message: ({ counter }) => `${counter} is written, and nothing reads or shows it.`,
    remedy: () => 'Show it on the HUD, use it, or remove it.',
  },
  unused: {
    severity: 'hint',
    title: 'Counter, dial or level value that is not used',
    why: 'Nothing writes, reads or shows it. It may be left over, or what was to use it names another.',
    message: ({ kind, name }) => `Nothing uses the ${kind} ${name}.`,
    remedy: () => 'Use it, or remove it.',
  },
  'counter-unshown': {
    severity: 'hint',
    title: 'Counter that changes in play and is not shown',
    why: 'A player cannot follow what they cannot see. It changes on a live screen, and neither the HUD nor a text shows it on one.',
    message: ({ counter }) => `${counter} changes in play and is not shown there.`,
    remedy: ({ counter }) => `Add { show: ${counter} } to the hud, unless it is meant to be hidden.`,
  },
  'set-past-bound': {
    severity: 'warning',
    title: 'Counter set past its bound',
    why: 'The number lies outside the min and max of the counter, which hold it: add was meant, or the bound is wrong.',
    message: ({ counter, value, held }) =>
      `This sets ${counter} to ${value}, but its bounds limit it to ${held}.`,
    remedy: ({ counter }) => `Use add if this is meant as a change, or fix the bounds of ${counter}.`,
  },
  'score-set': {
    severity: 'warning',
    title: 'Points that replace the points before',
    why: 'A rule that hears what becomes of a piece sets the score to a number, whatever it was before: all points gathered until then are gone.',
    message: ({ counter, value, by }) =>
      `"${by}" sets ${counter} to ${value}, whatever it was: points from before are lost.`,
    remedy: () => 'Use add if points are meant to add up.',
  },
  'only-set': {
    severity: 'hint',
    title: 'Counter that never counts',
    why: 'The counter has a max, and everything that writes it sets it to a number far below: add was meant somewhere.',
    message: ({ counter, values, max }) =>
      `${counter} is only ever ${values} and never gets near its max of ${max}.`,
    remedy: () => 'Use add where it is meant to count, or lower the max.',
  },
  'set-twice': {
    severity: 'warning',
    title: 'Two rules that set one counter on one event',
    why: 'Both fire, and what the first set is gone: two places write the same counter, and only the later counts.',
    message: ({ counter, event, first, second }) =>
      `On ${event}, the rules "${first}" and "${second}" both set ${counter}; only the second counts.`,
    remedy: () => 'Keep one of the two, or give them conditions that do not hold together.',
  },
  'hit-without-pause': {
    severity: 'hint',
    title: 'Loss that repeats during one contact',
    why: 'Contact lasts many frames. Without a grace, a rest or a way off the screen, a game that reports it each frame without an id takes a life each frame.',
    message: ({ counter, event }) =>
      `${event} takes from ${counter} every time it is reported, without a pause.`,
    remedy: () => 'Add { grace: 1 } to its effects, or rest: 1 to the rule.',
  },
  'below-zero': {
    severity: 'hint',
    title: 'Score that can fall below zero',
    why: 'A rule takes from it, and it has no min.',
    message: ({ counter, by }) => `"${by}" takes from ${counter}, which can fall below zero.`,
    remedy: ({ counter }) => `Give ${counter} min: 0, unless debts are meant.`,
  },
  'points-lost': {
    severity: 'hint',
    title: 'Score whose max loses points',
    why: 'What is added past the max is not counted.',
    message: ({ counter, max, rule }) => `"${rule}" adds to ${counter}, which stops counting at ${max}.`,
    remedy: () => 'Raise the max, or leave it out.',
  },
  'points-after-the-end': {
    severity: 'warning',
    title: 'Points after the run has ended',
    why: 'A rule adds to the score on an ending, on something else than entering it.',
    message: ({ counter, screen }) => `On the ending ${screen} this rule still adds to ${counter}.`,
    remedy: ({ screen }) => `Use when: ${screen}.entered instead, or limit the rule to live screens.`,
  },
  'changes-nothing': {
    severity: 'warning',
    title: 'Write that changes nothing',
    why: 'It adds nothing, or the counter can hold one value only.',
    message: ({ counter }) => `This never changes ${counter}.`,
    remedy: () => 'Fix the amount or the range, or remove it.',
  },
  'spawn-unbounded': {
    severity: 'warning',
    title: 'Spawn without bound or end',
    why: 'The pieces wait for the player for ever, and nothing limits how many there are: the longer a player does nothing, the more lie about.',
    message: ({ piece }) => `${capital(piece)} keeps appearing, and none ever goes away by itself.`,
    remedy: () => 'Give the spawn atOnce or total, or give the piece lasts.',
  },
  'many-pieces': {
    severity: 'hint',
    title: 'Expression that allows very many pieces',
    why: 'More than a hundred of a piece at once are seldom meant, and each number of them is a state of its own where it counts: the search can get large.',
    message: ({ piece, most, computed }) => `${computed} allows up to ${most} of ${piece} at once.`,
    remedy: () => 'Limit it, such as "min(8, ...)", or give what it reads a max.',
  },
  'difficulty-held': {
    severity: 'warning',
    title: 'Difficulty past its range',
    why: 'A difficulty is held between -20 and 20 logits; at either end nobody ever fails, or nobody ever succeeds.',
    message: ({ piece, difficulty }) =>
      `The difficulty of ${piece} can reach ${difficulty}; it is limited to -20 to 20.`,
    remedy: () => 'Let it grow more slowly: a step of 2 turns every second success into nearly nine in ten.',
  },
  'acted-by-nobody': {
    severity: 'warning',
    title: 'Piece that no player acts on',
    why: 'Its success needs one event, and no simulated player presses the input that leads to it: it always gets through.',
    message: ({ piece, by }) => `No player triggers ${by}, and only ${by} makes ${piece} a success.`,
    remedy: () => 'Let a player press an input, such as acts: { input.fire: 0.5 }.',
  },
  'difficulty-unread': {
    severity: 'warning',
    title: 'Difficulty without effect',
    why: 'How meeting the piece ends is not a matter of skill: its own outcomes are weighed, or simulated players never meet it. The number changes nothing.',
    message: ({ piece, byWeight }) =>
      byWeight
        ? `The difficulty of ${piece} changes nothing: its outcomes are decided by weight.`
        : `The difficulty of ${piece} changes nothing: simulated players never meet it.`,
    remedy: ({ byWeight }) =>
      byWeight
        ? 'Name the outcome the player tries for, such as success: above, or remove the difficulty.'
        : 'Let it be met, such as meets: sought, or remove the difficulty.',
  },
  'max-below-min': {
    severity: 'warning',
    title: 'Max that can lie below the min',
    why: 'A bound that is an expression can cross the other one. The counter is then held at its min, whatever its max says.',
    message: ({ counter, min, max }) => `The max of ${counter} can be ${max}, below its min of ${min}.`,
    remedy: () => 'Limit the expression, such as max: "max(1, hearts)".',
  },
  'interval-too-short': {
    severity: 'warning',
    title: 'Interval that can be zero or less',
    why: 'The expression gives nothing, or less, in some level; it is then held at a millisecond, a thousand times a second.',
    message: ({ what, seconds }) => `${what} can drop to ${seconds} s; it is then set to one millisecond.`,
    remedy: () => 'Limit it, such as "max(0.5, ...)".',
  },
  'in-milliseconds': {
    severity: 'warning',
    title: 'Time that looks like milliseconds',
    why: 'Times are in seconds. This one is longer than anybody sits through, and as milliseconds it would be an ordinary one.',
    message: ({ what, seconds }) => `${what} is ${seconds} s, or about ${Math.round(seconds / 60)} minutes.`,
    remedy: ({ seconds }) => `Times are in seconds. Write ${seconds / 1000} for ${seconds} milliseconds.`,
  },
  'runs-idle': {
    severity: 'warning',
    title: 'Timer that runs on a screen that is not live',
    why: 'It goes on while nothing is played, and nothing there hears it: on a pause or a menu the time of play runs out unseen.',
    message: ({ timer, screens }) =>
      `${timer} also runs on ${screens}, where nothing is played and nothing hears it.`,
    remedy: () => 'Remove those from its screens, or add a rule there.',
  },
  'countdown-unshown': {
    severity: 'hint',
    title: 'Countdown that ends something and is not shown',
    why: 'A transition hears it, and neither the HUD nor a text shows in play how much time is left.',
    message: ({ timer }) => `${timer} ends play, and nothing shows how much time is left.`,
    remedy: ({ timer }) => `Add { show: ${timer}, as: clock } to the hud, unless it is meant to be hidden.`,
  },
  'timer-unheard': {
    severity: 'warning',
    title: 'Timer that nothing hears',
    why: 'It fires, and no rule or transition has it in its when; nor is it read, or if it is not a countdown, shown.',
    message: ({ timer, event }) => `${timer} fires ${event}, and nothing hears it.`,
    remedy: ({ event }) => `Add a rule or a transition with when: ${event}, or remove the timer.`,
  },
  'too-wide': {
    severity: 'warning',
    title: 'Counter wider than its digits',
    why: 'The HUD gives it fewer digits than its max has, or than one write adds, so that it jumps to the side when it grows.',
    message: ({ counter, width, max }) =>
      `${counter} can be ${max}, which is wider than ${width} ${width === 1 ? 'digit' : 'digits'}.`,
    remedy: ({ max }) => `Write width: ${String(max).length}.`,
  },
  'never-shown': {
    severity: 'warning',
    title: 'Prompt whose condition never holds',
    why: 'Within the ranges of the counters it reads it is always false, so that the HUD never shows it.',
    message: ({ what, condition }) => `${what} is never shown: "${condition}" never holds.`,
    remedy: () => 'Fix the condition or the ranges, or remove it.',
  },
  'clock-stands': {
    severity: 'warning',
    title: 'Clock of a timer that does not run',
    why: 'It is shown on a screen on which its timer stands still all the time.',
    message: ({ timer, screen }) => `${timer} is shown on ${screen}, where it does not run.`,
    remedy: () => 'Show it on screens where it runs, or let it run there with screens.',
  },
  'shown-in-vain': {
    severity: 'hint',
    title: 'Counter shown where it cannot matter',
    why: 'Nothing is played on that screen, no play leads straight to it, and every way on puts the counter back to its start.',
    message: ({ counter, screen }) =>
      `${counter} is shown on ${screen}, where it means nothing: every transition from there resets it.`,
    remedy: () => 'Show it on the screens where it is played for.',
  },
  'input-unused': {
    severity: 'warning',
    title: 'Input that is offered and used by nothing',
    why: 'A prompt offers it, and no rule, transition or list has it in its when.',
    message: ({ input }) => `A prompt offers ${input}, and nothing uses it.`,
    remedy: ({ input }) => `Add a transition or a rule with when: ${input}, or remove the prompt.`,
  },
  'input-not-taken': {
    severity: 'warning',
    title: 'Prompt for an input that the screen does not take',
    why: 'The prompt is shown on a screen on which no rule or transition hears its input: whoever follows it sees nothing happen.',
    message: ({ input, screens }) => `${input} is offered on ${screens}, where nothing hears it.`,
    remedy: () => 'Show the prompt on the screens that take it, or add a transition there.',
  },
  'needs-the-game': {
    severity: 'warning',
    title: 'Transition that the design’s own spawns do not reach',
    why: 'A session that reaches it has pieces sooner, or more of them, than levels, spawns and rules make appear, and no session of simulated players came to it: neither those of the design, nor one who never misses, nor one who always does. A game that brings the pieces itself can reach it.',
    message: ({ from, to, pieces }) =>
      `${from} -> ${to} was reached only where the game adds ${pieces.join(' and ')}: the design itself spawns too few, or too late.`,
    remedy: () => 'Spawn more of them, spawn them sooner, or ask for less.',
  },
  'first-pays-nothing': {
    severity: 'hint',
    title: 'Factor that is 0 the first time',
    why: 'The amount is multiplied by a counter that starts at 0, and the same rule raises it only then: the first time, and each time after it was put back, pays nothing.',
    message: ({ counter, factor }) =>
      `What this adds to ${counter} is multiplied by ${factor}, which is 0 the first time.`,
    remedy: ({ factor }) => `Write start: 1 for ${factor}, or raise it in an effect before this one.`,
  },
  'next-level-of-a-fresh-run': {
    severity: 'warning',
    title: 'Next level that resets the run',
    why: 'Going on to the next level and beginning the run afresh contradict each other: the score and the lives go back to their start in the middle of the game.',
    message: ({ from, to }) =>
      `${from} -> ${to} goes to the next level and starts a fresh run, so score and lives are reset.`,
    remedy: () => 'Use fresh: level.',
  },
  'read-after-set': {
    severity: 'warning',
    title: 'Amount that reads what was just set',
    why: 'Effects of one list happen in order, each seeing what the one before it wrote: the counter has been set to a constant when this amount reads it.',
    message: ({ counter, value }) =>
      `${counter} is set to ${value} just before this reads it, so it always reads ${value}.`,
    remedy: ({ counter }) => `Put the effect that reads ${counter} first, or both in one effect.`,
  },
  'best-overwritten': {
    severity: 'warning',
    title: 'Best score that a worse one overwrites',
    why: 'It is kept over runs and set to the score of each, however low: it holds the last score, not the best.',
    message: ({ counter, score }) =>
      `${counter} is always set to ${score}, so a worse run overwrites a better one.`,
    remedy: ({ counter, score }) =>
      `Write set: { ${counter}: "max(${counter}, ${score})" }, or add if: ${score} > ${counter} to the rule.`,
  },
  'goal-carried-over': {
    severity: 'hint',
    title: 'Goal of a level that counts on from the last',
    why: 'Each level asks for its own amount, and the counter that is asked goes on from level to level: what was earned for one counts for the next, which may be over at once.',
    message: ({ counter, value, keep }) =>
      `${counter} is compared with level.${value}, but it is kept for a ${keep} and carries over from level to level.`,
    remedy: ({ counter }) => `Use keep: level for ${counter}, unless the goals are meant to add up.`,
  },
  'lives-without-end': {
    severity: 'warning',
    title: 'Lives that run out with nothing happening',
    why: 'Hits take from the counter, and no condition asks how much of it is left: at its min the game goes on.',
    message: ({ counter }) => `Nothing happens when ${counter} runs out.`,
    remedy: ({ counter }) => `Add a way to lose, such as a transition with if: ${counter} == 0.`,
  },
  'harm-that-helps': {
    severity: 'warning',
    title: 'Hazard that gives lives',
    why: 'A hazard is there to be avoided, and its hit adds to the lives: players had better run into it.',
    message: ({ counter, event }) => `${event} adds to ${counter}, though it is the hit of a hazard.`,
    remedy: ({ counter }) => `Write add: { ${counter}: -1 }, or make the piece a collectible.`,
  },
  'part-never-holds': {
    severity: 'warning',
    title: 'Part of a condition that never holds',
    why: 'The condition has several parts joined by "or", and by the bounds of what one of them reads it is never true: the others decide alone.',
    message: ({ what, part }) => `In the condition of ${what}, "${part}" can never hold.`,
    remedy: () => 'Compare with what can be reached, or leave that part out.',
  },
  'ends-early': {
    severity: 'hint',
    title: 'Run that is lost with a life left',
    why: 'The ending waits for more than the least that the counter can hold: the HUD still shows a life when the run is lost.',
    message: ({ counter, left, to }) => `${to} comes while ${counter} is still ${left}.`,
    remedy: ({ counter }) => `Use if: ${counter} == 0, unless this is intended.`,
  },
  'win-lost-for-good': {
    severity: 'warning',
    title: 'Win that one miss makes impossible',
    why: 'From this state on the run can only be lost: what the win asks for is gone, and the player plays on without knowing. Every state was visited; the session that is shown leads there.',
    message: ({ screen, event }) => `On ${screen}, the run can no longer be won after ${event}.`,
    remedy: () =>
      'Ask for fewer than there are, let the piece appear again, let players try it again with again: true, or end the run there.',
  },
  'harm-unheard': {
    severity: 'warning',
    title: 'Hit that no rule hears',
    why: 'Rules hear what else becomes of the hazard or foe, and not that it hits: it can be beaten or avoided, and does no harm.',
    message: ({ piece, other }) =>
      `No rule hears ${piece}.hit, although ${other} is heard: ${withArticle(piece)} does no harm.`,
    remedy: ({ piece }) => `Add a rule with when: ${piece}.hit, or make it a prop.`,
  },
  'gain-unheard': {
    severity: 'hint',
    title: 'Success that no rule hears',
    why: 'A rule hears that the piece is missed, or that the foe hits, and nothing hears that the player has succeeded: the two were swapped, or a rule is missing.',
    message: ({ success, failure }) =>
      `No rule hears ${success}, although ${failure} is heard: whoever succeeds gets nothing.`,
    remedy: ({ success }) => `Hear ${success} there if that is meant, or add a rule for it.`,
  },
  'success-costs': {
    severity: 'hint',
    title: 'Success that costs',
    why: 'All that the rule does where the player takes the piece, or beats the foe, is to take points or lives away: a sign is wrong, or it is a hazard.',
    message: ({ success, counter }) =>
      `${success} only takes from ${counter}: succeeding makes the player worse off.`,
    remedy: ({ success }) => `Fix the sign, or make the piece of ${success} a hazard.`,
  },
  'left-out': {
    severity: 'hint',
    title: 'Piece that its sisters’ rules leave out',
    why: 'A rule hears this outcome of another piece of the same group, and nothing hears it of this one: a rule was copied for each piece, and once too few.',
    message: ({ event, sister }) => `No rule hears ${event}, although ${sister} is heard.`,
    remedy: ({ event, group }) => `Let the rule hear ${group}, or add one with when: ${event}.`,
  },
  'hard-for-nothing': {
    severity: 'hint',
    title: 'Piece that is harder and worth no more',
    why: 'It takes more skill and no less time than another, and adds no more to any counter: a player who sees both never has a reason to go for this one.',
    message: ({ piece, easier }) =>
      `${capital(withArticle(piece))} is harder to take than ${withArticle(easier)} and worth no more.`,
    remedy: ({ piece }) => `Let ${piece}.taken add more, or make it easier.`,
  },
  'needs-never-hold': {
    severity: 'warning',
    title: 'Piece that can never be met',
    why: 'Its needs hold in no state that the design can be in while the piece is there.',
    message: ({ piece, needs }) =>
      `${capital(withArticle(piece))} can never be met: "${needs}" never holds while one is there.`,
    remedy: () => 'Change its needs or what they read, or remove the piece.',
  },
  'spawn-blocked': {
    severity: 'warning',
    title: 'Spawn that its own pieces block',
    why: 'The piece stays where it is when it is met, nothing takes it away, and only a limited number may be present: after these, no more appear.',
    message: ({ piece, atOnce }) =>
      `${capital(withArticle(piece))} stays when it is met, so after ${atOnce === 1 ? 'the first' : atOnce} no more appear.`,
    remedy: ({ piece }) =>
      `Let it go with ends or lasts, clear it in a rule, or place ${piece} instead of spawning it.`,
  },
  'spawned-in-vain': {
    severity: 'warning',
    title: 'Pieces that are spawned when play is over',
    why: 'They appear on a screen where nothing is met, and every way on puts the level back, which takes them away again.',
    message: ({ rule, piece, screen }) =>
      `"${rule}" makes ${withArticle(piece)} appear on ${screen}, and every transition from there removes it again.`,
    remedy: () => 'Make it appear in play, such as on entering a live screen.',
  },
  'spawn-too-late': {
    severity: 'warning',
    title: 'Spawn that begins after play has ended',
    why: 'The first of these pieces comes when a countdown has already led away from every live screen.',
    message: ({ piece, seconds, timer, ends }) =>
      `The first ${piece} comes after ${seconds} s, but ${timer} ends play after ${ends} s.`,
    remedy: ({ ends }) => `Let it begin sooner, with first below ${ends}, or give more time.`,
  },
  'grace-too-long': {
    severity: 'hint',
    title: 'Grace longer than the danger',
    why: 'After one hit, several more that could hit come and go without harm: the safest place is right after a hit.',
    message: ({ rule, grace, every }) =>
      `"${rule}" gives ${grace} s of grace, and what could hit comes every ${every} s: most of it does no harm.`,
    remedy: () => 'Shorten the grace to what a player needs to get away, such as 1 s.',
  },
  'timer-each-level': {
    severity: 'hint',
    title: 'Countdown that begins again with each level',
    why: 'A timer is kept for a level unless it says otherwise, so a fresh level winds it up again.',
    message: ({ timer, seconds }) =>
      `${timer} begins again with each level: ${seconds} s for each, not for all.`,
    remedy: () => 'Write keep: run if it is for the whole run, or keep: level if it is meant so.',
  },
  'runs-from-start': {
    severity: 'warning',
    title: 'Timer that runs before anything starts it',
    why: 'A timer begins with what it is kept for, such as a level. A rule starts it for a while, and a condition expects it to run only then; but the condition also holds at the beginning.',
    message: ({ timer, keep, seconds }) =>
      `${timer} also runs from ${keep === 'forever' ? 'the first start' : `the start of each ${keep}`}, so timer.${timer} > 0 holds there${seconds === undefined ? '' : ` for ${seconds} s`} before any rule has started it.`,
    remedy: ({ timer }) =>
      `Read a flag that the rule sets and ${timer}.ended clears, or stop ${timer} where it should not run yet.`,
  },
  'level-asks-less': {
    severity: 'hint',
    title: 'Level that asks less than the one before',
    why: 'A goal usually grows from level to level; here it shrinks.',
    message: ({ level, before, value, asks, asked }) =>
      `${level} asks for ${value} ${asks}, less than ${before} with ${asked}.`,
    remedy: () => 'Swap the two, or raise it, unless the level is hard in another way.',
  },
  'put-back-in-the-run': {
    severity: 'warning',
    title: 'Score or lives reset in the middle of a run',
    why: 'It is kept for less than a run, and a way that goes on with the run puts it back to its start: what was earned is gone, or what was lost is back.',
    message: ({ counter, keep, from, to, fresh }) =>
      `${counter} is kept for a ${keep}, so ${from} -> ${to} (fresh: ${fresh}) resets it in the middle of a run.`,
    remedy: ({ counter }) => `Use keep: run for ${counter}.`,
  },
  'best-of-one-run': {
    severity: 'warning',
    title: 'Best score that does not outlive the run',
    why: 'It takes the score when that is higher, and starts again with each run, as the score does: it never shows more than the score of one run.',
    message: ({ counter, score, keep }) =>
      `${counter} starts again with each ${keep}, so it is never more than the ${score} of one run.`,
    remedy: ({ counter }) => `Give ${counter} keep: session, or keep: forever.`,
  },
  'best-adds-up': {
    severity: 'warning',
    title: 'Best score that adds up all scores',
    why: 'Its name says that it is the best, and each run adds its score to it: it holds the total of all runs.',
    message: ({ counter, score }) => `${counter} adds up the ${score} of every run, so it is their total.`,
    remedy: ({ counter, score }) =>
      `Write set: { ${counter}: "max(${counter}, ${score})" }, or give it a name that says total.`,
  },
  'best-stuck-low': {
    severity: 'warning',
    title: 'Best that can never be beaten',
    why: 'It takes a value only when that is lower, and it starts as low as that value can be: it keeps the value that it started with.',
    message: ({ counter, value, other }) =>
      `${counter} takes ${other} only when that is lower, but it starts at ${value} and ${other} never falls below that.`,
    remedy: ({ counter, other }) =>
      `To keep the highest, write "max(${counter}, ${other})". To keep the lowest, as of times, start ${counter} high, such as start: 9999.`,
  },
  'goal-asked-twice': {
    severity: 'hint',
    title: 'Goal that two transitions ask for differently',
    why: 'From one screen, one transition asks for a goal to be reached, and another for more than the goal: at the goal itself, only the first of the two can be taken.',
    message: ({ from, to, condition, operator, line }) =>
      `${from} -> ${to} asks for ${condition}, and line ${line} has ${operator} for the same goal.`,
    remedy: () => 'Use the same comparison in both, unless they are meant to differ.',
  },
  'best-before-bonus': {
    severity: 'warning',
    title: 'Best score noted before the bonus',
    why: 'On one event, rules fire in the order of the file, and the effects of a rule in theirs: the best is taken from the score before what comes later adds to it.',
    message: ({ counter, score, event, first, second }) =>
      first === second
        ? `"${first}" sets ${counter} before it adds to ${score}.`
        : `On ${event}, "${first}" sets ${counter} before "${second}" adds to ${score}.`,
    remedy: ({ counter, first, second }) =>
      first === second ? `Put the effect that sets ${counter} last.` : `Put "${second}" above "${first}".`,
  },
  'undone-at-once': {
    severity: 'warning',
    title: 'Gain that is gone at once',
    why: 'Rules fire in the order of the file. One adds to a counter, and the next sets it to one number on the same event, so that nothing of what was added is left.',
    message: ({ counter, value, event, first, second, line }) =>
      `On ${event}, "${first}" (line ${line}) adds to ${counter}, and "${second}" then sets it to ${value}.`,
    remedy: ({ second }) =>
      `Give "${second}" the event or the condition that is meant, or remove the effect.`,
  },
  'part-always-holds': {
    severity: 'warning',
    title: 'Condition that asks for nothing',
    why: 'The counter is kept within its min and its max, and every value that it can have fulfils the comparison.',
    message: ({ what, part, counter, bound, value }) =>
      `${what} asks for ${part}, which always holds${bound === undefined ? '' : `: the ${bound} of ${counter} is ${value}`}.`,
    remedy: ({ instead }) =>
      instead === undefined
        ? 'Compare with a value that it can have.'
        : `Write ${instead}, if that is meant.`,
  },
  'lives-at-once': {
    severity: 'warning',
    title: 'Lives that all go at once',
    why: 'Whatever takes lives takes as many as there are at the start, so the first loss is the last and the number of lives means nothing.',
    message: ({ counter, lives, rule }) => `The first loss, by "${rule}", takes all ${lives} ${counter}.`,
    remedy: ({ counter }) => `Take fewer, such as { add: { ${counter}: -1 } }, or start with 1.`,
  },
  'stake-unnamed': {
    severity: 'hint',
    title: 'Counter that looks like the lives',
    why: 'Hits or misses take from it and a lost ending waits for it, but it is not called lives, so reports have no lives to count.',
    message: ({ counter, by }) =>
      `${capital(by.join(' and '))} take from ${counter}, and it decides when the run is lost, but reports do not know it as the lives.`,
    remedy: ({ counter }) => `Add the line lives: ${counter} to the design.`,
  },
  'score-unnamed': {
    severity: 'hint',
    title: 'Counter that looks like the score',
    why: 'What is met raises it during a run, and its best is kept or an ending shows it, but it is not called score, so reports have no points to count.',
    message: ({ counter }) =>
      `No counter is called score, so reports count no points; ${counter} looks like the score.`,
    remedy: ({ counter }) => `Add the line score: ${counter} to the design.`,
  },
  'pause-not-kept': {
    severity: 'warning',
    title: 'Pause that comes back fresh',
    why: 'The screen is entered from play by an input, and every way back to play makes a fresh start: who pauses loses what they had.',
    message: ({ screen, to, fresh }) =>
      `Going back from ${screen} to ${to} starts a fresh ${fresh}, so a pause loses progress.`,
    remedy: () => 'Use to: back without fresh.',
  },
  'pause-gives-grace': {
    severity: 'hint',
    title: 'Pause that gives grace',
    why: 'Coming back from it gives a time in which nothing can hit, as often as the player likes to press it.',
    message: ({ screen, grace }) => `Coming back from ${screen} gives ${grace} s of grace, each time.`,
    remedy: () => 'Remove the grace; a pause should change nothing.',
  },
  'press-skips': {
    severity: 'hint',
    title: 'Screen that one press skips',
    why: 'The input that leads to this screen, or is used in play right before it, also leads away from it with no wait: a key that is held or pressed twice goes past it unread.',
    message: ({ screen, input, before }) =>
      `${input} leaves ${screen} at once, and is pressed on ${before} right before: the screen may go by unread.`,
    remedy: () => 'Add wait: 1 to the way out, or use another input.',
  },
  'text-without-input': {
    severity: 'warning',
    title: 'Text that asks for a key nothing takes',
    why: 'The text of the screen asks the player to press something, and no transition or rule there hears an input.',
    message: ({ screen, said }) => `The text of ${screen} says "${said}", and nothing there hears an input.`,
    remedy: ({ screen }) =>
      `Add a transition such as { from: ${screen}, to: …, when: input.again }, or change the text.`,
  },
  'word-unset': {
    severity: 'hint',
    title: 'Word that a counter never holds',
    why: 'The counter lists the word, rules or transitions set the counter, and none of them to that word: a choice that nobody can make.',
    message: ({ counter, words }) =>
      `${counter} lists ${words.join(' and ')}, and nothing ever sets it to ${words.length === 1 ? 'that' : 'those'}.`,
    remedy: ({ counter, words }) =>
      `Set it in a rule, such as do: [{ set: { ${counter}: ${words[0]!} } }], or remove the word.`,
  },
  'way-on-untold': {
    severity: 'hint',
    title: 'Text that does not say how to go on',
    why: 'The text of the screen names inputs that rules hear there, and none of those that lead on: a player who reads it does not find the way.',
    message: ({ screen, said, onward }) =>
      `The text of ${screen} names ${said.join(' and ')}, but not ${onward.join(' or ')}, which ${onward.length === 1 ? 'is' : 'are'} the only way on.`,
    remedy: ({ onward }) => `Name it in the text, such as "Press ${onward[0]!}".`,
  },
  'goal-of-nothing': {
    severity: 'warning',
    title: 'Goal that is met from the start',
    why: 'On that level the goal is no more than the least that the counter can be, so what waits for it never waits.',
    message: ({ level, value, asks, counter }) =>
      `On ${level}, level.${value} is ${asks}, and ${counter} is never less: nothing has to be done for it.`,
    remedy: () => 'Give the level a higher goal, or check the formula.',
  },
  'endless-in-vain': {
    severity: 'warning',
    title: 'Levels without end that none comes to',
    why: 'The last level is endless, so that levels like it go on after it, and no transition goes to the next level.',
    message: ({ level }) => `${level} is endless, but no transition goes to the next level.`,
    remedy: () => 'Add level: next to the transition that begins the next one, or remove endless.',
  },
  'timer-spent': {
    severity: 'warning',
    title: 'Timer that has ended and does not run again',
    why: 'Its end leads out of play, and the way back into play starts some things afresh, but not the timer, since it is kept for longer: it never ends again in that run.',
    message: ({ timer, keep, way, to, fresh }) =>
      `When ${timer} has ended, play goes on at ${to} without it: ${way} starts a fresh ${fresh}, and ${timer} is kept for a ${keep}.`,
    remedy: ({ timer, fresh }) => `Keep ${timer} for a ${fresh} (keep: ${fresh}), or start it on the way.`,
  },
  'timer-not-started': {
    severity: 'hint',
    title: 'Timer that only runs once, from the start',
    why: 'When it ends, a rule puts a counter back that another rule sets. Nothing starts the timer when that happens, so what is set later is never put back.',
    message: ({ timer, rule, counter, setter }) =>
      `${timer} runs once, from the start, and then "${rule}" puts ${counter} back. Nothing starts it when "${setter}" sets ${counter}.`,
    remedy: ({ timer, setter }) => `Add { start: ${timer} } to what "${setter}" does.`,
  },
  'pays-for-nothing': {
    severity: 'warning',
    title: 'Payment for what cannot grow any more',
    why: 'The rule takes its payment and adds to a counter that may be at its max already. The payment is gone then, and nothing comes of it.',
    message: ({ rule, counters, paid }) =>
      `The rule "${rule}" takes ${paid} even when ${counters}, and gives nothing then.`,
    remedy: ({ guard }) => `Write if: ${guard}.`,
  },
  unpaid: {
    severity: 'warning',
    title: 'Price that nobody has to have',
    why: 'The rule takes from a counter and gives something for it. Where less is left than it takes, the counter stops at its min and the rule gives all the same: shots without ammunition, goods without money.',
    message: ({ rule, counter, amount, left, gives }) =>
      `The rule "${rule}" takes ${amount} from ${counter} when ${left === 0 ? 'none is' : `only ${left} ${left === 1 ? 'is' : 'are'}`} left, and ${gives === undefined ? 'does the rest' : `gives ${gives}`} all the same.`,
    remedy: ({ counter, amount }) =>
      `Write pay: { ${counter}: ${amount} } as its first effect in place of the loss, or if: ${counter} >= ${amount}.`,
  },
  'taken-for-nothing': {
    severity: 'warning',
    title: 'Piece that is gone for nothing',
    why: 'Meeting the piece takes it away, and the rule for it asks a price. Where that cannot be paid, the rule does nothing: the piece is gone, and the player has nothing for it.',
    message: ({ piece, event, rule, purse }) =>
      `Where ${purse}, ${event} takes the ${piece} away and nothing comes of it: the rule "${rule}" cannot be paid.`,
    remedy: ({ piece, needs }) => `Let ${piece} be met only where it can be: needs: ${needs}.`,
  },
  'put-back-on-leaving': {
    severity: 'warning',
    title: 'Purchase that is put back on leaving',
    why: 'The rule writes a counter on a screen from which every way out begins something afresh that puts the counter back, so what was bought there is gone before it can be used.',
    message: ({ rule, counter, screen, span }) =>
      `The rule "${rule}" writes ${counter} on ${screen}, and every way out puts it back (fresh: ${span}).`,
    remedy: ({ counter, longer }) => `Keep ${counter} for longer: keep: ${longer}.`,
  },
  'added-twice': {
    severity: 'hint',
    title: 'Counter that one event raises twice',
    why: 'Two rules hear the same event, without any condition, and add to the same counter. Most often the second was written without thinking of the first.',
    message: ({ counter, event, first, second, line }) =>
      `"${second}" and "${first}" (line ${line}) both add to ${counter} on ${event}.`,
    remedy: () => 'Put the whole amount into one of them, or give one a condition.',
  },
  'ending-after-ending': {
    severity: 'warning',
    title: 'Ending that leads to another',
    why: 'From an ending that is won the player comes to one that is lost, or the other way round. A run has one ending.',
    message: ({ from, first, to, second }) =>
      `${capital(from)}, which is ${first}, leads to ${to}, which is ${second}.`,
    remedy: () => 'Lead to a menu or into play, or take ending from one of the two.',
  },
  'ending-unmarked': {
    severity: 'warning',
    title: 'Ending that is not called one',
    why: 'Play leads to this screen by itself, and every way on begins a fresh run, so a run is over there. As it is no ending, reports do not count such runs as ended, and no proof asks for it.',
    message: ({ screen }) =>
      `A run is over on ${screen}, since every way on begins a fresh one, and ${screen} is no ending.`,
    remedy: ({ screen }) => `Write ${screen}: { ending: won }, or ending: lost, or ending: over for neither.`,
  },
  'last-level-lost': {
    severity: 'warning',
    title: 'Last level that ends in a loss',
    why: 'What leads on from every other level leads, on the last, to an ending that is lost.',
    message: ({ event, to, next }) =>
      `On the last level ${event} leads to ${to}, which is lost; on the others it leads to ${next}.`,
    remedy: ({ to }) => `Write ending: won at ${to}, or lead to an ending that is won.`,
  },
  'best-of-some-endings': {
    severity: 'warning',
    title: 'Best score that some endings forget',
    why: 'A rule or a list keeps the score of a run as one screen is entered, and none does so as a run ends on another: a best run that ends there is forgotten.',
    message: ({ counter, on, left, isList }) =>
      `${capital(counter)} ${isList ? 'takes the score' : 'is set'} on ${on.join(' and ')}, and not on ${left.join(' or ')}.`,
    remedy: ({ left, isList }) => {
      const events = left.map((screen) => `${screen}.entered`).join(', ');
      return isList
        ? `Add ${events} to the when of the list.`
        : `Add ${events} to what the rule hears, and ${left.join(', ')} to its screens.`;
    },
  },
  'failure-pays': {
    severity: 'hint',
    title: 'Failure that pays',
    why: 'The rule hears only that something was missed, and raises the score, what the score is multiplied with, or the lives, so missing is worth something.',
    message: ({ event, counter }) => `${event} raises ${counter}.`,
    remedy: () => 'Hear the success instead, or take something away.',
  },
  'text-too-brief': {
    severity: 'hint',
    title: 'Text that nobody can read in time',
    why: 'The screen is left by itself so soon that even a fast reader, at twelve words a second, has not read its text.',
    message: ({ screen, seconds, words }) =>
      `${screen} shows ${words} words and is left after ${seconds} s, before anybody can read them.`,
    remedy: ({ enough }) => `Wait longer, such as wait: ${enough}, or let an input lead on.`,
  },
  'label-twice': {
    severity: 'hint',
    title: 'Label that two items share',
    why: 'Two items of the HUD have the same label on one screen and show different things, so players cannot tell which is which. Most often the second is a copy whose label was not changed.',
    message: ({ label, line, screen }) =>
      `The item of line ${line} is labelled "${label}" too, on ${screen}.`,
    remedy: () => 'Give one of them another label.',
  },
  'icons-never-full': {
    severity: 'hint',
    title: 'Icons that are never all shown',
    why: 'The counter starts below its max and nothing raises it, so some of its icons stay empty for ever.',
    message: ({ counter, start, max }) =>
      `${counter} shows ${max} icons, starts at ${start}, and nothing raises it.`,
    remedy: ({ start }) => `Write max: ${start}, or let something raise it.`,
  },
  'accepts-nothing': {
    severity: 'warning',
    title: 'Acceptance that no longer applies',
    why: 'The design accepts a finding that is not there, or not any more: what was meant to be so has changed.',
    message: ({ finding, known }) =>
      known ? `No finding ${finding} is left to accept here.` : `There is no finding called ${finding}.`,
    remedy: ({ known }) => (known ? 'Remove it.' : 'docs/findings lists the codes.'),
  },
  'no-screens': {
    severity: 'hint',
    title: 'Design without screens',
    why: 'A first design needs none; there is one live screen then.',
    message: ({ screen }) => `The design names no screens, so there is one live screen called ${screen}.`,
    remedy: () => 'Add screens and transitions once the scoring works.',
  },
  'no-ending': {
    severity: 'hint',
    title: 'Design without an ending',
    why: 'Without one a run never ends, and reports have nothing to count.',
    message: () => 'No screen is an ending, so a run never ends.',
    remedy: () => 'Give a screen ending: lost or ending: won.',
  },
  'nothing-appears': {
    severity: 'hint',
    title: 'Design in which nothing appears',
    why: 'Simulated players meet what levels place, spawn or line up.',
    message: () => 'No level places or spawns anything, so simulated players meet nothing.',
    remedy: ({ piece }) =>
      `Add a level such as levels: [{ spawn: [{ piece: ${piece}, every: 1, atOnce: 5 }] }].`,
  },
  'nothing-on-the-hud': {
    severity: 'hint',
    title: 'HUD that shows nothing',
    why: 'Touch it once, read the counter: the counter must be there to read.',
    message: () => 'The HUD shows no counter.',
    remedy: () => 'Add a line such as hud: [{ show: score }].',
  },
};
