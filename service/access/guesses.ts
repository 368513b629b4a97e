import { APIError, createAuthMiddleware } from 'better-auth/api';
import type { Database } from '../../store/database';
import { countGuess, forgetGuesses, type Guesses } from '../../store/guesses';
import { happened } from '../door/happened';
import { CLIENT_HEADER } from './clientHeader';

/** Of one address at one account in a minute: a person who mistypes needs fewer. */
const MOST_HERE = 10;
/** Of one address at all accounts in a minute: an office behind one address needs more, a password takes long to hold against one. */
const MOST_BY_ADDRESS = 60;
/** Of all strangers at one account in an hour. Where its person is signed in already, that counts for nothing: nobody is locked out by others. */
const MOST_STRANGERS = 100;

export function isTooMany({ here, strangers, byAddress, isFamiliar }: Guesses): boolean {
  return here > MOST_HERE || byAddress > MOST_BY_ADDRESS || (!isFamiliar && strangers > MOST_STRANGERS);
}

const PATH = '/sign-in/email';
const who = (body: unknown, headers: Headers | undefined): { readonly account: string; readonly address: string } => ({
  account: String((body as { readonly email?: unknown } | undefined)?.email ?? '')
    .toLowerCase()
    .slice(0, 320),
  address: headers?.get(CLIENT_HEADER) ?? '',
});

/** Tries to sign in are counted by account as well as by address. */
export function guessHooks(db: Database) {
  return {
    before: createAuthMiddleware(async ({ path, body, headers }) => {
      if (path !== PATH) return;
      const { account, address } = who(body, headers);
      if (!isTooMany(await countGuess(db, account, address))) return;
      happened('sign-in-throttled', { account, address });
      throw new APIError('TOO_MANY_REQUESTS', { message: 'Too many tries: wait a few minutes, then try again.' });
    }),
    after: createAuthMiddleware(async ({ path, body, headers, context }) => {
      if (path !== PATH) return;
      const { account, address } = who(body, headers);
      // One that asks for a second factor is neither.
      if (context.returned instanceof APIError) happened('sign-in-failed', { account, address });
      if (!context.newSession) return;
      await forgetGuesses(db, account, address);
    }),
  };
}
