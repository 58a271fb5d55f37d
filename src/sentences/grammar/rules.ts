import { spans } from '../../design/model.js';
import type { Path } from '../../design/text/source.js';
import type { Control } from '../sentence.js';
import type { Offered } from './offered.js';
import { around, at, control, isMap, isScalar, names, type Raw, type Words } from './words.js';

export function ruleWords(entry: Raw, path: Path, offered: Offered): Words {
  const events = names(entry, path, 'when', offered.events, 'or');
  const condition = at(entry, path, 'if', 'expression');
  const passes = isMap(entry.passes)
    ? Object.entries(entry.passes).map(
        ([counter, step]): Words => [
          `Each time ${counter} passes another `,
          control([...path, 'passes', counter], step as number, 'number'),
        ],
      )
    : undefined;
  return [
    events === undefined ? (passes ?? 'As soon as ') : ['When ', events],
    condition === undefined ? undefined : [events === undefined ? '' : ' while ', condition],
    around(' on ', names(entry, path, 'screens', offered.screens, 'and')),
    around(', with a chance of ', at(entry, path, 'chance', 'number')),
    ', ',
    effectsWords(entry, path, offered),
    around('; at most once per ', at(entry, path, 'once', 'choice', spans)),
    around('; then rest ', at(entry, path, 'rest', 'number'), ' s'),
    '.',
  ];
}

/** All that a rule or a transition does, in order. */
export function effectsWords(entry: Raw, path: Path, offered: Offered): Words | undefined {
  if (!Array.isArray(entry.do)) return undefined;
  return entry.do.flatMap(
    (effect: unknown, index): Words =>
      isMap(effect) ? [index === 0 ? '' : '; ', effectWords(effect, [...path, 'do', index], offered)] : [],
  );
}

function effectWords(effect: Raw, path: Path, offered: Offered): Words {
  /** What is emptied takes the effect with it where that is all it does. */
  const whole = (key: string): Path | undefined =>
    Object.keys(effect).length === 1 && (!isMap(effect[key]) || Object.keys(effect[key]).length === 1)
      ? path
      : undefined;
  const one = (key: string, kind: Control['kind'], choices: readonly string[] = []): Control | undefined => {
    const found = at(effect, path, key, kind, choices);
    const removes = whole(key);
    return found === undefined || removes === undefined ? found : { ...found, removes };
  };
  const amounts = (key: string, verb: string, between: string): Words | undefined =>
    isMap(effect[key])
      ? Object.entries(effect[key]).map(
          ([name, amount], index): Words => [
            index === 0 ? `${verb} ` : ', ',
            control([...path, key, name], isScalar(amount) ? amount : '', 'expression', [], whole(key)),
            ` ${between} ${name}`,
          ],
        )
      : undefined;
  const sets = isMap(effect.set)
    ? Object.entries(effect.set).map(
        ([name, amount], index): Words => [
          `${index === 0 ? 'set ' : ', '}${name} to `,
          control([...path, 'set', name], isScalar(amount) ? amount : '', 'expression', [], whole('set')),
        ],
      )
    : undefined;
  const spawns = isMap(effect.spawn)
    ? Object.entries(effect.spawn).map(
        ([piece, count], index): Words => [
          index === 0 ? 'make ' : ', ',
          control([...path, 'spawn', piece], isScalar(count) ? count : 1, 'expression', [], whole('spawn')),
          ` ${piece} appear`,
        ],
      )
    : around('make ', one('spawn', 'name', offered.pieces), ' appear');
  const turns = isMap(effect.become)
    ? Object.entries(effect.become).flatMap(([from, to], index): Words[] => {
        const verb = index === 0 ? 'turn ' : ', ';
        if (!isMap(to))
          return [
            [
              `${verb}${from} into `,
              control([...path, 'become', from], String(to), 'name', offered.pieces, whole('become')),
            ],
          ];
        return Object.entries(to).map(
          ([into, count], nth): Words => [
            nth === 0 ? verb : ', ',
            control(
              [...path, 'become', from, into],
              isScalar(count) ? count : 1,
              'expression',
              [],
              whole('become'),
            ),
            ` ${from} into ${into}`,
          ],
        );
      })
    : undefined;
  const cleared = isMap(effect.clear)
    ? Object.entries(effect.clear).map(
        ([piece, count], index): Words => [
          index === 0 ? 'take away ' : ', ',
          control([...path, 'clear', piece], isScalar(count) ? count : 1, 'expression', [], whole('clear')),
          ` ${piece}`,
        ],
      )
    : around('clear away ', names(effect, path, 'clear', offered.pieces, 'and'));
  return [
    amounts('pay', 'pay', 'of'),
    amounts('add', 'add', 'to'),
    sets,
    spawns,
    turns,
    cleared,
    around('start ', names(effect, path, 'start', offered.timers, 'and')),
    around('stop ', names(effect, path, 'stop', offered.timers, 'and')),
    around('tell ', one('emit', 'name')),
    around('show “', one('popup', 'text'), '”'),
    around('protect the player for ', one('grace', 'number'), ' s'),
    around('sound ', one('cue', 'name', offered.cues)),
  ];
}
