/** A step as a test or a person writes it. */
export type StepText =
  | { readonly kind: 'wait'; readonly seconds: number }
  | {
      readonly kind: 'send';
      readonly event: string;
      readonly times: number;
      /** The id of the piece that is touched; undefined: none. */
      readonly contact: string | undefined;
    }
  /** A piece with an id is touched no longer. */
  | { readonly kind: 'end'; readonly contact: string };

/**
 * Reads `blossom.taken`, `3 x blossom.taken`, `wasp.hit as w1`, `end w1` or `wait 2`; undefined for anything else.
 *
 * @example
 * parseStep('end w1') // => { kind: 'end', contact: 'w1' }
 */
export function parseStep(text: string): StepText | undefined {
  const wait = /^wait\s+(\d{1,9}(?:\.\d{1,9})?)$/.exec(text.trim());
  if (wait !== null) return { kind: 'wait', seconds: Number(wait[1]) };
  const end = /^end\s+(\w{1,64})$/.exec(text.trim());
  if (end !== null) return { kind: 'end', contact: end[1]! };
  const send = /^(?:(\d{1,6})\s*x\s+)?([A-Za-z]\w*\.\w+)(?:\s+as\s+(\w{1,64}))?$/.exec(text.trim());
  if (send === null) return undefined;
  return { kind: 'send', event: send[2]!, times: Number(send[1] ?? 1), contact: send[3] };
}
