import { readsDialsAlone } from '../../design/language/expression-parts.js';
import type { ComputedInterval, Dial, Interval, Player } from '../../design/model.js';
import type { DrawForm, Form, Term } from '../../engine/program/form.js';
import { fromDials } from '../../engine/program/lower/lower-expression.js';
import { actKey } from '../../engine/program/lower/lower-things.js';
import { draw, placeKey, type SessionKey } from '../../engine/run/draw.js';
import type { Decide } from '../drivers/decision-context.js';
import { exponential, hardest, logarithm, normalDeviate, successChance, threshold } from './chance.js';

/** How one player meets the pieces of one design; a list holds one entry for each piece unless it says otherwise. */
export interface Meeting {
  readonly player: Player;
  readonly meets: readonly ('sought' | 'arrives' | 'never')[];
  /** What decides in place of the player's style and inputs. */
  readonly decide: Decide | undefined;
  /** In logits; for a player that learns, of each of its runs. */
  readonly skills: readonly number[];
  /** Factors on the time of an attempt; for a player that practice makes faster, of each of its runs. */
  readonly paces: readonly number[];
  /** What is added to its skill after each number of attempts in a run; empty where nothing is. */
  readonly practised: readonly number[];
  /** When the player takes care. */
  readonly careful: Term | undefined;
  /** Of each piece, in logits; undefined where it changes as a session goes on. */
  readonly difficulties: readonly (number | undefined)[];
  /** Decide who plays a session, where people differ. */
  readonly personDraw: DrawForm;
  readonly paceDraw: DrawForm;
  /** A draw below it succeeds: for each piece, and for a player that learns for each piece of each of its runs. 0: it is computed. */
  readonly thresholds: readonly number[];
  /** How much each is sought; 0: it is left alone. */
  readonly weights: readonly number[];
  /** Milliseconds that one attempt takes a player of pace 1; 0: it is computed. */
  readonly takes: readonly number[];
  /** The same for this player, the least of them where they vary; for one whose pace stays. */
  readonly attempts: readonly number[];
  /** How many times an attempt can take, a step of the grid apart; 1 where they do not vary. */
  readonly attemptSteps: readonly number[];
  readonly timingDraws: readonly DrawForm[];
  /** A draw below it leaves after a run that is lost. */
  readonly quitThreshold: number;
  readonly quitDraw: DrawForm;
  /** By the acts of the form: milliseconds from one press to the next, 0: it is not one of this player's; and by which a press puts off. */
  readonly actEvery: readonly number[];
  /** The first of them for a player of pace 1. */
  readonly actBase: readonly number[];
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

const held = (logits: number): number => Math.min(hardest, Math.max(-hardest, logits));

/**
 * The skill of a player, in logits; of one that learns, in each of its runs: the power law of practice (Newell and Rosenbloom 1981), on the
 * odds of a success.
 */
function skillsOf({ skill, learning, runs }: Player, dials: readonly Dial[]): number[] {
  const first = held(fromDials(skill, dials));
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
export type Person = Pick<
  Meeting,
  'skills' | 'thresholds' | 'paces' | 'attempts' | 'attemptSteps' | 'actEvery'
>;

/** Whether each session of a player is played by somebody else. */
export const peopleDiffer = ({ spread, paceSpread }: Player): boolean => spread > 0 || paceSpread > 0;

/** The person who plays a session: of a player whose people differ, one whose skill and pace are drawn around its own. */
export function personOf(meeting: Meeting, key: SessionKey): Person {
  const { player, personDraw, paceDraw } = meeting;
  if (!peopleDiffer(player)) return meeting;
  const bySkill = player.spread * normalDeviate(draw(key, personDraw, 0));
  const byPace = exponential(player.paceSpread * normalDeviate(draw(key, paceDraw, 0)));
  const skills = meeting.skills.map((skill) => skill + bySkill);
  const paces = meeting.paces.map((pace) => pace * byPace);
  return { skills, paces, ...heldOf(meeting, skills, paces) };
}

/** The power law of practice (Newell and Rosenbloom 1981), on the time that something takes. */
const pacesOf = ({ pace, paceLearning, runs }: Player): number[] =>
  paceLearning === 0
    ? [pace]
    : Array.from({ length: runs }, (_, run) => pace * exponential(-paceLearning * logarithm(run + 1)));

/** Attempts of a run after which practice adds nothing more to skill. */
export const mostPractised = 1000;

/** Milliseconds: longer than any session, so that what takes longer still never ends either. */
export const longestTime = 500_000_000;

/** Milliseconds that something takes at a pace. */
const timeAt = (takes: number, pace: number): number =>
  Math.min(longestTime, Math.max(1, Math.round(takes * pace)));

/** What stays the same for as long as skill and pace do. */
function heldOf(
  { player, difficulties, takes, actBase }: Pick<Meeting, 'player' | 'difficulties' | 'takes' | 'actBase'>,
  skills: readonly number[],
  paces: readonly number[],
): Pick<Meeting, 'thresholds' | 'attempts' | 'attemptSteps' | 'actEvery'> {
  const { least, most, grid } = player.timing;
  const pace = paces[0]!;
  const attempts = takes.map((each) => (each === 0 ? 0 : timeAt(each * pace, least)));
  return {
    thresholds: thresholdsOf(skills, difficulties),
    attempts,
    attemptSteps: takes.map((each, piece) =>
      each === 0 ? 1 : Math.floor((timeAt(each * pace, most) - attempts[piece]!) / grid) + 1,
    ),
    actEvery: actBase.map((every) => (every === 0 ? 0 : timeAt(every, pace))),
  };
}

/** Works out, once for each player, everything about meetings that does not change while it plays. */
export function meetingOf(form: Form, player: Player, decide?: Decide): Meeting {
  const { pieces, screens, dials } = form.design;
  const skills = skillsOf(player, dials);
  const paces = pacesOf(player);
  const difficulties = pieces.map(({ difficulty }) =>
    typeof difficulty === 'number' || readsDialsAlone(difficulty)
      ? held(fromDials(difficulty, dials))
      : undefined,
  );
  const { practice, caution } = player;
  const takes = pieces.map(({ takes }) => (typeof takes === 'number' ? takes : 0));
  const actOf = form.acts.map(({ key }) => player.acts.find((each) => actKey(each) === key));
  const actBase = actOf.map((act) => act?.every ?? 0);
  return {
    player,
    paces,
    practised: Array.from(
      { length: practice === 0 ? 0 : mostPractised + 1 },
      (_, attempts) => practice * logarithm(attempts + 1),
    ),
    careful: caution && form.lowerTerm(caution.condition),
    takes,
    actBase,
    ...heldOf({ player, difficulties, takes, actBase }, skills, paces),
    meets: pieces.map((piece) => piece.meets),
    decide,
    skills,
    difficulties,
    personDraw: drawFor('person'),
    paceDraw: drawFor('person pace'),
    weights: pieces.map(({ name, by }) => (by === undefined ? (player.style.get(name) ?? 1) : 0)),
    actTakes: actOf.map((act) => act?.takes ?? 0),
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
