import type { Role } from '../../design/model.js';
import type { GamePiece } from '../../engine/program/pieces.js';
import type { Decision, World, WorldScene, WorldStage } from './world.js';

/** Something in the field. Lengths are in its own units, times in milliseconds. */
export interface Body {
  readonly piece: GamePiece;
  x: number;
  y: number;
  /** Units a millisecond. */
  speedX: number;
  speedY: number;
  /** Milliseconds until it is missed; Infinity: never. */
  left: number;
  /** Whether the player touches it, so that one contact counts once. */
  isTouched: boolean;
}

/** The size of the field, of the player and of everything in it. */
export const field = { width: 960, height: 540, playerRadius: 16, bodyRadius: 16 } as const;

/** Units a millisecond. */
const playerSpeed = 0.28;
const hazardSpeed = 0.2;
/** How far from the edges something is placed, and how far from the player. */
const margin = 40;
const leastDistance = 120;
/** How near a hazard must be for a perfect player to turn from it. */
const danger = 130;
const step = 20;

const diagonal = Math.SQRT1_2;
/** Every input, with the direction it moves in. */
const directions: { readonly [input: string]: readonly [number, number] } = {
  stay: [0, 0],
  left: [-1, 0],
  right: [1, 0],
  up: [0, -1],
  down: [0, 1],
  'up left': [-diagonal, -diagonal],
  'up right': [diagonal, -diagonal],
  'down left': [-diagonal, diagonal],
  'down right': [diagonal, diagonal],
};

/** The names of the inputs, as `WorldScene.advance` takes them. */
export const fieldInputs: readonly string[] = Object.keys(directions);

const moving = (role: Role): boolean => role === 'hazard' || role === 'foe';

/** A place of play that a page can draw. */
export interface FieldScene extends WorldScene {
  readonly player: { readonly x: number; readonly y: number };
  readonly bodies: readonly Readonly<Body>[];
}

export interface FieldWorld extends World {
  open(stage: WorldStage): FieldScene;
}

/**
 * An open field seen from above. Whoever plays moves in eight directions; collectibles, checkpoints, exits and props stand
 * where they appeared until they are touched; hazards and foes fly in from the edge towards where the player is, and out
 * again. Touching something is its success, or its failure for what comes flying; a player who lets a hazard by has avoided
 * it.
 */
export const fieldWorld: FieldWorld = {
  step,
  open: (stage) => new Field(stage),
};

/** Only the four operations and square roots, which every JavaScript engine rounds alike. */
class Field implements FieldScene {
  readonly player = { x: field.width / 2, y: field.height / 2 };
  readonly bodies: Body[] = [];
  readonly #pieces: ReadonlyMap<string, GamePiece>;

  constructor(private readonly stage: WorldStage) {
    this.#pieces = new Map(stage.pieces.map((piece) => [piece.name, piece]));
  }

  begin(): void {
    this.player.x = field.width / 2;
    this.player.y = field.height / 2;
  }

  remove(piece: string): void {
    const there = this.bodies.filter((body) => body.piece.name === piece);
    const gone = there.find(({ isTouched }) => isTouched) ?? there[0];
    if (gone !== undefined) this.#remove(gone);
  }

  clear(piece: string): void {
    for (let index = this.bodies.length - 1; index >= 0; index--) {
      if (this.bodies[index]!.piece.name === piece) this.bodies.splice(index, 1);
    }
  }

  appear(name: string): void {
    const piece = this.#pieces.get(name)!;
    const body = { piece, speedX: 0, speedY: 0, left: Number.POSITIVE_INFINITY, isTouched: false };
    if (moving(piece.role)) {
      const edge = this.#edge();
      const toX = this.player.x - edge.x;
      const toY = this.player.y - edge.y;
      const distance = Math.sqrt(toX * toX + toY * toY);
      const speedX = (toX / distance) * hazardSpeed;
      const speedY = (toY / distance) * hazardSpeed;
      this.bodies.push({ ...body, ...edge, speedX, speedY });
      return;
    }
    const left = piece.lasts === undefined ? body.left : piece.lasts * 1000;
    this.bodies.push({ ...body, ...this.#freePlace(), left });
  }

  /** Somewhere on the edge. */
  #edge(): { x: number; y: number } {
    const along = this.stage.random() * 2 * (field.width + field.height);
    if (along < field.width) return { x: along, y: 0 };
    if (along < 2 * field.width) return { x: along - field.width, y: field.height };
    const down = along - 2 * field.width;
    return down < field.height ? { x: 0, y: down } : { x: field.width, y: down - field.height };
  }

  /** Somewhere in the field; not next to the player, if a few tries find such a place. */
  #freePlace(): { x: number; y: number } {
    let place = { x: 0, y: 0 };
    for (let tries = 0; tries < 8; tries++) {
      place = {
        x: margin + this.stage.random() * (field.width - 2 * margin),
        y: margin + this.stage.random() * (field.height - 2 * margin),
      };
      if (this.#squaredTo(place) >= leastDistance * leastDistance) break;
    }
    return place;
  }

  #squaredTo({ x, y }: { readonly x: number; readonly y: number }): number {
    const toX = x - this.player.x;
    const toY = y - this.player.y;
    return toX * toX + toY * toY;
  }

