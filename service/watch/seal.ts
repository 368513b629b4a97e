import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from 'node:crypto';

/** Seals what the database may keep and nobody may read there. */
export interface Seal {
  /** @param about what it belongs to: sealed for one, it opens for no other */
  readonly close: (text: string, about: string) => Buffer;
  /** `null` where it was sealed with another key, for another, or changed since. */
  readonly open: (sealed: Buffer, about: string) => string | null;
  /** A mark nobody else can make of a text (HMAC-SHA256, RFC 2104). */
  readonly mark: (text: string) => string;
}

const [NONCE, TAG] = [12, 16] as const;

/** AES-256-GCM (NIST SP 800-38D) under a key derived from the installation's secret (HKDF, RFC 5869). */
export function sealOf(secret: string): Seal {
  const key = Buffer.from(hkdfSync('sha256', secret, '', 'credentials of units', 32));
  const marking = Buffer.from(hkdfSync('sha256', secret, '', 'addresses units tell of events at', 32));
  return {
    mark: (text) => createHmac('sha256', marking).update(text).digest('base64url'),
    close: (text, about) => {
      const nonce = randomBytes(NONCE);
      const cipher = createCipheriv('aes-256-gcm', key, nonce).setAAD(Buffer.from(about));
      const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([nonce, cipher.getAuthTag(), body]);
    },
    open: (sealed, about) => {
      try {
        const cipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, NONCE))
          .setAAD(Buffer.from(about))
          .setAuthTag(sealed.subarray(NONCE, NONCE + TAG));
        return Buffer.concat([cipher.update(sealed.subarray(NONCE + TAG)), cipher.final()]).toString('utf8');
      } catch {
        return null;
      }
    },
  };
}
