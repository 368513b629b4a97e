import { createHmac } from 'node:crypto';

/**
 * The heads a post is signed with: whoever holds the key makes the mark of `time.body` anew (HMAC-SHA256, RFC 2104) and
 * takes nothing that has another, or whose time is long past.
 *
 * @param time seconds since 1970
 */
export function signed(body: string, key: string, time: number): Record<string, string> {
  const mark = createHmac('sha256', key)
    .update(`${String(time)}.${body}`)
    .digest('hex');
  return { 'shelf-time': String(time), 'shelf-signature': `hmac-sha256=${mark}` };
}
