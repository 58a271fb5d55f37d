import { spans } from '../../design/model.js';
import { screenSchema } from '../../design/schema/flow.js';
import type { Path } from '../../design/text/source.js';
import type { Offered } from './offered.js';
import { effectsWords } from './rules.js';
import { around, at, capital, names, type Raw, type Words } from './words.js';

export const screenWords = (entry: Raw, name: string, path: Path): Words => [
  capital(name),
  ' ',
  around('', at(entry, path, 'live', 'flag', ['is where the game is played', 'stands still'])) ??
    'stands still',
  around(
    ', ends the run as ',
    at(entry, path, 'ending', 'choice', screenSchema.shape.ending.unwrap().options),
  ),
  around(', and shows “', at(entry, path, 'text', 'text'), '”'),
  '.',
];

/** Levels that are meant from where the player is, and not by a number. */
const near = ['next', 'first'];

export function transitionWords(entry: Raw, path: Path, offered: Offered): Words {
  const events = names(entry, path, 'when', offered.events, 'or');
  const condition = at(entry, path, 'if', 'expression');
  const level = at(entry, path, 'level', 'expression', near);
  const isAlone = events === undefined && condition === undefined;
  return [
    'From ',
    names(entry, path, 'from', offered.screens, 'or'),
    entry.to === 'back' ? ' go ' : ' go to ',
    at(entry, path, 'to', 'name', [...offered.screens, 'back']),
    around(' when ', events),
    around(events === undefined ? ' as soon as ' : ' while ', condition),
    around(isAlone ? ' after ' : ', not before ', at(entry, path, 'wait', 'number'), ' s'),
    near.includes(String(entry.level)) ? around(', to the ', level, ' level') : around(', to level ', level),
    around(', with a fresh ', at(entry, path, 'fresh', 'choice', spans)),
    around(', protecting the player for ', at(entry, path, 'grace', 'number'), ' s'),
    around('; on the way, ', effectsWords(entry, path, offered)),
    '.',
  ];
}
