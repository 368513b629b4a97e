import type { DBAdapter } from 'better-auth';
import { hashOfKey } from './oneTimeKey';

/**
 * What a one-time key lets in. `enter`: signs in as somebody. `first-owner`: makes the first account, its owner.
 * `join`: lets somebody who was added choose a password.
 */
export type EntryPurpose =
  { readonly kind: 'enter' | 'join'; readonly userId: string } | { readonly kind: 'first-owner' };

/** Under what a key is filed: never the key itself. */
export function entryIdentifier(key: string): string {
  return `shelf-entry:${hashOfKey(key)}`;
}

/** Every link that was handed to somebody and is not used up opens nothing any more. */
export async function forgetLinksOf(adapter: Pick<DBAdapter, 'deleteMany'>, userId: string): Promise<void> {
  // As `armEntry` writes it; an id holds no character that JSON writes otherwise.
  await adapter.deleteMany({
    model: 'verification',
    where: [{ field: 'value', operator: 'contains', value: `"userId":${JSON.stringify(userId)}` }],
  });
}
