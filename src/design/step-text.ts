/** A step as a test or a person writes it. */
export type StepText =
  | { readonly kind: 'wait'; readonly seconds: number }
  | { readonly kind: 'send'; readonly event: string; readonly times: number };

/**
 * Reads `blossom.taken`, `3 x blossom.taken` or `wait 2`; undefined for anything else.
 *
 * @example
 * parseStep('3 x blossom.taken') // => { kind: 'send', event: 'blossom.taken', times: 3 }
 */
export function parseStep(text: string): StepText | undefined {
  const wait = /^wait\s+(\d{1,9}(?:\.\d{1,9})?)$/.exec(text.trim());
  if (wait !== null) return { kind: 'wait', seconds: Number(wait[1]) };
  const send = /^(?:(\d{1,6})\s*x\s+)?([A-Za-z]\w*\.\w+)$/.exec(text.trim());
  return send === null ? undefined : { kind: 'send', event: send[2]!, times: Number(send[1] ?? 1) };
}
