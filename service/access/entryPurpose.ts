import { hashOfKey } from './oneTimeKey';

/**
 * What a one-time key lets in. `enter`: signs in as somebody. `first-owner`: makes the first account, its owner.
 * `join`: lets somebody who was added choose a password.
 */
export type EntryPurpose = { readonly kind: 'enter' | 'join'; readonly userId: string } | { readonly kind: 'first-owner' };

/** Under what a key is filed: never the key itself. */
export function entryIdentifier(key: string): string {
  return `shelf-entry:${hashOfKey(key)}`;
}
