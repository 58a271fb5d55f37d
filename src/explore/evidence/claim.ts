/**
 * What a witness must show at its last moment, by numbers of the form: a transition, a rule, an event, a level; or a fault (its
 * code), or nothing but the states that the path names.
 */
export type Claim =
  | { readonly transition: number }
  | { readonly rule: number }
  | { readonly event: number }
  | { readonly level: number }
  | { readonly fault: string }
  | { readonly arrives: true };

/** What a search can be asked for, by numbers of the form. */
export type Sought = Exclude<Claim, { readonly fault: string } | { readonly arrives: true }>;
