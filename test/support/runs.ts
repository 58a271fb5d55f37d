const soak = process.env.JOCUS_SOAK;
export const isSoak = soak !== undefined;

/** Of the usual number of cases, those that `npm test` tries: the same each time, so that more of them find little. */
const triedEachTime = 1 / 10;

/** How many cases a property is tried on; with `JOCUS_SOAK` (npm run soak), the usual number times that. */
export const runs = (usual: number): { numRuns: number } => ({
  numRuns: Math.ceil(usual * Number(soak ?? triedEachTime)),
});

/**
 * The same for a property that also counts how often something is found.
 *
 * @param least cases that are enough to find it as often as is asked
 */
export const countedRuns = (usual: number, least = usual): { numRuns: number } => ({
  numRuns: isSoak ? Math.round(usual * Number(soak)) : least,
});

/** How often something random is repeated: some times, and with `JOCUS_SOAK` as often as is usual. */
export const repeats = (usual: number, least: number): { length: number } => ({
  length: isSoak ? usual : least,
});

/** Of many things that are all tried alike, one of so many; with `JOCUS_SOAK` all of them. */
export const oneIn = <T>(many: number, all: readonly T[]): T[] =>
  all.filter((_, index) => isSoak || index % many === 0);
