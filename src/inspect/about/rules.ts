import type { Expression } from '../../design/language/expression.js';
import type { Design } from '../../design/model.js';
import { type Finding, finding } from '../finding.js';
import { mayMove, outcomesOf } from '../played-for.js';
import { hearsOn, isInput, isLive, isZero, pressedInPlay, putsBack, type Uses } from '../uses.js';

/** Findings about rules and their events. */
export function aboutRules(design: Design, uses: Uses): Finding[] {
  return [
    ...deafRules(design),
    ...unheardEvents(design, uses),
    ...spawnedInVain(design),
    ...wordsNeverSet(design, uses),
    ...pressedByNobody(design),
    ...pressedInVain(design),
    ...actedByNobody(design),
    ...metByNobody(design),
    ...outcomesUnheard(design, uses),
    ...neverPicked(design, uses),
    ...streaksNeverBroken(design, uses),
  ];
}

/** Inputs that a rule hears in play, and none of the players that the design describes presses there. */
function pressedByNobody(design: Design): Finding[] {
  if (design.written.players === undefined) return [];
  const pressed = pressedInPlay(design);
  // Of what a piece is met by, that is said of the piece.
  const meeting = new Set(design.pieces.flatMap(({ by }) => by ?? []));
  const told = new Set<string>();
  return design.rules.flatMap(({ name, events, effects, screens, place }) => {
    const isInPlay = screens.some((screen) => isLive(design, screen));
    if (!isInPlay || !events.every((event) => isInput(event) && !pressed.has(event))) return [];
    const [input] = events;
    const meets = effects.some((effect) => effect.kind === 'emit' && meeting.has(effect.name));
    if (input === undefined || told.has(input) || meeting.has(input) || meets) return [];
    told.add(input);
    return [finding('pressed-by-nobody', { input, rule: name }, place)];
  });
}

/** Inputs that a player presses in play, and only screens that stand still hear. */
function pressedInVain(design: Design): Finding[] {
  const { players, pieces, screens } = design;
  return players.flatMap(({ name, acts, place }) => {
    const hearing = (input: string, live: boolean): string | undefined =>
      screens.find((screen) => screen.live === live && hearsOn(design, screen.name, [input]))?.name;
    const act = acts.find(
      ({ input }) => hearing(input, true) === undefined && !pieces.some(({ by }) => by === input),
    );
    const screen = act && hearing(act.input, false);
    return screen === undefined
      ? []
      : [finding('pressed-in-vain', { player: name, input: act!.input, screen }, place)];
  });
}

/** Pieces whose success needs an event that no player of the design can cause. */
function actedByNobody(design: Design): Finding[] {
  const pressed = pressedInPlay(design);
  const canCome = (event: string): boolean =>
    isInput(event)
      ? pressed.has(event)
      : design.rules.some(
          ({ effects, events }) =>
            effects.some((effect) => effect.kind === 'emit' && effect.name === event) &&
            (events.length === 0 || events.some((each) => !isInput(each) || pressed.has(each))),
        );
  return design.pieces.flatMap(({ name, by, place }) =>
    by === undefined || canCome(by) ? [] : [finding('acted-by-nobody', { piece: name, by }, place)],
  );
}

/** Props that simulated players never meet, though a rule hears what becomes of one and the design describes its players. */
function metByNobody({ pieces, levels, rules, written }: Design): Finding[] {
  if (written.players === undefined) return [];
  const own = written.pieces as { readonly [name: string]: { readonly meets?: unknown } | undefined };
  const onCourse = new Set(levels.flatMap(({ course }) => course));
  return pieces.flatMap((piece) => {
    const { name, role, meets, by, place } = piece;
    // Whoever writes `meets: never` means it.
    const isMeant = own[name]?.meets !== undefined || role !== 'prop';
    if (meets !== 'never' || isMeant || by !== undefined || onCourse.has(name)) return [];
    const becomes = outcomesOf(piece);
    const rule = rules.find(
      ({ events }) => events.length > 0 && events.every((event) => becomes.includes(event)),
    );
    return rule === undefined ? [] : [finding('met-by-nobody', { piece: name, rule: rule.name }, place)];
  });
}

/**
 * Outcomes of weight 0 that simulated players never come to. The last happens where nobody meets the piece, be it in time; of one that waits for
 * ever it does not.
 */
function neverPicked({ pieces }: Design, { heard }: Uses): Finding[] {
  return pieces.flatMap(({ name, meets, outcomes, success, isSkilled, lasts, place }) => {
    const isWaiting =
      meets === 'sought' && lasts === undefined && heard.has(`${name}.${outcomes.at(-1)?.name}`);
    const never = outcomes
      .slice(0, isWaiting ? undefined : -1)
      .find(
        (each) => each.weight !== undefined && isZero(each.weight) && !(isSkilled && each.name === success),
      );
    return never === undefined || meets === 'never'
      ? []
      : [finding('never-picked', { piece: name, outcome: never.name }, place)];
  });
}

