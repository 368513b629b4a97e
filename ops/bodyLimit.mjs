// How much of a request is read before anything knows who asks: counted as it comes in, for its length is a claim.

/** Who is nobody yet may send a sign-in, and no more. */
export const MOST_OF_STRANGERS = 64 * 1024;
/** Whoever carries what opens something is asked for it before anything is read; then each operation has its own limit. */
const MOST_AT_ALL = 500_000_000;
/** Where units tell that something has happened; what they write of it is not read, and may be long. */
const [TOLD, MOST_TOLD] = ['/told/', 1_000_000];
/** Where programs ask. */
const INTERFACE = '/api/v1/';

/** The most bytes a request may bring: pages, sign-in and what units send take next to nothing. */
export function mostOf({ url, headers }) {
  const saysWho = headers.authorization !== undefined || headers.cookie !== undefined;
  if (url.startsWith(TOLD)) return MOST_TOLD;
  return url.startsWith(INTERFACE) && saysWho ? MOST_AT_ALL : MOST_OF_STRANGERS;
}

/**
 * Lets no more than so many bytes of a request in. One that says it brings more is answered here; one that brings more than it
 * said is cut off there, answered, and its connection ended.
 *
 * @returns whether it may go on
 */
export function limitBody(request, response, most) {
  if (Number(request.headers['content-length'] ?? 0) > most) {
    refuse(request, response, most);
    return false;
  }
  // What the socket brings is put in by this, and there is no other way in.
  const push = request.push.bind(request);
  let seen = 0;
  request.push = (chunk, encoding) => {
    seen += chunk?.length ?? 0;
    if (seen <= most) return push(chunk, encoding);
    refuse(request, response, most);
    return false;
  };
  return true;
}

/** The other end gets so long to hear the answer: what is closed while it still sends loses it on its way. */
const LINGER_MS = 500;

function refuse(request, response, most) {
  // The socket is read no further, whoever would like to go on.
  request.push = () => false;
  request._read = () => undefined;
  setTimeout(() => request.destroy(), LINGER_MS);
  if (response.headersSent) return;
  const detail = `This is more than may be sent here: at most ${most < 1e6 ? `${Math.round(most / 1024)} KiB` : `${Math.round(most / 1e6)} MB`}.`;
  response.writeHead(413, { 'content-type': 'application/problem+json', 'cache-control': 'no-store' });
  response.end(JSON.stringify({ type: 'about:blank', status: 413, title: 'Too large', code: 'too-large', detail }));
}
