// The whole of the model in one place, in the order of DESIGN.md 4, *Meeting pieces*.

import {
  add,
  and,
  assign,
  binary,
  type Case,
  type Code,
  call,
  choose,
  constant,
  count,
  declare,
  get,
  isAtLeast,
  isBelow,
  isEqual,
  isLess,
  isMore,
  type KnownSlot,
  type Label,
  type Local,
  label,
  leave,
  local,
  loop,
  minus,
  never,
  not,
  or,
  plus,
  repeat,
  type Slot,
  select,
  set,
  tell,
  truth,
  type Value,
  when,
} from '../../engine/compile/representation.js';
import type { Build } from '../../engine/program/build/build.js';
import { nextOnCourse } from '../../engine/program/build/course.js';
import {
  canMeet,
  interval,
  milliseconds,
  oneOf,
  period,
  term,
} from '../../engine/program/build/expressions.js';
import { isRun, meet, weighed } from '../../engine/program/build/outside.js';
import { isLive, liveScreens } from '../../engine/program/build/screens.js';
import type { Area, Slots } from '../../engine/program/build/slots.js';
import { footprintsOf, takesSome } from '../../engine/program/footprints.js';
import type { ComputedMeeting, EventForm, IntervalForm } from '../../engine/program/form.js';
import type { Accounting } from '../../measure/accounting.js';
import { computedThreshold } from './chance-program.js';
import { DueQueue } from './due-queue.js';
import { longestTime, type Meeting, mostPractised } from './meeting.js';

/** What players of a design do beyond meeting what has been there longest, with a skill that stays; else the program goes without it. */
export interface Abilities {
  readonly choose: boolean;
  readonly learn: boolean;
  /** Whether a function of the host's decides what the player turns to. */
  readonly decide: boolean;
  /** Whether attempts vary in how long they take, and whether the player may leave after a run that is lost. */
  readonly vary: boolean;
  readonly quit: boolean;
  /** Whether its pace changes from run to run, or within one; and whether its skill changes within one. */
  readonly hasten: boolean;
  readonly adapt: boolean;
  /** Whether the host hears of every event that the player sends. */
  readonly told: boolean;
  /** Whether the host goes through a session one turn at a time, and hears how the outcomes of each draw differ. */
  readonly steps: boolean;
}

/** What a player does by itself. */
export const abilitiesOf = ({
  player,
  weights,
}: Meeting): Pick<Abilities, 'choose' | 'learn' | 'vary' | 'quit' | 'hasten' | 'adapt'> => ({
  choose: weights.some((weight) => weight !== 1),
  learn: player.learning !== 0,
  vary: player.timing.least !== 1 || player.timing.most !== 1,
  quit: player.quits > 0,
  hasten: player.paceLearning !== 0 || (player.caution?.pace ?? 1) !== 1,
  adapt: player.practice !== 0 || (player.caution?.skill ?? 0) !== 0,
});

/** In place of an event that nothing on the screen hears, so that the rules need not be run. */
export const unheard = -2;

/** Draws of the meeting model stand after those of the form. */
export const meetingDraws = ({ draws, pieces, screens }: Build['form']) => ({
  outcome: draws.length,
  lead: draws.length + pieces.length,
  input: draws.length + 2 * pieces.length,
  timing: draws.length + 2 * pieces.length + screens.length,
  quit: draws.length + 3 * pieces.length + screens.length,
  count: draws.length + 3 * pieces.length + screens.length + 1,
});

