import type { Design } from '../design/model.js';

/** What differs between two designs, in words, a line for each value; names go before places in a list. */
export function changesOf(before: Design, after: Design): string[] {
  const written = (design: Design): unknown => ({
    ...design.written,
    // Dials may have been turned without being written.
    ...(design.dials.length === 0
      ? {}
      : {
          dials: Object.fromEntries(
            design.dials.map(({ name, value, from, to }) => [name, { value, from, to }]),
          ),
        }),
  });
  return differences(written(before), written(after), '');
}

type Plain = { readonly [key: string]: unknown };
const isMap = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function differences(before: unknown, after: unknown, path: string): string[] {
  if (JSON.stringify(before) === JSON.stringify(after)) return [];
  const [one, other] = [named(before), named(after)];
  if (one === undefined || other === undefined) {
    if (before === undefined) return [`${path} is new: ${shown(after)}`];
    if (after === undefined) return [`${path} is gone: ${shown(before)}`];
    return [`${path}: ${shown(before)} -> ${shown(after)}`];
  }
  const keys = [...new Set([...one.keys(), ...other.keys()])];
  const found = keys.flatMap((key) =>
    differences(one.get(key), other.get(key), path === '' ? key : `${path} ${key}`),
  );
  return found.length > 0 ? found : [`${path} stands in another order`];
}

/** The entries of a map, or of a list whose entries tell themselves apart. */
function named(value: unknown): ReadonlyMap<string, unknown> | undefined {
  if (isMap(value)) return new Map(Object.entries(value));
  if (!Array.isArray(value) || !value.every(isMap)) return undefined;
  const names = value.map((entry, index) => nameOf(entry) ?? `${index + 1}`);
  const isUnique = new Set(names).size === names.length;
  return new Map(value.map((entry, index) => [isUnique ? names[index]! : `${index + 1}`, entry]));
}

function nameOf(entry: Plain): string | undefined {
  if (typeof entry.name === 'string') return entry.name;
  if (typeof entry.from === 'string' && typeof entry.to === 'string')
    return `${entry.from} -> ${entry.to}${typeof entry.when === 'string' ? ` on ${entry.when}` : ''}`;
  if (typeof entry.piece === 'string') return entry.piece;
  if (typeof entry.show === 'string') return entry.show;
  if (typeof entry.when === 'string') return entry.when;
  return undefined;
}

const longest = 60;
function shown(value: unknown): string {
  const text = JSON.stringify(value) ?? 'nothing';
  return text.length <= longest ? text : `${text.slice(0, longest - 1)}…`;
}
