/** What may be asked for without a session: these and nothing else. Everything behind checks again by itself. */
export const OPEN = ['/sign-in', '/enter', '/api/health', '/metrics', '/offline', '/serwist/sw.js'];

/** Open to whoever knows the rest of the address: it is a secret of its own, looked up behind. */
export const OPEN_BY_SECRET = ['/calendar/', '/told/'];
