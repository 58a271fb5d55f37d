import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Design, Dial } from './model.js';
import { UsageError, unknownName } from './problems/problem.js';

/** Dials by name, with the values that they are turned to. */
export type Settings = { readonly [dial: string]: number };

/**
 * The same design with dials turned; those that are not named stay.
 *
 * @param isOneOfMany whether more settings will be played, so that they had better share their code; what is played is the same
 * @throws UsageError for a dial that the design does not have, or a value outside its range
 * @example
 * const session = new Session(withDials(design, { petal: 20 }));
 */
export function withDials(design: Design, settings: Settings, isOneOfMany = false): Design {
  for (const [name, value] of Object.entries(settings)) {
    const dial = design.dials.find((each) => each.name === name);
    if (dial === undefined) throw unknownName('dial', name, design.dials);
    if (!(value >= dial.from && value <= dial.to))
      throw new UsageError(
        'bad-argument',
        `The dial ${name} goes from ${dial.from} to ${dial.to}, not to ${value}.`,
      );
  }
  const dials = design.dials.map((dial) => ({ ...dial, value: settings[dial.name] ?? dial.value }));
  if (!isOneOfMany && dials.every(({ value }, index) => value === design.dials[index]!.value)) return design;
  const values = JSON.stringify([design.fingerprint, dials.map(({ name, value }) => [name, value])]);
  return {
    ...design,
    dials,
    looseOf: isOneOfMany ? (design.looseOf ?? design) : undefined,
    fingerprint: bytesToHex(sha256(utf8ToBytes(values))).slice(0, 16),
  };
}

/** What a dial is set to for a value near it: one of its steps; else a whole number where it is one all over, or a thousandth of its range. */
export function nearestSetting({ value, from, to, step }: Dial, setting: number): number {
  if (step === undefined && [value, from, to].every(Number.isInteger)) return Math.round(setting);
  const apart = step ?? (to - from) / 1000;
  const most = Math.floor((to - from) / apart + 1e-9);
  const nth = Math.min(most, Math.max(0, Math.round((setting - from) / apart)));
  // Tenths do not add up to tenths: what a double is wrong by is cut off.
  return Number((from + nth * apart).toPrecision(12));
}

/** The dials that have a range. */
export const turnableDials = ({ dials }: Design): Dial[] => dials.filter(({ from, to }) => to > from);

/**
 * The dials that may be turned: those of these names, or all that have a range.
 *
 * @throws UsageError for a name that is none of them, or where there is none at all
 */
export function dialsToTurn(design: Design, names?: readonly string[]): Dial[] {
  const wide = turnableDials(design);
  for (const name of names ?? []) {
    if (wide.some((dial) => dial.name === name)) continue;
    const known = wide.map((dial) => dial.name).join(', ') || 'none';
    throw new UsageError('unknown-name', `The design has no dial "${name}" with a range; it has ${known}.`);
  }
  const chosen = wide.filter(({ name }) => names?.includes(name) ?? true);
  if (chosen.length === 0)
    throw new UsageError(
      'nothing-there',
      'The design has no dial to turn; name a number under dials, with a range: petal: { value: 10, from: 1, to: 50 }.',
    );
  return chosen;
}
