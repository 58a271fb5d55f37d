import { spans } from '../../design/model.js';
import { DesignError, UsageError } from '../../design/problems/problem.js';
import { courseOf } from '../../engine/program/course.js';
import type { Form } from '../../engine/program/form.js';
import { counterNamed } from '../../engine/program/named.js';
import { piecesOf } from '../../engine/program/pieces.js';
import { choose, draw, placeKey } from '../../engine/run/draw.js';
import type { Tally } from '../../measure/tally.js';
import { careIn } from '../meeting/care.js';
import { successChance, threshold } from '../meeting/chance.js';
import { type Meeting, type Person, personOf } from '../meeting/meeting.js';
import { type Decision, type World, type WorldScene, type WorldStage, worldKey } from '../worlds/world.js';
import { type SentLine, worldFault } from '../worlds/world-fault.js';
import type { Sent } from './play.js';
import { SessionDriver } from './session-driver.js';

/** Milliseconds from one decision to the next of a player of pace 1: about what a person needs to see and press. */
const reactionTime = 250;

/** The place that asks whether a player chooses well. */
const decisionKey = placeKey('decision');

/**
 * Plays sessions in a world. At each decision the player does what is best with the chance logistic(skill - difficulty), as
 * in the Rasch model of `chance.ts`, and anything else the world offers otherwise.
 */
export class WorldPlay extends SessionDriver {
  readonly #world: World;
  readonly #scene: WorldScene;
  #asked = 0;
  #decided = 0;
  /** Of whoever plays this session. */
  #person: Person;
  readonly #isCareful: () => boolean;
  #input = '';
  /** Live times of the next step of the world and of the next decision. */
  #stepsAt = 0;
  #decidesAt = 0;
  /** What was sent in this session, for the record where the world throws. */
  readonly #lines: SentLine[];

  /** @param unknown is given each event that the world reports and the design does not know */
  constructor(
    form: Form,
    meeting: Meeting,
    tally: Tally,
    world: World,
    {
      sent,
      unknown,
    }: { readonly sent?: Sent | undefined; readonly unknown?: ((event: string) => void) | undefined } = {},
  ) {
    const lines: SentLine[] = [];
    super(form, meeting, tally, (event, at, beforeWaits, isTried) => {
      lines.push({ event: form.events[event]!.name, at, beforeWaits });
      sent?.(event, at, beforeWaits, isTried);
    });
    this.#lines = lines;
    this.#world = world;
    this.#person = meeting;
    this.#isCareful = careIn(form, this.machine.cells, meeting.player.caution);
    this.#scene = openScene(world, {
      pieces: piecesOf(form, (index) => this.machine.value(index)),
      course: () => courseOf(form, this.machine.cells),
      level: () => this.machine.cells[form.cells.level]! + 1,
      counter: (name) => counterNamed(form, this.machine.cells, name),
      report: (event) => {
        const index = form.eventIndex.get(event);
        if (index === undefined) {
          unknown?.(event);
          return 'ignored';
        }
        const reception = this.send(index, this.machine.cells[form.cells.now]!, false);
        this.settle();
        return reception;
      },
      random: () => draw(this.key, worldKey, this.#asked++) / 2 ** 32,
    });
  }

  /** @throws WorldFault where the world's code throws */
  override play(seed: number, session: number): void {
    try {
      super.play(seed, session);
    } catch (error) {
      if (error instanceof DesignError || error instanceof UsageError) throw error;
      const at = this.machine.cells[this.form.cells.now]!;
      throw worldFault(error, this.form, this.meeting.player, { seed, session, at, lines: this.#lines });
    }
  }

  protected override reset(): void {
    this.#lines.length = 0;
    this.#asked = 0;
    this.#decided = 0;
    this.#input = '';
    this.#stepsAt = this.#world.step;
    this.#decidesAt = 0;
    this.#person = personOf(this.meeting, this.key);
  }

  protected override begins(span: number): void {
    if (span >= 0) this.#scene.begin(spans[span]!);
  }

  protected override appeared(piece: number): void {
    this.#scene.appear(this.form.pieces[piece]!.name);
  }

  protected override gone(piece: number): void {
    const { name } = this.form.pieces[piece]!;
    if (this.#scene.remove !== undefined) {
      this.#scene.remove(name);
      return;
    }
    // A world that cannot tell them apart is given those that are left anew.
    this.#scene.clear(name);
    const left = this.machine.cells[this.form.cells.present + piece]!;
    for (let nth = 0; nth < left; nth++) this.#scene.appear(name);
  }

  protected override cleared(piece: number): void {
    this.#scene.clear(this.form.pieces[piece]!.name);
  }

  protected override allCleared(): void {
    for (const { name } of this.form.pieces) this.#scene.clear(name);
  }

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
    const { best, others, difficulty = 0 } = mustBeDecision(this.#scene.decide());
    const { caution } = this.meeting.player;
    const care = this.#isCareful() ? caution : undefined;
    const inRun = (values: readonly number[]): number => values[Math.min(this.runsEnded, values.length - 1)]!;
    const ask = (): number => draw(this.key, decisionKey, this.#decided++);
    const isBest = (): boolean => {
      const practised = this.meeting.practised[this.attempt()] ?? 0;
      const skill = inRun(this.#person.skills) + practised + (care?.skill ?? 0);
      return ask() < threshold(successChance(skill, difficulty));
    };
    this.#input = others.length === 0 || isBest() ? best : others[choose(ask(), others.length)]!;
    const reaction = reactionTime * inRun(this.#person.paces) * (care?.pace ?? 1);
    this.#decidesAt = this.#stepsAt + Math.max(1, Math.round(reaction));
  }
}

const sceneMethods = ['begin', 'appear', 'clear', 'advance', 'decide'] as const;

/** @throws UsageError where the world gives no whole scene */
function openScene(world: World, stage: WorldStage): WorldScene {
  const scene = world.open(stage);
  const missing = sceneMethods.filter((method) => typeof scene?.[method] !== 'function');
  if (missing.length > 0)
    throw new UsageError(
      'bad-world',
      `The scene that the world opens lacks ${missing.join(', ')}; it needs the functions ${sceneMethods.join(', ')}.`,
    );
  return scene;
}

/** @throws UsageError where a world's decision is none */
function mustBeDecision(decision: Decision): Decision {
  const { best, others, difficulty = 0 } = decision ?? {};
  const isDecision =
    typeof best === 'string' &&
    Array.isArray(others) &&
    others.every((other) => typeof other === 'string') &&
    Number.isFinite(difficulty);
  if (isDecision) return decision;
  throw new UsageError(
    'bad-world',
    `A world decided ${JSON.stringify(decision)}; a decision has best (a text), others (a list of texts) and perhaps difficulty (a number).`,
  );
}
