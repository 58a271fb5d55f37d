import type { z } from 'zod';
import { withArticle } from '../design/language/names.js';
import { hudSchema, listSchema, screenSchema, transitionSchema } from '../design/schema/flow.js';
import { acceptSchema, targetSchema, testSchema } from '../design/schema/judging.js';
import { levelSchema, spawnSchema } from '../design/schema/levels.js';
import { playerSchema } from '../design/schema/players.js';
import { ruleSchema } from '../design/schema/rules.js';
import { counterSchema, dialSchema, pieceSchema, timerSchema } from '../design/schema/things.js';
import type { Change } from '../design/text/change.js';
import type { Path } from '../design/text/source.js';
import type { Offered } from './grammar/offered.js';
import { isMap, type Raw } from './grammar/words.js';
import type { Clause } from './sentence.js';

const schemas = {
  pieces: pieceSchema,
  rules: ruleSchema,
  counters: counterSchema,
  dials: dialSchema,
  lists: listSchema,
  hud: hudSchema,
  levels: levelSchema,
  spawn: spawnSchema,
  timers: timerSchema,
  screens: screenSchema,
  transitions: transitionSchema,
  players: playerSchema,
  targets: targetSchema,
  tests: testSchema,
  accept: acceptSchema,
} as const;

/** What a sentence is about: a section of the design, or the spawns of its levels. */
export type Kind = keyof typeof schemas;

/** A key that is added to an entry with a value to begin with. */
interface Addition {
  readonly key: string;
  readonly label: string;
  readonly value: unknown;
}

/** What the sentence of an entry may say as well, each with a value to begin with. */
export function clausesOf(kind: Kind, entry: Raw, path: Path, offered: Offered): Clause[] {
  const { shape } = schemas[kind];
  const helpOf = (key: string): string => (shape as { [key: string]: z.ZodType })[key]?.description ?? '';
  const keys = additions(kind, entry, offered)
    .filter(({ key, value }) => entry[key] === undefined && value !== undefined)
    .map(
      ({ key, label, value }): Clause => ({
        label,
        help: helpOf(key),
        change: { kind: 'set', path: [...path, key], value },
      }),
    );
  return [...keys, ...parts(kind, entry, path, offered)];
}

function additions(kind: Kind, entry: Raw, offered: Offered): Addition[] {
  const { numbers, screens, events, players, pieces } = offered;
  const first = screens.length === 0 ? undefined : screens.slice(0, 1);
  const condition = numbers[0] === undefined ? undefined : `${numbers[0]} > 0`;
  const add = (key: string, label: string, value: unknown): Addition => ({ key, label, value });
  switch (kind) {
    case 'pieces':
      return [
        add('takes', 'seconds it takes to meet', 1),
        add('lasts', 'seconds it waits', 4),
        add('lead', 'seconds until it arrives', 2),
        add('difficulty', 'its difficulty', 0),
        add('hits', 'hits it needs', entry.health === undefined ? 2 : undefined),
        add(
          'health',
          'strikes it takes',
          entry.hits === undefined && entry.outcomes === undefined ? 3 : undefined,
        ),
        add('in', 'a group', ['group']),
        add('needs', 'a condition', condition),
        add('again', 'whether a failed try may be made again', true),
        // All others are met anyway.
        add('meets', 'how players meet it', entry.is === 'prop' ? 'sought' : undefined),
      ];
    case 'rules':
      return [
        add('when', 'an event', entry.passes === undefined ? events[0] : undefined),
        add('if', 'a condition', entry.passes === undefined ? condition : undefined),
        add('chance', 'a chance', 0.5),
        add('once', 'at most once', 'run'),
        add('rest', 'a rest', 1),
        add('screens', 'the screens it holds on', first),
        add('name', 'a name', 'a rule'),
      ];
    case 'counters':
      return [
        add('start', 'its start', 0),
        add('min', 'the least it can be', 0),
        add('max', 'the most it can be', 10),
        add('keep', 'how long it is kept', 'run'),
        add('places', 'decimals', 1),
      ];
    case 'dials':
      return [add('from', 'the least', 0), add('to', 'the most', 100), add('step', 'its steps', 1)];
    case 'lists':
      return [add('length', 'how many', 10)];
    case 'hud':
      return [
        add('label', 'a label', 'Label'),
        add('as', 'how it is drawn', 'number'),
        add('width', 'digits', 4),
        add('at', 'where', 'top-left'),
        add('screens', 'the screens it is on', first),
        add('if', 'a condition', condition),
      ];
    case 'levels':
      return [
        add('name', 'a name', 'Level'),
        add('count', 'how many such levels', 5),
        add('course', 'a course', pieces[0] && [pieces[0]]),
      ];
    case 'spawn':
      return [
        add('first', 'when the first comes', 1),
        add('atOnce', 'how many at once', 3),
        add('total', 'how many in all', 10),
      ];
    case 'timers':
      return [
        add('warn', 'a warning', entry.countdown === undefined ? undefined : 5),
        add('screens', 'the screens it runs on', first),
        add('keep', 'how long it is kept', 'level'),
      ];
    case 'screens':
      return [
        add('live', 'that the game is played here', entry.ending === undefined ? true : undefined),
        add('ending', 'that the run ends here', entry.live === true ? undefined : 'lost'),
        add('text', 'a text', 'Press start'),
      ];
    case 'transitions':
      return [
        add('when', 'an event', 'input.go'),
        add('if', 'a condition', condition),
        add('wait', 'a wait', 2),
        add('fresh', 'a fresh start', 'run'),
        add('level', 'a level', 'next'),
        add('grace', 'protection', 1),
      ];
    case 'players':
      return [
        add('skill', 'skill', 0),
        add('pace', 'pace', 1),
        add('runs', 'runs', 3),
        add('patience', 'patience', 600),
        add('learning', 'learning', 0.2),
        add('paceLearning', 'how practice makes faster', 0.2),
        add('practice', 'practice within a run', 0.2),
        add('spread', 'how people differ in skill', 0.5),
        add('paceSpread', 'how people differ in pace', 0.2),
        add('caution', 'when it takes care', { if: condition, pace: 1.3, skill: 0.5 }),
        add('quits', 'leaving after a loss', 0.3),
        add('timing', 'how attempts vary', [0.8, 1.3]),
        add('thinks', 'time to look at a screen', 1),
      ];
    case 'targets':
      return [
        add('of', 'of which player', players[0]),
        add('from', 'the least', entry.atLeast === undefined ? 0 : undefined),
        add('to', 'the most', entry.atMost === undefined ? 100 : undefined),
      ];
    case 'tests':
      return [add('seed', 'a seed', 1), add('spawns', 'whether spawns run', true)];
    case 'accept':
      return [];
  }
}

