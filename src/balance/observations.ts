import type { Design } from '../design/model.js';
import { turnableDials } from '../design/settings.js';
import type { Verdict } from '../explore/evidence/verdict.js';
import type { PlayerSummary, SimulationSummary } from './summary.js';

/** Something about how a design plays that a designer may want otherwise, and what would change it. */
export interface Observation {
  /** Undefined: it is about all players. */
  readonly player: string | undefined;
  readonly what: string;
  readonly remedy: string;
}

/** From where on something is remarked on; shares, but for the last. */
const remarkLimits = {
  /** Of points from one rule. */
  oneRule: 0.75,
  /** Of play with a counter at its max. */
  atMax: 0.5,
  /** Of a run without a point, by medians. */
  drySpell: 0.4,
  /** Of the differences of scores: less is luck alone, more leaves nothing to chance. */
  leastSkill: 0.1,
  mostSkill: 0.95,
  /** Of runs that fail at a level: nearly none, nearly all. */
  easiest: 0.02,
  hardest: 0.98,
  /** Of runs that are left before an ending. */
  left: 0.5,
} as const;

/** What is proved of the transitions of a design. */
type Proved = readonly { readonly to: string; readonly verdict: Verdict }[];

/**
 * What stands out in a simulation, where its intervals leave no other reading.
 *
 * @param proved what is proved of the transitions: to an ending that cannot be reached, no number leads
 */
export function observationsOn(
  design: Design,
  summary: SimulationSummary,
  proved: Proved = [],
): Observation[] {
  const players = Object.entries(summary.players);
  return [
    ...players.flatMap(([name, player]) => remarksOnPlayer(design, name, player)),
    ...remarksOnAll(design, summary, proved),
  ];
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;

function remarksOnPlayer(design: Design, player: string, summary: PlayerSummary): Observation[] {
  const { levels, rules, bounds, drySpell, runSeconds, abandoned } = summary;
  const limits = remarkLimits;
  const observations: Observation[] = [];
  const add = (what: string, remedy: string): void => {
    observations.push({ player, what, remedy });
  };
  if (abandoned.low > limits.left)
    add(
      `${percent(abandoned.value)} of runs are left before they reach an ending.`,
      'Give the game an end that comes sooner, or the player more patience; what is said of endings holds for the others only.',
    );
  levels.forEach(({ name, fails, climb }, index) => {
    const before = levels[index - 1]?.fails;
    if (climb === 'jumps' && fails !== null)
      add(
        `${name} is much harder than the level before: ${percent(fails.value)} of the runs that reach it fail there, after ${percent(before!.value)}.`,
        'Ask for less there, give it more time, or let what is new in it come one thing at a time.',
      );
    if (climb === 'drops' && fails !== null)
      add(
        `${name} is easier than the level before: ${percent(fails.value)} fail there, after ${percent(before!.value)}.`,
        'Put it earlier, or ask for more there.',
      );
    if (fails !== null && fails.low > limits.hardest && levels.length > 1)
      add(`Nearly nobody gets past ${name}.`, 'Lower its quota, or its difficulty, until some do.');
  });
  const main = rules.find(({ share }) => share !== null && share.low > limits.oneRule);
  if (main !== undefined && rules.filter(({ points }) => points > 0).length > 1)
    add(
      `"${main.name}" makes ${percent(main.share!.value)} of all points.`,
      'If the other rules are to matter, give them more points, or let what they wait for come more often.',
    );
  for (const { counter, bound, value, share } of bounds)
    if (bound === 'max' && share.low > limits.atMax && !beginsAt(design, counter, value))
      add(
        `${counter} sits at its max of ${value} for ${percent(share.value)} of play, where nothing can add to it.`,
        'Raise the max, or let it grow more slowly.',
      );
  if (drySpell !== null && runSeconds !== null && runSeconds.p50 > 0) {
    const part = drySpell.p50 / runSeconds.p50;
    if (part > limits.drySpell)
      add(
        `The longest time without a point is ${percent(part)} of a run: ${drySpell.p50.toFixed(1)} of ${runSeconds.p50.toFixed(1)} seconds.`,
        'Let more appear, or let it be worth something sooner.',
      );
  }
  return observations;
}

/** Whether a counter is full from the start, as lives are: it sits there until something is lost. */
function beginsAt(design: Design, counter: string, value: number): boolean {
  const { start } = design.counters.find(({ name }) => name === counter)!;
  return start.kind === 'number' && start.value === value;
}

function remarksOnAll(design: Design, { players, skill }: SimulationSummary, proved: Proved): Observation[] {
  const observations: Observation[] = [];
  const add = (what: string, remedy: string): void => {
    observations.push({ player: undefined, what, remedy });
  };
  if (skill !== null && skill.high < remarkLimits.leastSkill)
    add(
      `Skill hardly matters: ${percent(skill.value)} of what makes scores differ lies between the players.`,
      design.pieces.some(({ isSkilled }) => isSkilled)
        ? 'Let difficulties differ, or reward successes in a row.'
        : 'No piece asks for skill: give some a difficulty, or say which of their outcomes is the success.',
    );
  if (skill !== null && skill.low > remarkLimits.mostSkill)
    add(
      `Luck hardly matters: ${percent(skill.value)} of what makes scores differ lies between the players, so that the weaker cannot win.`,
      'Let something be left to chance: random intervals, a rare piece worth much.',
    );
  const all = Object.values(players);
  const won = design.screens.filter(({ ending }) => ending === 'won').map(({ name }) => name);
  const isUnreachable = (screen: string): boolean => {
    const ways = proved.filter(({ to }) => to === screen);
    return ways.length > 0 && ways.every(({ verdict }) => verdict === 'unreachable');
  };
  const mayTune = turnableDials(design).length > 0;
  for (const ending of won)
    if (
      !isUnreachable(ending) &&
      all.every(({ endings }) => endings[ending]!.high < 1 - remarkLimits.hardest)
    )
      add(
        `Nobody reaches ${ending}.`,
        `Ask for less on the way there${mayTune ? '; jocus tune finds how much less' : ''}.`,
      );
  const lost = design.screens.filter(({ ending }) => ending === 'lost').map(({ name }) => name);
  if (
    lost.length > 0 &&
    all.every(({ abandoned }) => abandoned.high < remarkLimits.left) &&
    all.every(({ endings }) => lost.every((name) => endings[name]!.high < remarkLimits.easiest))
  )
    add('Hardly anybody ever loses.', 'Let hazards come more often, or take more.');
  return observations;
}
