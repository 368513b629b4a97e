/** What may be asked for without a session: these and nothing else. Everything behind checks again by itself. */
export const OPEN = ['/sign-in', '/enter', '/api/health'];
