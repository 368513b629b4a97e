/** The origins whose pages are this server's: the address it is called by, and for this machine alone its other name. */
export function originsOf(baseUrl: string): string[] {
  const { origin, hostname, port, protocol } = new URL(baseUrl);
  if (hostname !== '127.0.0.1' || protocol !== 'http:') return [origin];
  return [origin, `http://localhost${port === '' ? '' : `:${port}`}`];
}

/**
 * Whether a page of this server sent it, by what every browser says of a change; `null` where it says nothing, as a program
 * does.
 */
export function isFromHere(headers: Headers, baseUrl: string): boolean | null {
  const origin = headers.get('origin');
  if (origin !== null) return originsOf(baseUrl).includes(origin);
  const site = headers.get('sec-fetch-site');
  return site === null ? null : site === 'same-origin';
}

/** Whether it is called by an address that only TLS opens. */
export function isSecure(baseUrl: string): boolean {
  return new URL(baseUrl).protocol === 'https:';
}
