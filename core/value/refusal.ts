/** A "no" that is part of the domain: a code for programs, a sentence fit for the person, and the field it is about. */
export interface Refusal {
  readonly kind: 'refusal';
  readonly code: string;
  readonly sentence: string;
  /** JSON Pointer (RFC 6901) of the field at fault, when there is one. */
  readonly pointer?: string;
  /** What else a program needs to go on. */
  readonly more?: Readonly<Record<string, unknown>>;
}

/**
 * A refusal: the code is for programs and never changes, the sentence for the person, the pointer (RFC 6901) for the
 * field at fault.
 */
export function refusal(code: string, sentence: string, pointer?: string): Refusal {
  return Object.freeze({ kind: 'refusal', code, sentence, ...(pointer === undefined ? {} : { pointer }) });
}

/** True for a refusal, whatever else it could have been. */
export function isRefusal(value: unknown): value is Refusal {
  return typeof value === 'object' && value !== null && (value as { kind?: unknown }).kind === 'refusal';
}
