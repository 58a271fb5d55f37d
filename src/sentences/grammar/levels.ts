import { article, withArticle } from '../../design/language/names.js';
import { spans } from '../../design/model.js';
import type { Path } from '../../design/text/source.js';
import type { Offered } from './offered.js';
import {
  around,
  at,
  capital,
  control,
  interval,
  isMap,
  isScalar,
  mapped,
  names,
  type Raw,
  type Words,
} from './words.js';

export function levelWords(entry: Raw, path: Path, { pieces }: Offered): Words {
  const last = path.at(-1);
  const number = typeof last === 'number' ? last + 1 : 1;
  const count = at(entry, path, 'count', 'number');
  const clauses: (Words | undefined)[] = [
    around('is like ', at(entry, path, 'like', 'name')),
    around('has ', mapped(entry, path, 'values', 'expression')),
    isMap(entry.place)
      ? Object.entries(entry.place).map(
          ([piece, count], index): Words => [
            index === 0 ? 'starts with ' : ', ',
            control(
              [...path, 'place', piece],
              isScalar(count) ? count : 0,
              typeof count === 'string' ? 'expression' : 'number',
            ),
            ` ${piece}`,
          ],
        )
      : undefined,
    around('lines up ', names(entry, path, 'course', pieces, 'and')),
    around('', at(entry, path, 'endless', 'flag', ['goes on without end', 'has an end'])),
  ];
  const said = clauses.filter((each) => each !== undefined);
  return [
    around('', count, ' levels, '),
    around('', at(entry, path, 'name', 'text')) ?? (count === undefined ? `Level ${number}` : 'by number'),
    said.length === 0
      ? count === undefined
        ? ' is a level'
        : ''
      : said.map((each, index): Words => [index === 0 ? ' ' : '; it ', each]),
    '.',
  ];
}

export const spawnWords =
  (level: string) =>
  (entry: Raw, path: Path, { pieces }: Offered): Words => [
    `On ${level}, ${article(entry.piece)} `,
    at(entry, path, 'piece', 'name', pieces),
    around(' appears every ', interval(entry, path, 'every'), ' s'),
    around(', the first after ', at(entry, path, 'first', 'expression'), ' s'),
    around(', at most ', at(entry, path, 'atOnce', 'number'), ' at once'),
    around(', ', at(entry, path, 'total', 'number'), ' in all'),
    '.',
  ];

export const timerWords = (entry: Raw, name: string, path: Path, { screens }: Offered): Words => [
  capital(name),
  around(' counts down from ', at(entry, path, 'countdown', 'expression'), ' s'),
  around(' ticks every ', interval(entry, path, 'every'), ' s'),
  around(' ends after ', interval(entry, path, 'after'), ' s'),
  around(', warns at ', names(entry, path, 'warn', [], 'and', 'number'), ' s'),
  around(', runs on ', names(entry, path, 'screens', screens, 'and')),
  around(
    entry.keep === 'forever' ? ', and is kept ' : ', and is kept for a ',
    at(entry, path, 'keep', 'choice', spans),
  ),
  '.',
];

export const playerWords = (entry: Raw, name: string, path: Path, offered: Offered): Words => [
  `${capital(withArticle(name))} plays`,
  around(' with skill ', at(entry, path, 'skill', 'number')),
  around(' at pace ', at(entry, path, 'pace', 'number')),
  around(' for ', at(entry, path, 'runs', 'number'), entry.runs === 1 ? ' run' : ' runs'),
  around(', leaves after ', at(entry, path, 'patience', 'number'), ' s'),
  around(', learns ', at(entry, path, 'learning', 'number'), ' from run to run'),
  around(', becomes faster by ', at(entry, path, 'paceLearning', 'number'), ' from run to run'),
  around(', improves by ', at(entry, path, 'practice', 'number'), ' within a run'),
  around(', differs in skill by ', at(entry, path, 'spread', 'number'), ' from person to person'),
  around(', differs in pace by ', at(entry, path, 'paceSpread', 'number'), ' from person to person'),
  isMap(entry.caution)
    ? [
        ', takes care',
        around(' while ', at(entry.caution, [...path, 'caution'], 'if', 'expression')),
        around(', at ', at(entry.caution, [...path, 'caution'], 'pace', 'number'), ' times its pace'),
        around(', with ', at(entry.caution, [...path, 'caution'], 'skill', 'number'), ' more skill'),
      ]
    : undefined,
  around(', takes ', interval(entry, path, 'timing'), ' times as long for an attempt'),
  around(', leaves after a loss with chance ', at(entry, path, 'quits', 'number')),
  around(', looks ', at(entry, path, 'thinks', 'number'), ' s at a screen'),
  around(', seeks by weight ', mapped(entry, path, 'style', 'number')),
  isMap(entry.acts)
    ? Object.entries(entry.acts).map(([input, act]): Words => {
        const here = [...path, 'acts', input];
        if (!isMap(act)) return [`, presses ${input} every `, control(here, Number(act), 'number'), ' s'];
        return [
          `, presses ${input}`,
          around(' every ', at(act, here, 'every', 'number'), ' s'),
          around(' while ', at(act, here, 'if', 'expression')),
          around(', which takes ', at(act, here, 'takes', 'number'), ' s'),
        ];
      })
    : undefined,
  isMap(entry.inputs)
    ? Object.entries(entry.inputs).map(
        ([screen, input]): Words => [
          `; on ${screen} presses `,
          isMap(input)
            ? Object.keys(input).map(
                (each, index): Words => [
                  index === 0 ? '' : ', ',
                  `${each} `,
                  control([...path, 'inputs', screen, each], Number(input[each]), 'number'),
                  ' times as often',
                ],
              )
            : control([...path, 'inputs', screen], String(input), 'name', offered.inputs),
        ],
      )
    : undefined,
  '.',
];
