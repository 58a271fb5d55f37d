import type { Design, Player } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { choosePlayers, simulate } from '../../simulate/simulate.js';
import { runShare, unitOf } from '../figures/estimates.js';
import { betterChance, distributionOf } from '../statistics/distribution.js';
import { confidenceOfEach, type Estimate, shareDifference } from '../statistics/intervals.js';
import { FinishedRuns } from './finished-runs.js';
import type { FitOptions, FittedPlayer } from './fitted.js';
import { withHabits } from './habits.js';

/** How what was played stands to what is simulated, for one player: runs that came to an ending, in both. */
export interface Likeness {
  readonly player: string;
  /** Sessions with such a run. */
  readonly sessions: number;
  readonly what: string;
  readonly unit: 'points' | 'seconds' | 'share';
  readonly played: number;
  readonly simulated: number;
  /** The chance that a run that was played has more than a simulated one; of a share, the difference. */
  readonly difference: Estimate;
  readonly verdict: 'alike' | 'differs' | 'not yet clear';
}

interface PlayedBy {
  readonly fitted: FittedPlayer;
  readonly played: FinishedRuns;
}

/** Runs that fewer sessions than this hold say nothing of how they are spread. */
const fewestSessions = 5;

/**
 * What is called alike: a chance to have more that is off a half by less than a medium effect (Vargha and Delaney 2000), a share that is off by
 * less than ten points.
 */
const margins = { chance: 0.14, share: 0.1 } as const;

/** The intervals of all rows hold at once in 95 of 100 fits (Bonferroni). */
export function likenessOf(
  design: Design,
  asFitted: Design,
  players: readonly PlayedBy[],
  { sessions, seed, progress }: FitOptions,
): Likeness[] {
  const form = formOf(design);
  const comparable = players.filter(
    ({ fitted, played }) => fitted.estimate !== undefined && played.sessions >= fewestSessions,
  );
  const endings = design.screens.flatMap(({ name, ending }, screen) =>
    ending === undefined ? [] : [{ name, screen }],
  );
  const confidence = confidenceOfEach(comparable.length * (2 + endings.length));
  return comparable.flatMap(({ fitted, played }) => {
    const { name } = fitted;
    const usual =
      design.players.find((each) => each.name === name) ?? choosePlayers(design, undefined)[0]!.player;
    const like: Player = {
      ...withHabits(usual, fitted.habits),
      name,
      skill: fitted.estimate!.value,
    };
    const simulated = new FinishedRuns(form);
    simulate(
      { ...asFitted, players: [like] },
      { sessions, seed, progress, onSession: (_, log) => simulated.count(log) },
    );
    const common = { player: name, sessions: played.sessions };
    const spreads = (['score', 'runTime'] as const).flatMap((spread): Likeness[] => {
      const unit = unitOf(design, spread);
      const [one, other] = [distributionOf(played[spread], unit), distributionOf(simulated[spread], unit)];
      const difference = betterChance(played[spread], simulated[spread], confidence);
      if (one === undefined || other === undefined || difference === undefined) return [];
      return [
        {
          ...common,
          what: spread === 'score' ? 'median score' : 'median length of a run',
          unit: spread === 'score' ? 'points' : 'seconds',
          played: one.p50,
          simulated: other.p50,
          difference,
          verdict: verdictOf(difference, 0.5, margins.chance),
        },
      ];
    });
    const ends = endings.flatMap(({ name: screen, screen: index }): Likeness[] => {
      const [one, other] = [played, simulated].map((each) => runShare(each, each.endings, index, confidence));
      if (one === undefined || other === undefined) return [];
      const difference = shareDifference(one, other);
      return [
        {
          ...common,
          what: `runs that end on ${screen}`,
          unit: 'share',
          played: one.value,
          simulated: other.value,
          difference,
          verdict: verdictOf(difference, 0, margins.share),
        },
      ];
    });
    return [...spreads, ...ends];
  });
}

function verdictOf({ low, high }: Estimate, same: number, margin: number): Likeness['verdict'] {
  if (low > same || high < same) return 'differs';
  return low >= same - margin && high <= same + margin ? 'alike' : 'not yet clear';
}
