import { countersIn } from '../design/language/expression-parts.js';
import { showTrigger, transitionName } from '../design/language/trigger.js';
import { type Design, spans } from '../design/model.js';
import { fromDials } from '../engine/program/lower/lower-expression.js';
import { mergingOf } from '../engine/session/merging.js';
import { endsByFailing } from '../measure/failing.js';
import { boundsOf, paceStep } from '../measure/session-log.js';
import type { SpreadName, Tally } from '../measure/tally.js';
import type { Simulation } from '../simulate/simulate.js';
import { type Climb, climbs } from './difficulty.js';
import { failing, ofRatio, type Played, runShare, scaled, unitOf } from './figures/estimates.js';
import { meanOfRuns, pointsShare } from './figures/points.js';
import { rareInMean, rarePoints } from './figures/rare-points.js';
import { type Distribution, distributionOf } from './statistics/distribution.js';
import {
  type Estimate,
  neverSeenBound,
  ratio,
  share,
  speakingSessions,
  withRare,
} from './statistics/intervals.js';
import { isTied, outscores, skillShare } from './statistics/skill.js';
import { judgeTargets, type TargetResult } from './targets.js';

export interface PlayerSummary {
  readonly sessions: number;
  readonly runs: number;
  /** The score at the end of a run; null where the design keeps none or no run was played. */
  readonly score: Distribution | null;
  /** Seconds of session time from the start of a run to its end. */
  readonly runSeconds: Distribution | null;
  readonly sessionSeconds: Distribution | null;
  readonly livesLeft: Distribution | null;
  /** Seconds from the start of a run, of the runs in which it came. */
  readonly firstPoint: Distribution | null;
  readonly firstLoss: Distribution | null;
  /** The longest time of a run without a point, in seconds. */
  readonly drySpell: Distribution | null;
  /** The most successes in a row at meeting pieces. */
  readonly streak: Distribution | null;
  /** Share of runs that ended on each ending screen. */
  readonly endings: { readonly [screen: string]: Estimate };
  /** Share of runs that the player left before an ending. */
  readonly abandoned: Estimate;
  /** Share of runs that each transition brought to an ending. */
  readonly causes: readonly (TransitionName & { readonly share: Estimate })[];
  readonly levels: readonly LevelSummary[];
  readonly transitions: readonly (TransitionName & {
    readonly count: number;
    /** Sessions in which it was taken. */
    readonly sessions: number;
  })[];
  readonly rules: readonly {
    readonly name: string;
    readonly when: readonly string[];
    readonly index: number;
    readonly fired: number;
    /** Sessions in which it fired. */
    readonly sessions: number;
    readonly points: number;
    /** Of all points that were gained; null where none were. */
    readonly share: Estimate | null;
  }[];
  /** Points for ten seconds of a run, by how long it has lasted, and the share of runs that last so long. */
  readonly pace: readonly {
    readonly from: number;
    readonly to: number;
    readonly points: Estimate;
    readonly runs: number;
  }[];
  /** Share of play in which a counter sits at a bound. */
  readonly bounds: readonly {
    readonly counter: string;
    readonly bound: 'min' | 'max';
    readonly value: number;
    readonly share: Estimate;
  }[];
  /** Rules and transitions that no session came to; each comes in at most this share of sessions (95 %). */
  readonly unseen: {
    readonly rules: readonly string[];
    readonly transitions: readonly string[];
    readonly atMost: number;
  };
}

export interface TransitionName {
  readonly from: string;
  readonly to: string;
  readonly trigger: string;
  readonly index: number;
}

export interface LevelSummary {
  readonly level: number;
  readonly name: string;
  /** Share of runs that reach it. */
  readonly reached: Estimate;
  /** Share of those that end there without a win; null where none came, or no ending of the design says that a run has failed. */
  readonly fails: Estimate | null;
  /** How often a run that reaches it tries it; null where none did. */
  readonly tries: Estimate | null;
  /** Next to the level before; null where nothing is sure. */
  readonly climb: Climb | null;
}

