import { article, withArticle } from '../../design/language/names.js';
import { roles } from '../../design/model.js';
import { meetingSchema } from '../../design/schema/things.js';
import type { Path } from '../../design/text/source.js';
import type { Offered } from './offered.js';
import { around, at, capital, interval, isMap, mapped, names, type Raw, type Words } from './words.js';

const isEmptyList = (value: unknown): boolean => Array.isArray(value) && value.length === 0;

const ownOutcomes = ({ outcomes }: Raw): string[] => (isMap(outcomes) ? Object.keys(outcomes) : []);

export function pieceWords(entry: Raw, name: string, path: Path, { pieces, events }: Offered): Words {
  return [
    capital(withArticle(name)),
    around(` is ${article(entry.is)} `, at(entry, path, 'is', 'choice', Object.keys(roles))),
    around(
      entry.is === undefined ? ' is like ' : ', like ',
      at(
        entry,
        path,
        'like',
        'name',
        pieces.filter((piece) => piece !== name),
      ),
    ),
    around(', one of ', names(entry, path, 'in', [], 'and')),
    around('; it takes ', at(entry, path, 'takes', 'number'), ' s to meet'),
    around('; it waits ', at(entry, path, 'lasts', 'number'), ' s'),
    around('; it comes after ', interval(entry, path, 'lead'), ' s'),
    around('; it comes again after ', interval(entry, path, 'returns'), ' s'),
    around('; its difficulty is ', at(entry, path, 'difficulty', 'number')),
    around('; it needs ', at(entry, path, 'hits', 'number'), ' hits'),
    around('; it takes ', at(entry, path, 'health', 'number'), ' strikes'),
    around('; it can be met while ', at(entry, path, 'needs', 'expression')),
    around('; how players meet it: ', at(entry, path, 'meets', 'choice', meetingSchema.options)),
    around('; a failed try ', at(entry, path, 'again', 'flag', ['may be made again', 'is its end'])),
    isEmptyList(entry.ends)
      ? '; it stays whatever becomes of it'
      : around('; it goes when ', names(entry, path, 'ends', [], 'or')),
    around('; the game gets ', mapped(entry, path, 'data', 'text')),
    around('; players meet it through ', at(entry, path, 'by', 'name', events)),
    around('; the player tries for ', at(entry, path, 'success', 'name', ownOutcomes(entry))),
    around('; its outcomes weigh ', mapped(entry, path, 'outcomes', 'expression')),
    '.',
  ];
}
