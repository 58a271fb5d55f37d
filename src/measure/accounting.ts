// One class: everything that is noted of a session while it is played.

import { spans } from '../design/model.js';
import {
  add,
  and,
  binary,
  type Code,
  choose,
  constant,
  declare,
  get,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  type KnownSlot,
  local,
  minus,
  not,
  or,
  set,
  type Table,
  tableAt,
  tell,
  type Value,
  when,
} from '../engine/compile/representation.js';
import { type Listener, State } from '../engine/program/build/build.js';
import { isLive } from '../engine/program/build/screens.js';
import type { Area, Slots } from '../engine/program/build/slots.js';
import { type Form, sameLevel } from '../engine/program/form.js';
import { type Bound, boundsOf, levelsToldApart, livesOf, paceParts, paceStep, rowOf } from './session-log.js';

/** The index in `spans` of a run, and of a level. */
const runSpan = spans.indexOf('run');
const levelSpan = spans.indexOf('level');

/**
 * What is noted of a session while it is played: where one run ends and the next begins, and what happens in each. It listens to a program,
 * and what it does about that becomes part of the program.
 */
export class Accounting {
  /** How many runs of this session have reached an ending. */
  readonly ended: KnownSlot;
  /** Whether a run has just ended on a screen where it is lost; whoever looks puts it back to 0. */
  readonly lost: KnownSlot;
  /** Attempts of this run so far that skill has decided; whoever makes one counts it. */
  readonly tried: KnownSlot;
  readonly listener: Listener;
  /** Columns of the session's log. */
  readonly log: {
    readonly [Name in 'fired' | 'points' | 'taken' | 'pace' | 'held' | 'tries' | 'screensEntered']: Area;
  };
  readonly #state: State;
  /** Whether a run is under way. */
  readonly isRunning: KnownSlot;
  readonly #began: KnownSlot;
  readonly #highest: KnownSlot;
  /** An ending that was entered and whose rules may still add to the score, and what led there; -1: none. */
  readonly #ending: KnownSlot;
  readonly #cause: KnownSlot;
  readonly #firstPoint: KnownSlot;
  readonly #firstLoss: KnownSlot;
  readonly #lastPoint: KnownSlot;
  readonly #drySpell: KnownSlot;
  /** Successes in a row, and the most of this run. */
  readonly #row: KnownSlot;
  readonly #streak: KnownSlot;
  readonly #playTime: KnownSlot;
  /** Since when play is not counted yet; and for each bound, the time that its counter sits there. */
  readonly #since: KnownSlot;
  readonly #heldSince: readonly KnownSlot[];
  readonly #lives: number;
  readonly #bounds: readonly Bound[];
  readonly #tables: ReturnType<typeof tablesOf>;

