// A catalogue: one entry a finding, with its wording and its remedy.

import { withArticle } from '../design/language/names.js';
import type { Keep } from '../design/model.js';
import { capital } from '../sentences/grammar/words.js';
import type { Shortage } from './supply.js';

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
  'outcome-unheard': { piece: string; event: string };
  /** `rule` lacks the part that `twin` has, or has another `instead`; they do the same for `first` and `second`. */
  'unlike-its-twin': {
    rule: string;
    twin: string;
    first: string;
    second: string;
    part: string;
    instead: string | undefined;
  };
  'piece-nowhere': { piece: string; rule: string | undefined };
  'counter-unwritten': { counter: string };
  'counter-unread': { counter: string };
  unused: { kind: 'counter' | 'dial' | 'level value'; name: string };
  'counter-unshown': { counter: string };
  'set-past-bound': { counter: string; value: number; held: number };
  'score-constant': { counter: string; value: number; supply: readonly string[] };
  'target-out-of-reach': { counter: string; from: number; highest: number; supply: readonly string[] };
  /** `rule`: the one that adds whatever is more than the counter; undefined: it is added by every run. */
  'best-adds-up': { counter: string; score: string; rule: string | undefined };
  'score-set': { counter: string; value: number; by: string };
  'only-set': { counter: string; values: string; max: number };
  'set-twice': { counter: string; event: string; first: string; second: string };
  'hit-without-pause': { counter: string; event: string };
  'below-zero': { counter: string; by: string };
  'points-lost': { counter: string; max: number; rule: string };
  'points-after-the-end': { counter: string; screen: string };
  'changes-nothing': { counter: string };
  'more-than-fits': { counter: string; amount: number; max: number };
  'spawn-unbounded': { piece: string };
  'interval-too-short': { what: string; seconds: number };
  'in-milliseconds': { what: string; seconds: number; path: readonly (string | number)[] | undefined };
  'many-pieces': { piece: string; most: number; computed: string };
  'difficulty-held': { piece: string; difficulty: number };
  'pressed-by-nobody': { input: string; rule: string };
  /** `screen`: one that stands still and hears the input. */
  'pressed-in-vain': { player: string; input: string; screen: string };
  'met-by-nobody': { piece: string; rule: string };
  'acted-by-nobody': { piece: string; by: string };
  'difficulty-unread': { piece: string; byWeight: boolean };
  'max-below-min': { counter: string; min: number; max: number };
  'runs-idle': { timer: string; screens: string };
  /** `rule`: what its end sets off, where it ends no play. */
  'countdown-unshown': { timer: string; rule: string | undefined };
  'timer-unheard': { timer: string; event: string };
  'too-wide': { counter: string; width: number; max: number };
  'never-shown': { what: string; condition: string };
  'clock-stands': { timer: string; screen: string };
  'shown-in-vain': { counter: string; screen: string };
  'input-unused': { input: string };
  'input-not-taken': { input: string; screens: string };
  'needs-the-game': { from: string; to: string; pieces: readonly string[] };
  'first-pays-nothing': { counter: string; factor: string; isCounter: boolean };
  'next-level-of-a-fresh-run': { from: string; to: string };
  'read-after-set': { what: string; value: string; isTimer: boolean };
  'best-overwritten': { counter: string; score: string };
  'goal-carried-over': { counter: string; value: string; keep: string };
  'lives-without-end': { counter: string };
  'harm-that-helps': { counter: string; event: string; gives: boolean };
  'part-never-holds': { what: string; part: string };
  'choice-never-taken': {
    what: string;
    test: string;
    holds: boolean;
    never: string;
    known: { part: string; holds: boolean } | undefined;
    level: string | undefined;
  };
  'pause-is-live': { screen: string };
  'taken-again': { screen: string; counters: readonly string[]; condition: string };
  /** Paid again for what the counter holds, or for a price that is asked and not taken. */
  'paid-again': { rule: string; counter: string; to: string; asks: string | undefined };
  'bought-harder': { counter: string; piece: string; rule: string };
  'delivered-once': { piece: string; rule: string; reached: string };
  'steps-out-of-order': {
    rule: string;
    other: string;
    counter: string;
    value: number;
    before: number;
    of: string;
    isUp: boolean;
    isOverwritten: boolean;
  };
  'fires-at-once': { rule: string; condition: string };
  'easier-by-level': {
    piece: string;
    what: 'difficulty' | 'every';
    from: number;
    to: number;
    levels: number;
  };
  'left-between': {
    first: string;
    second: string;
    asks: string;
    other: string;
    /** What holds where neither does. */
    where: string;
    /** The event that both hear; undefined: they wait for their conditions alone. */
    event: string | undefined;
    isRule: boolean;
    instead: string;
    path: readonly (string | number)[];
    condition: string;
  };
  'never-broken': { counter: string; failure: string };
  'passed-by': {
    what: string;
    part: string;
    counter: string;
    before: number;
    after: number;
    instead: string;
    path: readonly (string | number)[];
    condition: string;
  };
  'ending-named-otherwise': { screen: string; ending: string };
  'fewer-than-none': { piece: string; level: string; count: number };
  'end-in-vain': { timer: string; from: string; to: string; asks: string };
  'untried-costs': { piece: string; event: string; counter: string; met: string };
  'lost-before-won': { lost: string; won: string; line: number };
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
  'best-stuck': { counter: string; value: number; other: string; merging: 'lowest' | 'highest' };
  'best-both-ways': { counter: string; first: string; second: string; line: number };
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
    /** What keeps it; of transitions, they are named in place of the endings. */
    by: 'rule' | 'list' | 'transition';
  };
  'failure-pays': { event: string; counter: string };
  'never-picked': { piece: string; outcome: string };
  'gone-unheard': { piece: string; event: string; needs: string };
  'checkpoint-in-vain': { piece: string };
  'slowness-pays': { rule: string; timer: string; score: string };
  'needed-not-taken': { piece: string; counter: string; other: string };
  'word-stuck': { counter: string; word: string };
  'left-at-once': { from: string; to: string; next: string; when: string };
  'never-used-up': { counter: string; rule: string; enough: number };
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
  'turned-back': {
    counter: string;
    to: string;
    back: string;
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
  'key-in-vain': { screen: string; said: string; word: string; heard: readonly string[] };
  'price-told-wrong': { screen: string; said: string; rule: string; price: number };
  'goal-told-wrong': { said: string; asks: string };
  'way-on-untold': { screen: string; said: readonly string[]; onward: readonly string[] };
  'endless-in-vain': { level: string };
  'timer-spent': { timer: string; keep: string; way: string; to: string; fresh: string };
  'timer-not-started': { timer: string; rule: string; counter: string; setter: string };
  'goal-of-nothing': { level: string; value: string; asks: number; counter: string };
  'pause-not-kept': { screen: string; to: string; fresh: string };
  'pause-gives-grace': { screen: string; grace: string };
  'pause-ends-play': { screen: string; to: string };
  'stays-in-vain': { screen: string; when: string };
  'same-each-time': { counter: string; event: string; setter: string; adder: string; value: number };
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
  readonly message: (details: Details) => string;
  readonly remedy: (details: Details) => string;
}

