import jstat from 'jstat';
import { type Estimate, ratioOfVariances, studentDeviate, usualConfidence } from '../statistics/intervals.js';

/** The time that an attempt took which began as soon as the one before it was over. */
export interface TimedAttempt {
  readonly session: number;
  /** The natural logarithm of which run of its session it was made in. */
  readonly practice: number;
  /** Milliseconds that it took, and that it takes a player of pace 1. */
  readonly took: number;
  readonly takes: number;
}

/** What the times of attempts say of a player; undefined: too few tell. */
export interface FittedPace {
  /** A factor on the time of attempts, in the first run. */
  readonly pace: Estimate;
  readonly paceLearning: Estimate | undefined;
  /** The standard deviation of the logarithm of pace from one session to the next. */
  readonly paceSpread: Estimate | undefined;
  /** How far attempts go off their usual time either way, as a share of it, where all times between are as likely. */
  readonly timing: Estimate;
}

/** Fewer sessions, or attempts beyond the first of each session, say nothing of how times vary. */
const fewestSessions = 5;
const fewestAttempts = 20;

/**
 * What the times of attempts say: the pace as the middle of those of sessions (van der Linden 2006); practice by its power law within sessions
 * (Newell and Rosenbloom 1981), with an error by session; and what varies between sessions and within them, by analysis of variance (Searle,
 * Casella and McCulloch, "Variance Components", 1992), of the logarithms between and of the times themselves within.
 */
export function fitPace(attempts: readonly TimedAttempt[]): FittedPace | undefined {
  const bySession = new Map<number, TimedAttempt[]>();
  for (const attempt of attempts) {
    const own = bySession.get(attempt.session);
    if (own === undefined) bySession.set(attempt.session, [attempt]);
    else own.push(attempt);
  }
  if (bySession.size < fewestSessions || attempts.length - bySession.size < fewestAttempts) return undefined;
  const sessions = [...bySession.values()];
  const paceLearning = learningOf(sessions);
  const slope = paceLearning !== undefined && isTold(paceLearning) ? paceLearning.value : 0;
  // As they would have been in the first run.
  const firstRun = sessions.map((own) =>
    own.map(({ took, takes, practice }) => ({ took: took * Math.exp(slope * practice), takes })),
  );
  return { ...spreadsOf(firstRun), pace: paceOf(firstRun), paceLearning };
}

type Timed = Pick<TimedAttempt, 'took' | 'takes'>;

/** Whether an interval leaves nothing out. */
export const isTold = ({ low, high }: Estimate): boolean => low > 0 || high < 0;

const sumOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0);
const meanOf = (values: readonly number[]): number => sumOf(values) / values.length;

function learningOf(sessions: readonly (readonly TimedAttempt[])[]): Estimate | undefined {
  const centred = sessions.map((own) => {
    const [run, time] = [
      meanOf(own.map(({ practice }) => practice)),
      meanOf(own.map(({ took, takes }) => Math.log(took / takes))),
    ];
    return own.map(({ practice, took, takes }) => ({ x: practice - run, y: Math.log(took / takes) - time }));
  });
  const squares = sumOf(centred.flat().map(({ x }) => x * x));
  const speaking = centred.filter((own) => own.some(({ x }) => Math.abs(x) > 1e-9)).length;
  if (speaking < fewestSessions) return undefined;
  const slope = -sumOf(centred.flat().map(({ x, y }) => x * y)) / squares;
  const ofSessions = centred.map((own) => sumOf(own.map(({ x, y }) => x * (y + slope * x))));
  const error =
    Math.sqrt((sumOf(ofSessions.map((each) => each * each)) * speaking) / (speaking - 1)) / squares;
  const reach = studentDeviate(usualConfidence, speaking - 1) * error;
  return { value: slope, low: slope - reach, high: slope + reach };
}

/** The middle of the paces of sessions, whose logarithms are normal. */
function paceOf(sessions: readonly (readonly Timed[])[]): Estimate {
  const logs = sessions.map((own) =>
    Math.log(sumOf(own.map(({ took }) => took)) / sumOf(own.map(({ takes }) => takes))),
  );
  const middle = meanOf(logs);
  const variance = sumOf(logs.map((log) => (log - middle) ** 2)) / (logs.length - 1);
  const reach = studentDeviate(usualConfidence, logs.length - 1) * Math.sqrt(variance / logs.length);
  return { value: Math.exp(middle), low: Math.exp(middle - reach), high: Math.exp(middle + reach) };
}

function spreadsOf(sessions: readonly (readonly Timed[])[]): Pick<FittedPace, 'timing' | 'paceSpread'> {
  const count = sumOf(sessions.map(({ length }) => length));
  const degrees = count - sessions.length;
  const ratios = sessions.map((own) => own.map(({ took, takes }) => took / takes));
  const relative = ratios.flatMap((own) => own.map((each) => each / meanOf(own) - 1));
  const varies = sumOf(relative.map((each) => each * each));
  // Of an even draw between 1 - h and 1 + h the variance is h * h / 3.
  const width = (variance: number): number => Math.sqrt(3 * variance);
  const chi = (chance: number): number => jstat.chisquare.inv(chance, degrees);
  const rest = (1 - usualConfidence) / 2;
  const timing = {
    value: width(varies / degrees),
    low: width(varies / chi(1 - rest)),
    high: width(varies / chi(rest)),
  };
  const logs = ratios.map((own) => own.map(Math.log));
  const within = sumOf(logs.flatMap((own) => own.map((each) => (each - meanOf(own)) ** 2))) / degrees;
  const all = meanOf(logs.flat());
  const between = sumOf(logs.map((own) => own.length * (meanOf(own) - all) ** 2)) / (sessions.length - 1);
  const size = (count - sumOf(logs.map((own) => own.length ** 2)) / count) / (sessions.length - 1);
  // Times are whole milliseconds: what varies by less than that does not vary.
  const noise = Math.max(within, 1e-7);
  const ofRatio = (found: number): number => Math.sqrt(Math.max(0, (found - 1) / size) * noise);
  const found = between / noise;
  const f = (chance: number): number => ratioOfVariances(chance, sessions.length - 1, degrees);
  return {
    timing,
    paceSpread: {
      value: ofRatio(found),
      low: ofRatio(found / f(1 - rest)),
      high: ofRatio(found / f(rest)),
    },
  };
}
