import { spans } from '../../design/model.js';
import { hudSchema } from '../../design/schema/flow.js';
import type { Path } from '../../design/text/source.js';
import type { Offered } from './offered.js';
import { around, at, capital, control, names, type Raw, type Words } from './words.js';

export function counterWords(entry: Raw, name: string, path: Path): Words {
  const words = Array.isArray(entry.words)
    ? [
        ' is one of ',
        entry.words.map(
          (word, index): Words => [
            index === 0 ? '' : ', ',
            control([...path, 'words', index], String(word), 'text'),
          ],
        ),
      ]
    : undefined;
  return [
    capital(name),
    words,
    words === undefined && entry.start === undefined ? ' starts at 0' : '',
    around(`${words === undefined ? '' : ','} starts at `, at(entry, path, 'start', 'expression')),
    around(', never goes below ', at(entry, path, 'min', 'number')),
    around(', never above ', at(entry, path, 'max', 'number')),
    around(', keeps ', at(entry, path, 'places', 'number'), ' decimals'),
    around(
      entry.keep === 'forever' ? ', and is kept ' : ', and is kept for a ',
      at(entry, path, 'keep', 'choice', spans),
    ),
    '.',
  ];
}

export function hudWords(entry: Raw, path: Path, { counters, timers, screens }: Offered): Words {
  return [
    'Show ',
    at(entry, path, 'show', 'name', [...counters, ...timers]),
    around(entry.show === undefined ? '“' : ' with “', at(entry, path, 'text', 'text'), '”'),
    around(' as ', at(entry, path, 'as', 'choice', hudSchema.shape.as.unwrap().options)),
    around(', ', at(entry, path, 'width', 'number'), ' wide'),
    around(', labelled ', at(entry, path, 'label', 'text')),
    around(', at the ', at(entry, path, 'at', 'choice', hudSchema.shape.at.unwrap().options)),
    around(' on ', names(entry, path, 'screens', screens, 'and')),
    around(', while ', at(entry, path, 'if', 'expression')),
    '.',
  ];
}

export const dialWords = (entry: Raw, name: string, path: Path): Words => [
  `${capital(name)} is a dial`,
  around(' at ', at(entry, path, 'value', 'number')),
  around(', from ', at(entry, path, 'from', 'number')),
  around(entry.from === undefined ? ', up to ' : ' to ', at(entry, path, 'to', 'number')),
  around(', in steps of ', at(entry, path, 'step', 'number')),
  '.',
];

export const listWords = (entry: Raw, name: string, path: Path, { counters, events }: Offered): Words => [
  `${capital(name)} keeps the `,
  around('', at(entry, path, 'length', 'number'), ' '),
  'best of ',
  at(entry, path, 'of', 'name', counters),
  around(', entered when ', names(entry, path, 'when', events, 'or')),
  '.',
];
