import type { Design } from '../../design/model.js';
import type { Form } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { meetingOf } from '../../players/meeting/meeting.js';
import { neverOver } from '../search/limits.js';
import { Forks } from './forks.js';
import { Frontier, type Moment } from './frontier.js';
import { playerToSolve, type SolveOptions, solveDefaults, startOf } from './solve.js';
import { firstInput, SteppedPlay, turnsToNothing } from './stepped-play.js';
import { WayTrees } from './way-tree.js';

/** How a run is played best with the skill and pace of a player. */
export interface BestPlay {
  readonly player: string;
  /** The highest score that can be expected of a run. */
  readonly score: number;
  readonly states: number;
  readonly turns: number;
  /** What there is to choose, in a run that is played so. */
  readonly choices: readonly Choice[];
}

/** Something that the player can turn to or send; `nothing`: it waits for what comes. */
export interface Choice {
  readonly kind: 'piece' | 'input' | 'nothing';
  readonly name: string;
  /** How often a run offers it, and how often it is taken then. */
  readonly offered: number;
  readonly taken: number;
}

/** The same moment is looked at so often, at the most, until nothing in it is worth more. */
const mostSweeps = 1000;

/**
 * The choices that bring the highest expected score, and that score: of every state that any choices lead to, the best that can be expected
 * from there on, worked out from the last moment to the first (value iteration, here backward induction, since time never goes back; Bellman,
 * "Dynamic Programming", 1957). The player chooses what to turn to, or to wait, whenever it is free, and what to send; how well it meets
 * pieces stays its own. It plays one run.
 *
 * @returns undefined where there are more states than may be gone through
 * @throws UsageError for a player that the design does not have, or one whose people differ
 * @throws DesignError where a session runs into rules without end or a number past 2^53
 * @example
 * const best = bestPlay(design, { player: 'veteran' });
 */
export function bestPlay(design: Design, options: Omit<SolveOptions, 'runs'>): BestPlay | undefined {
  const form = formOf(design);
  const found = statesOf(form, design, options);
  if (found === undefined) return undefined;
  const { moments, trees, ways, turns } = found;
  const values = moments.map(({ table }) => new Float64Array(table.length));
  const worth = (moment: number, row: number): number => values[moment]![row]!;
  for (const index of found.latestFirst) {
    const rows = moments[index]!.waiting;
    for (let sweep = 0, isDone = false; !isDone && sweep < mostSweeps; sweep++) {
      isDone = true;
      for (let at = rows.length - 1; at >= 0; at--) {
        const row = rows[at]!;
        const value = trees.best(ways[index]![row]!, worth);
        if (value !== values[index]![row]) isDone = false;
        values[index]![row] = value;
      }
    }
  }
  const unit = 10 ** -(form.counters[form.score]?.places ?? 0);
  return {
    player: options.player,
    score: (startOf(form) + worth(0, 0)) * unit,
    states: moments.reduce((sum, { table }) => sum + table.length, 0),
    turns,
    choices: choicesIn(form, found, worth),
  };
}

interface States {
  /** By number, in the order in which they were found. */
  readonly moments: readonly Moment[];
  readonly latestFirst: readonly number[];
  readonly trees: WayTrees;
  /** By moment and row, where the tree of its turn stands. */
  readonly ways: readonly number[][];
  readonly turns: number;
}

/** Every state that any choices lead to, and all ways on from it. */
function statesOf(
  form: Form,
  design: Design,
  {
    player: name,
    mostTurns = solveDefaults.mostTurns,
    isOver = neverOver,
    progress,
    backend,
  }: Omit<SolveOptions, 'runs'>,
): States | undefined {
  const player = playerToSolve(design, { player: name, runs: 1 });
  const forks = new Forks();
  const play = new SteppedPlay(form, meetingOf(form, player), forks, { mostRuns: 1, backend, decides: true });
  const frontier = new Frontier();
  const numbers = new Map<Moment, number>();
  const moments: Moment[] = [];
  const numberOf = (moment: Moment): number => {
    const known = numbers.get(moment);
    if (known !== undefined) return known;
    numbers.set(moment, moments.length);
    return moments.push(moment) - 1;
  };
  frontier.at(0).add(play.row, play.begin(), 0, 1);
  numberOf(frontier.at(0));
  const trees = new WayTrees();
  const ways: number[][] = [];
  const inOrder: number[] = [];
  let turns = 0;
  for (let next = frontier.next; next !== undefined; next = frontier.next) {
    const { time, moment } = next;
    const number = numberOf(moment);
    inOrder.push(number);
    const own: number[] = [];
    ways[number] = own;
    for (let at = 0; at < moment.waiting.length; at++) {
      const row = moment.waiting[at]!;
      forks.begin();
      do {
        if (turns >= mostTurns || (turns % 1024 === 0 && isOver())) return undefined;
        if (turns % 1024 === 0) progress?.(turns);
        const { table } = moment;
        play.restore(table.numbers, table.begin(row), time);
        play.turn();
        turns++;
        const points = play.log.points.reduce((sum, each) => sum + each, 0);
        if (play.isOver) trees.add(forks.path, { points, moment: -1, row: 0 });
        else {
          const then = frontier.at(play.now);
          const length = play.read();
          trees.add(forks.path, { points, moment: numberOf(then), row: then.add(play.row, length, 0, 1) });
        }
      } while (forks.next());
      own[row] = trees.end();
    }
    frontier.pop();
  }
  return { moments, latestFirst: inOrder.reverse(), trees, ways, turns };
}

/** What is offered and taken in a run that is played best. */
function choicesIn(
  form: Form,
  { moments, latestFirst, trees, ways }: States,
  worth: (moment: number, row: number) => number,
): Choice[] {
  const chances = moments.map(({ table }) => new Float64Array(table.length));
  chances[0]![0] = 1;
  const offered = new Map<number, number>();
  const taken = new Map<number, number>();
  const count = (to: Map<number, number>, option: number, chance: number): void => {
    to.set(option, (to.get(option) ?? 0) + chance);
  };
  for (const index of [...latestFirst].reverse())
    for (const row of moments[index]!.waiting) {
      const chance = chances[index]![row]!;
      if (chance === 0) continue;
      chances[index]![row] = 0;
      trees.follow(ways[index]![row]!, chance, worth, {
        decision(options, chosen, each) {
          for (const option of new Set(options)) count(offered, option, each);
          count(taken, options[chosen]!, each);
        },
        leaf(moment, at, each) {
          chances[moment]![at]! += each;
        },
      });
    }
  return [...offered]
    .sort(([a], [b]) => b - a)
    .map(([option, times]) => ({ ...choiceOf(form, option), offered: times, taken: taken.get(option) ?? 0 }));
}

function choiceOf(form: Form, option: number): Pick<Choice, 'kind' | 'name'> {
  if (option === turnsToNothing) return { kind: 'nothing', name: 'nothing' };
  if (option >= 0) return { kind: 'piece', name: form.pieces[option]!.name };
  return { kind: 'input', name: form.events[firstInput - option]!.name };
}
