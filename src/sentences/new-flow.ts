import { UsageError } from '../design/problems/problem.js';
import type { Offered } from './grammar/offered.js';
import { isMap, levelsIn, type Raw } from './grammar/words.js';
import { countLevels } from './level-table.js';

/** Words in the name of a screen that say what it is for. */
const saying = {
  lost: 'over lost lose failed dead death defeat'.split(' '),
  won: 'won win victory cleared success'.split(' '),
  still:
    'title menu start intro welcome home help how story credits pause paused settings options shop'.split(
      ' ',
    ),
} as const;

/** A screen that is what its name says; the first whose name says nothing else is where the game is played. */
export function newScreen(name: string, written: Raw, { counters }: Offered): Raw {
  const named = name.split(/(?=[A-Z])|[_\d]+/).map((word) => word.toLowerCase());
  const says = (kind: keyof typeof saying): boolean => saying[kind].some((word) => named.includes(word));
  const scored = counters.includes('score') ? ' You scored {score}.' : '';
  if (says('lost')) return { ending: 'lost', text: `It is over.${scored}` };
  if (says('won')) return { ending: 'won', text: `Well done.${scored}` };
  return says('still') || flowOf(written).live !== undefined ? { text: 'Press go' } : { live: true };
}

/**
 * A transition that the flow still lacks: to a screen that nothing leads to, else out of one that nothing leads out of, else to the next
 * level, else between two screens that none connects.
 *
 * @throws UsageError where there are not two screens
 */
export function newTransition(written: Raw, offered: Offered): Raw {
  const flow = flowOf(written);
  const { screens, live, ways } = flow;
  const [start] = screens;
  if (start === undefined || screens.length < 2)
    throw new UsageError('bad-argument', 'A transition needs two screens: add them first.');
  const isEnding = (screen: string): boolean => flow.endingOf(screen) !== undefined;
  const inOrder = live === undefined ? screens : [live, ...screens.filter((screen) => screen !== live)];
  const lacks = (to: string): boolean => to !== start && !ways.some((way) => way.to === to);
  const isStuck = (from: string): boolean => !ways.some((way) => way.from === from);
  const isNew = ([from, to]: readonly [string, string]): boolean =>
    from !== to && !ways.some((way) => way.from === from && way.to === to);
  const play = live ?? start;
  // A help page is come to from the title, an ending from play.
  const toLacking = inOrder.filter(lacks).map((to) => [isEnding(to) ? play : start, to] as const);
  const fromStuck = screens
    .filter(isStuck)
    .map((from) => [from, from === play ? (screens.find(isEnding) ?? start) : play] as const);
  const lacking = [...toLacking, ...fromStuck].find(isNew);
  const hasLevels = countLevels(written) > 1;
  const piece = gathered(written);
  if (
    lacking === undefined &&
    live !== undefined &&
    hasLevels &&
    ways.every(({ level }) => level === undefined)
  ) {
    const asks =
      piece === undefined
        ? { when: 'input.next', if: 'not level.last' }
        : { if: `left.${piece} == 0 and not level.last` };
    return { from: live, to: live, ...asks, level: 'next', fresh: 'level' };
  }
  const pairs = screens.flatMap((from) => screens.map((to) => [from, to] as const));
  const [from, to] = lacking ?? pairs.find(isNew) ?? [start, inOrder.find((screen) => screen !== start)!];
  if (from === live && piece !== undefined && flow.endingOf(to) === 'won')
    return { from, to, if: `left.${piece} == 0${hasLevels ? ' and level.last' : ''}` };
  const begins = to === live && (from === start || isEnding(from)) ? { fresh: 'run' } : {};
  return { from, to, ...trigger(flow, offered, from, to), ...begins };
}

/** What a new transition waits for: where it ends a run, the lives or a timer that nothing ends it by yet; else a press. */
function trigger(
  { ways, live, endingOf }: Flow,
  { numbers, timers, events }: Offered,
  from: string,
  to: string,
): Raw {
  if (from === live && endingOf(to) !== undefined) {
    if (numbers.includes('lives') && !ways.some((way) => String(way.if).includes('lives')))
      return { if: 'lives == 0' };
    const ended = timers.map((timer) => `${timer}.ended`).filter((event) => events.includes(event));
    const unused = ended.find((event) => !ways.some((way) => way.when.includes(event)));
    if (unused !== undefined) return { when: unused };
  }
  const again = endingOf(from) === undefined ? [] : ['input.again'];
  const isFree = (input: string): boolean =>
    !ways.some((way) => way.from === from && way.when.includes(input));
  return { when: [...again, 'input.go', 'input.next', 'input.back'].find(isFree) ?? 'input.go' };
}

/** A piece to gather that stands on every level, with no more of it to come. */
function gathered(written: Raw): string | undefined {
  const levels = levelsIn(written).map(({ entry }) => entry);
  const placed = (level: Raw, piece: string): boolean => isMap(level.place) && piece in level.place;
  const spawned = levels.flatMap(({ spawn }) => [spawn].flat().filter(isMap)).map(({ piece }) => piece);
  const pieces = Object.entries(isMap(written.pieces) ? written.pieces : {});
  return pieces.find(
    ([name, entry]) =>
      isMap(entry) &&
      entry.is === 'collectible' &&
      levels.length > 0 &&
      levels.every((level) => placed(level, name)) &&
      !spawned.includes(name),
  )?.[0];
}

type Flow = ReturnType<typeof flowOf>;

/** The screens, and how they lead to each other as far as it is written. */
function flowOf({ screens, transitions }: Raw) {
  const held: Raw = isMap(screens) ? screens : {};
  const entryOf = (screen: string): Raw => {
    const entry = held[screen];
    return isMap(entry) ? entry : {};
  };
  const names = Object.keys(held);
  const written = Array.isArray(transitions) ? transitions.filter(isMap) : [];
  const ways = written.flatMap(({ from, to, when, level, if: condition }) =>
    [from].flat().map((each) => ({ from: each, to, when: [when].flat(), level, if: condition })),
  );
  return {
    screens: names,
    live: names.find((name) => entryOf(name).live === true),
    endingOf: (name: string) => entryOf(name).ending,
    ways,
  };
}
