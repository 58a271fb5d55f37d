import { isForbiddenKey } from '../language/names.js';
import { type Place, UsageError } from '../problems/problem.js';
import type { ProblemList } from '../problems/problem-list.js';
import { mostDepth, type Path, type Source } from './source.js';

/**
 * A design that is a value of the program, not a file: its places are paths, such as `rules[2].when`.
 *
 * @throws UsageError where the value is no plain data, such as one that holds itself
 */
export function valueSource(value: unknown, problems: ProblemList): Source {
  const place = (path: Path): Place => ({ file: showPath(path), line: 0, column: 0 });
  const plain = plainData(value);
  const visit = (part: unknown, path: Path): void => {
    if (typeof part !== 'object' || part === null) return;
    for (const [key, inner] of Object.entries(part)) {
      const inside = [...path, Array.isArray(part) ? Number(key) : key];
      if (!Array.isArray(part) && isForbiddenKey(key)) problems.add('forbidden-key', { key }, place(inside));
      visit(inner, inside);
    }
  };
  visit(plain, []);
  return { file: 'design', value: plain, placeOf: place, keyPlaceOf: place, placeInside: place };
}

/**
 * A copy of plain data. A key that holds `undefined` is as if it were not there.
 *
 * @throws UsageError with the path of what is something else
 */
function plainData(value: unknown, path: Path = [], around: readonly object[] = []): unknown {
  const refuse = (found: string): never => {
    throw new UsageError(
      'bad-argument',
      `${showPath(path)} is ${found}; a design is plain data, as in JSON: maps, lists, texts, finite numbers, true and false.`,
    );
  };
  if (value === null || typeof value === 'string' || typeof value === 'boolean') return value;
  if (typeof value === 'number') return Number.isFinite(value) ? value : refuse(String(value));
  if (typeof value !== 'object') return refuse(value === undefined ? 'undefined' : `a ${typeof value}`);
  if (around.includes(value)) return refuse('a value that holds itself');
  if (around.length >= mostDepth) return refuse(`more than ${mostDepth} deep`);
  const inside = [...around, value];
  if (Array.isArray(value)) return value.map((item, index) => plainData(item, [...path, index], inside));
  const prototype = Object.getPrototypeOf(value);
  if (prototype !== null && Object.getPrototypeOf(prototype) !== null)
    return refuse(`a ${prototype.constructor?.name ?? 'value of a class'}`);
  return Object.fromEntries(
    Object.entries(value).flatMap(([key, part]) =>
      part === undefined ? [] : [[key, plainData(part, [...path, key], inside)]],
    ),
  );
}

const showPath = (path: Path): string =>
  path.length === 0
    ? 'design'
    : path
        .map((step, index) => (typeof step === 'number' ? `[${step}]` : index === 0 ? step : `.${step}`))
        .join('');