/** What is added inside an entry: effects, pieces of a level, steps of a test. */
function parts(kind: Kind, entry: Raw, path: Path, offered: Offered): Clause[] {
  const { counters, numbers, pieces, timers, screens, deeds, starts } = offered;
  const effect = (label: string, value: object | string): Clause => ({
    label,
    help: '',
    change: { kind: 'add', path: [...path, 'do'], value },
  });
  const inside = (label: string, key: string, name: string | undefined, value: unknown): Clause[] =>
    name === undefined || (entry[key] as Raw | undefined)?.[name] !== undefined
      ? []
      : [{ label, help: '', change: { kind: 'set', path: [...path, key, name], value } }];
  switch (kind) {
    case 'rules':
    case 'transitions':
      return [
        ...numbers.map((name) => effect(`add to ${name}`, { add: { [name]: 1 } })),
        ...counters.map((name) => effect(`set ${name}`, { set: { [name]: starts[name] } })),
        ...(kind === 'rules' ? numbers.flatMap((name) => payment(name, entry, path)) : []),
        ...pieces.map((name) => effect(`make ${withArticle(name)} appear`, { spawn: { [name]: 1 } })),
        ...pieces.map((name) => effect(`clear away every ${name}`, { clear: name })),
        ...pieces.flatMap((name) => {
          const other = pieces.find((each) => each !== name);
          const label = `turn every ${name} into something else`;
          return other === undefined ? [] : effect(label, { become: { [name]: other } });
        }),
        ...timers.map((name) => effect(`start ${name}`, { start: name })),
        ...timers.map((name) => effect(`stop ${name}`, { stop: name })),
        ...timers.map((name) => effect(`add seconds to ${name}`, { add: { [name]: 5 } })),
        effect('sound a cue', { cue: 'chime' }),
        effect('show a popup', { popup: '+1' }),
        effect('protect the player', { grace: 1 }),
      ];
    case 'levels':
      return [
        ...pieces.flatMap((name) => inside(`start with ${withArticle(name)}`, 'place', name, 1)),
        ...pieces.map((name) => ({
          label: `${withArticle(name)} appears again and again`,
          help: '',
          change: { kind: 'add', path: [...path, 'spawn'], value: { piece: name, every: 2 } } as const,
        })),
      ];
    case 'tests':
      return [
        ...deeds.map((event) => effect(event, event)),
        effect('let time pass', 'wait 1'),
        ...counters.flatMap((name) => inside(`expect ${name}`, 'expect', name, starts[name])),
        ...inside('expect the screen', 'expect', screens[0] && 'screen', screens[0]),
      ];
    case 'players':
      return [
        ...pieces.flatMap((name) => inside(`how much it seeks ${name}`, 'style', name, 2)),
        ...offered.inputs.flatMap((name) => inside(`presses ${name} in play`, 'acts', name, 1)),
      ];
    default:
      return [];
  }
}

/** A price of a rule that it does not take yet: what it pays comes before what it does for it. */
function payment(name: string, { do: done }: Raw, path: Path): Clause[] {
  const [first]: unknown[] = Array.isArray(done) ? done : [];
  const paid = isMap(first) && isMap(first.pay) ? first.pay : undefined;
  if (paid !== undefined && name in paid) return [];
  const change: Change =
    paid === undefined
      ? { kind: 'add', path: [...path, 'do'], value: { pay: { [name]: 1 } }, goesFirst: true }
      : { kind: 'set', path: [...path, 'do', 0, 'pay', name], value: 1 };
  return [{ label: `pay with ${name}`, help: 'Where there is not enough, the rule does nothing.', change }];
}
