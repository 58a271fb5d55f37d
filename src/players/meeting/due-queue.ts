import {
  add,
  and,
  assign,
  type Code,
  check,
  count,
  declare,
  get,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  isNever,
  type KnownSlot,
  local,
  minus,
  never,
  not,
  or,
  plus,
  set,
  type Value,
  when,
} from '../../engine/compile/representation.js';
import type { Area, Slots } from '../../engine/program/build/slots.js';

/** Pieces that are on their way to the player, or wait for it, at the most. */
const capacity = 2 ** 16;

/**
 * Pieces in the order in which they appeared, each due at a moment of live time, or never; and which of them is due first. Of two that are
 * due at the same moment it is the piece that comes first in the file, and of one kind the one that has been there longest.
 */
export class DueQueue {
  readonly #due: Area;
  readonly #piece: Area;
  /** They stand from `head` up to, and without, `tail`. */
  readonly head: KnownSlot;
  readonly tail: KnownSlot;
  /** When the first is due, and where it stands. */
  readonly firstDue: KnownSlot;
  readonly #first: KnownSlot;

  constructor(name: string, slots: Slots) {
    this.#due = slots.area(`${name}Due`, capacity);
    this.#piece = slots.area(`${name}Piece`, capacity);
    this.head = slots.one(`${name}Head`);
    this.tail = slots.one(`${name}Tail`);
    this.firstDue = slots.one(`${name}FirstDue`);
    this.#first = slots.one(`${name}First`);
  }

  /** Where in memory the pieces and their moments stand. */
  get bases(): { readonly due: number; readonly piece: number } {
    return { due: this.#due.base, piece: this.#piece.base };
  }

  /** Where the one that is due first is named. */
  get first(): KnownSlot {
    return this.#first;
  }

  get isEmpty(): Value {
    return isEqual(this.head, this.tail);
  }

  get firstPiece(): Value {
    return this.#piece.at(this.#first);
  }

  pieceAt(at: Value): Value {
    return this.#piece.at(at);
  }

  dueAt(at: Value): Value {
    return this.#due.at(at);
  }

  empty(): Code {
    return [set(this.head, 0), set(this.tail, 0), set(this.firstDue, never)];
  }

  add(piece: Value, due: Value): Code {
    const { head, tail } = this;
    const [moved, moment] = [local('moved'), local('moment')];
    const room = [
      ...count(moved, head, tail, [
        set(this.#due.at(minus(get(moved), head)), this.#due.at(get(moved))),
        set(this.#piece.at(minus(get(moved), head)), this.#piece.at(get(moved))),
      ]),
      set(tail, minus(tail, head)),
      set(this.#first, minus(this.#first, head)),
      set(head, 0),
      ...check(isLess(tail, capacity), 'tooMany', piece),
    ];
    const isFirst = or(
      isLess(get(moment), this.firstDue),
      and(
        isEqual(get(moment), this.firstDue),
        not(isNever(get(moment))),
        isLess(piece, this.#piece.at(this.#first)),
      ),
    );
    return [
      ...when(isEqual(tail, capacity), room),
      declare(moment, due),
      set(this.#due.at(tail), get(moment)),
      set(this.#piece.at(tail), piece),
      ...when(isFirst, [set(this.firstDue, get(moment)), set(this.#first, tail)]),
      add(tail, 1),
    ];
  }

  /** Takes the oldest off. */
  removeOldest(): Code {
    const taken = local('taken');
    return [
      declare(taken, this.head),
      add(this.head, 1),
      ...when(this.isEmpty, this.empty(), when(isEqual(this.#first, get(taken)), this.#find())),
    ];
  }

  removeFirst(): Code {
    return this.removeAt(this.#first);
  }

  removeAt(at: Value): Code {
    const place = local('place');
    return [
      set(this.tail, minus(this.tail, 1)),
      ...count(place, at, this.tail, [
        set(this.#due.at(get(place)), this.#due.at(plus(get(place), 1))),
        set(this.#piece.at(get(place)), this.#piece.at(plus(get(place), 1))),
      ]),
      ...this.#find(),
    ];
  }

  /** Takes one of a piece off: the newest or the oldest; `otherwise` where there is none. */
  removeOne(piece: number, isNewest: Value, otherwise: Code): Code {
    const [found, place] = [local('found'), local('place')];
    const isIt = isEqual(this.#piece.at(get(place)), piece);
    return [
      declare(found, -1),
      ...count(
        place,
        this.head,
        this.tail,
        when(and(isIt, or(isLess(get(found), 0), isNewest)), [assign(found, get(place))]),
      ),
      ...when(isAtLeast(get(found), 0), this.removeAt(get(found)), otherwise),
    ];
  }

  /** Takes every one of a piece off. */
  clear(piece: number): Code {
    const [kept, place] = [local('kept'), local('place')];
    return [
      declare(kept, this.head),
      ...count(place, this.head, this.tail, [
        ...when(not(isEqual(this.#piece.at(get(place)), piece)), [
          set(this.#due.at(get(kept)), this.#due.at(get(place))),
          set(this.#piece.at(get(kept)), this.#piece.at(get(place))),
          assign(kept, plus(get(kept), 1)),
        ]),
      ]),
      set(this.tail, get(kept)),
      ...this.#find(),
    ];
  }

  #find(): Code {
    const place = local('place');
    const due = this.#due.at(get(place));
    const isBefore = or(
      isLess(due, this.firstDue),
      and(
        isEqual(due, this.firstDue),
        not(isNever(due)),
        isMore(this.#piece.at(this.#first), this.#piece.at(get(place))),
      ),
    );
    return [
      set(this.firstDue, never),
      ...count(
        place,
        this.head,
        this.tail,
        when(isBefore, [set(this.firstDue, due), set(this.#first, get(place))]),
      ),
    ];
  }
}
