/** One line of a playtest's log. */
export interface LogRow {
  readonly player: string;
  readonly session: number;
  /** Seconds since the session began. */
  readonly at: number;
  /** Of the design; or `end`, when the player left. */
  readonly event: string;
  /** False for a piece that was missed because nobody attended to it; undefined where the log does not say. */
  readonly isTried: boolean | undefined;
  /** Where it stands, for messages. */
  readonly file: string;
  readonly line: number;
}

/** The event of a log that says when the player left. */
export const endOfSession = 'end';
