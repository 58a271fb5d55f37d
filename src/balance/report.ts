import type { Design } from '../design/model.js';
import type { ExploreOptions } from '../explore/explore.js';
import { type Check, check } from '../inspect/check.js';
import type { World } from '../players/worlds/world.js';
import type { Simulation } from '../simulate/simulate.js';
import { type Observation, observationsOn } from './observations.js';
import { middlePlayer, type SampleSession, sampleSessions } from './sample-sessions.js';
import type { Sensitivity } from './sensitivity.js';
import { type SimulationSummary, summarize } from './summary.js';

/** All that a report shows, as plain data. */
export interface Report {
  readonly design: Design;
  readonly check: Check;
  readonly simulation: Simulation;
  readonly summary: SimulationSummary;
  readonly observations: readonly Observation[];
  readonly stories: readonly SampleSession[];
  /** undefined where the design has no dial to turn. */
  readonly sensitivity: Sensitivity | undefined;
}

/**
 * Gathers what a report shows of a simulation that was played.
 *
 * @param limits how far the check of the design goes
 * @param world where it was played, if not by the meeting model
 */
export function reportOn(
  simulation: Simulation,
  sensitivity: Sensitivity | undefined,
  limits: ExploreOptions = {},
  world?: World,
): Report {
  const { design, seed, players } = simulation;
  const summary = summarize(simulation);
  const checked = check(design, limits);
  return {
    design,
    check: checked,
    simulation,
    summary,
    observations: observationsOn(design, summary, checked.exploration.transitions),
    stories: sampleSessions(
      design,
      seed,
      middlePlayer({ dials: design.dials, players: players.map(({ player }) => player) }),
      world,
    ),
    sensitivity,
  };
}
