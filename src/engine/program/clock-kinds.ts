/** Kinds of clocks, in the order in which they fire at the same millisecond. */
export const clockKinds = { timer: 0, spawn: 1, arrival: 2, attempt: 3, expiry: 4, wait: 5 } as const;
