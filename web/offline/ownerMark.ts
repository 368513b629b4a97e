/** The header by which a page says whose it is, without saying who: pages of another are never shown from here. */
export const OWNER_HEADER = 'x-shelf-owner';

/** A mark of a session that tells it from others and leads back to none. */
export async function ownerMark(session: string): Promise<string> {
  const hash = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(`shelf-owner ${session}`));
  return [...new Uint8Array(hash).slice(0, 12)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}
