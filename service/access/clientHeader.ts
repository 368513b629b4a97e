/** The header in which our own server passes on who is at the other end. Never trusted from outside: it is overwritten. */
export const CLIENT_HEADER = 'x-shelf-client';
