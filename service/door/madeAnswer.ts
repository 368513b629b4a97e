/** An answer that was written as text where it was made. */
export interface MadeAnswer<A extends object = object> {
  readonly kind: 'made-answer';
  readonly json: string;
  /** Never there: what the text says. */
  readonly types?: A;
}
