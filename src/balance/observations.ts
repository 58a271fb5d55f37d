import type { Design } from '../design/model.js';
import type { PlayerSummary, SimulationSummary } from './summary.js';

/** Something about how a design plays that a designer may want otherwise, and what would change it. */
export interface Observation {
  /** Undefined: it is about all players. */
  readonly player: string | undefined;
  readonly what: string;
  readonly remedy: string;
}

/** From where on something is remarked on; shares, but for the last. */
export const remarkLimits = {
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
} as const;

/** What stands out in a simulation, where its intervals leave no other reading. */
export function observationsOn(design: Design, summary: SimulationSummary): Observation[] {
  const players = Object.entries(summary.players);
  return [
    ...players.flatMap(([name, player]) => remarksOnPlayer(name, player)),
    ...remarksOnAll(design, summary),
  ];
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;

function remarksOnPlayer(player: string, summary: PlayerSummary): Observation[] {
  const { levels, rules, bounds, drySpell, runSeconds } = summary;
  const limits = remarkLimits;
  const observations: Observation[] = [];
  const add = (what: string, remedy: string): void => {
    observations.push({ player, what, remedy });
  };
  levels.forEach(({ name, fails, climb }, index) => {
    const before = levels[index - 1]?.fails;
    if (climb === 'jumps' && fails !== null)
      add(
        `${name} is much harder than the level before: ${percent(fails.value)} of the runs that come to it fail there, after ${percent(before!.value)}.`,
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
      `"${main.name}" makes ${percent(main.share!.value)} of all points; the other rules hardly matter.`,
      'Give the others more points, or let what they wait for come more often.',
    );
  for (const { counter, bound, value, share } of bounds)
    if (bound === 'max' && share.low > limits.atMax)
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

function remarksOnAll(design: Design, { players, skill }: SimulationSummary): Observation[] {
  const observations: Observation[] = [];
  const add = (what: string, remedy: string): void => {
    observations.push({ player: undefined, what, remedy });
  };
  if (skill !== null && skill.high < remarkLimits.leastSkill)
    add(
      `Skill hardly matters: ${percent(skill.value)} of what makes scores differ lies between the players.`,
      'Let difficulties differ, or reward successes in a row.',
    );
  if (skill !== null && skill.low > remarkLimits.mostSkill)
    add(
      `Luck hardly matters: ${percent(skill.value)} of what makes scores differ lies between the players, so that the weaker cannot win.`,
      'Let something be left to chance: random intervals, a rare piece worth much.',
    );
  const all = Object.values(players);
  const won = design.screens.filter(({ ending }) => ending === 'won').map(({ name }) => name);
  for (const ending of won)
    if (all.every(({ endings }) => endings[ending]!.high < 1 - remarkLimits.hardest))
      add(`Nobody comes to ${ending}.`, 'Ask for less on the way there; jocus tune finds how much less.');
  const lost = design.screens.filter(({ ending }) => ending === 'lost').map(({ name }) => name);
  if (
    lost.length > 0 &&
    all.every(({ endings }) => lost.every((name) => endings[name]!.high < remarkLimits.easiest))
  )
    add('Hardly anybody ever loses.', 'Let hazards come more often, or take more.');
  return observations;
}
