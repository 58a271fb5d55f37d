/** Kinds of things that can get worse from one design to the next. */
export const worseKinds = ['targets', 'tests', 'flow', 'findings'] as const;

export type WorseKind = (typeof worseKinds)[number];
