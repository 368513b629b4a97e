import type { Sent } from '~/web/parts/form/send';

/** A line in the corner: what was done, and where it was an act, the way to take it back. */
export interface Told {
  readonly sentence: string;
  /** It went wrong: announced at once, and it stays longer. */
  readonly isFault?: boolean;
  /** The act that was recorded: it can be taken back from here. */
  readonly act?: string;
  /** The way back of what is no act, and what is said when that was gone. */
  readonly takeBack?: { readonly send: () => Promise<Sent<object>>; readonly said: string };
}

/** The event by which any part of a page tells something; what draws it is loaded for the first one. */
export const TOLD = 'shelf-told';

export function tell(sentence: string, more: Omit<Told, 'sentence'> = {}): void {
  window.dispatchEvent(new CustomEvent<Told>(TOLD, { detail: { sentence, ...more } }));
}

/** Tells what went wrong where no form is open that could say it. */
export function tellFault(sentence: string): void {
  tell(sentence, { isFault: true });
}
