const soak = process.env.JOCUS_SOAK;

/** Of the usual number of cases, those that `npm test` tries: the same each time, so that more of them find little. */
const triedEachTime = 1 / 6;

/** How many cases a property is tried on; with `JOCUS_SOAK` (npm run soak), the usual number times that. */
export const runs = (usual: number): { numRuns: number } => ({
  numRuns: Math.ceil(usual * Number(soak ?? triedEachTime)),
});

/** The same for a property that also counts how often something is found, so that it always needs its usual number. */
export const countedRuns = (usual: number): { numRuns: number } => ({
  numRuns: Math.round(usual * Number(soak ?? 1)),
});
