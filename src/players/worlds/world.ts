import type { Keep, Value } from '../../design/model.js';
import type { Course } from '../../engine/program/course.js';
import type { GamePiece } from '../../engine/program/pieces.js';
import { placeKey } from '../../engine/run/draw.js';
import type { Reception } from '../../engine/run/reception.js';

/**
 * A game's own movement and collisions, stepped without a screen. It takes the place of the meeting model: what it reports
 * is judged by the same rules, flow and targets.
 */
export interface World {
  /** Milliseconds of live time that one step takes, a whole number from 1. */
  readonly step: number;
  /** The scene in which one session after another is played. */
  open(stage: WorldStage): WorldScene;
}

/** What a world is given. */
export interface WorldStage {
  /** The pieces of the design. */
  readonly pieces: readonly GamePiece[];
  /** The course of the present level, for worlds that are travelled. */
  course(): Course;
  /** The number of the level, from 1. */
  level(): number;
  /**
   * What a counter holds now, such as how fast the player is.
   *
   * @throws UsageError where the design has no such counter
   */
  counter(name: string): Value;
  /** Tells the session what happened, such as `blossom.taken`, and what became of it. */
  report(event: string): Reception;
  /** A number from 0 to below 1; the same ones in the same order for the same seed and session. */
  random(): number;
}

/** One place of play. It must draw all chance from its stage, and never ask a clock. */
export interface WorldScene {
  /** A fresh start of a span: the player stands where it starts. What is cleared and what appears is reported next. */
  begin(span: Keep): void;
  /** One more piece is there; the world says where. */
  appear(piece: string): void;
  /** One piece of a name is gone, by a rule: the one met last where it is still there. Without this, all are cleared and those left appear again. */
  remove?(piece: string): void;
  /** All pieces of a name are gone, because of a rule or because the level starts again. */
  clear(piece: string): void;
  /** One step goes by with the player doing this. */
  advance(input: string): void;
  /** What a player sees to do now. */
  decide(): Decision;
}

/** A choice of inputs as a perfect player would make it. */
export interface Decision {
  readonly best: string;
  readonly others: readonly string[];
  /** In logits, on the scale of the players' skill; 0 unless it is given. */
  readonly difficulty?: number;
}

/** The place that worlds ask for their chance. */
export const worldKey = placeKey('world');
