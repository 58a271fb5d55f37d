/**
 * Words for a key, and what is to be written instead; `name` is that of the thing at which the key stands, `role` that of a piece. Where a key that must be there
 * is meant, `meant` says which.
 */
export type Advice = readonly (readonly [
  keys: readonly string[],
  advice: (name: string, key: string, role: string | undefined) => string,
  meant?: string,
])[];

export const words = (all: string): string[] => all.split(' ');

export const looks = words('sprite image picture color colour size height radius animation font');

/** What people write where something is to happen in answer. */
export const reactions = words('on_end onEnd ends end finish then do event events action effect effects');
