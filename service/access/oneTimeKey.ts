import { createHash, randomBytes } from 'node:crypto';

/** A secret nobody can guess: 256 bits, safe in an address. */
export function newKey(): string {
  return randomBytes(32).toString('base64url');
}

/** What is kept of a key or a token: enough to know it again, of no use to whoever reads the database. */
export function hashOfKey(key: string): string {
  return createHash('sha256').update(key).digest('hex');
}
