import { article } from '../../design/language/names.js';
import { measureNames } from '../../design/measures.js';
import { statisticSchema } from '../../design/schema/judging.js';
import type { Path } from '../../design/text/source.js';
import type { Offered } from './offered.js';
import { around, at, control, isMap, isScalar, mapped, type Raw, type Words } from './words.js';

export const targetWords = (entry: Raw, path: Path, offered: Offered): Words => [
  'The ',
  at(entry, path, 'stat', 'choice', statisticSchema.options),
  entry.stat === undefined ? '' : ' ',
  at(entry, path, 'measure', 'choice', measureNames),
  around(' on ', at(entry, path, 'screen', 'name', offered.screens)),
  around(' of level ', at(entry, path, 'level', 'number')),
  around(' made by ', at(entry, path, 'rule', 'name', offered.rules)),
  around(' of ', at(entry, path, 'counter', 'name', offered.counters)),
  around(' at its ', at(entry, path, 'bound', 'choice', ['min', 'max'])),
  around(` of ${article(entry.of)} `, at(entry, path, 'of', 'name', offered.players)),
  around(` over ${article(entry.over)} `, at(entry, path, 'over', 'name', offered.players)),
  ' is',
  around(' at least ', at(entry, path, 'from', 'number') ?? at(entry, path, 'atLeast', 'number')),
  (entry.from ?? entry.atLeast) !== undefined && (entry.to ?? entry.atMost) !== undefined ? ' and' : '',
  around(' at most ', at(entry, path, 'to', 'number') ?? at(entry, path, 'atMost', 'number')),
  '.',
];

export function testWords(entry: Raw, path: Path, { deeds }: Offered): Words {
  const steps = Array.isArray(entry.do) ? entry.do : [];
  return [
    '“',
    at(entry, path, 'name', 'text'),
    '”: ',
    around('given ', mapped(entry, path, 'given', 'expression'), ': '),
    around('seed ', at(entry, path, 'seed', 'number'), ': '),
    around('', at(entry, path, 'spawns', 'flag', ['with spawns', 'without spawns']), ': '),
    steps.map((step, index): Words => {
      const here = [...path, 'do', index];
      return [
        index === 0 ? '' : ', ',
        isScalar(step)
          ? control(here, step, 'name', deeds)
          : isMap(step)
            ? [
                around('expect ', mapped(step, here, 'expect', 'expression')),
                around('for ', at(step, here, 'wait', 'number'), ' s '),
                around('never ', mapped(step, here, 'never', 'expression')),
              ]
            : '',
      ];
    }),
    around(steps.length === 0 ? '' : '; then ', mapped(entry, path, 'expect', 'expression')),
    around('; and never ', mapped(entry, path, 'never', 'expression')),
    '.',
  ];
}

export const acceptWords = (entry: Raw, path: Path): Words => [
  'The finding ',
  at(entry, path, 'finding', 'text'),
  around(' about ', at(entry, path, 'about', 'text')),
  around(' is meant to be so: “', at(entry, path, 'because', 'text'), '”'),
  '.',
];
