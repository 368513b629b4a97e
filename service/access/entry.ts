import type { Auth } from './auth';
import { entryIdentifier, type EntryPurpose } from './entryPurpose';
import { newKey } from './oneTimeKey';

/** Makes a one-time key good. It is kept hashed; an earlier purpose of the same key is replaced. */
export async function armEntry(auth: Auth, purpose: EntryPurpose, hours: number, key = newKey()): Promise<string> {
  const { internalAdapter } = await auth.$context;
  await internalAdapter.deleteVerificationByIdentifier(entryIdentifier(key));
  await internalAdapter.createVerificationValue({
    identifier: entryIdentifier(key),
    value: JSON.stringify(purpose),
    expiresAt: new Date(Date.now() + hours * 3600e3),
  });
  return key;
}

/** What a key is good for, without using it up; `null` when it was used, is too old or never was. */
export async function purposeOfEntry(auth: Auth, key: string): Promise<EntryPurpose | null> {
  const { internalAdapter } = await auth.$context;
  const found = await internalAdapter.findVerificationValue(entryIdentifier(key));
  return found && found.expiresAt.getTime() > Date.now() ? (JSON.parse(found.value) as EntryPurpose) : null;
}
