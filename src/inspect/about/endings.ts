import { countersIn } from '../../design/language/expression-parts.js';
import { isForLastLevel, transitionName } from '../../design/language/trigger.js';
import { type Design, spans, type Transition } from '../../design/model.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { endingOf } from '../played-for.js';
import { hearAlike, isInput, isLive, putsBack, type Uses, writesOf } from '../uses.js';

/** Findings about how runs end, and what is kept of them. */
export function aboutEndings(design: Design, uses: Uses, exploration: Exploration): Finding[] {
  if (design.screens.every(({ ending }) => ending === undefined)) return [];
  return [
    ...endingsUntold(design),
    ...playWithoutLoss(design, exploration),
    ...endingsInARow(design),
    ...endingsUnmarked(design),
    ...endingsNamedOtherwise(design),
    ...lastLevelsLost(design),
    ...bestsOfSomeEndings(design, uses, exploration),
    ...bestsOfSomeWays(design, uses, exploration),
  ];
}

const endingsUntold = ({ screens }: Design): Finding[] =>
  screens.flatMap(({ name, ending, text, place }) =>
    ending !== undefined && text.length === 0 ? [finding('ending-untold', { ending: name }, place)] : [],
  );

/** Live screens from which no ending but a win is reached. */
function playWithoutLoss(design: Design, { transitions }: Exploration): Finding[] {
  const losing = new Set(
    design.screens.filter(({ ending }) => ending === 'lost' || ending === 'over').map(({ name }) => name),
  );
  // Back along the ways in, until no screen is new; what comes after another ending is another run.
  for (const screen of losing) {
    for (const { from, to, inAnyOrder } of transitions) {
      const leads =
        to === screen ||
        (to === 'back' && transitions.some((each) => each.to === from && each.from === screen));
      if (leads && inAnyOrder !== 'unreachable' && endingOf(design, from) === undefined) losing.add(from);
    }
  }
  const safe = design.screens.filter(({ name, live }) => live && !losing.has(name));
  return safe.map(({ name, place }) => finding('no-loss', { screen: name }, place));
}

/** Ways from an ending that is won to one that is lost, or the other way round. */
function endingsInARow(design: Design): Finding[] {
  return design.transitions.flatMap(({ from, to, place }) => {
    const [first, second] = [endingOf(design, from), endingOf(design, to)];
    const isTurned = (first === 'won' && second === 'lost') || (first === 'lost' && second === 'won');
    return isTurned
      ? [finding('ending-after-ending', { from, first: first!, to, second: second! }, place)]
      : [];
  });
}

/** Screens that play leads to by itself, from which there is no way on but a fresh run, and which are no ending. */
function endingsUnmarked(design: Design): Finding[] {
  const { screens, transitions } = design;
  return screens.slice(1).flatMap(({ name, live, ending, place }) => {
    const byItself = transitions.some(
      ({ from, to, events }) =>
        to === name && isLive(design, from) && (events.length === 0 || !events.every(isInput)),
    );
    if (live || ending !== undefined || !byItself) return [];
    if (transitions.every(({ from }) => from !== name)) return [];
    // On from there, until a run begins afresh.
    const after = new Set([name]);
    for (const screen of after) {
      for (const each of transitions) if (each.from === screen && !putsBack(each, 'run')) after.add(each.to);
    }
    const goesOn = [...after].some(
      (each) =>
        each === 'back' ||
        screens.some((screen) => screen.name === each && (screen.live || screen.ending !== undefined)),
    );
    return goesOn ? [] : [finding('ending-unmarked', { screen: name }, place)];
  });
}

/** Words by which a screen is called when a run is won, and when it is lost. */
const calledWon = ['won', 'win', 'wins', 'winner', 'victory', 'success', 'triumph'];
const calledLost = [
  'lost',
  'lose',
  'loses',
  'loss',
  'loser',
  'defeat',
  'defeated',
  'dead',
  'death',
  'failed',
  'failure',
];

/** Endings whose name says the other way round how the run ends. */
function endingsNamedOtherwise({ screens }: Design): Finding[] {
  return screens.flatMap(({ name, ending, place }) => {
    const words = name.match(/[A-Z]?[a-z]+|[A-Z]+/g)?.map((word) => word.toLowerCase()) ?? [];
    const [good, bad] = [calledWon, calledLost].map((called) => words.some((word) => called.includes(word)));
    const isTurned = (ending === 'lost' && good && !bad) || (ending === 'won' && bad && !good);
    return isTurned ? [finding('ending-named-otherwise', { screen: name, ending: ending! }, place)] : [];
  });
}

