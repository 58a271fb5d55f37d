/** How far a search goes before what it has not found stays open. */
export interface Limits {
  /** States that are visited at the most. */
  readonly mostStates: number;
  /** Whether the time allowed is over: asked now and then, by whoever searches; the host knows the clock. Once true, always true. */
  readonly isOver: () => boolean;
}

/** No limit on time. */
export const neverOver = (): boolean => false;
