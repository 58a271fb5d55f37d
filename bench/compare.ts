import type { Tally, TallyData } from '../src/measure/tally.js';

/** Throws where two tallies differ in any value. */
export function mustBeEqual(what: string, expected: Tally, found: Tally): void {
  const [a, b] = [expected.toData(), found.toData()];
  for (const key of Object.keys(a) as (keyof TallyData)[]) {
    const [one, other] = [JSON.stringify(a[key]), JSON.stringify(b[key])];
    if (one === other) continue;
    let at = 0;
    while (one[at] === other[at]) at++;
    throw new Error(
      `${what}: ${key} differs: ...${one.slice(at - 30, at + 30)} and ...${other.slice(at - 30, at + 30)}`,
    );
  }
}
