import type { Area } from '../../engine/program/build/slots.js';
import type { DrawForm, Form } from '../../engine/program/form.js';
import type { Meeting, Person } from '../meeting/meeting.js';

/** What a program is given of the player that plays: always in one order, so that printed code meets one kind of object. */
export function givenOf(meeting: Meeting) {
  const { weights, practised, actTakes, inputs } = meeting;
  const many = inputs.map((events) => events.length);
  return {
    skills: Float64Array.from(meeting.skills),
    thresholds: Float64Array.from(meeting.thresholds),
    paces: Float64Array.from(meeting.paces),
    attempts: Int32Array.from(meeting.attempts),
    attemptSteps: Int32Array.from(meeting.attemptSteps),
    actEvery: Int32Array.from(meeting.actEvery),
    weights: Float64Array.from(weights),
    practised: Float64Array.from(practised),
    actTakes: Int32Array.from(actTakes),
    inputFirst: Int32Array.from(many, (_, screen) =>
      many.slice(0, screen).reduce((sum, each) => sum + each, 0),
    ),
    inputMany: Int32Array.from(many),
    inputEvents: Int32Array.from(inputs.flat()),
  };
}

/** Puts whoever plays a session in the place of whoever played the last. */
export function takePerson(given: ReturnType<typeof givenOf>, person: Person): void {
  for (const key of ofPerson) given[key].set(person[key]);
}

const ofPerson = ['skills', 'thresholds', 'paces', 'attempts', 'attemptSteps', 'actEvery'] as const;

/** Puts what a program is given where it looks for it. */
export function putGiven(
  areas: readonly Area[],
  given: ReturnType<typeof givenOf>,
  memory: Float64Array,
): void {
  for (const { name, base } of areas) {
    const values = given[name as keyof typeof given] as ArrayLike<number> | undefined;
    if (values !== undefined) memory.set(values, base);
  }
}

/** Every place that asks for draws, in the order of the program. */
export const drawsOf = (
  { draws }: Form,
  { outcomeDraws, leadDraws, inputDraws, timingDraws, quitDraw }: Meeting,
): DrawForm[] => [...draws, ...outcomeDraws, ...leadDraws, ...inputDraws, ...timingDraws, quitDraw];
