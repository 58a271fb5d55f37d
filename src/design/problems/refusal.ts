import { DesignError, type Problem, type UsageCode, UsageError } from './problem.js';

/** An error of ours as plain data, for where only the messages of errors come through: from other threads and machines. */
export type Refusal =
  | { readonly problems: readonly Problem[]; readonly during: string | undefined }
  | { readonly usage: string; readonly code: UsageCode };

/** @throws whatever is no error of ours, as it is */
export function refusalOf(error: unknown): Refusal {
  if (error instanceof DesignError) return { problems: error.problems, during: error.during };
  if (error instanceof UsageError) return { usage: error.message, code: error.code };
  throw error;
}

export const errorOf = (refusal: Refusal): DesignError | UsageError =>
  'usage' in refusal
    ? new UsageError(refusal.code, refusal.usage)
    : new DesignError(refusal.problems, refusal.during);
