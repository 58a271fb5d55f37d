import { isScalar, parseDocument, stringify } from 'yaml';
import type { Design, Value } from '../model.js';
import { UsageError } from '../problems/problem.js';

/** A design as YAML: reading it again gives the same meaning. */
export const writeDesign = (design: Design): string =>
  stringify({ jocus: 1, ...design.written }, { lineWidth: 110 });

/** A value to put in the place of another, such as at `['dials', 'petal', 'value']`. */
export interface Edit {
  readonly path: readonly (string | number)[];
  readonly value: Value;
}

/**
 * Changes single values in the text of a design; every other character stays as it is.
 *
 * @throws UsageError where the text is no YAML, or a path leads to nothing or to more than one value
 * @example
 * const changed = editDesign(text, [{ path: ['dials', 'petal', 'value'], value: 12 }]);
 */
export function editDesign(text: string, edits: readonly Edit[]): string {
  const document = parseDocument(text, { logLevel: 'silent' });
  if (document.errors.length > 0)
    throw new UsageError('bad-file', 'The text is not valid YAML; fix it before editing it.');
  const places = edits.map(({ path, value }) => {
    const node = document.getIn(path, true);
    if (!isScalar(node) || !node.range)
      throw new UsageError('bad-argument', `The design has no single value at ${path.join('.')}.`);
    return { from: node.range[0], to: node.range[1], value };
  });
  return places
    .sort((a, b) => b.from - a.from)
    .reduce(
      (edited, { from, to, value }) => edited.slice(0, from) + stringify(value).trimEnd() + edited.slice(to),
      text,
    );
}