/** What a claim about the score rests on, where pieces run out. */
const withSupply = (supply: readonly string[]): string =>
  supply.length === 0 ? '' : `, with no more ${supply.join(' or ')} than the levels have`;

/** Every finding: how bad it is, what it says and how to fix it. What it means stands apart, in `finding-meanings.ts`: no check needs that. */
export const catalogue: { readonly [Code in FindingCode]: CatalogueEntry<FindingDetails[Code]> } = {
  'transition-unreachable': {
    severity: 'error',
    message: ({ from, to, reason }) => `${from} -> ${to} can never be taken: ${reason}.`,
    remedy: ({ shortage }) => {
      if (shortage === undefined) return 'Change the condition or what it reads, or remove the transition.';
      const { counter, event, piece, count, couldStay, isOnCourse } = shortage;
      const again = isOnCourse ? 'Begin the course again with fresh: level, or place more' : undefined;
      const more =
        again ??
        (couldStay ? 'Let it stay with ends: [], or place more' : 'Place or spawn more, or ask for less');
      return `Only ${event} raises ${counter}, and no level has more than ${count} x ${piece}. ${more}.`;
    },
  },
  'transition-shadowed': {
    severity: 'error',
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
    message: ({ from, to, reason }) => `${from} -> ${to} is undecided: ${reason}.`,
    remedy: () => 'Give the counters it depends on a min and a max, or simplify its condition.',
  },
  'out-of-time': {
    severity: 'error',
    message: ({ from, to, pace }) =>
      `${from} -> ${to} is too late for every player: even at pace ${pace} without a miss, a timer ends first.`,
    remedy: () => 'Allow more time, ask for less, or shorten the time the pieces take.',
  },
  'screen-unreachable': {
    severity: 'error',
    message: ({ screen, causes }) =>
      `The screen ${screen} is never entered${causes.length === 0 ? ': no transition leads to it' : `: ${causes.join(' and ')} cannot be taken`}.`,
    remedy: ({ causes }) =>
      causes.length === 0 ? 'Add a transition to it, or remove it.' : 'Fix those first.',
  },
  'level-unreachable': {
    severity: 'error',
    message: ({ level }) => `The level ${level} is never reached.`,
    remedy: () => 'Lead to it with level: next or its number, or remove it.',
  },
  'no-way-back': {
    severity: 'error',
    message: ({ ending }) =>
      `From the ending ${ending} no fresh start can be reached: the game is over for good.`,
    remedy: ({ ending, target }) =>
      `Add a way back, such as { from: ${ending}, to: ${target}, when: input.again, fresh: run }.`,
  },
  'way-back-lost': {
    severity: 'error',
    message: ({ ending, values }) => `On ${ending}, with ${values}, no fresh run can be reached.`,
    remedy: () => 'Add fresh: run to the transition back into play, or add one without a condition.',
  },
  'dead-end': {
    severity: 'error',
    message: ({ screen }) => `Nothing leads out of the screen ${screen}.`,
    remedy: ({ screen }) => `Add a transition from ${screen}, or give it an ending.`,
  },
  trap: {
    severity: 'error',
    message: ({ screen, values }) => `On ${screen}, with ${values}, no ending can be reached.`,
    remedy: ({ screen, isLive }) =>
      isLive
        ? 'Add a way to lose, let the piece appear again, or leave the screen when it is gone.'
        : `Add a transition from ${screen} without a condition.`,
  },
  'missed-for-good': {
    severity: 'error',
    message: ({ screen, event }) => `On ${screen}, no ending can be reached after ${event}.`,
    remedy: () =>
      'Test what is left instead of what was taken, let the piece appear again, or add a way to lose.',
  },
  'over-at-once': {
    severity: 'error',
    message: ({ screen, to, condition }) =>
      `${screen} goes on to ${to} the moment it begins: ${condition} already holds.`,
    remedy: ({ screen, condition }) =>
      condition.includes('present.')
        ? 'Use left instead of present: it also counts what is still to appear.'
        : `Reset what the condition reads, such as by fresh: run on the transition to ${screen}, or by a shorter keep.`,
  },
  'no-loss': {
    severity: 'hint',
    message: ({ screen }) => `Nothing can be lost on ${screen}: no lost ending can be reached from it.`,
    remedy: () => 'Add a way to lose, or leave it as it is if that is intended.',
  },
  'ending-untold': {
    severity: 'hint',
    message: ({ ending }) => `The ending ${ending} has no text.`,
    remedy: () => 'Say what happened, such as text: "Dusk fell. You scored {score}."',
  },
  fault: {
    severity: 'error',
    message: ({ message }) => message,
    remedy: ({ remedy }) => remedy,
  },
  residue: {
    severity: 'error',
    message: ({ from, to, differences }) =>
      `After ${from} -> ${to}, play does not start as it does the first time: ${differences}.`,
    remedy: () => 'Add fresh: run to the transition, or keep for the session what is meant to last.',
  },
  'set-and-put-back': {
    severity: 'warning',
    message: ({ counter, span }) => `${counter} is set here, and fresh: ${span} resets it right after.`,
    remedy: ({ counter }) => `Remove the write, or keep ${counter} longer.`,
  },
  'level-not-fresh': {
    severity: 'warning',
    message: ({ from, to, kept }) =>
      `${from} -> ${to} goes to another level and carries over what is kept for a level: ${kept.join(', ')}.`,
    remedy: () => 'Add fresh: level, or keep what is meant to go on for the run.',
  },
  'outlives-the-run': {
    severity: 'hint',
    message: ({ what, keep }) =>
      `${what} is kept for ${keep === 'forever' ? 'ever' : `a ${keep}`}, so fresh: run does not reset it.`,
    remedy: () => 'Keep it for a level or a run, unless it is meant to go on.',
  },
  'hit-at-once': {
    severity: 'hint',
    message: ({ piece, seconds }) =>
      `${capital(withArticle(piece))} can reach the player ${seconds} s after the level begins.`,
    remedy: () => 'Add grace to the transition into play, or delay the spawn with first.',
  },
  'hit-unforeseen': {
    severity: 'hint',
    message: ({ piece, seconds }) =>
      `${capital(withArticle(piece))} reaches the player ${seconds} s after it appears, sooner than anybody reacts.`,
    remedy: () => 'Give it a longer lead, such as lead: [0.8, 1.5].',
  },
  'rule-unreachable': {
    severity: 'warning',
    message: ({ rule, reason }) => `The rule "${rule}" can never fire: ${reason}.`,
    remedy: () => 'Change its condition or what it reads, or remove it.',
  },
  'rule-shadowed': {
    severity: 'warning',
    message: ({ rule, first, line }) =>
      `The rule "${rule}" can never fire: "${first}" (line ${line}) goes first and changes what its condition reads.`,
    remedy: () => 'Move it above the other rule, or test the value the other rule leaves.',
  },
  'rule-deaf': {
    severity: 'warning',
    message: ({ rule, event, screens }) =>
      `The rule "${rule}" hears ${event} only on ${screens}, where it never happens.`,
    remedy: ({ needs }) =>
      needs.length === 0
        ? 'Name a screen where it can happen, or leave screens out.'
        : `Give the rule screens: ${needs.length === 1 ? needs[0] : `[${needs.join(', ')}]`}.`,
  },
  'event-unheard': {
    severity: 'warning',
    message: ({ event }) => `${event} is emitted, and nothing hears it.`,
    remedy: ({ event }) => `Add a rule with when: ${event}, or do not emit it.`,
  },
  'piece-unheard': {
    severity: 'hint',
    message: ({ piece }) => `No rule says what happens when ${withArticle(piece)} is met.`,
    remedy: ({ event }) => `Add a rule with when: ${event}.`,
  },
  'piece-nowhere': {
    severity: 'warning',
    message: ({ piece, rule }) =>
      rule === undefined
        ? `Nothing makes ${withArticle(piece)} appear: no level has it and no rule spawns it.`
        : `Nothing makes ${withArticle(piece)} appear: only the rule "${rule}" would, and it can never fire.`,
    remedy: ({ piece }) => `Place or spawn it in a level, such as { piece: ${piece}, every: 5 }.`,
  },
  'counter-unwritten': {
    severity: 'hint',
    message: ({ counter }) => `Nothing ever changes ${counter}.`,
    remedy: ({ counter }) => `Add a rule that writes it, such as add: { ${counter}: 1 }; or make it a dial.`,
  },
  'target-out-of-reach': {
    severity: 'warning',
    message: ({ counter, from, highest, supply }) =>
      `The target asks for a ${counter} of at least ${from}, and no session gets past ${highest}${withSupply(supply)}.`,
    remedy: ({ counter }) => `Lower the target, or let more add to ${counter}.`,
  },
  'score-constant': {
    severity: 'warning',
    message: ({ counter, value, supply }) =>
      `${counter} stays ${value} whatever happens${withSupply(supply)}.`,
    remedy: ({ counter }) => `Let something add to it, such as add: { ${counter}: 10 }.`,
  },
  'counter-unread': {
    severity: 'hint',
    message: ({ counter }) => `${counter} is written, and nothing reads or shows it.`,
    remedy: () => 'Show it on the HUD, use it, or remove it.',
  },
  unused: {
    severity: 'hint',
    message: ({ kind, name }) => `Nothing uses the ${kind} ${name}.`,
    remedy: () => 'Use it, or remove it.',
  },
  'counter-unshown': {
    severity: 'hint',
    message: ({ counter }) => `${counter} changes in play and is not shown there.`,
    remedy: ({ counter }) => `Add { show: ${counter} } to the hud, unless it is meant to be hidden.`,
  },
  'set-past-bound': {
    severity: 'warning',
    message: ({ counter, value, held }) =>
      `This sets ${counter} to ${value}, but its bounds limit it to ${held}.`,
    remedy: ({ counter }) => `Use add if this is meant as a change, or fix the bounds of ${counter}.`,
  },
  'more-than-fits': {
    severity: 'hint',
    message: ({ counter, amount, max }) =>
      `This adds ${amount} to ${counter}, which is full at ${max} whatever it held.`,
    remedy: ({ counter, max }) =>
      `Add less, raise the max of ${counter}, or write set: { ${counter}: ${max} } if it is meant to be filled.`,
  },
  'score-set': {
    severity: 'warning',
    message: ({ counter, value, by }) =>
      `"${by}" sets ${counter} to ${value}, whatever it was: points from before are lost.`,
    remedy: () => 'Use add if points are meant to add up.',
  },
  'only-set': {
    severity: 'hint',
    message: ({ counter, values, max }) =>
      `${counter} is only ever ${values} and never gets near its max of ${max}.`,
    remedy: () => 'Use add where it is meant to count, or lower the max.',
  },
  'set-twice': {
    severity: 'warning',
    message: ({ counter, event, first, second }) =>
      `On ${event}, the rules "${first}" and "${second}" both set ${counter}; only the second counts.`,
    remedy: () => 'Keep one of the two, or give them conditions that do not hold together.',
  },
  'hit-without-pause': {
    severity: 'hint',
    message: ({ counter, event }) =>
      `${event} takes from ${counter} every time it is reported, without a pause.`,
    remedy: () => 'Add { grace: 1 } to its effects, or rest: 1 to the rule.',
  },
  'below-zero': {
    severity: 'hint',
    message: ({ counter, by }) => `"${by}" takes from ${counter}, which can fall below zero.`,
    remedy: ({ counter }) => `Give ${counter} min: 0, unless debts are meant.`,
  },
  'points-lost': {
    severity: 'hint',
    message: ({ counter, max, rule }) => `"${rule}" adds to ${counter}, which stops counting at ${max}.`,
    remedy: () => 'Raise the max, or leave it out.',
  },
  'points-after-the-end': {
    severity: 'warning',
    message: ({ counter, screen }) => `On the ending ${screen} this rule still adds to ${counter}.`,
    remedy: ({ screen }) => `Use when: ${screen}.entered instead, or limit the rule to live screens.`,
  },
  'changes-nothing': {
    severity: 'warning',
    message: ({ counter }) => `This never changes ${counter}.`,
    remedy: () => 'Fix the amount or the range, or remove it.',
  },
  'spawn-unbounded': {
    severity: 'warning',
    message: ({ piece }) => `${capital(piece)} keeps appearing, and none ever goes away by itself.`,
    remedy: () => 'Give the spawn atOnce or total, or give the piece lasts.',
  },
  'many-pieces': {
    severity: 'hint',
    message: ({ piece, most, computed }) => `${computed} allows up to ${most} of ${piece} at once.`,
    remedy: () => 'Limit it, such as "min(8, ...)", or give what it reads a max.',
  },
  'difficulty-held': {
    severity: 'warning',
    message: ({ piece, difficulty }) =>
      `The difficulty of ${piece} can reach ${difficulty}; it is limited to -20 to 20.`,
    remedy: () => 'Let it grow more slowly: a step of 2 turns every second success into nearly nine in ten.',
  },
  'unlike-its-twin': {
    severity: 'hint',
    message: ({ rule, twin, first, second, part, instead = 'nothing' }) =>
      `"${rule}" and "${twin}" do the same for ${first} and ${second}, but ${part === instead ? `both have ${part}` : `"${twin}" has ${part} where "${rule}" has ${instead}`}.`,
    remedy: () => 'Make the two alike, unless they are meant to differ.',
  },
  'outcome-unheard': {
    severity: 'hint',
    message: ({ piece, event }) =>
      `Nothing hears ${event}, though something hears all other outcomes of ${piece}.`,
    remedy: ({ event }) => `Add a rule with when: ${event}, unless nothing is to come of it.`,
  },
  'met-by-nobody': {
    severity: 'hint',
    message: ({ piece, rule }) =>
      `No simulated player meets ${withArticle(piece)} (a prop says how it is met), so "${rule}" never fires when it is simulated.`,
    remedy: ({ piece }) =>
      `Give ${piece} meets: sought or arrives, or meets: never where only the game reports it.`,
  },
  'pressed-by-nobody': {
    severity: 'hint',
    message: ({ input, rule }) =>
      `No player of the design presses ${input}, so "${rule}" never fires when it is simulated.`,
    remedy: ({ input }) => `Give a player acts: { ${input}: 3 }, in seconds from press to press.`,
  },
  'pressed-in-vain': {
    severity: 'hint',
    message: ({ player, input, screen }) =>
      `${player} presses ${input} during play, but only ${screen}, where play stands still, hears it.`,
    remedy: ({ input, screen }) =>
      `Remove ${input} from acts. To say how often it is chosen, write inputs: { ${screen}: { ${input}: 2 } }.`,
  },
  'acted-by-nobody': {
    severity: 'warning',
    message: ({ piece, by }) => `No player triggers ${by}, and only ${by} makes ${piece} a success.`,
    remedy: () => 'Let a player press an input, such as acts: { input.fire: 0.5 }.',
  },
  'difficulty-unread': {
    severity: 'warning',
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
    message: ({ counter, min, max }) => `The max of ${counter} can be ${max}, below its min of ${min}.`,
    remedy: () => 'Limit the expression, such as max: "max(1, hearts)".',
  },
  'interval-too-short': {
    severity: 'warning',
    message: ({ what, seconds }) => `${what} can drop to ${seconds} s; it is then set to one millisecond.`,
    remedy: () => 'Limit it, such as "max(0.5, ...)".',
  },
  'in-milliseconds': {
    severity: 'warning',
    message: ({ what, seconds }) => `${what} is ${seconds} s, or about ${Math.round(seconds / 60)} minutes.`,
    remedy: ({ seconds }) => `Times are in seconds. Write ${seconds / 1000} for ${seconds} milliseconds.`,
  },
  'runs-idle': {
    severity: 'warning',
    message: ({ timer, screens }) =>
      `${timer} also runs on ${screens}, where nothing is played and nothing hears it.`,
    remedy: () => 'Remove those from its screens, or add a rule there.',
  },
  'countdown-unshown': {
    severity: 'hint',
    message: ({ timer, rule }) =>
      `${rule === undefined ? `${timer} ends play` : `"${rule}" fires when ${timer} ends`}, and nothing shows how much time is left.`,
    remedy: ({ timer }) => `Add { show: ${timer}, as: clock } to the hud, unless it is meant to be hidden.`,
  },
  'timer-unheard': {
    severity: 'warning',
    message: ({ timer, event }) => `${timer} fires ${event}, and nothing hears it.`,
    remedy: ({ event }) => `Add a rule or a transition with when: ${event}, or remove the timer.`,
  },
  'too-wide': {
    severity: 'warning',
    message: ({ counter, width, max }) =>
      `${counter} can be ${max}, which is wider than ${width} ${width === 1 ? 'digit' : 'digits'}.`,
    remedy: ({ max }) => `Write width: ${String(max).length}.`,
  },
  'never-shown': {
    severity: 'warning',
    message: ({ what, condition }) => `${what} is never shown: "${condition}" never holds.`,
    remedy: () => 'Fix the condition or the ranges, or remove it.',
  },
  'clock-stands': {
    severity: 'warning',
    message: ({ timer, screen }) => `${timer} is shown on ${screen}, where it does not run.`,
    remedy: () => 'Show it on screens where it runs, or let it run there with screens.',
  },
  'shown-in-vain': {
    severity: 'hint',
    message: ({ counter, screen }) =>
      `${counter} is shown on ${screen}, where it means nothing: every transition from there resets it.`,
    remedy: () => 'Show it on the screens where it is played for.',
  },
  'input-unused': {
    severity: 'warning',
    message: ({ input }) => `A prompt offers ${input}, and nothing uses it.`,
    remedy: ({ input }) => `Add a transition or a rule with when: ${input}, or remove the prompt.`,
  },
  'input-not-taken': {
    severity: 'warning',
    message: ({ input, screens }) => `${input} is offered on ${screens}, where nothing hears it.`,
    remedy: () => 'Show the prompt on the screens that take it, or add a transition there.',
  },
  'needs-the-game': {
    severity: 'warning',
    message: ({ from, to, pieces }) =>
      `${from} -> ${to} was reached only where the game adds ${pieces.join(' and ')}: the design itself spawns too few, or too late.`,
    remedy: () => 'Spawn more of them, spawn them sooner, or ask for less.',
  },
  'first-pays-nothing': {
    severity: 'hint',
    message: ({ counter, factor }) =>
      `What this adds to ${counter} is multiplied by ${factor}, which is 0 the first time.`,
    remedy: ({ factor, isCounter }) =>
      isCounter
        ? `Write start: 1 for ${factor}, or raise it in an effect before this one.`
        : `Multiply by 1 + ${factor}, unless the first are to pay nothing.`,
  },
  'next-level-of-a-fresh-run': {
    severity: 'warning',
    message: ({ from, to }) =>
      `${from} -> ${to} goes to the next level and starts a fresh run, so score and lives are reset.`,
    remedy: () => 'Use fresh: level.',
  },
  'read-after-set': {
    severity: 'warning',
    message: ({ what, value, isTimer }) =>
      `${what} is ${isTimer ? 'started' : `set to ${value}`} just before this reads it, so it always reads ${value}.`,
    remedy: ({ what, isTimer }) =>
      `Put the effect that reads ${what} first${isTimer ? '' : ', or both in one effect'}.`,
  },
  'best-overwritten': {
    severity: 'warning',
    message: ({ counter, score }) =>
      `${counter} is always set to ${score}, so a worse run overwrites a better one.`,
    remedy: ({ counter, score }) =>
      `Write set: { ${counter}: "max(${counter}, ${score})" }, or add if: ${score} > ${counter} to the rule.`,
  },
  'goal-carried-over': {
    severity: 'hint',
    message: ({ counter, value, keep }) =>
      `${counter} is compared with level.${value}, but it is kept for a ${keep} and carries over from level to level.`,
    remedy: ({ counter }) => `Use keep: level for ${counter}, unless the goals are meant to add up.`,
  },
  'lives-without-end': {
    severity: 'warning',
    message: ({ counter }) => `Nothing happens when ${counter} runs out.`,
    remedy: ({ counter }) => `Add a way to lose, such as a transition with if: ${counter} == 0.`,
  },
  'harm-that-helps': {
    severity: 'warning',
    message: ({ counter, event, gives }) =>
      gives
        ? `${event} adds to ${counter}, though it is the hit of a hazard.`
        : `${event} takes from ${counter}, which a run is lost for having too much of, though it is the hit of a hazard.`,
    remedy: ({ counter, gives }) =>
      `Write add: { ${counter}: ${gives ? -1 : 1} }, or make the piece a collectible.`,
  },
  'part-never-holds': {
    severity: 'warning',
    message: ({ what, part }) => `In the condition of ${what}, "${part}" can never hold.`,
    remedy: () => 'Compare with what can be reached, or leave that part out.',
  },
  'pause-is-live': {
    severity: 'warning',
    message: ({ screen }) => `${screen} is live, so pieces and timers go on while the game is paused.`,
    remedy: () => 'Leave out live: true.',
  },
  'taken-again': {
    severity: 'warning',
    message: ({ screen, counters, condition }) =>
      `${screen} -> ${screen} does not change ${counters.join(' and ')}, so "${condition}" still holds and it is taken again at once.`,
    remedy: ({ counters: [counter] }) =>
      `Reset what the condition reads on the way, such as by fresh: level, or by setting ${counter}.`,
  },
  'paid-again': {
    severity: 'warning',
    message: ({ rule, counter, to, asks }) =>
      asks === undefined
        ? `"${rule}" adds to ${to} for ${counter} and leaves ${counter} as it is, so the same is paid for again.`
        : `"${rule}" asks for ${asks} and leaves ${counter} as it is, so it adds to ${to} again at once.`,
    remedy: ({ counter, asks }) =>
      asks === undefined
        ? `Add { set: { ${counter}: 0 } } after it, unless it is meant to be paid each time.`
        : `Take of ${counter} what it costs with pay, or set it back, unless it is meant to be free.`,
  },
  'bought-harder': {
    severity: 'hint',
    message: ({ counter, piece, rule }) =>
      `${piece} gets harder with ${counter}, which "${rule}" gives for a price.`,
    remedy: ({ counter }) => `Check the sign of ${counter} in its difficulty, unless it is meant so.`,
  },
  'delivered-once': {
    severity: 'hint',
    message: ({ piece, rule }) =>
      `Simulated players reach a checkpoint once, so "${rule}" pays once for each ${piece}.`,
    remedy: ({ piece, reached }) =>
      `For a place to come back to, give ${piece} is: prop, meets: sought, outcomes: { ${reached.split('.')[1]}: 1 } and ends: [].`,
  },
  'steps-out-of-order': {
    severity: 'warning',
    message: ({ rule, other, counter, value, before, of, isUp, isOverwritten }) =>
      isOverwritten
        ? `"${rule}" sets ${counter} to ${value}, and "${other}", which holds then too, sets it to ${before} after it.`
        : `As ${of} ${isUp ? 'rises' : 'falls'}, "${other}" sets ${counter} to ${before}, and then "${rule}" to ${value}: it goes one way and back.`,
    remedy: ({ rule, other, isOverwritten }) =>
      isOverwritten ? `Put "${rule}" below "${other}".` : 'Exchange the two numbers, or what they ask for.',
  },
  'fires-at-once': {
    severity: 'hint',
    message: ({ rule, condition }) =>
      `"${rule}" fires as soon as a run begins: ${condition} holds from the start.`,
    remedy: () => 'Check which way round it compares, or give the counter its value as start.',
  },
  'easier-by-level': {
    severity: 'hint',
    message: ({ piece, what, from, to, levels }) =>
      what === 'difficulty'
        ? `${piece} gets easier with each level: its difficulty falls from ${from} to ${to} on level ${levels}.`
        : `${piece} gets rarer with each level: one comes every ${from} s at first, every ${to} s on level ${levels}.`,
    remedy: () => 'Check the sign of the part with level, unless later levels are meant to be easier.',
  },
  'left-between': {
    severity: 'warning',
    message: ({ first, second, asks, other, where, event, isRule }) =>
      `Where ${where}, neither "${first}" (if ${asks}) nor "${second}" (if ${other}) ${isRule ? 'fires' : 'is taken'}${event === undefined ? '' : ` when ${event} happens`}.`,
    remedy: ({ second, instead }) => `Write ${instead} for "${second}", or say what is to happen there.`,
  },
  'never-broken': {
    severity: 'hint',
    message: ({ counter }) =>
      `Nothing sets ${counter} back in a run: it counts all successes, not those in a row.`,
    remedy: ({ counter, failure }) =>
      `Write set: { ${counter}: 0 } in a rule for ${failure}, unless it is meant so.`,
  },
  'passed-by': {
    severity: 'warning',
    message: ({ what, part, counter, before, after }) =>
      `${what} asks for ${part}, and ${counter} can go past it, from ${before} to ${after}.`,
    remedy: ({ instead }) => `Write ${instead}.`,
  },
  'choice-never-taken': {
    severity: 'warning',
    message: ({ what, test, holds, never, known, level }) => {
      const where =
        known === undefined
          ? `${holds ? 'always' : 'never'} holds`
          : `is asked only where "${known.part}" ${known.holds ? 'holds' : 'does not hold'}`;
      return `${level === undefined ? '' : `On ${level}, `}"${what}" never chooses ${never}: "${test}" ${where}.`;
    },
    remedy: ({ test, holds, known }) =>
      known !== undefined && !known.holds && !holds
        ? `Ask for "${test}" first, or for something else.`
        : 'Compare with a value that it can have, or leave that choice out.',
  },
  'ending-named-otherwise': {
    severity: 'hint',
    message: ({ screen, ending }) => `The screen ${screen} is an ending that is ${ending}.`,
    remedy: ({ screen, ending }) =>
      `Write ending: ${ending === 'won' ? 'lost' : 'won'} at ${screen}, or give it another name.`,
  },
  'fewer-than-none': {
    severity: 'hint',
    message: ({ piece, level, count }) =>
      `On ${level}, the formula for the number of ${piece} gives ${count}, so there is none.`,
    remedy: () => 'Fix the formula, or write max(0, ...) around it if that is meant.',
  },
  'end-in-vain': {
    severity: 'hint',
    message: ({ timer, from, to, asks }) =>
      `When ${timer} ends, ${from} -> ${to} asks for ${asks}; otherwise nothing happens, and ${timer} does not run again.`,
    remedy: ({ timer, from }) =>
      `Add a transition below it, from ${from} with when: ${timer}.ended, for when that does not hold.`,
  },
  'untried-costs': {
    severity: 'hint',
    message: ({ piece, event, counter }) =>
      `${capital(withArticle(piece))} that nobody tries for in time ends in ${event} too, which takes from ${counter}.`,
    remedy: ({ piece, event, met }) =>
      `If only a try is to cost, give ${piece} a last outcome for being left alone: outcomes: { ${met}: 1, ${event.split('.')[1]}: 1, ignored: 0 }, success: ${met}, with its difficulty.`,
  },
  'lost-before-won': {
    severity: 'warning',
    message: ({ lost, won, line }) =>
      `${lost} stands above ${won} (line ${line}): a run in which both hold at once is lost.`,
    remedy: ({ won }) => `Move the transition to ${won} above this one.`,
  },
  'ends-early': {
    severity: 'hint',
    message: ({ counter, left, to }) => `${to} comes while ${counter} is still ${left}.`,
    remedy: ({ counter }) => `Use if: ${counter} == 0, unless this is intended.`,
  },
  'win-lost-for-good': {
    severity: 'warning',
    message: ({ screen, event }) => `On ${screen}, the run can no longer be won after ${event}.`,
    remedy: ({ event }) =>
      event.startsWith('input.')
        ? 'Let the choice be taken back, ask for less afterwards, or end the run there.'
        : 'Ask for fewer than there are, let the piece appear again, let players try it again with again: true, or end the run there.',
  },
  'harm-unheard': {
    severity: 'warning',
    message: ({ piece, other }) =>
      `No rule hears ${piece}.hit, although ${other} is heard: ${withArticle(piece)} does no harm.`,
    remedy: ({ piece }) => `Add a rule with when: ${piece}.hit, or make it a prop.`,
  },
  'gain-unheard': {
    severity: 'hint',
    message: ({ success, failure }) =>
      `No rule hears ${success}, although ${failure} is heard: whoever succeeds gets nothing.`,
    remedy: ({ success }) => `Hear ${success} there if that is meant, or add a rule for it.`,
  },
  'success-costs': {
    severity: 'hint',
    message: ({ success, counter }) =>
      `${success} only takes from ${counter}: succeeding makes the player worse off.`,
    remedy: ({ success }) => `Fix the sign, or make the piece of ${success} a hazard.`,
  },
  'left-out': {
    severity: 'hint',
    message: ({ event, sister }) => `No rule hears ${event}, although ${sister} is heard.`,
    remedy: ({ event, group }) => `Let the rule hear ${group}, or add one with when: ${event}.`,
  },
  'hard-for-nothing': {
    severity: 'hint',
    message: ({ piece, easier }) =>
      `${capital(withArticle(piece))} is harder to take than ${withArticle(easier)} and worth no more.`,
    remedy: ({ piece }) => `Let ${piece}.taken add more, or make it easier.`,
  },
  'needs-never-hold': {
    severity: 'warning',
    message: ({ piece, needs }) =>
      `${capital(withArticle(piece))} can never be met: "${needs}" never holds while one is there.`,
    remedy: () => 'Change its needs or what they read, or remove the piece.',
  },
  'spawn-blocked': {
    severity: 'warning',
    message: ({ piece, atOnce }) =>
      `${capital(withArticle(piece))} stays when it is met, so after ${atOnce === 1 ? 'the first' : atOnce} no more appear.`,
    remedy: ({ piece }) =>
      `Let it go with ends or lasts, clear it in a rule, or place ${piece} instead of spawning it.`,
  },
  'spawned-in-vain': {
    severity: 'warning',
    message: ({ rule, piece, screen }) =>
      `"${rule}" makes ${withArticle(piece)} appear on ${screen}, and every transition from there removes it again.`,
    remedy: () => 'Make it appear in play, such as on entering a live screen.',
  },
  'spawn-too-late': {
    severity: 'warning',
    message: ({ piece, seconds, timer, ends }) =>
      `The first ${piece} comes after ${seconds} s, but ${timer} ends play after ${ends} s.`,
    remedy: ({ ends }) => `Let it begin sooner, with first below ${ends}, or give more time.`,
  },
  'grace-too-long': {
    severity: 'hint',
    message: ({ rule, grace, every }) =>
      `"${rule}" gives ${grace} s of grace, and what could hit comes every ${every} s: most of it does no harm.`,
    remedy: () => 'Shorten the grace to what a player needs to get away, such as 1 s.',
  },
  'timer-each-level': {
    severity: 'hint',
    message: ({ timer, seconds }) =>
      `${timer} begins again with each level: ${seconds} s for each, not for all.`,
    remedy: () => 'Write keep: run if it is for the whole run, or keep: level if it is meant so.',
  },
  'runs-from-start': {
    severity: 'warning',
    message: ({ timer, keep, seconds }) =>
      `${timer} also runs from ${keep === 'forever' ? 'the first start' : `the start of each ${keep}`}, so timer.${timer} > 0 holds there${seconds === undefined ? '' : ` for ${seconds} s`} before any rule has started it.`,
    remedy: ({ timer }) =>
      `Read a flag that the rule sets and ${timer}.ended clears, or stop ${timer} where it should not run yet.`,
  },
  'level-asks-less': {
    severity: 'hint',
    message: ({ level, before, value, asks, asked }) =>
      `${level} asks for ${value} ${asks}, less than ${before} with ${asked}.`,
    remedy: () => 'Swap the two, or raise it, unless the level is hard in another way.',
  },
  'put-back-in-the-run': {
    severity: 'warning',
    message: ({ counter, keep, from, to, fresh }) =>
      `${counter} is kept for a ${keep}, so ${from} -> ${to} (fresh: ${fresh}) resets it in the middle of a run.`,
    remedy: ({ counter }) => `Use keep: run for ${counter}.`,
  },
  'best-of-one-run': {
    severity: 'warning',
    message: ({ counter, score, keep }) =>
      `${counter} starts again with each ${keep}, so it is never more than the ${score} of one run.`,
    remedy: ({ counter }) => `Give ${counter} keep: session, or keep: forever.`,
  },
  'best-adds-up': {
    severity: 'warning',
    message: ({ counter, score, rule }) =>
      rule === undefined
        ? `${counter} adds up the ${score} of every run, so it is their total.`
        : `"${rule}" waits until ${score} is more than ${counter}, and then adds it to ${counter} instead of keeping it.`,
    remedy: ({ counter, score, rule }) =>
      rule === undefined
        ? `Write set: { ${counter}: "max(${counter}, ${score})" }, or give it a name that says total.`
        : `Write set: { ${counter}: ${score} }.`,
  },
  'best-stuck': {
    severity: 'warning',
    message: ({ counter, value, other, merging }) =>
      merging === 'lowest'
        ? `${counter} takes ${other} only when that is lower, but it starts at ${value} and ${other} never falls below that.`
        : `${counter} takes ${other} only when that is higher, but it starts at ${value} and ${other} never rises above that.`,
    remedy: ({ counter, other, merging }) =>
      merging === 'lowest'
        ? `To keep the highest, write "max(${counter}, ${other})". To keep the lowest, as of times, start ${counter} high, such as start: 9999.`
        : `To keep the lowest, write "min(${counter}, ${other})". To keep the highest, start ${counter} low, such as start: 0.`,
  },
  'best-both-ways': {
    severity: 'warning',
    message: ({ counter, first, second, line }) =>
      `${counter} is set to ${second} here and to ${first} in line ${line}.`,
    remedy: () => 'Keep the highest in both with max, or the lowest in both with min.',
  },
  'goal-asked-twice': {
    severity: 'hint',
    message: ({ from, to, condition, operator, line }) =>
      `${from} -> ${to} asks for ${condition}, and line ${line} has ${operator} for the same goal.`,
    remedy: () => 'Use the same comparison in both, unless they are meant to differ.',
  },
  'best-before-bonus': {
    severity: 'warning',
    message: ({ counter, score, event, first, second }) =>
      first === second
        ? `"${first}" sets ${counter} before it adds to ${score}.`
        : `On ${event}, "${first}" sets ${counter} before "${second}" adds to ${score}.`,
    remedy: ({ counter, first, second }) =>
      first === second ? `Put the effect that sets ${counter} last.` : `Put "${second}" above "${first}".`,
  },
  'undone-at-once': {
    severity: 'warning',
    message: ({ counter, value, event, first, second, line }) =>
      `On ${event}, "${first}" (line ${line}) adds to ${counter}, and "${second}" then sets it to ${value}.`,
    remedy: ({ second }) =>
      `Give "${second}" the event or the condition that is meant, or remove the effect.`,
  },
  'turned-back': {
    severity: 'warning',
    message: ({ counter, to, back, event, first, second, line }) =>
      `On ${event}, "${first}" (line ${line}) sets ${counter} to ${to}, and "${second}", which asks for that, sets it back to ${back} at once.`,
    remedy: ({ counter, to, back }) =>
      `Write one rule, with set: { ${counter}: "${counter} == ${back} ? ${to} : ${back}" }.`,
  },
  'part-always-holds': {
    severity: 'warning',
    message: ({ what, part, counter, bound, value }) =>
      `${what} asks for ${part}, which always holds${bound === undefined ? '' : `: the ${bound} of ${counter} is ${value}`}.`,
    remedy: ({ instead }) =>
      instead === undefined
        ? 'Compare with a value that it can have.'
        : `Write ${instead}, if that is meant.`,
  },
  'lives-at-once': {
    severity: 'warning',
    message: ({ counter, lives, rule }) => `The first loss, by "${rule}", takes all ${lives} ${counter}.`,
    remedy: ({ counter }) => `Take fewer, such as { add: { ${counter}: -1 } }, or start with 1.`,
  },
  'stake-unnamed': {
    severity: 'hint',
    message: ({ counter, by }) =>
      `${capital(by.join(' and '))} take from ${counter}, and it decides when the run is lost, but reports do not know it as the lives.`,
    remedy: ({ counter }) => `Add the line lives: ${counter} to the design.`,
  },
  'score-unnamed': {
    severity: 'hint',
    message: ({ counter }) =>
      `No counter is called score, so reports count no points; ${counter} looks like the score.`,
    remedy: ({ counter }) => `Add the line score: ${counter} to the design.`,
  },
  'pause-not-kept': {
    severity: 'warning',
    message: ({ screen, to, fresh }) =>
      `Going back from ${screen} to ${to} starts a fresh ${fresh}, so a pause loses progress.`,
    remedy: () => 'Use to: back without fresh.',
  },
  'pause-ends-play': {
    severity: 'warning',
    message: ({ screen, to }) => `Nothing leads from ${screen} back into play, only to ${to}.`,
    remedy: ({ screen }) => `Add { from: ${screen}, to: back, when: input.resume }.`,
  },
  'stays-in-vain': {
    severity: 'warning',
    message: ({ screen, when }) => `On ${when}, ${screen} leads to itself and changes nothing.`,
    remedy: () => 'Say what begins again (fresh: level, or fresh: run) or what it does, or remove it.',
  },
  'same-each-time': {
    severity: 'warning',
    message: ({ counter, event, setter, adder, value }) =>
      setter === adder
        ? `On ${event}, "${adder}" sets ${counter} back before it adds to it, so that it is ${value} each time.`
        : `On ${event}, "${setter}" sets ${counter} back before "${adder}" adds to it, so that it is ${value} each time.`,
    remedy: ({ counter, setter }) =>
      `Take the set of ${counter} out of "${setter}", or give it the event that is meant.`,
  },
  'pause-gives-grace': {
    severity: 'hint',
    message: ({ screen, grace }) => `Coming back from ${screen} gives ${grace} s of grace, each time.`,
    remedy: () => 'Remove the grace; a pause should change nothing.',
  },
  'press-skips': {
    severity: 'hint',
    message: ({ screen, input, before }) =>
      `${input} leaves ${screen} at once, and is pressed on ${before} right before: the screen may go by unread.`,
    remedy: () => 'Add wait: 1 to the way out, or use another input.',
  },
  'text-without-input': {
    severity: 'warning',
    message: ({ screen, said }) => `The text of ${screen} says "${said}", and nothing there hears an input.`,
    remedy: ({ screen }) =>
      `Add a transition such as { from: ${screen}, to: …, when: input.again }, or change the text.`,
  },
  'word-unset': {
    severity: 'hint',
    message: ({ counter, words }) =>
      `${counter} lists ${words.join(' and ')}, and nothing ever sets it to ${words.length === 1 ? 'that' : 'those'}.`,
    remedy: ({ counter, words }) =>
      `Set it in a rule, such as do: [{ set: { ${counter}: ${words[0]!} } }], or remove the word.`,
  },
  'key-in-vain': {
    severity: 'hint',
    message: ({ screen, said, word }) =>
      `The text of ${screen} says "${said}", and nothing there hears input.${word}.`,
    remedy: ({ word, heard }) =>
      `Name what is heard there (${heard.join(', ')}), or let something hear input.${word}.`,
  },
  'price-told-wrong': {
    severity: 'hint',
    message: ({ screen, said, rule, price }) =>
      `The text of ${screen} says "${said}", and "${rule}" takes ${price === 0 ? 'nothing' : price}.`,
    remedy: () => 'Make them the same; a dial in both, such as {price} in the text, keeps them so.',
  },
  'goal-told-wrong': {
    severity: 'hint',
    message: ({ said, asks }) => `The text says "${said}", and the design asks for ${asks}.`,
    remedy: () => 'Make them the same; a dial in both, such as {quota} in the text, keeps them so.',
  },
  'way-on-untold': {
    severity: 'hint',
    message: ({ screen, said, onward }) =>
      `The text of ${screen} names ${said.join(' and ')}, but not ${onward.join(' or ')}, which ${onward.length === 1 ? 'is' : 'are'} the only way on.`,
    remedy: ({ onward }) => `Name it in the text, such as "Press ${onward[0]!}".`,
  },
  'goal-of-nothing': {
    severity: 'warning',
    message: ({ level, value, asks, counter }) =>
      `On ${level}, level.${value} is ${asks}, and ${counter} is never less: nothing has to be done for it.`,
    remedy: () => 'Give the level a higher goal, or check the formula.',
  },
  'endless-in-vain': {
    severity: 'warning',
    message: ({ level }) => `${level} is endless, but no transition goes to the next level.`,
    remedy: () => 'Add level: next to the transition that begins the next one, or remove endless.',
  },
  'timer-spent': {
    severity: 'warning',
    message: ({ timer, keep, way, to, fresh }) =>
      `When ${timer} has ended, play goes on at ${to} without it: ${way} starts a fresh ${fresh}, and ${timer} is kept for a ${keep}.`,
    remedy: ({ timer, fresh }) => `Keep ${timer} for a ${fresh} (keep: ${fresh}), or start it on the way.`,
  },
  'timer-not-started': {
    severity: 'hint',
    message: ({ timer, rule, counter, setter }) =>
      `${timer} runs once, from the start, and then "${rule}" puts ${counter} back. Nothing starts it when "${setter}" sets ${counter}.`,
    remedy: ({ timer, setter }) => `Add { start: ${timer} } to what "${setter}" does.`,
  },
  'gone-unheard': {
    severity: 'warning',
    message: ({ piece, event, needs }) =>
      `Where "${needs}" does not hold, ${withArticle(piece)} that has waited too long goes without ${event}, and nothing hears that.`,
    remedy: ({ piece, event }) => `Let the rule hear both: when: [${event}, ${piece}.gone].`,
  },
  'never-picked': {
    severity: 'hint',
    message: ({ piece, outcome }) => `Simulated players never get ${piece}.${outcome}: its weight is 0.`,
    remedy: ({ outcome }) => `Write how often it happens against the others, such as ${outcome}: 1.`,
  },
  'checkpoint-in-vain': {
    severity: 'hint',
    message: ({ piece }) => `Nothing leads back to ${piece}: no transition begins with fresh: life.`,
    remedy: () => 'Write fresh: life in the transition after a hit, or leave the checkpoint out.',
  },
  'slowness-pays': {
    severity: 'hint',
    message: ({ rule, timer, score }) => `"${rule}" adds more to ${score} the less is left of ${timer}.`,
    remedy: ({ timer }) => `Check the sign of timer.${timer}, unless slow play is to pay.`,
  },
  'needed-not-taken': {
    severity: 'hint',
    message: ({ piece, counter, other }) =>
      `${piece} needs ${counter} and takes none of it, while ${other} needs it and takes it.`,
    remedy: ({ counter }) => `Begin its rule with { pay: { ${counter}: 1 } }, unless it is meant to be free.`,
  },
  'word-stuck': {
    severity: 'warning',
    message: ({ counter, word }) => `Once ${counter} is ${word}, nothing sets it to another word.`,
    remedy: ({ counter, word }) => `Add a rule with if: ${counter} == ${word} that sets it on.`,
  },
  'left-at-once': {
    severity: 'warning',
    message: ({ from, to, next, when }) =>
      `On ${from}, ${when} leads to ${to} and on to ${next} in the same moment.`,
    remedy: ({ next, to }) =>
      `Put back on the way what leads from ${to} to ${next}, such as { set: { lives: 1 } }.`,
  },
  'never-used-up': {
    severity: 'warning',
    message: ({ counter, rule, enough }) =>
      `Nothing uses up ${counter}: once it is ${enough}, paying for more at "${rule}" changes nothing.`,
    remedy: ({ counter, enough }) =>
      `Take it where it is used (pay: { ${counter}: 1 }), or sell no more than that: if: ${counter} < ${enough}.`,
  },
  'pays-for-nothing': {
    severity: 'warning',
    message: ({ rule, counters, paid }) =>
      `"${rule}" takes ${paid} even when ${counters}, and gives nothing then.`,
    remedy: ({ guard }) => `Write if: ${guard}.`,
  },
  unpaid: {
    severity: 'warning',
    message: ({ rule, counter, amount, left, gives }) =>
      `"${rule}" takes ${amount} from ${counter} when ${left === 0 ? 'none is' : `only ${left} ${left === 1 ? 'is' : 'are'}`} left, and ${gives === undefined ? 'does the rest' : `gives ${gives}`} all the same.`,
    remedy: ({ counter, amount }) =>
      `Write pay: { ${counter}: ${amount} } as its first effect in place of the loss, or if: ${counter} >= ${amount}.`,
  },
  'taken-for-nothing': {
    severity: 'warning',
    message: ({ piece, event, rule, purse }) =>
      `Where ${purse}, ${event} takes the ${piece} away and nothing comes of it: the rule "${rule}" cannot be paid.`,
    remedy: ({ piece, needs }) => `Let ${piece} be met only where it can be: needs: ${needs}.`,
  },
  'put-back-on-leaving': {
    severity: 'warning',
    message: ({ rule, counter, screen, span }) =>
      `"${rule}" writes ${counter} on ${screen}, and every way out puts it back (fresh: ${span}).`,
    remedy: ({ counter, longer }) => `Keep ${counter} for longer: keep: ${longer}.`,
  },
  'added-twice': {
    severity: 'hint',
    message: ({ counter, event, first, second, line }) =>
      `"${second}" and "${first}" (line ${line}) both add to ${counter} on ${event}.`,
    remedy: () => 'Put the whole amount into one of them, or give one a condition.',
  },
  'ending-after-ending': {
    severity: 'warning',
    message: ({ from, first, to, second }) =>
      `${capital(from)}, which is ${first}, leads to ${to}, which is ${second}.`,
    remedy: () => 'Lead to a menu or into play, or take ending from one of the two.',
  },
  'ending-unmarked': {
    severity: 'warning',
    message: ({ screen }) =>
      `A run is over on ${screen}, since every way on begins a fresh one, and ${screen} is no ending.`,
    remedy: ({ screen }) => `Write ${screen}: { ending: won }, or ending: lost, or ending: over for neither.`,
  },
  'last-level-lost': {
    severity: 'warning',
    message: ({ event, to, next }) =>
      `On the last level ${event} leads to ${to}, which is lost; on the others it leads to ${next}.`,
    remedy: ({ to }) => `Write ending: won at ${to}, or lead to an ending that is won.`,
  },
  'best-of-some-endings': {
    severity: 'warning',
    message: ({ counter, on, left, by }) =>
      `${capital(counter)} ${by === 'list' ? 'takes the score' : 'is set'} on ${on.join(' and ')}, and not on ${left.join(' or ')}.`,
    remedy: ({ counter, left, by }) => {
      if (by === 'transition')
        return `Set ${counter} there as well, or once for all in a rule that hears the endings.`;
      const events = left.map((screen) => `${screen}.entered`).join(', ');
      return by === 'list'
        ? `Add ${events} to the when of the list.`
        : `Add ${events} to what the rule hears, and ${left.join(', ')} to its screens.`;
    },
  },
  'failure-pays': {
    severity: 'hint',
    message: ({ event, counter }) => `${event} raises ${counter}.`,
    remedy: () => 'Hear the success instead, or take something away.',
  },
  'text-too-brief': {
    severity: 'hint',
    message: ({ screen, seconds, words }) =>
      `${screen} shows ${words} words and is left after ${seconds} s, before anybody can read them.`,
    remedy: ({ enough }) => `Wait longer, such as wait: ${enough}, or let an input lead on.`,
  },
  'label-twice': {
    severity: 'hint',
    message: ({ label, line, screen }) =>
      `The item of line ${line} is labelled "${label}" too, on ${screen}.`,
    remedy: () => 'Give one of them another label.',
  },
  'icons-never-full': {
    severity: 'hint',
    message: ({ counter, start, max }) =>
      `${counter} shows ${max} icons, starts at ${start}, and nothing raises it.`,
    remedy: ({ start }) => `Write max: ${start}, or let something raise it.`,
  },
  'accepts-nothing': {
    severity: 'warning',
    message: ({ finding, known }) =>
      known ? `No finding ${finding} is left to accept here.` : `There is no finding called ${finding}.`,
    remedy: ({ known }) => (known ? 'Remove it.' : 'docs/findings lists the codes.'),
  },
  'no-screens': {
    severity: 'hint',
    message: ({ screen }) => `The design names no screens, so there is one live screen called ${screen}.`,
    remedy: () => 'Add screens and transitions once the scoring works.',
  },
  'no-ending': {
    severity: 'hint',
    message: () => 'No screen is an ending, so a run never ends.',
    remedy: () => 'Give a screen ending: lost or ending: won.',
  },
  'nothing-appears': {
    severity: 'hint',
    message: () => 'No level places or spawns anything, so simulated players meet nothing.',
    remedy: ({ piece }) =>
      `Add a level such as levels: [{ spawn: [{ piece: ${piece}, every: 1, atOnce: 5 }] }].`,
  },
  'nothing-on-the-hud': {
    severity: 'hint',
    message: () => 'The HUD shows no counter.',
    remedy: () => 'Add a line such as hud: [{ show: score }].',
  },
};
