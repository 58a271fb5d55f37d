import type { Template } from '../model.js';
import type { Reading } from '../reading/reading.js';
import type { Path } from '../text/source.js';
import type { Scope } from './parse-expression.js';

/** A text with `{expressions}` in it. */
export function readTemplate(reading: Reading, text: string, scope: Scope, path: Path): Template {
  return text.split(/(\{[^{}]*\})/).flatMap((part): Template => {
    if (part === '') return [];
    if (!part.startsWith('{') || !part.endsWith('}')) return [part];
    const inside = part.slice(1, -1).trim();
    if (inside === 'level.name') return [{ kind: 'levelName' }];
    const read = reading.expression(inside, scope, scope.types.get(inside) ?? 'number', path);
    return read === undefined ? [] : [read];
  });
}