  advance(input: string): void {
    const [x, y] = directions[input] ?? [0, 0];
    const within = (at: number, most: number): number =>
      Math.min(most - field.playerRadius, Math.max(field.playerRadius, at));
    this.player.x = within(this.player.x + x * playerSpeed * step, field.width);
    this.player.y = within(this.player.y + y * playerSpeed * step, field.height);
    // Backwards, since a report may take bodies out; those it adds come at the end and move from the next step on.
    for (let index = this.bodies.length - 1; index >= 0; index--) {
      const body = this.bodies[index];
      if (body === undefined) continue;
      body.x += body.speedX * step;
      body.y += body.speedY * step;
      body.left -= step;
      this.#meet(body);
    }
  }

  #meet(body: Body): void {
    const { name, role, outcomes } = body.piece;
    const flies = moving(role);
    const reach = field.playerRadius + field.bodyRadius;
    const touches = this.#squaredTo(body) <= reach * reach;
    const isNew = touches && !body.isTouched;
    body.isTouched = touches;
    if (isNew) {
      const outcome = flies ? outcomes.at(-1)! : outcomes[0]!;
      // Grace lets it fly on, and what cannot be met yet stays.
      if (this.stage.report(`${name}.${outcome}`) === 'handled') this.#remove(body);
      else if (!flies) body.isTouched = false;
    } else if (flies && this.#isOutside(body)) {
      this.#remove(body);
      // A foe that got away was not beaten.
      this.stage.report(`${name}.${role === 'hazard' ? outcomes[0] : 'gone'}`);
    } else if (body.left <= 0) {
      this.#remove(body);
      this.stage.report(`${name}.${outcomes.at(-1)}`);
    }
  }

  #isOutside({ x, y }: Body): boolean {
    return x < -margin || y < -margin || x > field.width + margin || y > field.height + margin;
  }

  #remove(body: Body): void {
    const index = this.bodies.indexOf(body);
    if (index >= 0) this.bodies.splice(index, 1);
  }

  decide(): Decision {
    const best = this.#bestInput();
    return { best, others: fieldInputs.filter((input) => input !== best) };
  }

  /** Away from the nearest hazard that is close, else to the nearest thing to touch. */
  #bestInput(): string {
    let hazard: Body | undefined;
    let goal: Body | undefined;
    for (const body of this.bodies) {
      if (moving(body.piece.role)) {
        if (hazard === undefined || this.#squaredTo(body) < this.#squaredTo(hazard)) hazard = body;
      } else if (goal === undefined || this.#squaredTo(body) < this.#squaredTo(goal)) goal = body;
    }
    if (hazard !== undefined && this.#squaredTo(hazard) < danger * danger) return this.#awayFrom(hazard);
    return goal === undefined ? 'stay' : this.#towards(goal.x - this.player.x, goal.y - this.player.y);
  }

  /** Across its way, to the side on which the player is already. */
  #awayFrom({ x, y, speedX, speedY }: Body): string {
    const side = speedX * (this.player.y - y) - speedY * (this.player.x - x) >= 0 ? 1 : -1;
    return this.#towards(-speedY * side, speedX * side);
  }

  /** The input whose direction comes nearest to one. */
  #towards(x: number, y: number): string {
    let best = 'stay';
    let furthest = 0;
    for (const [input, [directionX, directionY]] of Object.entries(directions)) {
      const along = directionX * x + directionY * y;
      if (along > furthest) {
        furthest = along;
        best = input;
      }
    }
    return best;
  }
}
