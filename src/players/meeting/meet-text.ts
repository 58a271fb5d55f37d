import type { Emitter } from '../../engine/compile/emit.js';
import type { Form } from '../../engine/program/form.js';
import { attendOldest, drawn, findExpiry, kinds, never, seekAgain, unheard } from '../drivers/play-parts.js';
import type { Meeting } from './meeting.js';

/** What players of a design do beyond meeting what has been there longest, with a skill that stays; else the text goes without it. */
export interface Abilities {
  readonly choose: boolean;
  readonly learn: boolean;
}

/** What is known of how each piece can end, by piece. */
export interface Endings {
  /** The draws that ask how it ends. */
  readonly draws: Meeting['outcomeDraws'];
  /** Successes that it takes. */
  readonly hits: readonly number[];
  /** Whether a failed attempt leaves it there. */
  readonly isRetried: readonly boolean[];
}

/** Writes out what a player turns to, and how meeting it ends. */
export class MeetText {
  /** Pieces that skill alone decides, at the first try. */
  readonly #isPlain: readonly boolean[];
  /** Whether it matters, once an attempt is over, when the piece would have been missed and how many successes it still takes. */
  readonly #isResumed: boolean;

  constructor(
    private readonly form: Form,
    private readonly emitter: Emitter,
    private readonly can: Abilities,
    private readonly endings: Endings,
  ) {
    this.#isPlain = form.pieces.map(
      ({ weighted, needs }, piece) =>
        weighted === undefined &&
        needs === undefined &&
        endings.hits[piece] === 1 &&
        !endings.isRetried[piece],
    );
    this.#isResumed = !this.#isPlain.every((isPlain) => isPlain);
  }

  /** More variables of an attempt, to follow others. */
  locals(): string {
    return this.#isResumed ? `, attemptExpires = ${never}, hitsLeft = 1` : '';
  }

  /** The outcomes of plain pieces, and what these do, are written with their numbers. */
  plainPieces(): string {
    return this.#isPlain.map((isPlain, piece) => (isPlain ? this.#plainPiece(piece) : '')).join('\n');
  }

  #plainPiece(piece: number): string {
    const { events, pieces } = this.form;
    const { success, failure, gone } = pieces[piece]!;
    const end = (event: number): string => {
      const leaves =
        events[event]!.presence === 0
          ? ''
          : `if (present[${piece}] > 0) present[${piece}] += ${events[event]!.presence};`;
      return `${leaves} e = ${this.ifHeard(event)};`;
    };
    const outcome = (event: number, noted: string): string =>
      events[event]!.turnedAway
        ? `if (live < graceEnds) { ${end(gone)} } else { ${noted} ${end(event)} }`
        : `${noted} ${end(event)}`;
    const { low, high } = this.endings.draws[piece]!;
    const ask = drawn(`outcomesAsked[${piece}]++`, String(low), `(${high})`);
    const run = this.can.learn ? `ended * ${pieces.length} + ` : '';
    return `case ${piece}: {
  if (kind !== ${kinds.expiry} && ${ask} < thresholds[${run}${piece}]) { ${outcome(success, 'if (++row > streak) streak = row;')} }
  else { ${outcome(failure, 'row = 0;')} }
  break;
}`;
  }

  /** An event, or that nothing hears it, on the live screen that the player is on. */
  ifHeard(event: number): string {
    const { screens, events } = this.form;
    const live = screens.filter((screen) => screen.live);
    const isHeard = live.map(({ handlers, watchesPresence }) => handlers.has(event) || watchesPresence);
    if (isHeard.every((heard) => heard)) return String(event);
    if (isHeard.every((heard) => !heard)) return String(unheard);
    return `isUnheard[screen * ${events.length} + ${event}] === 1 ? ${unheard} : ${event}`;
  }

  /** How meeting any other piece ends, by the tables. */
  otherPieces(): string {
    if (!this.#isResumed) return '';
    return `default: {
if (kind === ${kinds.expiry}) e = ${this.#canMeet('failure[piece]', 'gone[piece]')};
else {
  const isArrival = kind === ${kinds.arrival};
  ${this.#unmet()}
  ${this.#outcome()}
  ${this.#countHits()}
  if (retries[piece] !== 0 && !isArrival && e === failure[piece]) {
    ${seekAgain}
    if (retries[piece] === 2) { e = ${unheard}; continue play; }
  }
}
if (live < graceEnds && turnedAway[e] === 1) e = gone[piece];
if (e === success[piece]) { if (++row > streak) streak = row; }
else if (e === failure[piece]) row = 0;
if (present[piece] > 0) present[piece] -= leaves[e];
if (isUnheard[screen * ${this.form.events.length} + e] === 1) e = ${unheard};
}`;
  }

  /** One of two texts, by whether what `piece` needs holds. */
  #canMeet(yes: string, no: string, piece = 'piece'): string {
    const needing = this.form.pieces.flatMap(({ needs }, index) =>
      needs === undefined ? [] : [{ needs, index }],
    );
    if (needing.length === 0) return yes;
    const holds = needing.reduceRight(
      (otherwise, { needs, index }) => `(${piece} === ${index} ? ${this.emitter.term(needs)} : ${otherwise})`,
      'true',
    );
    return `(${holds} ? ${yes} : ${no})`;
  }

  /** A piece that cannot be met when an attempt is over is sought again; one that arrives is gone. */
  #unmet(): string {
    if (this.form.pieces.every(({ needs }) => needs === undefined)) return '';
    return `if (!${this.#canMeet('true', 'false')}) {
  if (!isArrival) { ${seekAgain} e = ${unheard}; continue play; }
  e = gone[piece];
  if (present[piece] > 0) present[piece]--;
  if (isUnheard[screen * ${this.form.events.length} + e] === 1) e = ${unheard};
  continue play;
}`;
  }

  /** A piece that takes several successes: one that arrives asks for all at once, one that is sought for one after another. */
  #countHits(): string {
    if (this.endings.hits.every((hits) => hits === 1)) return '';
    return `if (e === success[piece] && hits[piece] > 1) {
  if (isArrival) { for (let left = hits[piece]; left > 1 && e === success[piece]; left--) { ${this.#outcome()} } }
  else if (hitsLeft > 1) { hitsLeft--; attempted = piece; attemptDue = live + attempts[piece]; e = ${unheard}; continue play; }
}`;
  }

  /** How an attempt at `piece`, or its arrival, ends: as its outcomes weigh, or as skill has it. */
  #outcome(): string {
    const ask = drawn('outcomesAsked[piece]++', 'outcomeLow[piece]', 'outcomeHigh[piece]');
    const bySkill = (draw: string): string =>
      `e = ${draw} < thresholds[${this.can.learn ? `ended * ${this.form.pieces.length} + ` : ''}piece] ? success[piece] : failure[piece];`;
    const cases = this.form.pieces.flatMap(({ weighted, failure }, piece) => {
      if (weighted === undefined) return [];
      const weights = weighted.map(
        ({ weight }, index) => `w${index} = Math.max(0, ${this.emitter.term(weight)})`,
      );
      const sum = (count: number): string =>
        Array.from({ length: count }, (_, index) => `w${index}`).join(' + ');
      const chosen = weighted.reduceRight(
        (otherwise, { event }, index) => `(at < ${sum(index + 1)} ? ${event} : ${otherwise})`,
        String(failure),
      );
      return [
        `case ${piece}: { const ${weights.join(', ')}; const at = outcome * (${sum(weighted.length)}) / 4294967296; e = ${chosen}; break; }`,
      ];
    });
    if (cases.length === 0) return bySkill(ask);
    return `const outcome = ${ask}; switch (piece) { ${cases.join('\n')} default: ${bySkill('outcome')} }`;
  }

  /** The player turns to the piece that it seeks most of those that can be met, and of these to the one there longest. */
  attend(): string {
    const hasNeeds = this.form.pieces.some(({ needs }) => needs !== undefined);
    const turn = (at: string): string =>
      `attempted = soughtPiece[${at}]; attemptDue = live + attempts[attempted];${this.#isResumed ? ` attemptExpires = soughtDue[${at}]; hitsLeft = hits[attempted];` : ''}`;
    if (!hasNeeds && !this.can.choose) return attendOldest(turn('soughtHead'));
    const canMeet = this.#canMeet('true', 'false', 'soughtPiece[i]');
    const find = this.can.choose
      ? `let chosen = soughtTail, most = 0;
for (let i = soughtHead; i < soughtTail; i++) if (weights[soughtPiece[i]] > most && ${canMeet}) { chosen = i; most = weights[soughtPiece[i]]; }`
      : `let chosen = soughtTail;
for (let i = soughtHead; i < soughtTail; i++) if (${canMeet}) { chosen = i; break; }`;
    return `
${find}
if (chosen < soughtTail) {
  ${turn('chosen')}
  soughtTail--;
  for (let i = chosen; i < soughtTail; i++) { soughtDue[i] = soughtDue[i + 1]; soughtPiece[i] = soughtPiece[i + 1]; }
  ${findExpiry}
}`;
  }
}