/** How a simulated player meets pieces: DESIGN.md, "Meeting pieces, when no real game is attached". */
export class MeetingProgram {
  readonly arriving: DueQueue;
  readonly sought: DueQueue;
  /** The piece that the player attends to, or -1, and the live time at which that is over. */
  readonly attempted: KnownSlot;
  readonly attemptDue: KnownSlot;
  /** The place of the course that the player is on the way to, or -1. */
  readonly #travelsTo: Slot;
  /** When the piece that is attended to would have been missed, and how many successes it still takes. */
  readonly #attemptExpires: KnownSlot;
  readonly #hitsLeft: KnownSlot;
  /**
   * While what follows an outcome is handled, the piece that was met and is sought again; and the one that is still there, though nobody seeks
   * it any more; else -1.
   */
  readonly #stayed: Slot;
  readonly #left: Slot;
  /** Whether it matters which one was met: some effect takes one of several away. */
  readonly #tellsApart: boolean;
  /** Of the pieces that are met by an event alone, the tries that it has still to give. */
  readonly #tries: ReadonlyMap<number, Slot>;
  /** When each act is due next, in live time. */
  readonly actDue: readonly KnownSlot[];
  readonly #actEvery: Area;
  readonly #actTakes: Area;
  /** What the host's function has chosen: where it stands among those that are sought, or -1. */
  readonly chosen: KnownSlot;
  readonly thresholds: Area;
  /** Milliseconds of an attempt at each piece, the least of them where they vary; and in how many steps of the grid up from there. */
  readonly attempts: Area;
  readonly attemptSteps: Area;
  readonly weights: Area;
  /** By run, where they change: for what is worked out on the way. */
  readonly skills: Area;
  readonly paces: Area;
  /** By attempts of the run so far, what is added to skill. */
  readonly practised: Area;
  readonly #draws: ReturnType<typeof meetingDraws>;
  /** What the program is built from; it listens to this, and so comes later. */
  build!: Build;