/** Ways for the last level that lead to a loss, where the same leads on from every other level. */
function lastLevelsLost(design: Design): Finding[] {
  const { transitions } = design;
  const leadsOn = ({ to, level }: Transition): boolean =>
    level === 'next' || transitions.some((each) => each.from === to && each.level === 'next');
  return transitions.flatMap((last) => {
    if (endingOf(design, last.to) !== 'lost' || !isForLastLevel(last) || last.events.length === 0) return [];
    const others = transitions.find(
      (each) => each.from === last.from && !isForLastLevel(each) && leadsOn(each) && hearAlike(each, last),
    );
    // What is won there, be it for having enough, is another way of the same.
    const isWonToo = transitions.some(
      (each) =>
        each.from === last.from &&
        endingOf(design, each.to) === 'won' &&
        isForLastLevel(each) &&
        hearAlike(each, last),
    );
    return others === undefined || isWonToo
      ? []
      : [finding('last-level-lost', { event: last.events[0]!, to: last.to, next: others.to }, last.place)];
  });
}

/** What is kept of a run's score at some of its endings, and not at others. */
function bestsOfSomeEndings(design: Design, { writes, score }: Uses, { parts }: Exploration): Finding[] {
  const { screens, counters } = design;
  if (score === undefined) return [];
  const endings = screens.filter(({ name, ending }) => {
    const isReached = parts.some(
      (part) => part.kind === 'screen' && part.name === name && part.verdict === 'reached',
    );
    return ending !== undefined && isReached;
  });
  const { keep: scored } = counters.find(({ name }) => name === score)!;
  /** Whether an ending leads to one of some screens, whatever way it is left, and with the score as it is. */
  const isFollowedBy = (ending: string, on: readonly string[]): boolean => {
    const ways = design.transitions.filter(({ from }) => from === ending);
    return ways.length > 0 && ways.every((way) => on.includes(way.to) && !putsBack(way, scored));
  };
  // What is noted of the score, when, and where that is written.
  const bests = counters.flatMap(({ name, keep }) => {
    const own = writes.filter((write) => write.counter === name);
    const [first] = own;
    const isOfScore = own.every(({ amount }) => countersIn(amount).includes(score));
    return spans.indexOf(keep) > spans.indexOf('run') && first?.rule !== undefined && isOfScore
      ? [{ name, events: own.flatMap(({ rule }) => rule?.events ?? ['']), place: first.rule.place }]
      : [];
  });
  const lists = design.lists.filter(({ of }) => of === score);
  const still = screens.filter(({ live }) => !live).map(({ name }) => name);
  return [...bests, ...lists].flatMap(({ name, events, place }) => {
    const on = still.filter((screen) => events.includes(`${screen}.entered`));
    const isOfScreens = events.every((event) => on.some((screen) => event === `${screen}.entered`));
    // An ending that only follows on another is no other end of a run.
    const left = endings.filter(
      (ending) =>
        !on.includes(ending.name) &&
        !isFollowedBy(ending.name, on) &&
        design.transitions.some(({ from, to }) => to === ending.name && isLive(design, from)),
    );
    return on.length === 0 || !isOfScreens || left.length === 0
      ? []
      : [
          finding(
            'best-of-some-endings',
            {
              counter: name,
              on,
              left: left.map((each) => each.name),
              by: bests.some((best) => best.name === name) ? 'rule' : 'list',
            },
            place,
          ),
        ];
  });
}

/** What some of the transitions that end a run keep of its score, and others do not. */
function bestsOfSomeWays(
  design: Design,
  { writes, score }: Uses,
  { transitions: judged }: Exploration,
): Finding[] {
  const { transitions, counters } = design;
  const isWin = (screen: string): boolean => endingOf(design, screen) === 'won';
  // An offer that play leads to by itself belongs to play; whoever pauses and leaves has given up.
  const isPlayed = (screen: string): boolean =>
    isLive(design, screen) ||
    transitions.some(
      ({ from, to, events }) => to === screen && isLive(design, from) && !events.some(isInput),
    );
  const ways = transitions.filter(
    ({ from, to, place }) =>
      isPlayed(from) &&
      endingOf(design, from) === undefined &&
      endingOf(design, to) !== undefined &&
      judged.some((each) => each.place === place && each.verdict === 'reached'),
  );
  return counters.flatMap(({ name, keep, place }) => {
    const own = writes.filter(({ counter }) => counter === name);
    const isOfScore = own.every(({ amount }) => score !== undefined && countersIn(amount).includes(score));
    // What a rule notes as well is noted elsewhere, or all the time.
    if (!isOfScore || own.some(({ rule }) => rule !== undefined)) return [];
    if (spans.indexOf(keep) <= spans.indexOf('run')) return [];
    const isNoting = ({ effects }: Transition): boolean =>
      effects.some((effect) => writesOf(effect).some((write) => write.name === name));
    const noting = ways.filter(isNoting);
    const left = ways.filter(
      (way) =>
        !isNoting(way) &&
        // A record of wins alone may be meant.
        noting.some(({ to }) => to === way.to || !isWin(to) || isWin(way.to)) &&
        !transitions.some((each) => each.from === way.to && isNoting(each)),
    );
    if (left.length === 0) return [];
    const named = (of: readonly Transition[]): string[] => [
      ...new Set(of.map((way) => transitionName(design, transitions.indexOf(way)))),
    ];
    const details = { counter: name, on: named(noting), left: named(left), by: 'transition' as const };
    return [finding('best-of-some-endings', details, place)];
  });
}
