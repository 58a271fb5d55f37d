/** What a field must know of a kind of piece. */
export interface Kind {
  readonly name: string;
  readonly meets: 'sought' | 'arrives' | 'never';
  /** The events of meeting it: touched, and left alone. */
  readonly touched: string;
  readonly leftAlone: string;
  /** What a strike at it is, where it can be beaten. */
  readonly beaten: string | undefined;
  /** Milliseconds that it waits to be met; undefined: for ever. */
  readonly lasts: number | undefined;
}

export interface Thing {
  readonly id: number;
  readonly kind: Kind;
  x: number;
  y: number;
  /** Units a second. */
  readonly dx: number;
  readonly dy: number;
  age: number;
  /** Whether the player touches it: one contact counts once. */
  isTouched: boolean;
}

export interface Way {
  readonly x: number;
  readonly y: number;
}

/** The size of the field; the player and all things are circles in it. */
export const wide = 160;
export const high = 90;
export const reach = 6;
const strikeReach = 16;
/** Units a second. */
const playerSpeed = 70;
const arrivalSpeed = 34;
const margin = 14;
/** Of each kind that are drawn. */
const mostOfEach = 40;

/**
 * Where things stand and fly in the field of a page, and what the player touches there. It knows no rule: what is there comes from the
 * session, and what happens is reported to it.
 */
export class Field {
  readonly player = { x: wide / 2, y: high / 2 };
  readonly things: Thing[] = [];
  #made = 0;

  constructor(private readonly kinds: readonly Kind[]) {}

  /** Makes as many of each kind stand there as the session says; gives whether that changed anything. */
  hold(present: Readonly<Record<string, number>>): boolean {
    let isChanged = false;
    for (const kind of this.kinds) {
      const there = this.things.filter((thing) => thing.kind.name === kind.name);
      const count = Math.min(mostOfEach, present[kind.name] ?? 0);
      isChanged ||= count !== there.length;
      for (const gone of there.slice(count)) this.things.splice(this.things.indexOf(gone), 1);
      for (let more = there.length; more < count; more++) this.things.push(this.#thing(kind));
    }
    return isChanged;
  }

  /** Lets time pass while the player goes some way; gives the events that come of it. */
  pass(milliseconds: number, way: Way, isStriking: boolean): string[] {
    const seconds = milliseconds / 1000;
    const { player } = this;
    const length = Math.max(1, Math.hypot(way.x, way.y));
    player.x = within(player.x + (way.x / length) * playerSpeed * seconds, reach, wide - reach);
    player.y = within(player.y + (way.y / length) * playerSpeed * seconds, reach, high - reach);
    const events: string[] = [];
    for (const thing of [...this.things]) {
      const { kind } = thing;
      thing.x += thing.dx * seconds;
      thing.y += thing.dy * seconds;
      thing.age += milliseconds;
      const distance = Math.hypot(thing.x - player.x, thing.y - player.y);
      const isNear = distance < 2 * reach;
      if (isStriking && kind.beaten !== undefined && distance < strikeReach + reach)
        this.#end(thing, kind.beaten, events);
      else if (isNear && !thing.isTouched) this.#end(thing, kind.touched, events);
      else if (this.#isOver(thing)) this.#end(thing, kind.leftAlone, events);
      thing.isTouched = isNear;
    }
    return events;
  }

  /** What happened to a thing takes it away, unless the session says that it is still there. */
  #end(thing: Thing, event: string, events: string[]): void {
    events.push(event);
    if (thing.kind.meets !== 'never') this.things.splice(this.things.indexOf(thing), 1);
  }

  #isOver({ kind, age, x, y }: Thing): boolean {
    if (kind.meets === 'arrives') return x < -reach || x > wide + reach || y < -reach || y > high + reach;
    return kind.lasts !== undefined && age >= kind.lasts;
  }

  /** A new one: what waits stands somewhere, away from the player; what arrives flies in from an edge towards the player. */
  #thing(kind: Kind): Thing {
    const id = this.#made++;
    const draw = (of: number): number => mixed(id * 64 + of);
    const common = { id, kind, age: 0, isTouched: false };
    if (kind.meets === 'arrives') {
      const isLeft = draw(1) < 0.5;
      const x = isLeft ? -reach : wide + reach;
      const y = margin + draw(2) * (high - 2 * margin);
      const distance = Math.hypot(this.player.x - x, this.player.y - y);
      return {
        ...common,
        x,
        y,
        dx: (arrivalSpeed * (this.player.x - x)) / distance,
        dy: (arrivalSpeed * (this.player.y - y)) / distance,
      };
    }
    for (let attempt = 0; ; attempt++) {
      const x = margin + draw(3 + 2 * attempt) * (wide - 2 * margin);
      const y = margin + draw(4 + 2 * attempt) * (high - 2 * margin);
      const isFree = [this.player, ...this.things].every(
        (other) => Math.hypot(other.x - x, other.y - y) > 3 * reach,
      );
      if (isFree || attempt > 12) return { ...common, x, y, dx: 0, dy: 0 };
    }
  }
}

const within = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/** From 0 and below 1, for a whole number: near ones lead far apart (the finishing steps of MurmurHash3, Appleby 2011). */
function mixed(of: number): number {
  let bits = of ^ (of >>> 16);
  bits = Math.imul(bits, 0x85ebca6b);
  bits = Math.imul(bits ^ (bits >>> 13), 0xc2b2ae35);
  return ((bits ^ (bits >>> 16)) >>> 0) / 2 ** 32;
}