export interface SimulationSummary {
  readonly design: string;
  readonly seed: number;
  readonly players: { readonly [name: string]: PlayerSummary };
  /** Share of the variance of scores that is skill; null for one player, or scores that do not differ. */
  readonly skill: Estimate | null;
  /** The chance that a run of one player scores more than one of the other, half of the ties with it. */
  readonly wins: readonly {
    readonly of: string;
    readonly over: string;
    readonly chance: Estimate;
    /** Whether all runs of both came to one and the same score. */
    readonly isTied: boolean;
    /** Whether the design keeps the lowest score as its best, as of strokes or seconds. */
    readonly isLowBest: boolean;
  }[];
  readonly targets: readonly TargetResult[];
}

/**
 * What a simulation says, as plain data. Intervals hold the true value in 95 of 100 simulations; those of targets all at once.
 *
 * @param looks how often the targets are judged, where sessions are added until they are clear
 * @example
 * const { players } = summarize(simulate(design, { sessions: 1000, seed: 1 }));
 * const { p50, intervals } = players.regular!.score!; // the median score, and the intervals of all quantiles
 */
export function summarize(simulation: Simulation, looks = 1): SimulationSummary {
  const { design, seed, players } = simulation;
  return {
    design: design.title,
    seed,
    players: Object.fromEntries(
      players.map((played) => [played.player.name, summarizePlayer(design, played)]),
    ),
    skill:
      skillShare(
        players.map(({ tally }) => tally.scores),
        simulation.sessions,
      ) ?? null,
    wins: winsOf(design, players),
    targets: judgeTargets(simulation, looks),
  };
}

function winsOf(design: Design, players: readonly Played[]): SimulationSummary['wins'] {
  const skill = ({ player }: Played): number => fromDials(player.skill, design.dials);
  const isLowBest = keepsLowest(design);
  return players.flatMap((one, index) =>
    players.slice(index + 1).flatMap((other) => {
      // The more skilled first, so that a chance below one half stands out.
      const [better, worse] = skill(one) >= skill(other) ? [one, other] : [other, one];
      const [mine, theirs] = [better.tally.scores, worse.tally.scores];
      const chance = outscores(mine, theirs, better.tally.sessions);
      const names = { of: better.player.name, over: worse.player.name };
      return chance === undefined ? [] : [{ ...names, chance, isTied: isTied(mine, theirs), isLowBest }];
    }),
  );
}

/** Whether what a design keeps for longer than a run takes of the score what is lower. */
const keepsLowest = (design: Design): boolean =>
  design.counters.some(
    ({ name, keep }) =>
      spans.indexOf(keep) > spans.indexOf('run') &&
      mergingOf(design, name) === 'lowest' &&
      [...design.rules, ...design.transitions].some(({ effects }) =>
        effects.some(
          (effect) =>
            effect.kind === 'set' &&
            effect.writes.some(
              (write) => write.name === name && countersIn(write.amount).includes(design.score ?? ''),
            ),
        ),
      ),
  );

const nothing: Estimate = { value: 0, low: 0, high: 1 };