  constructor(
    private readonly form: Form,
    slots: Slots,
  ) {
    this.#state = new State(form);
    this.#tables = tablesOf(form);
    this.#lives = livesOf(form.design);
    this.#bounds = boundsOf(form.design);
    const sources = form.rules.length + form.transitions.length;
    this.log = {
      fired: slots.area('fired', form.rules.length, true),
      points: slots.area('points', sources, true),
      taken: slots.area('taken', form.transitions.length, true),
      pace: slots.area('pace', paceParts, true),
      held: slots.area('held', this.#bounds.length, true),
      tries: slots.area('tries', levelsToldApart(form), true),
      screensEntered: slots.area('screensEntered', Math.ceil(form.screens.length / 32), true),
    };
    this.ended = slots.one('ended');
    this.lost = slots.one('lost');
    this.tried = slots.one('tried');
    this.isRunning = slots.one('isRunning');
    this.#began = slots.one('began');
    this.#highest = slots.one('highest');
    this.#ending = slots.one('ending');
    this.#cause = slots.one('cause');
    this.#firstPoint = slots.one('firstPoint');
    this.#firstLoss = slots.one('firstLoss');
    this.#lastPoint = slots.one('lastPoint');
    this.#drySpell = slots.one('drySpell');
    this.#row = slots.one('row');
    this.#streak = slots.one('streak');
    this.#playTime = slots.one('playTime');
    this.#since = slots.one('since');
    this.#heldSince = this.#bounds.map((_, index) => slots.one(`heldSince${index}`));
    this.listener = {
      rule: (rule) => [add(this.log.fired.at(rule), 1)],
      transition: (taken) => this.#transition(taken),
      write: (counter, source, before, after) => this.#write(counter, source, before, after),
      outcome: (event) => this.#outcome(event),
    };
  }

  /** The session time at which the run began. */
  get began(): number {
    return this.#began.slot;
  }

  /** Slots that only count, and decide nothing. */
  get counting(): readonly number[] {
    return [
      this.#firstPoint,
      this.#firstLoss,
      this.#lastPoint,
      this.#drySpell,
      this.#row,
      this.#streak,
      this.#playTime,
      this.#since,
      ...this.#heldSince,
    ].map(({ slot }) => slot);
  }

  begin(): Code {
    return [
      set(this.ended, 0),
      set(this.lost, 0),
      set(this.isRunning, 0),
      set(this.#ending, -1),
      set(this.#playTime, 0),
      set(this.#since, 0),
    ];
  }

  /** After an event was handled to its end. */
  settled(): Code {
    return when(isAtLeast(this.#ending, 0), this.#finish(this.#ending, this.#cause, true));
  }

  /** When the player leaves; a run under way is abandoned. */
  leave(): Code {
    return [...this.#passTime(), ...this.#abandon(), tell('log.end', this.#state.now, this.#playTime)];
  }

  /** Before a transition changes anything. */
  #transition(taken: Value): Code {
    const { form } = this;
    const { target, freshOf, isLiveScreen, isEnding, endsTry } = this.#tables;
    const to = tableAt(target, taken);
    const starts = or(
      isAtLeast(tableAt(freshOf, taken), runSpan),
      and(isEqual(this.isRunning, 0), isEqual(tableAt(isLiveScreen, to), 1)),
    );
    const word = this.log.screensEntered.at(
      form.screens.length <= 32 ? 0 : binary('shift right', to, constant(5)),
    );
    const bit = binary('shift left', constant(1), binary('bit and', to, constant(31)));
    return [
      add(this.log.taken.at(taken), 1),
      ...this.#passTime(),
      ...this.settled(),
      ...when(isMore(this.#state.level, this.#highest), [set(this.#highest, this.#state.level)]),
      ...when(isAtLeast(to, 0), [
        ...when(
          starts,
          [...this.#abandon(), ...this.#start()],
          when(and(isEqual(this.isRunning, 1), isEqual(tableAt(endsTry, taken), 1)), this.#countTry()),
        ),
        set(word, binary('bit or', word, bit)),
        ...when(and(isEqual(this.isRunning, 1), isEqual(tableAt(isEnding, to), 1)), [
          set(this.#ending, to),
          set(this.#cause, taken),
        ]),
      ]),
    ];
  }

  #start(): Code {
    const now = this.#state.now;
    return [
      set(this.isRunning, 1),
      set(this.#began, now),
      set(this.#highest, 0),
      ...Array.from({ length: this.log.screensEntered.length }, (_, word) =>
        set(this.log.screensEntered.at(word), 0),
      ),
      set(this.#firstPoint, -1),
      set(this.#firstLoss, -1),
      set(this.#lastPoint, now),
      set(this.#drySpell, 0),
      set(this.#row, 0),
      set(this.#streak, 0),
      set(this.tried, 0),
    ];
  }

  #countTry(): Code {
    const { level } = this.#state;
    const last = this.log.tries.length - 1;
    return [add(this.log.tries.at(choose(isLess(level, last), level, last)), 1)];
  }

  /** Ends a run that comes to no ending. Of one that has not come to play yet, such as one begun on a title that begins it again, nothing is noted. */
  #abandon(): Code {
    const words = Array.from({ length: this.log.screensEntered.length }, (_, word) => {
      const live = this.form.screens.reduce(
        (bits, screen, index) => (screen.live && index >> 5 === word ? bits | (1 << (index & 31)) : bits),
        0,
      );
      return not(isEqual(binary('bit and', this.log.screensEntered.at(word), constant(live)), 0));
    });
    const finish = this.#finish(constant(-1), constant(-1), false);
    // A game of menus alone is played on them.
    const isGame = this.form.screens.some(({ live }) => live);
    return when(
      isEqual(this.isRunning, 1),
      isGame ? when(or(...words), finish, [set(this.isRunning, 0)]) : finish,
    );
  }

  #finish(ending: Value, cause: Value, isEnding: boolean): Code {
    const { now, level } = this.#state;
    const counter = (index: number): Value => (index < 0 ? constant(0) : this.#state.counter(index));
    const dry = this.form.score < 0 ? constant(-1) : larger(minus(now, this.#lastPoint), this.#drySpell);
    return [
      ...this.#countTry(),
      tell(
        'log.endRun',
        ...rowOf({
          score: counter(this.form.score),
          duration: minus(now, this.#began),
          ending,
          cause,
          level: larger(level, this.#highest),
          lives: counter(this.#lives),
          firstPoint: this.#firstPoint,
          firstLoss: this.#firstLoss,
          drySpell: dry,
          streak: this.#streak,
          began: this.#began,
        }),
      ),
      ...(isEnding ? [add(this.ended, 1), set(this.lost, tableAt(this.#tables.isLost, ending))] : []),
      set(this.isRunning, 0),
      set(this.#ending, -1),
    ];
  }

  get #isPlayed(): Value {
    return and(isEqual(this.isRunning, 1), isLive({ form: this.form, state: this.#state }));
  }

  /** Counts the time since the last transition for play, and for the bounds that counters sit at. */
  #passTime(): Code {
    const { now } = this.#state;
    // Without branches that are hardly ever taken: code that V8 has made fast is made again at the first time in each.
    const held = this.#bounds.flatMap(({ counter, value }, index): Code => {
      const passed = local('passed');
      const isThere = isEqual(this.#state.counter(counter), value);
      return [
        declare(passed, minus(now, this.#heldSince[index]!)),
        add(this.log.held.at(index), choose(isThere, get(passed), 0)),
      ];
    });
    return [
      ...when(this.#isPlayed, [add(this.#playTime, minus(now, this.#since)), ...held]),
      ...this.#heldSince.map((since) => set(since, now)),
      set(this.#since, now),
    ];
  }

  #write(counter: number, source: number, before: Value, after: Value): Code {
    const { now } = this.#state;
    const code: Code[] = [];
    if (counter === this.form.score) {
      const gained = minus(after, before);
      const part = local('part');
      const playing = minus(now, this.#began);
      code.push([
        add(this.log.points.at(source), gained),
        ...when(isEqual(this.isRunning, 1), [
          // What comes at ten seconds sharp still belongs to them: a run that ends then has no time after.
          declare(
            part,
            binary('bit or', binary('/', minus(playing, constant(1)), constant(paceStep)), constant(0)),
          ),
          add(this.log.pace.at(choose(isLess(get(part), paceParts), get(part), paceParts - 1)), gained),
          ...when(isMore(after, before), [
            ...when(isLess(this.#firstPoint, 0), [set(this.#firstPoint, playing)]),
            ...when(isMore(minus(now, this.#lastPoint), this.#drySpell), [
              set(this.#drySpell, minus(now, this.#lastPoint)),
            ]),
            set(this.#lastPoint, now),
          ]),
        ]),
      ]);
    }
    if (counter === this.#lives) {
      const isLoss = and(isLess(this.#firstLoss, 0), isLess(after, before), isEqual(this.isRunning, 1));
      code.push(when(isLoss, [set(this.#firstLoss, minus(now, this.#began))]));
    }
    const held = this.#bounds.flatMap((bound, index): Code => {
      if (bound.counter !== counter) return [];
      const leaves = when(and(isEqual(before, bound.value), this.#isPlayed), [
        add(this.log.held.at(index), minus(now, this.#heldSince[index]!)),
      ]);
      return when(isEqual(after, bound.value), [set(this.#heldSince[index]!, now)], leaves);
    });
    return [...code.flat(), ...when(not(isEqual(after, before)), held)];
  }

  /** Before the rules hear an outcome of a piece. */
  #outcome(event: Value): Code {
    const isSuccess = isEqual(tableAt(this.#tables.isSuccess, event), 1);
    const isFailure = isEqual(tableAt(this.#tables.isFailure, event), 1);
    const succeeds = [
      add(this.#row, 1),
      ...when(isMore(this.#row, this.#streak), [set(this.#streak, this.#row)]),
    ];
    return when(isSuccess, succeeds, when(isFailure, [set(this.#row, 0)]));
  }
}

const larger = (one: Value, other: Value): Value => choose(isMore(one, other), one, other);

/** What transitions, screens and outcomes are to a run, by index. */
function tablesOf({ transitions, screens, events, pieces, design }: Form) {
  const table = (name: string, values: readonly number[]): Table => ({ name, values });
  return {
    target: table(
      'target',
      transitions.map(({ to }) => to),
    ),
    // The first start is no fresh start of a run: a title screen may come before it.
    freshOf: table(
      'freshOf',
      transitions.map(({ fresh }, index) => (index === transitions.length - 1 ? -1 : fresh)),
    ),
    // The run's last try ends with it.
    endsTry: table(
      'endsTry',
      transitions.map(({ fresh, level, to }) =>
        Number((fresh >= levelSpan || level !== sameLevel) && screens[to]?.ending !== true),
      ),
    ),
    isLiveScreen: table(
      'isLiveScreen',
      screens.map(({ live }) => Number(live)),
    ),
    isEnding: table(
      'isEnding',
      screens.map(({ ending }) => Number(ending)),
    ),
    isLost: table(
      'isLost',
      design.screens.map(({ ending }) => Number(ending === 'lost')),
    ),
    isSuccess: table(
      'isSuccess',
      events.map((_, event) => Number(pieces.some(({ success }) => success === event))),
    ),
    isFailure: table(
      'isFailure',
      events.map((_, event) => Number(pieces.some(({ failure }) => failure === event))),
    ),
  };
}
