import { hasNameForm } from '../design/language/names.js';
import { UsageError } from '../design/problems/problem.js';
import type { Change } from '../design/text/change.js';
import { type Offered, offeredBy } from './grammar/offered.js';
import { isMap, levelsIn, type Raw, sectionsIn } from './grammar/words.js';
import { countLevels, oneLike } from './level-table.js';
import { newScreen, newTransition } from './new-flow.js';
import type { Made } from './sentence.js';

/** Sections that can be added to, and whether what is added has a name. */
export const sections = {
  rules: { isNamed: false },
  counters: { isNamed: true },
  dials: { isNamed: true },
  hud: { isNamed: false },
  levels: { isNamed: false },
  timers: { isNamed: true },
  screens: { isNamed: true },
  transitions: { isNamed: false },
  players: { isNamed: true },
  targets: { isNamed: false },
  tests: { isNamed: false },
} as const;
export type Section = keyof typeof sections;

/**
 * A new entry of a section, which names what the design has so that it can be read as it is and then be changed word by word.
 *
 * @param name of what is added, where its section is one of names
 * @throws UsageError where the design has nothing that the entry could be about, with what it needs first
 */
export function newEntry(text: string, section: Section, name = ''): Change {
  const { sections: written } = sectionsIn(text);
  const value = entryOf(section, name, written, offeredBy(written));
  // One entry for all levels becomes the first of a list.
  if (section === 'levels' && isMap(written.levels))
    return { kind: 'set', path: ['levels'], value: [written.levels, value] };
  return sections[section].isNamed
    ? { kind: 'set', path: [section, name], value }
    : { kind: 'add', path: [section], value };
}

function entryOf(section: Section, name: string, written: Raw, offered: Offered): unknown {
  const { counters, numbers, timers, events, deeds, starts } = offered;
  const entries = (of: string): readonly Raw[] =>
    Array.isArray(written[of]) ? (written[of] as readonly Raw[]).filter(isMap) : [];
  const heard = new Set(entries('rules').flatMap(({ when }) => when));
  const event = events.find((each) => !heard.has(each) && isSuccess(each)) ?? events[0] ?? 'input.go';
  switch (section) {
    case 'rules':
      return {
        when: event,
        do: numbers[0] === undefined ? [{ cue: 'chime' }] : [{ add: { [numbers[0]]: 1 } }],
      };
    case 'counters':
      return { start: 0 };
    case 'dials':
      return { value: 10, from: 1, to: 50 };
    case 'hud': {
      const shown = entries('hud').map(({ show }) => show);
      const show = [...counters, ...timers].find((each) => !shown.includes(each)) ?? counters[0] ?? timers[0];
      return show === undefined ? { text: 'Press start', at: 'top' } : { show, at: 'top-left' };
    }
    case 'levels': {
      // Like the one before in all but its name, so that what its formulas read is there.
      const before = levelsIn(written).at(-1)?.entry;
      if (before?.endless === true)
        throw new UsageError('bad-argument', 'The last level goes on without end: let it have an end first.');
      return oneLike(before ?? {}, `Level ${countLevels(written) + 1}`);
    }
    case 'timers':
      return { countdown: 30 };
    case 'screens':
      return newScreen(name, written, offered);
    case 'transitions':
      return newTransition(written, offered);
    case 'players':
      return { skill: 0 };
    case 'targets':
      if (typeof written.score !== 'string' && !counters.includes('score'))
        throw new UsageError(
          'bad-argument',
          'A target on the score needs a counter called score: add it first.',
        );
      return { measure: 'score', stat: 'median', from: 0 };
    case 'tests':
      return {
        name: `test ${entries('tests').length + 1}`,
        do: [deeds[0] ?? 'wait 1'],
        ...(counters[0] === undefined ? {} : { expect: { [counters[0]]: starts[counters[0]] } }),
      };
  }
}

const isSuccess = (event: string): boolean => /\.(taken|hit|beaten|reached|passed|ended|ticked)$/.test(event);

/** Roles by what meeting a piece of theirs is called. */
const roleOf: { readonly [outcome: string]: string } = {
  taken: 'collectible',
  missed: 'collectible',
  hit: 'hazard',
  avoided: 'hazard',
  beaten: 'foe',
  reached: 'exit',
  passed: 'prop',
};

/**
 * What has to be made for a name to mean something: nothing where the design has it, or where it can be no name of what is made there.
 *
 * @param text the whole file, in which the name may stand already
 */
export function madeBy(text: string, name: string, makes: Made): Change | undefined {
  const { sections: written } = sectionsIn(text);
  const [piece = '', outcome = ''] = name.split('.');
  const section = makes === 'events' ? 'pieces' : makes;
  const made = makes === 'events' ? piece : name;
  if (!hasNameForm(made) || made === 'back') return undefined;
  const isThere = ['screens', 'counters', 'timers', 'pieces', 'players', 'dials'].some((each) => {
    const held = written[each];
    return isMap(held) && made in held;
  });
  const groups = isMap(written.pieces)
    ? Object.values(written.pieces).flatMap((entry) => (isMap(entry) ? entry.in : []))
    : [];
  if (isThere || groups.flat().includes(made) || (makes === 'events' && roleOf[outcome] === undefined))
    return undefined;
  const value =
    section === 'pieces'
      ? { is: roleOf[outcome] ?? 'collectible' }
      : entryOf(section, name, written, offeredBy(written));
  return { kind: 'set', path: [section, made], value };
}
