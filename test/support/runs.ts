/** How many cases a property is tried on: the usual number, or `JOCUS_SOAK` times as many (npm run soak). */
export const runs = (usual: number): { numRuns: number } => ({
  numRuns: Math.round(usual * Number(process.env.JOCUS_SOAK ?? 1)),
});