function summarizePlayer(design: Design, played: Played): PlayerSummary {
  const { tally } = played;
  const spread = (name: SpreadName): Distribution | null =>
    distributionOf(tally.spreads[name], unitOf(design, name), meanOfRuns(design, played, name)) ?? null;
  const named = design.transitions.map((transition): TransitionName => {
    const { from, to, index } = transition;
    return { from, to, trigger: showTrigger(transition), index };
  });
  const of = (counts: Tally['visits'], index: number): Estimate => runShare(tally, counts, index) ?? nothing;
  return {
    sessions: tally.sessions,
    runs: tally.runs,
    score: spread('score'),
    runSeconds: spread('runTime'),
    sessionSeconds: spread('sessionTime'),
    livesLeft: spread('lives'),
    firstPoint: spread('firstPoint'),
    firstLoss: spread('firstLoss'),
    drySpell: spread('drySpell'),
    streak: spread('streak'),
    endings: Object.fromEntries(
      design.screens.flatMap((screen, index) =>
        screen.ending === undefined ? [] : [[screen.name, of(tally.endings, index)]],
      ),
    ),
    abandoned: of(tally.endings, design.screens.length),
    causes: named.flatMap((transition, at) =>
      tally.causes.hits[at] === 0 ? [] : [{ ...transition, share: of(tally.causes, at) }],
    ),
    levels: levelsOf(design, tally),
    transitions: named.map((transition, at) => ({
      ...transition,
      count: tally.taken[at]!,
      sessions: tally.takenIn[at]!,
    })),
    rules: design.rules.map(({ name, heard }, index) => ({
      name,
      when: heard,
      index,
      fired: tally.fired[index]!,
      sessions: tally.firedIn[index]!,
      points: tally.points.value(index) * unitOf(design, 'score'),
      share: pointsShare(design, tally, index) ?? null,
    })),
    pace: paceOf(design, tally),
    bounds: boundsSummary(design, tally),
    unseen: {
      rules: design.rules.flatMap(({ name, healthOf }, at) =>
        healthOf === undefined && tally.fired[at] === 0 ? [name] : [],
      ),
      transitions: named.flatMap((_, at) => (tally.taken[at] === 0 ? [transitionName(design, at)] : [])),
      atMost: neverSeenBound(tally.sessions),
    },
  };
}

/** The levels of the list, and past it as far as any run came. */
function levelsOf(design: Design, tally: Tally): LevelSummary[] {
  const { hits } = tally.reached;
  const furthest = hits.findLastIndex((runs) => runs > 0) + 1;
  const count = Math.min(hits.length, Math.max(design.levels.length, furthest));
  const isFailing = endsByFailing(design);
  const fails = Array.from({ length: count }, (_, level) => (isFailing ? failing(tally, level) : undefined));
  const steps = climbs(fails);
  return fails.map((fail, level) => ({
    level: level + 1,
    name: design.levels[Math.min(level, design.levels.length - 1)]!.name,
    reached: runShare(tally, tally.reached, level) ?? nothing,
    fails: fail ?? null,
    tries: ofRatio(tally.sessions, tally.tries, level, ratio) ?? null,
    climb: steps[level] ?? null,
  }));
}

/** Parts of a run that a smaller share of the runs reaches are left out, and so are those of too few sessions. */
const leastRuns = 0.01;
const leastSessions = 20;

function paceOf(design: Design, tally: Tally): PlayerSummary['pace'] {
  const unit = unitOf(design, 'score');
  const { pace, lasting, runs, sessions } = tally;
  const seconds = paceStep / 1000;
  const rare = rarePoints(design, tally);
  return Array.from({ length: pace.length }, (_, part) => part).flatMap((part) => {
    const share = lasting[part]! / runs;
    const speaking = ofRatio(sessions, pace, part, speakingSessions);
    const points = ofRatio(sessions, pace, part, ratio);
    if (points === undefined || speaking! < leastSessions || share < leastRuns) return [];
    const worth = unit * paceStep;
    return [
      {
        from: part * seconds,
        to: (part + 1) * seconds,
        points: scaled(withRare(points, rareInMean(rare, points.value, 1 / pace.all.value(part))), worth),
        runs: share,
      },
    ];
  });
}

function boundsSummary(design: Design, tally: Tally): PlayerSummary['bounds'] {
  return boundsOf(design).flatMap(({ counter, value }, index) => {
    const { name, places, max } = design.counters[counter]!;
    const part = ofRatio(tally.sessions, tally.held, index, share);
    if (part === undefined) return [];
    const written = value / 10 ** places;
    return [{ counter: name, bound: written === max ? 'max' : 'min', value: written, share: part } as const];
  });
}
