import { draw, sessionKey } from '../../engine/run/draw.js';
import type { Reception } from '../../engine/run/reception.js';
import type { Step } from '../../engine/run/step.js';
import type { GameSession } from '../../engine/session/session.js';
import { passedTime } from '../../engine/session/session-checks.js';
import { type World, type WorldScene, worldKey } from './world.js';

/**
 * A world on the screen: steps it with a person's inputs while the session's time goes on. The same world with the same
 * seed and inputs does the same as in a simulation.
 *
 * @example
 * const stage = new Stage(fieldWorld, game.start());
 * stage.advance(16.7, 'left');
 */
export class Stage {
  readonly scene: WorldScene;
  #asked = 0;
  /** Live time of the next step. */
  #stepsAt: number;
  #fraction = 0;

  constructor(
    private readonly world: World,
    private readonly session: GameSession,
  ) {
    const key = sessionKey(session.seed, session.session);
    this.#stepsAt = session.liveTime + world.step;
    this.scene = world.open({
      pieces: session.pieces,
      course: () => session.course,
      level: () => session.level,
      counter: (name) => session.counter(name),
      report: (event): Reception => session.send(event),
      random: () => draw(key, worldKey, this.#asked++) / 2 ** 32,
    });
    this.scene.begin('forever');
    for (const [piece, count] of Object.entries(session.present)) {
      for (let each = 0; each < count; each++) this.scene.appear(piece);
    }
    session.listen((step) => this.#follow(step));
  }

  #follow({ transitions, pieces }: Step): void {
    for (const { fresh } of transitions) if (fresh !== undefined) this.scene.begin(fresh);
    for (const { piece, change } of pieces) {
      if (change === 'appeared') this.scene.appear(piece);
      else this.scene.clear(piece);
    }
  }

  /**
   * Lets time pass, the player doing one thing all the while.
   *
   * @param milliseconds as in `GameSession.advance`
   * @throws UsageError for a time that cannot pass
   * @throws DesignError as `GameSession.send`
   */
  advance(milliseconds: number, input: string): void {
    const { session, world } = this;
    this.#fraction += passedTime(milliseconds);
    while (this.#fraction >= 1) {
      const step = session.isLive ? this.#stepsAt - session.liveTime : world.step;
      const passed = Math.min(Math.floor(this.#fraction), step);
      this.#fraction -= passed;
      session.advance(passed);
      if (session.isLive && session.liveTime >= this.#stepsAt) {
        this.#stepsAt += world.step;
        this.scene.advance(input);
      }
    }
  }
}
