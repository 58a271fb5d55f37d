import type { ComputedInterval, Dial, Interval, Player } from '../../design/model.js';
import type { DrawForm, Form } from '../../engine/program/form.js';
import { fromDials } from '../../engine/program/lower/lower-expression.js';
import { actKey } from '../../engine/program/lower/lower-things.js';
import { draw, placeKey, type SessionKey } from '../../engine/run/draw.js';
import type { Decide } from '../drivers/decision-context.js';
import { hardest, logarithm, normalDeviate, successChance, threshold } from './chance.js';

/** How one player meets the pieces of one design; a list holds one entry for each piece unless it says otherwise. */
export interface Meeting {
  readonly player: Player;
  readonly meets: readonly ('sought' | 'arrives' | 'never')[];
  /** What decides in place of the player's style and inputs. */
  readonly decide: Decide | undefined;
  /** In logits; for a player that learns, of each of its runs. */
  readonly skills: readonly number[];
  /** Of each piece, in logits; undefined where it is computed. */
  readonly difficulties: readonly (number | undefined)[];
  /** Decides who plays a session, where people differ. */
  readonly personDraw: DrawForm;
  /** A draw below it succeeds: for each piece, and for a player that learns for each piece of each of its runs. 0: it is computed. */
  readonly thresholds: readonly number[];
  /** How much each is sought; 0: it is left alone. */
  readonly weights: readonly number[];
  /** Milliseconds that one attempt takes this player, the least of them where they vary; 0: it is computed. */
  readonly attempts: readonly number[];
  /** How many times an attempt can take, a step of the grid apart; 1 where they do not vary. */
  readonly attemptSteps: readonly number[];
  readonly timingDraws: readonly DrawForm[];
  /** A draw below it leaves after a run that is lost. */
  readonly quitThreshold: number;
  readonly quitDraw: DrawForm;
  /** By the acts of the form: milliseconds from one press to the next, 0: it is not one of this player's; and by which a press puts off. */
  readonly actEvery: readonly number[];
  readonly actTakes: readonly number[];
  /** Milliseconds until it is missed; Infinity: never, or it is computed. */
  readonly lasts: readonly number[];
  /** Of one that is computed, what its choices lie apart. */
  readonly leads: readonly Moments[];
  /** The same from one arrival to the next; undefined: it does not come again. */
  readonly returns: readonly (Moments | undefined)[];
  /** Successes that it takes before the first outcome. */
  readonly hits: readonly number[];
  /** A failed attempt is no outcome. */
  readonly again: readonly boolean[];
  readonly outcomeDraws: readonly DrawForm[];
  readonly leadDraws: readonly DrawForm[];
  /** For each screen, the inputs that the player may choose there, each as often as it is there. */
  readonly inputs: readonly (readonly number[])[];
  readonly inputDraws: readonly DrawForm[];
}

/** `least + step * k` milliseconds, with k from 0 to `choices - 1`. */
interface Moments {
  readonly least: number;
  readonly step: number;
  readonly choices: number;
}

const drawFor = (name: string): DrawForm => ({ name, ...placeKey(name) });

/** The moments that an interval can fall on; of one that is computed, what its choices lie apart. */
export const range = (of: Interval | ComputedInterval): Moments =>
  'seconds' in of
    ? { least: 0, step: of.grid, choices: 1 }
    : { least: of.least, step: of.grid, choices: (of.most - of.least) / of.grid + 1 };

/**
 * The skill of a player, in logits; of one that learns, in each of its runs: the power law of practice (Newell and Rosenbloom 1981), on the
 * odds of a success.
 */
function skillsOf({ skill, learning, runs }: Player, dials: readonly Dial[]): number[] {
  const first = Math.min(hardest, Math.max(-hardest, fromDials(skill, dials)));
  if (learning === 0) return [first];
  return Array.from({ length: runs }, (_, run) => first + learning * logarithm(run + 1));
}

const thresholdsOf = (
  skills: readonly number[],
  difficulties: readonly (number | undefined)[],
): readonly number[] =>
  skills.flatMap((skill) =>
    difficulties.map((difficulty) =>
      difficulty === undefined ? 0 : threshold(successChance(skill, difficulty)),
    ),
  );

/** Who plays one session. */
export type Person = Pick<Meeting, 'skills' | 'thresholds'>;

/** The person who plays a session: of a player whose people differ, one whose skill is drawn around its own. */
export function personOf(meeting: Meeting, key: SessionKey): Person {
  const { player, skills, difficulties, personDraw } = meeting;
  if (player.spread === 0) return meeting;
  const by = player.spread * normalDeviate(draw(key, personDraw, 0));
  const own = skills.map((skill) => skill + by);
  return { skills: own, thresholds: thresholdsOf(own, difficulties) };
}

/** Milliseconds of an attempt, as short or as long as it can be. */
const attemptTime = ({ pace, timing }: Player, takes: number, end: 'least' | 'most'): number =>
  Math.max(1, Math.round(takes * pace * timing[end]));

/** Works out, once for each player, everything about meetings that does not change while it plays. */
export function meetingOf(form: Form, player: Player, decide?: Decide): Meeting {
  const { pieces, screens, dials } = form.design;
  const skills = skillsOf(player, dials);
  const difficulties = pieces.map(({ difficulty }) =>
    typeof difficulty === 'number' ? difficulty : undefined,
  );
  return {
    player,
    meets: pieces.map((piece) => piece.meets),
    decide,
    skills,
    difficulties,
    personDraw: drawFor('person'),
    thresholds: thresholdsOf(skills, difficulties),
    weights: pieces.map(({ name, by }) => (by === undefined ? (player.style.get(name) ?? 1) : 0)),
    actEvery: form.acts.map(({ key }) => {
      const act = player.acts.find((each) => actKey(each) === key);
      return act === undefined ? 0 : Math.max(1, Math.round(act.every * player.pace));
    }),
    actTakes: form.acts.map(({ key }) => player.acts.find((each) => actKey(each) === key)?.takes ?? 0),
    attempts: pieces.map(({ takes }) =>
      typeof takes === 'number' ? attemptTime(player, takes, 'least') : 0,
    ),
    attemptSteps: pieces.map(({ takes }) =>
      typeof takes === 'number'
        ? Math.floor(
            (attemptTime(player, takes, 'most') - attemptTime(player, takes, 'least')) / player.timing.grid,
          ) + 1
        : 1,
    ),
    timingDraws: pieces.map(({ name }) => drawFor(`timing ${name}`)),
    quitThreshold: Math.round(player.quits * 2 ** 32),
    quitDraw: drawFor('quit'),
    lasts: pieces.map(({ lasts }) => (typeof lasts === 'number' ? lasts : Number.POSITIVE_INFINITY)),
    hits: pieces.map((piece) => piece.hits),
    again: pieces.map((piece) => piece.again),
    leads: pieces.map((piece) => range(piece.lead)),
    returns: pieces.map(({ returns }) => returns && range(returns)),
    outcomeDraws: pieces.map((piece) => drawFor(`outcome ${piece.name}`)),
    leadDraws: pieces.map((piece) => drawFor(`lead ${piece.name}`)),
    inputs: form.screens.map((screen, index) => {
      const heard = [...screen.handlers.keys()]
        .filter((event) => form.events[event]!.kind === 'input')
        .sort((a, b) => a - b);
      const chosen = player.inputs.get(screens[index]!.name);
      if (chosen === undefined) return heard;
      return heard.flatMap((event) => Array<number>(chosen.get(form.events[event]!.name) ?? 0).fill(event));
    }),
    inputDraws: screens.map((screen) => drawFor(`input ${screen.name}`)),
  };
}