/** Of the outcomes that a piece has of its own, the one that nothing hears, unless it is the last. */
function outcomesUnheard({ pieces }: Design, { heard }: Uses): Finding[] {
  return pieces.flatMap((piece) => {
    const events = outcomesOf(piece);
    const [event, ...others] = events.filter((each) => !heard.has(each));
    if (events.length < 3 || event === undefined || others.length > 0 || event === events.at(-1)) return [];
    return [finding('outcome-unheard', { piece: piece.name, event }, piece.place)];
  });
}

/** Counters that are called a streak, which successes raise and nothing sets back before the run is over. */
function streaksNeverBroken(design: Design, { writes }: Uses): Finding[] {
  return design.counters.flatMap((counter) => {
    const { name, keep, place } = counter;
    if (!/streak|combo|chain|in_?a_?row/i.test(name) || mayMove(design, writes, name, false)) return [];
    if (design.transitions.some((each) => putsBack(each, keep) && each.fresh !== 'run')) return [];
    const raised = design.pieces.find(
      ({ name: piece, outcomes }) =>
        outcomes.length > 1 &&
        writes.some(
          (write) => write.counter === name && write.rule?.events.includes(`${piece}.${outcomes[0]!.name}`),
        ),
    );
    if (raised === undefined) return [];
    const failure = outcomesOf(raised).at(-1)!;
    return [finding('never-broken', { counter: name, failure }, place)];
  });
}

/** Rules with an event that cannot happen on any of their screens. */
function deafRules(design: Design): Finding[] {
  return design.rules.flatMap(({ name, events, screens, place }) => {
    const canHappen = (event: string): boolean => {
      const [subject] = event.split('.') as [string];
      if (event.endsWith('.entered')) return screens.includes(subject);
      const timer = design.timers.find((each) => each.name === subject);
      if (timer !== undefined) return screens.some((screen) => timer.screens.includes(screen));
      // Pieces that a rule or a level makes appear may be told anywhere.
      if (!design.pieces.some((piece) => piece.name === subject) || event.endsWith('.appeared')) return true;
      return design.screens.some((screen) => screen.live && screens.includes(screen.name));
    };
    const deaf = events.filter((event) => !canHappen(event));
    const [event] = deaf;
    if (event === undefined) return [];
    // It needs the screens where each of its events can happen.
    const entered = deaf.flatMap((each) => /^(.*)\.entered$/.exec(each)?.[1] ?? []);
    const needs =
      entered.length < deaf.length ? [] : [...(deaf.length < events.length ? screens : []), ...entered];
    return [finding('rule-deaf', { rule: name, event, screens: screens.join(', '), needs }, place)];
  });
}

function unheardEvents(design: Design, { heard }: Uses): Finding[] {
  const told = new Set<string>();
  return [...design.rules, ...design.transitions].flatMap(({ effects, place }) =>
    effects.flatMap((effect) => {
      if (effect.kind !== 'emit' || heard.has(effect.name) || told.has(effect.name)) return [];
      told.add(effect.name);
      return [finding('event-unheard', { event: effect.name }, place)];
    }),
  );
}

/** Rules that make pieces appear on entering a screen that is not live, from which every way puts the level back. */
function spawnedInVain(design: Design): Finding[] {
  return design.rules.flatMap(({ name, events, effects, place }) => {
    const piece = effects.flatMap((effect) => (effect.kind === 'spawn' ? effect.pieces : []))[0]?.piece;
    if (piece === undefined || events.length === 0) return [];
    const screens = events.map((event) =>
      design.screens.find((screen) => event === `${screen.name}.entered`),
    );
    const isInVain = screens.every(
      (screen) =>
        screen !== undefined &&
        !screen.live &&
        design.transitions
          .filter(({ from }) => from === screen.name)
          .every((each) => putsBack(each, 'level')),
    );
    return isInVain
      ? [finding('spawned-in-vain', { rule: name, piece, screen: screens[0]!.name }, place)]
      : [];
  });
}

/** Words that a counter can hold, and that nothing ever puts there although something sets it. */
function wordsNeverSet({ counters }: Design, { writes }: Uses): Finding[] {
  return counters.flatMap(({ name, kind, words, start, place }) => {
    const own = writes.filter(({ counter }) => counter === name);
    if (kind !== 'words' || own.length === 0) return [];
    const given = [start, ...own.map(({ amount }) => amount)].map(wordsIn);
    const never = words.filter((_, word) => given.every((each) => each?.includes(word) === false));
    return never.length === 0 ? [] : [finding('word-unset', { counter: name, words: never }, place)];
  });
}

/** The words, by number, that an expression may give; undefined: any. */
function wordsIn(of: Expression): number[] | undefined {
  if (of.kind === 'number') return [of.value];
  if (of.kind !== 'choose') return undefined;
  const [yes, no] = [wordsIn(of.yes), wordsIn(of.no)];
  return yes && no && [...yes, ...no];
}
