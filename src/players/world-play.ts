import { spans } from '../design/model.js';
import { courseOf } from '../engine/course.js';
import { choose, draw, placeKey } from '../engine/draw.js';
import type { Form } from '../engine/form.js';
import { piecesOf } from '../engine/pieces.js';
import { successChance, threshold } from './chance.js';
import { type Meeting, skillIn } from './meeting.js';
import { type Sent, Sitting } from './sitting.js';
import type { Tally } from './tally.js';
import { type World, type WorldScene, worldKey } from './world.js';

/** Milliseconds from one decision to the next of a player of pace 1: about what a person needs to see and press. */
const reactionTime = 250;

/** The place that asks whether a player chooses well. */
const decisionKey = placeKey('decision');

/**
 * Plays sessions in a world. At each decision the player does what is best with the chance logistic(skill - difficulty), as
 * in the Rasch model of `chance.ts`, and anything else the world offers otherwise.
 */
export class WorldPlay extends Sitting {
  readonly #world: World;
  readonly #scene: WorldScene;
  readonly #reaction: number;
  #asked = 0;
  #decided = 0;
  #input = '';
  /** Live times of the next step of the world and of the next decision. */
  #stepsAt = 0;
  #decidesAt = 0;

  constructor(form: Form, meeting: Meeting, tally: Tally, world: World, sent?: Sent) {
    super(form, meeting, tally, undefined, sent);
    this.#world = world;
    this.#reaction = Math.max(1, Math.round(reactionTime * meeting.player.pace));
    this.#scene = world.open({
      pieces: piecesOf(form),
      course: () => courseOf(form, this.machine.cells),
      report: (event) => {
        const index = form.eventIndex.get(event);
        if (index === undefined) return 'ignored';
        const reception = this.send(index, this.machine.cells[form.cells.now]!, false);
        this.settle();
        return reception;
      },
      random: () => draw(this.key, worldKey, this.#asked++) / 2 ** 32,
    });
  }

  protected override reset(): void {
    this.#asked = 0;
    this.#decided = 0;
    this.#input = '';
    this.#stepsAt = this.#world.step;
    this.#decidesAt = 0;
  }

  protected override begins(span: number): void {
    if (span >= 0) this.#scene.begin(spans[span]!);
  }

  protected override appeared(piece: number): void {
    this.#scene.appear(this.form.pieces[piece]!.name);
  }

  protected override cleared(piece: number): void {
    this.#scene.clear(this.form.pieces[piece]!.name);
  }

  protected override allCleared(): void {
    for (const { name } of this.form.pieces) this.#scene.clear(name);
  }

  protected override settled(): void {}

  protected override liveStep(patience: number): boolean {
    const { machine } = this;
    const { cells } = machine;
    const at = this.form.cells;
    const next = cells[at.now]! + this.#stepsAt - cells[at.live]!;
    machine.peek();
    const due = Math.min(next, machine.dueAt);
    if (due > patience) return this.giveUp(due, patience);
    if (machine.dueAt <= next) {
      machine.fire();
      return true;
    }
    machine.elapse(next);
    if (this.#stepsAt >= this.#decidesAt) this.#decide();
    this.#stepsAt += this.#world.step;
    this.#scene.advance(this.#input);
    return true;
  }

  #decide(): void {
    const { best, others, difficulty = 0 } = this.#scene.decide();
    const chance = threshold(successChance(skillIn(this.meeting.player, this.runsEnded), difficulty));
    const ask = (): number => draw(this.key, decisionKey, this.#decided++);
    this.#input = others.length === 0 || ask() < chance ? best : others[choose(ask(), others.length)]!;
    this.#decidesAt = this.#stepsAt + this.#reaction;
  }
}