  constructor(
    private readonly form: Build['form'],
    slots: Slots,
    private readonly meeting: Meeting,
    private readonly can: Abilities,
    private readonly noted: Pick<Accounting, 'ended' | 'tried'>,
  ) {
    const pieces = form.pieces.length;
    this.arriving = new DueQueue('arriving', slots);
    this.sought = new DueQueue('sought', slots);
    this.attempted = slots.one('attempted');
    this.attemptDue = slots.one('attemptDue');
    this.#travelsTo = slots.one('travelsTo');
    this.#attemptExpires = slots.one('attemptExpires');
    this.#hitsLeft = slots.one('hitsLeft');
    this.#stayed = slots.one('stayed');
    this.#left = slots.one('left');
    this.#tellsApart = takesSome(form, footprintsOf(form).writes);
    this.chosen = slots.one('chosen');
    this.thresholds = slots.area('thresholds', meeting.thresholds.length, true);
    this.attempts = slots.area('attempts', pieces, true);
    this.attemptSteps = slots.area('attemptSteps', pieces, true);
    this.skills = slots.area('skills', meeting.skills.length, true);
    this.paces = slots.area('paces', meeting.paces.length, true);
    this.practised = slots.area('practised', meeting.practised.length, true);
    this.weights = slots.area('weights', pieces, true);
    this.#draws = meetingDraws(form);
    this.#tries = new Map(
      form.pieces.flatMap(({ by }, piece) => (by < 0 ? [] : [[piece, slots.one(`tries${piece}`)]])),
    );
    this.actDue = form.acts.map((_, act) => slots.one(`actDue${act}`));
    this.#actEvery = slots.area('actEvery', form.acts.length, true);
    this.#actTakes = slots.area('actTakes', form.acts.length, true);
  }

  /** Slots that hold a moment of live time; two that mean something only while something is attended to; and those of a moment only. */
  get kinds() {
    const of = (...slots: readonly KnownSlot[]): number[] => slots.map(({ slot }) => slot);
    return {
      moments: of(this.attemptDue, ...this.actDue),
      attemptExpires: this.#attemptExpires.slot,
      hitsLeft: this.#hitsLeft.slot,
      passing: of(this.chosen),
    };
  }

  /** A rule fires: what it emits may be what pieces are met by. */
  fires(rule: number): Code {
    return this.form.rules[rule]!.effects.flatMap((effect) =>
      effect.op === 'emit' ? this.#gives(effect.event) : [],
    );
  }

  /** An event gives a try at each piece that is met by it. */
  #gives(event: number): Code {
    return [...this.#tries].flatMap(([piece, tries]) =>
      this.form.pieces[piece]!.by === event ? [add(tries, 1)] : [],
    );
  }

  get #forgetsTries(): Code {
    return [...this.#tries.values()].map((tries) => set(tries, 0));
  }

  /** An act is due: the input is pressed, where it is heard and the condition holds. */
  act(act: number, heard: Local, playing: Label): Code {
    const { build } = this;
    const { event, condition } = this.form.acts[act]!;
    const isHeard = isRun(build, constant(event), liveScreens(build));
    const holds = condition === undefined ? truth(true) : term(build, condition);
    const puts = when(isAtLeast(this.attempted, 0), [add(this.attemptDue, this.#actTakes.at(act))]);
    return [
      add(this.actDue[act]!, this.#actPeriod(act)),
      ...when(and(isHeard, holds), [
        ...puts,
        ...this.#gives(event),
        ...(this.can.told ? [tell('player.sent', event, 1, 1)] : []),
        assign(heard, event),
        repeat(playing),
      ]),
    ];
  }

  /** Milliseconds from a press to the next. */
  #actPeriod(act: number): Value {
    if (!this.can.hasten) return this.#actEvery.at(act);
    const every = this.meeting.actBase[act]!;
    return every === 0 ? constant(0) : timeAt(constant(every), this.#pace);
  }

  /** What an act, or what it led to, tries for: the one there longest, at a chance of skill. What fails is no outcome. */
  tries(heard: Local, playing: Label): Code {
    const { build } = this;
    const isUnheard = [assign(heard, unheard), repeat(playing)];
    const one = [...this.#tries].flatMap(([piece, tries]) => {
      const meets = this.meeting.meets[piece];
      const removes =
        meets === 'arrives'
          ? this.arriving.removeOne(piece, truth(false), [])
          : meets === 'sought'
            ? this.sought.removeOne(piece, truth(false), [])
            : [];
      const ends = (event: Value): Code => [
        ...when(isEqual(event, this.#failure(constant(piece))), isUnheard),
        ...when(not(this.#stays(event)), removes),
        ...this.#end(event, constant(piece), true, heard, playing),
      ];
      const isThere = and(isMore(build.state.present(piece), 0), canMeet(build, constant(piece)));
      return when(isMore(tries, 0), [
        add(tries, -1),
        ...when(isThere, this.#outcome(constant(piece), false, ends)),
        ...isUnheard,
      ]);
    });
    if (one.length === 0) return [];
    return when(isLive(build), one, this.#forgetsTries);
  }

  #success(piece: Value): Value {
    return this.build.ofPiece('success', piece, ({ success }) => success);
  }

  #failure(piece: Value): Value {
    return this.build.ofPiece('failure', piece, ({ failure }) => failure);
  }

  #gone(piece: Value): Value {
    return this.build.ofPiece('gone', piece, ({ gone }) => gone);
  }

  #hits(piece: Value): Value {
    return this.build.ofPiece('hits', piece, (_, index) => this.meeting.hits[index]!);
  }

  /** 1: a failed attempt leaves the piece there; 2: it is no outcome at all. */
  #retries(piece: Value): Value {
    return this.build.ofPiece('retries', piece, (_, index) => this.#retriesOf(index));
  }

  #retriesOf(piece: number): number {
    if (this.meeting.again[piece]) return 2;
    return this.form.events[this.form.pieces[piece]!.failure]!.presence === 0 ? 1 : 0;
  }

  /** A piece has appeared: it is on its way to the player, or waits for it. */
  appear(piece: Value): Code {
    if (piece.op === 'constant') return this.#appears(piece.value);
    return select(
      piece,
      this.form.pieces.map((_, each) => ({ of: [each], body: this.#appears(each) })),
    );
  }

  #appears(piece: number): Code {
    const { meeting, build } = this;
    const { live } = build.state;
    switch (meeting.meets[piece]!) {
      case 'arrives': {
        const { lead } = this.form.pieces[piece]!.computed;
        const moments = this.#moments(piece, meeting.leads[piece]!, lead);
        return this.arriving.add(constant(piece), plus(live, interval(build, moments)));
      }
      case 'sought': {
        const { lasts: computed } = this.form.pieces[piece]!.computed;
        if (computed !== undefined)
          return this.sought.add(constant(piece), plus(live, milliseconds(build, term(build, computed))));
        const lasts = meeting.lasts[piece]!;
        return this.sought.add(constant(piece), Number.isFinite(lasts) ? plus(live, lasts) : never);
      }
      case 'never':
        return [];
    }
  }

  /** When a piece arrives, or arrives again: both ask for draws at one place. */
  #moments(piece: number, moments: Meeting['leads'][0], computed: IntervalForm['computed']): IntervalForm {
    const draws = moments.choices > 1 || computed?.upTo !== undefined;
    return { ...moments, draw: draws ? this.#draws.lead + piece : -1, computed };
  }

  /** A piece that has arrived and stays is on its way again. */
  #comesAgain(piece: number): Code {
    const { build, meeting } = this;
    const { returns } = this.form.pieces[piece]!.computed;
    const moments = this.#moments(piece, meeting.returns[piece]!, returns);
    return [
      ...this.arriving.add(constant(piece), plus(build.state.live, period(build, moments))),
      ...(this.#tellsApart ? [set(this.#stayed, piece)] : []),
    ];
  }

  /** One of a piece is gone: the one that was met last, which waits at the end, unless the oldest is meant; then the one there longest. */
  gone(piece: number, isOldest: boolean): Code {
    const meets = this.meeting.meets[piece];
    // One that was met and that nobody seeks any more waits nowhere: where the oldest is meant, it goes last.
    const isLeft = isEqual(this.#left, piece);
    const goesLast = isOldest ? when(isLeft, [set(this.#left, -1)]) : [];
    const isAttended = when(isEqual(this.attempted, piece), this.#stopAttempt(), goesLast);
    const isMet = isOldest ? truth(false) : isEqual(this.#stayed, piece);
    const waits =
      meets === 'arrives'
        ? this.arriving.removeOne(
            piece,
            this.meeting.returns[piece] === undefined ? truth(false) : isMet,
            goesLast,
          )
        : meets === 'sought'
          ? this.sought.removeOne(piece, isMet, isAttended)
          : [];
    return isOldest ? waits : when(isLeft, [set(this.#left, -1)], waits);
  }

  /** Every one of a piece is gone. */
  clear(piece: number): Code {
    const meets = this.meeting.meets[piece];
    if (meets === 'never' && this.form.cells.courseLength === 0) return [];
    return [
      ...(meets === 'arrives' ? this.arriving.clear(piece) : []),
      ...(meets === 'sought' ? this.sought.clear(piece) : []),
      ...when(isEqual(this.attempted, piece), this.#stopAttempt()),
    ];
  }

  /** Before a session: nobody is there, and nobody was met. */
  begin(): Code {
    const acts = this.actDue.map((due, act) => {
      const every = this.#actEvery.at(act);
      return set(due, choose(isMore(every, 0), every, never));
    });
    return [...this.clearAll(), ...this.#forgets, ...acts];
  }

  get #forgets(): Code {
    return this.#tellsApart ? [set(this.#stayed, -1), set(this.#left, -1)] : [];
  }

  clearAll(): Code {
    return [...this.arriving.empty(), ...this.sought.empty(), ...this.#stopAttempt(), ...this.#forgetsTries];
  }

  #stopAttempt(): Code {
    return [
      set(this.attempted, -1),
      set(this.attemptDue, never),
      ...(this.#hasCourse ? [set(this.#travelsTo, -1)] : []),
    ];
  }

  get #hasCourse(): boolean {
    return this.form.cells.courseLength > 0;
  }

  /** A player who attends to nothing turns to the piece that it seeks most of those that can be met, and of these to the one there longest. */
  attend(heard: Local, playing: Label): Code {
    const { build } = this;
    const isFree = and(isLess(this.attempted, 0), isLive(build));
    const turns = and(isFree, not(this.sought.isEmpty));
    const before = [...this.#forgets, ...this.tries(heard, playing)];
    if (!this.#hasCourse) return [...before, ...when(turns, this.#turn())];
    const [ahead, stale] = [local('ahead'), local('ahead')];
    // A fall puts the player back, and what it was on the way to may be gone.
    const putBack = when(isAtLeast(this.#travelsTo, 0), [
      ...this.#pieceAhead(stale),
      ...when(not(isEqual(get(stale), this.attempted)), this.#stopAttempt()),
    ]);
    const isOpen = and(isAtLeast(get(ahead), 0), this.#mayTravel(get(ahead)));
    const travel = [
      ...this.#pieceAhead(ahead),
      ...when(isOpen, [set(this.#travelsTo, nextOnCourse(this.build)), ...this.#attempt(get(ahead))]),
    ];
    return [...before, ...putBack, ...when(turns, this.#turn()), ...when(isFree, travel)];
  }

  #turn(): Code {
    const { sought } = this;
    const take = (at: Value): Code => [
      ...(this.meeting.hits.every((hits) => hits === 1)
        ? []
        : [set(this.#hitsLeft, this.#hits(sought.pieceAt(at)))]),
      ...(this.#needsExpiry ? [set(this.#attemptExpires, sought.dueAt(at))] : []),
      ...this.#attempt(sought.pieceAt(at)),
    ];
    const [found, most, place] = [local('found'), local('most'), local('place')];
    const piece = sought.pieceAt(get(place));
    const can = canMeet(this.build, piece);
    if (!this.can.decide && !this.can.choose && can.op === 'truth')
      return [...take(sought.head), ...sought.removeOldest()];
    const turnTo = (at: Value): Code => [...take(at), ...sought.removeAt(at)];
    if (this.can.decide)
      return [tell('player.turn'), ...when(isAtLeast(this.chosen, 0), turnTo(this.chosen))];
    const looking = label('looking');
    const weight = this.weights.at(piece);
    const heaviest = count(place, sought.head, sought.tail, [
      ...when(and(isMore(weight, get(most)), can), [assign(found, get(place)), assign(most, weight)]),
    ]);
    const oldest = loop(looking, [
      ...count(place, sought.head, sought.tail, when(can, [assign(found, get(place)), leave(looking)])),
      leave(looking),
    ]);
    return [
      declare(found, -1),
      ...(this.can.choose ? [declare(most, 0), ...heaviest] : [oldest]),
      ...when(isAtLeast(get(found), 0), turnTo(get(found))),
    ];
  }

  /** Whether it matters, once an attempt is over, when the piece would have been missed. */
  get #needsExpiry(): boolean {
    return this.form.pieces.some(
      ({ needs }, piece) =>
        needs !== undefined ||
        this.#retriesOf(piece) !== 0 ||
        this.form.design.pieces[piece]!.hasHealth ||
        this.form.events.some((event) => event.piece === piece && this.#isOfUse(event)),
    );
  }

  #attempt(piece: Value): Code {
    return [
      set(this.attempted, piece),
      set(this.attemptDue, plus(this.build.state.live, this.#attemptTime(piece))),
    ];
  }

  /** Milliseconds that an attempt at a piece takes, which the player has turned to. */
  #attemptTime(piece: Value): Value {
    const { least, most, grid } = this.meeting.player.timing;
    const vary = (from: Value, steps: Value): Value => {
      if (!this.can.vary) return from;
      const draws = plus(constant(this.#draws.timing), piece);
      return plus(from, binary('*', constant(grid), oneOf(draws, steps)));
    };
    const usual = vary(this.attempts.at(this.attempted), this.attemptSteps.at(this.attempted));
    return this.#computed(piece, usual, ({ takes }, index) => {
      if (takes === undefined && !this.can.hasten) return undefined;
      const usually =
        takes === undefined
          ? constant(this.meeting.takes[index]!)
          : milliseconds(this.build, term(this.build, takes));
      const whole = binary('*', usually, this.#pace);
      const times = (factor: number): Value => timeAt(whole, constant(factor));
      if (!this.can.vary) return times(1);
      const steps = plus(call('floor', binary('/', minus(times(most), times(least)), constant(grid))), 1);
      return vary(times(least), steps);
    });
  }

  /** A factor on the time that the player takes now. */
  get #pace(): Value {
    const { caution, paceLearning } = this.meeting.player;
    const own = this.paces.at(paceLearning === 0 ? 0 : this.noted.ended);
    if (caution === undefined) return own;
    return choose(this.#isCareful, binary('*', own, constant(caution.pace)), own);
  }

  /** The player's skill now, in logits. */
  #skill(run: Value): Value {
    const { caution, practice } = this.meeting.player;
    const own = this.skills.at(run);
    const practised = practice === 0 ? own : plus(own, this.practised.at(this.noted.tried));
    if (caution === undefined) return practised;
    return choose(this.#isCareful, plus(practised, constant(caution.skill)), practised);
  }

  get #isCareful(): Value {
    return term(this.build, this.meeting.careful!);
  }

  /** Counts an attempt that skill decides, as long as practice adds to it. */
  get #practises(): Code {
    if (this.meeting.player.practice === 0) return [];
    return when(isLess(this.noted.tried, mostPractised), [add(this.noted.tried, 1)]);
  }

  /** Whether the player leaves after a run that it has lost. */
  get quits(): Value {
    return isBelow(constant(this.#draws.quit), this.meeting.quitThreshold);
  }

  /** A draw below it succeeds at a piece. */
  #threshold(piece: Value): Value {
    const run = this.can.learn ? this.noted.ended : constant(0);
    const index = this.can.learn ? plus(binary('*', run, constant(this.form.pieces.length)), piece) : piece;
    return this.#computed(piece, this.thresholds.at(index), ({ difficulty }, index) => {
      const known = this.meeting.difficulties[index];
      if (known !== undefined && !this.can.adapt) return undefined;
      const asked = difficulty === undefined ? constant(known!) : term(this.build, difficulty);
      return computedThreshold(this.build, this.#skill(run), asked);
    });
  }

  /** What is computed of a piece, where it is; `piece` is its number, known or not. */
  #computed(
    piece: Value,
    otherwise: Value,
    valueIn: (computed: ComputedMeeting, piece: number) => Value | undefined,
  ): Value {
    return this.form.pieces.reduceRight((others, { computed }, index) => {
      const value = valueIn(computed, index);
      return value === undefined ? others : choose(isEqual(piece, index), value, others);
    }, otherwise);
  }

  /** An attempt at a piece is over, and it waits on as it did before. */
  #seekAgain(piece: Value): Code {
    const { live } = this.build.state;
    return [
      ...this.sought.add(piece, choose(isLess(this.#attemptExpires, live), live, this.#attemptExpires)),
      ...(this.#tellsApart ? [set(this.#stayed, piece)] : []),
    ];
  }

  /** What an event of a piece leads to: what is heard is handled next, at `playing`. */
  #report(event: Value, piece: Value, isTried: boolean, heard: Local, playing: Label, otherwise: Code): Code {
    const { build } = this;
    const isLeft = and(this.#stays(event), not(isEqual(this.#stayed, piece)), not(this.#isByEvent(piece)));
    const goesOn = [
      ...(this.#tellsApart ? when(isLeft, [set(this.#left, piece)]) : []),
      assign(heard, choose(isRun(build, event, liveScreens(build)), event, unheard)),
      repeat(playing),
    ];
    const told = this.can.told ? [tell('player.sent', event, 1, isTried ? 1 : 0)] : [];
    return [
      ...told,
      ...meet(build, event, piece, truth(true), {
        ignored: otherwise,
        turnedAway: otherwise,
        counts: goesOn,
      }),
    ];
  }

  /** Whether an outcome leaves its piece there. */
  #stays(event: Value): Value {
    const stays = this.build.ofEvent('stays', event, ({ kind, presence }) =>
      Number(kind === 'outcome' && presence === 0),
    );
    return isEqual(stays, 1);
  }

  /** How meeting a piece ends; what grace turns away, or what cannot be met, is gone all the same. */
  #end(event: Value, piece: Value, isTried: boolean, heard: Local, playing: Label): Code {
    const gone = this.#report(this.#gone(piece), piece, true, heard, playing, []);
    return this.#report(event, piece, isTried, heard, playing, gone);
  }

  /** What has arrived meets the player: all the successes that it takes are asked for at once. */
  arrive(heard: Local, playing: Label): Code {
    const { arriving } = this;
    const isUnheard = [assign(heard, unheard), repeat(playing)];
    return this.#each(
      arriving.firstPiece,
      (piece, index) => {
        const returns = this.meeting.returns[index] !== undefined;
        const goes = this.#end(this.#gone(piece), piece, true, heard, playing);
        const ends = (event: Value): Code => {
          const end = this.#end(event, piece, true, heard, playing);
          if (!returns) return end;
          // Before the event is told, since what follows from it may clear the piece away.
          const again = [
            ...this.#comesAgain(index),
            ...this.#report(event, piece, true, heard, playing, isUnheard),
          ];
          return when(this.#stays(event), again, end);
        };
        return [
          ...arriving.removeFirst(),
          ...this.#unlessMet(piece, returns ? [...this.#comesAgain(index), ...isUnheard] : goes),
          // One that is met by an event alone has got through.
          ...when(this.#isByEvent(piece), ends(this.#failure(piece))),
          ...this.#outcome(piece, true, ends),
        ];
      },
      'arrives',
    );
  }

  /** Whether a success is a strike, after which the piece is there still. */
  #hasHealth(piece: Value): Value {
    const { pieces } = this.form.design;
    return isEqual(
      this.build.ofPiece('hasHealth', piece, (_, index) => Number(pieces[index]!.hasHealth)),
      1,
    );
  }

  /** Whether an outcome leaves its piece there to be used once more. */
  #isForUse(event: Value): Value {
    return isEqual(
      this.build.ofEvent('isForUse', event, (of) => Number(this.#isOfUse(of))),
      1,
    );
  }

  /** A checkpoint that was reached has done what it is for. */
  #isOfUse({ kind, presence, piece }: EventForm): boolean {
    if (kind !== 'outcome' || presence !== 0) return false;
    const isSought = this.meeting.meets[piece] === 'sought';
    return isSought && this.form.design.pieces[piece]!.role !== 'checkpoint';
  }

  #isByEvent(piece: Value): Value {
    return isEqual(
      this.build.ofPiece('isByEvent', piece, ({ by }) => Number(by >= 0)),
      1,
    );
  }

  /** Nobody has turned to a piece in time: it is missed. */
  expire(heard: Local, playing: Label): Code {
    const { sought } = this;
    return this.#each(
      sought.firstPiece,
      (piece) => [...sought.removeFirst(), ...this.#end(this.#failure(piece), piece, false, heard, playing)],
      'sought',
    );
  }

  /** An attempt is over. */
  finishAttempt(heard: Local, playing: Label): Code {
    const travel = this.#hasCourse
      ? when(isAtLeast(this.#travelsTo, 0), this.#finishTravel(heard, playing))
      : [];
    return [
      ...travel,
      ...this.#each(this.attempted, (piece) => this.#finish(piece, heard, playing), 'sought'),
    ];
  }

  #finish(piece: Value, heard: Local, playing: Label): Code {
    const isUnheard = [assign(heard, unheard), repeat(playing)];
    const hits = this.#hits(piece);
    const retries = this.#retries(piece);
    const ends = (event: Value): Code => {
      const again = when(
        and(isMore(hits, 1), isEqual(event, this.#success(piece)), isMore(this.#hitsLeft, 1)),
        [set(this.#hitsLeft, minus(this.#hitsLeft, 1)), ...this.#attempt(piece), ...isUnheard],
      );
      // Before the event is told, since what follows from it may clear the piece away.
      // One that may be tried again is missed once it has waited for as long as it does.
      const isOver = and(isEqual(retries, 2), not(isMore(this.#attemptExpires, this.build.state.live)));
      const fails = and(isMore(retries, 0), isEqual(event, this.#failure(piece)), not(isOver));
      const stays = when(fails, [...this.#seekAgain(piece), ...when(isEqual(retries, 2), isUnheard)]);
      const isStruck = and(this.#hasHealth(piece), isEqual(event, this.#success(piece)));
      const isUsed = and(
        not(isEqual(event, this.#failure(piece))),
        this.#isForUse(event),
        isMore(this.#attemptExpires, this.build.state.live),
      );
      return [
        ...again,
        ...stays,
        ...when(or(isStruck, isUsed), this.#seekAgain(piece)),
        ...this.#end(event, piece, true, heard, playing),
      ];
    };
    return [
      ...this.#stopAttempt(),
      ...this.#unlessMet(piece, [...this.#seekAgain(piece), ...isUnheard]),
      ...this.#outcome(piece, false, ends),
    ];
  }

  /** What happens where what a piece needs does not hold. */
  #unlessMet(piece: Value, otherwise: Code): Code {
    return when(not(canMeet(this.build, piece)), otherwise);
  }

  /** The player has reached a piece of the course: it meets it, passes it, or waits until it can be met. */
  #finishTravel(heard: Local, playing: Label): Code {
    const isUnheard = [assign(heard, unheard), repeat(playing)];
    const piece = local('piece');
    const gone = this.#report(this.#gone(get(piece)), get(piece), true, heard, playing, isUnheard);
    const event = (of: Value): Code => [
      ...when(and(isEqual(this.#retries(get(piece)), 2), isEqual(of, this.#failure(get(piece)))), isUnheard),
      ...this.#report(of, get(piece), true, heard, playing, isUnheard),
    ];
    return [
      declare(piece, this.attempted),
      ...this.#stopAttempt(),
      ...this.#unlessMet(get(piece), [...when(this.#isSought(get(piece)), isUnheard), ...gone]),
      ...this.#outcome(get(piece), true, event),
    ];
  }

  #isSought(piece: Value): Value {
    return isEqual(
      this.build.ofPiece('isSought', piece, (_, index) => Number(this.meeting.meets[index] === 'sought')),
      1,
    );
  }

  #mayTravel(piece: Value): Value {
    return not(and(this.#isSought(piece), not(canMeet(this.build, piece))));
  }

  /** The piece that the player meets next on the course, at the place that it is on the way to where it is; else -1. */
  #pieceAhead(into: Local): Code {
    const { courseLength } = this.form.cells;
    const place = local('place');
    const isElsewhere = and(isAtLeast(this.#travelsTo, 0), not(isEqual(this.#travelsTo, get(place))));
    return [
      declare(place, nextOnCourse(this.build)),
      declare(into, -1),
      ...when(and(isLess(get(place), courseLength), not(isElsewhere)), [
        assign(into, this.build.state.courseAt(get(place))),
      ]),
    ];
  }

  /** How an attempt at a piece, or its arrival, ends: as its outcomes weigh, or as skill has it. */
  #outcome(piece: Value, isAllAtOnce: boolean, ends: (event: Value) => Code): Code {
    const draws = plus(constant(this.#draws.outcome), piece);
    const hits = this.#hits(piece);
    const success = this.#success(piece);
    const failure = this.#failure(piece);
    const isSuccess = isBelow(draws, this.#threshold(piece));
    // 1: by weight alone; 2: by weight where skill fails.
    const weighs = this.build.ofPiece('isWeighed', piece, ({ weighted, isSkilled }) =>
      weighted === undefined ? 0 : isSkilled ? 2 : 1,
    );
    const isWeighed = isMore(weighs, 0);
    const fails = choose(isEqual(weighs, 2), not(isSuccess), truth(true));
    const takesMore = isAllAtOnce ? isMore(hits, 1) : truth(false);
    // Where it is known how a piece ends, what follows is written out by itself for success and failure.
    if (isWeighed.op === 'truth' && !isWeighed.value && takesMore.op === 'truth' && !takesMore.value)
      return when(isSuccess, [...this.#practises, ...ends(success)], [...this.#practises, ...ends(failure)]);
    const [event, left] = [local('outcome'), local('left')];
    const one = (): Code => [
      ...when(isWeighed, when(fails, weighed(this.build, piece, draws, event), [assign(event, success)]), [
        assign(event, choose(isSuccess, success, failure)),
      ]),
      ...when(not(isEqual(weighs, 1)), this.#practises),
    ];
    const more = loopWhile(and(isMore(get(left), 1), isEqual(get(event), success)), [
      ...one(),
      assign(left, minus(get(left), 1)),
    ]);
    return [
      declare(event, failure),
      ...one(),
      ...when(takesMore, [declare(left, hits), ...more]),
      ...ends(get(event)),
    ];
  }

  /** Code for each piece by itself, so that what is known of it need not be looked up. */
  #each(piece: Value, code: (piece: Value, index: number) => Code, meets: Meeting['meets'][0]): Code {
    const cases = this.meeting.meets.flatMap((how, index): Case[] =>
      how === meets ? [{ of: [index], body: code(constant(index), index) }] : [],
    );
    return select(piece, cases);
  }
}

/** Milliseconds that something takes at a pace. */
const timeAt = (takes: Value, pace: Value): Value => {
  const time = pace.op === 'constant' && pace.value === 1 ? takes : binary('*', takes, pace);
  return call('min', longestTime, call('max', 1, call('round', time)));
};

function loopWhile(test: Value, body: Code): Code {
  const looping = label('looping');
  return [loop(looping, [...when(not(test), [leave(looping)]), ...body])];
}
