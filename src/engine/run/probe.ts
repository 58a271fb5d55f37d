/** Whoever watches a session. `source` of a write is a rule, or past the last rule a transition. */
export interface Probe {
  /** An outcome counts; no rule has heard it yet. */
  outcome(event: number): void;
  rule(rule: number): void;
  transition(transition: number): void;
  write(counter: number, source: number, before: number, after: number, wanted: number): void;
  cue(cue: number): void;
  popup(popup: number): void;
  appeared(piece: number): void;
  /** One of them, by an effect. */
  gone(piece: number, isOldest: number): void;
  cleared(piece: number): void;
  /** All pieces are gone, and those of the level's start are still to appear. */
  allCleared(): void;
}

/** For those who watch some of it only. */
export const watchesNothing: Probe = {
  outcome: () => {},
  rule: () => {},
  transition: () => {},
  write: () => {},
  cue: () => {},
  popup: () => {},
  appeared: () => {},
  gone: () => {},
  cleared: () => {},
  allCleared: () => {},
};
