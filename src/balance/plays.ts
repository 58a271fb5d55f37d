import type { Design } from '../design/model.js';
import type { World } from '../players/worlds/world.js';
import { simulate } from '../simulate/simulate.js';
import { type Observation, observe } from './statistics/paired.js';
import type { Quantity } from './statistics/quantities.js';

/** Sessions that a comparison or a search needs played. */
export interface PlayRequest {
  readonly design: Design;
  readonly sessions: number;
  readonly seed: number;
  /** The players' names; all of the design's unless given. */
  readonly players: readonly string[] | undefined;
  /** What is kept of each session beside the tallies; undefined: nothing. */
  readonly quantities: readonly Quantity[] | undefined;
}

/** What was played; without quantities it observes nothing. */
export type Played = Observation;

/**
 * Work that asks for sessions as it goes on, several at once where none waits for another, and leaves to whoever runs it where they are
 * played.
 */
export type Plan<Result> = Generator<readonly PlayRequest[], Result, readonly Played[]>;

export interface PlayHere {
  readonly world: World | undefined;
  /** Called now and then; what it throws ends the work. */
  readonly progress: (() => void) | undefined;
}

/** Runs a plan in this thread. */
export function playHere<Result>(plan: Plan<Result>, { world, progress }: PlayHere): Result {
  let step = plan.next();
  while (step.done !== true) {
    const played = step.value.map(({ design, quantities, sessions, seed, players }): Played => {
      const options = { sessions, seed, players, world, progress };
      if (quantities !== undefined) return observe(design, quantities, options);
      return { simulation: simulate(design, options), of: new Map() };
    });
    step = plan.next(played);
  }
  return step.value;
}

/**
 * Runs a plan in this thread that says how far it has come; while sessions are played that is said again, so that whoever hears it can end
 * the work.
 */
export function playHereTelling<Result>(
  {
    world,
    progress,
  }: { readonly world?: World | undefined; readonly progress?: ((done: number) => void) | undefined },
  planWith: (progress: (done: number) => void) => Plan<Result>,
): Result {
  let done = 0;
  const again = (): void => progress?.(done);
  const plan = planWith((now) => {
    done = now;
    again();
  });
  return playHere(plan, { world, progress: again });
}

/** Runs a plan whose sessions are played somewhere else, those that are asked for at once side by side. */
export async function playElsewhere<Result>(
  plan: Plan<Result>,
  play: (request: PlayRequest) => Promise<Played>,
): Promise<Result> {
  let step = plan.next();
  while (step.done !== true) step = plan.next(await Promise.all(step.value.map(play)));
  return step.value;
}
