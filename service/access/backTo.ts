/** Nowhere: only what leads there by a path of its own is a path of this server. */
const NOWHERE = 'http://nowhere.invalid';

/**
 * Where to go after signing in: a path of this server and nothing else. Read as a browser reads it, which takes tabs and line
 * feeds out of an address and a backslash for a slash.
 *
 * @param from what stands in the address, whoever wrote it
 */
export function backTo(from: string | readonly string[] | undefined): string {
  if (
    typeof from !== 'string' ||
    !from.startsWith('/') ||
    /[\u0000-\u001f\u007f\\]/.test(from) ||
    !URL.canParse(from, NOWHERE)
  )
    return '/';
  const { origin, pathname, search } = new URL(from, NOWHERE);
  return origin === NOWHERE && !pathname.startsWith('//') ? pathname + search : '/';
}
