import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type BackendName, DesignError, readDesign, Session } from '../../src/index.js';
import { designText, happenings } from '../support/generated-designs.js';
import { Reference } from '../support/reference.js';
import { runs } from '../support/runs.js';

type Happening = string | number;

const faultOf = (error: unknown): string => {
  if (error instanceof DesignError) return error.problems[0]!.code;
  return (error as Error).message;
};

/** Every state of a session, one line for each happening; a fault ends it. */
function tellSession(
  text: string,
  seed: number,
  happened: readonly Happening[],
  backend: BackendName,
  spawns: boolean,
): string[] {
  const told: string[] = [];
  try {
    const session = new Session(readDesign(text), { seed, backend, spawns });
    const log: string[] = [];
    session.listen((step) => log.push(...step.sequence, ...step.cues, ...step.popups));
    const { design } = session;
    const state = (): string =>
      JSON.stringify([
        session.time,
        session.screen,
        session.level,
        Object.values(session.counters),
        design.timers.map((timer) => session.timer(timer.name)),
        Object.values(session.present),
        [session.course.passed, session.course.checkpoint, session.course.pieces.map((each) => each ?? null)],
        log.splice(0).sort(),
      ]);
    told.push(state());
    for (const each of happened) {
      if (typeof each === 'number') session.advance(each);
      else told.push(session.send(each));
      told.push(state());
    }
  } catch (error) {
    told.push(faultOf(error));
  }
  return told;
}

function tellReference(
  text: string,
  seed: number,
  happened: readonly Happening[],
  spawns: boolean,
): string[] {
  const told: string[] = [];
  try {
    const design = readDesign(text);
    const reference = new Reference(design, seed, spawns);
    reference.log.length = 0;
    const hasCourse = design.levels.some((level) => level.course.length > 0);
    const seconds = ([timer, due]: [string, number]): number =>
      due === Number.POSITIVE_INFINITY ? 0 : (due - reference.clock(timer)) / 1000;
    const state = (): string =>
      JSON.stringify([
        reference.now,
        reference.screen,
        reference.level + 1,
        design.counters.map(({ name, words }) => {
          const held = reference.counters.get(name)!;
          return words[held as number] ?? held;
        }),
        [...reference.timers].map(seconds),
        [...reference.present.values()],
        [
          reference.coursePassed,
          reference.checkpoint,
          hasCourse ? reference.course.map((each) => each ?? null) : [],
        ],
        reference.log
          .splice(0)
          .map((line) => line.replace(/^(rule|cue|popup) /, ''))
          .sort(),
      ]);
    told.push(state());
    for (const each of happened) {
      if (typeof each === 'number') reference.advance(reference.now + each);
      else told.push(reference.send(each));
      told.push(state());
    }
  } catch (error) {
    told.push(faultOf(error));
  }
  return told;
}

describe('one meaning, whatever runs it', () => {
  const seeds = fc.integer({ min: 0, max: 2 ** 31 });

  /** Whether the design's own spawns make pieces appear, or a game does. */
  const mostly = fc.nat({ max: 4 }).map((drawn) => drawn > 0);

  test('printed and interpreted, a program agrees with the reference reading, state by state', () => {
    fc.assert(
      fc.property(designText, happenings, seeds, mostly, (text, happened, seed, spawns) => {
        const expected = tellReference(text, seed, happened, spawns);
        expect(tellSession(text, seed, happened, 'printed', spawns)).toEqual(expected);
        expect(tellSession(text, seed, happened, 'interpreted', spawns)).toEqual(expected);
      }),
      runs(600),
    );
  });

  test('at the edge of numbers too: what is clamped, what is a fault, and the sign of a zero', () => {
    const edge = fc.constantFrom(
      2 ** 53,
      -(2 ** 53),
      2 ** 53 - 1,
      1,
      0,
      '-(a / (-0))',
      '1 / (-(0 * b))',
      '-0',
      'b * 1000000000000000',
      'a + 9007199254740992 - c',
      '0 / a',
    );
    const amounts = fc.dictionary(fc.constantFrom('a', 'b', 'c'), edge, { minKeys: 1 });
    const effects = fc.array(
      fc.oneof(
        amounts.map((add) => ({ add })),
        amounts.map((set) => ({ set })),
      ),
      {
        minLength: 1,
        maxLength: 3,
      },
    );
    fc.assert(
      fc.property(
        effects,
        effects,
        fc.array(fc.constantFrom('input.one', 'input.two'), { maxLength: 6 }),
        (one, two, sent) => {
          const text = JSON.stringify({
            counters: { a: { max: 2 }, b: { start: 1, min: 0, max: 9 }, c: {} },
            rules: [
              { when: 'input.one', do: one },
              { when: 'input.two', do: two },
              { if: '1 / a < 0', do: [{ set: { a: 2 } }] },
            ],
          });
          const expected = tellReference(text, 1, sent, true);
          expect(tellSession(text, 1, sent, 'printed', true)).toEqual(expected);
          expect(tellSession(text, 1, sent, 'interpreted', true)).toEqual(expected);
        },
      ),
      runs(300),
    );
  });
});
