import {
  and,
  ask,
  assign,
  binary,
  type Code,
  call,
  choose,
  constant,
  count,
  declare,
  get,
  give,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  label,
  leave,
  local,
  loop,
  minus,
  not,
  or,
  plus,
  set,
  tableAt,
  type Value,
  when,
} from '../../compile/representation.js';
import type { Build } from './build.js';

/** The pieces of a level's course stand where the level has them, all of them ahead. */
export function layCourse(build: Build): Code {
  const { form, state } = build;
  const { courseLength } = form.cells;
  const [place, from] = [local('place'), local('from')];
  const pieces = build.table('courses', () =>
    form.levels.flatMap(({ course }) => Array.from({ length: courseLength }, (_, at) => course[at] ?? -1)),
  );
  return [
    set(state.coursePassed, 0),
    set(state.courseCheckpoint, 0),
    declare(from, binary('*', build.levelIndex, constant(courseLength))),
    ...count(place, 0, courseLength, [
      set(state.courseAt(get(place)), tableAt(pieces, plus(get(from), get(place)))),
    ]),
  ];
}

/** Wherever one piece stands on the course there is another, or (-1) none. */
export function alongCourse({ form, state }: Build, from: number, to: number): Code {
  const place = local('place');
  const at = state.courseAt(get(place));
  return count(
    place,
    0,
    form.cells.courseLength,
    form.cells.courseLength === 0 ? [] : when(isEqual(at, from), [set(at, to)]),
  );
}

/** Of the places of the course where a piece stands, the one that the player came to last, unless the oldest is meant, else the first is another's, or (-1) nobody's. */
export function oneOnCourse({ form, state }: Build, piece: number, to: number, isOldest: boolean): Code {
  if (form.cells.courseLength === 0) return [];
  const [found, place] = [local('found'), local('place')];
  const stands = (at: Value): Value => isEqual(state.courseAt(at), piece);
  const last = call('max', 0, minus(state.coursePassed, 1));
  return [
    declare(found, isOldest ? -1 : choose(and(isMore(state.coursePassed, 0), stands(last)), last, -1)),
    ...count(
      place,
      0,
      form.cells.courseLength,
      when(and(isLess(get(found), 0), stands(get(place))), [assign(found, get(place))]),
    ),
    ...when(isAtLeast(get(found), 0), [set(state.courseAt(get(found)), to)]),
  ];
}

/**
 * Which piece of the course an event is about: the next of its kind ahead, so that all before it is behind the player; else, where none
 * of its kind stands elsewhere, the first behind. Gives 1 where it stays although its outcome takes others away.
 */
export function meetOnCourse(build: Build): string {
  return build.once('meetOnCourse', () => {
    const { form, state } = build;
    const { courseLength } = form.cells;
    const [piece, event, isGone] = [local('piece'), local('event'), local('isGone')];
    const [place, behind, first] = [local('place'), local('behind'), local('first')];
    const looking = label('looking');
    const checkpoint = build.ofPiece('checkpoint', get(piece), ({ role, success }) =>
      role === 'checkpoint' ? success : -1,
    );
    const isCheckpoint = isEqual(checkpoint, get(event));
    const outcome = build.ofEvent('isOutcome', get(event), ({ kind }) => Number(kind === 'outcome'));
    const stands = build.ofPiece('staysOnCourse', get(piece), ({ staysOnCourse }) => Number(staysOnCourse));
    const stays = and(isEqual(stands, 1), isEqual(outcome, 1));
    const ahead = [
      set(state.coursePassed, plus(get(place), 1)),
      ...when(isCheckpoint, [set(state.courseCheckpoint, state.coursePassed)]),
      ...when(stays, [give(1)]),
      ...when(isEqual(get(isGone), 1), [set(state.courseAt(get(place)), -1)]),
      give(0),
    ];
    const nth = local('nth');
    return {
      parameters: [piece, event, isGone],
      body: [
        declare(place, state.coursePassed),
        loop(looking, [
          ...when(
            or(
              isAtLeast(get(place), courseLength),
              isEqual(state.courseAt(call('min', get(place), courseLength - 1)), get(piece)),
            ),
            [leave(looking)],
          ),
          assign(place, plus(get(place), 1)),
        ]),
        ...when(isLess(get(place), courseLength), ahead),
        ...when(isEqual(get(isGone), 0), [give(0)]),
        declare(behind, 0),
        declare(first, -1),
        ...count(nth, 0, courseLength, [
          ...when(isEqual(state.courseAt(get(nth)), get(piece)), [
            ...when(isLess(get(first), 0), [assign(first, get(nth))]),
            assign(behind, plus(get(behind), 1)),
          ]),
        ]),
        ...when(and(isMore(get(behind), 0), isAtLeast(get(behind), state.present(get(piece)))), [
          set(state.courseAt(get(first)), -1),
        ]),
        give(0),
      ],
    };
  });
}

/** The place of the course at which the player meets something next; the length of the longest where nothing is left. */
export function nextOnCourse(build: Build): Value {
  const { courseLength } = build.form.cells;
  const name = build.once('nextOnCourse', () => {
    const [place, looking] = [local('place'), label('looking')];
    const here = build.state.courseAt(call('min', get(place), courseLength - 1));
    const isSome = or(isAtLeast(get(place), courseLength), not(isEqual(here, -1)));
    return {
      parameters: [],
      body: [
        declare(place, build.state.coursePassed),
        loop(looking, [...when(isSome, [leave(looking)]), assign(place, plus(get(place), 1))]),
        give(get(place)),
      ],
    };
  });
  return ask(name);
}
