import { APIError, createAuthEndpoint } from 'better-auth/api';
import { setSessionCookie } from 'better-auth/cookies';
import type { BetterAuthPlugin, GenericEndpointContext } from 'better-auth';
import { entryBodySchema } from '../../schemas/access';
import { entryIdentifier, forgetLinksOf, type EntryPurpose } from './entryPurpose';
import { happened } from '../door/happened';
import { createValidator } from '../door/validation';

const validateBody = createValidator(entryBodySchema);

/** POST /entry: uses a one-time key up and opens a session. Throttled by the library's rate limit. */
export function entryPlugin() {
  return {
    id: 'shelf-entry',
    endpoints: {
      entry: createAuthEndpoint('/entry', { method: 'POST', requireHeaders: true }, async (ctx) => {
        const checked = validateBody(ctx.body);
        if (checked.kind === 'invalid')
          throw new APIError('UNPROCESSABLE_ENTITY', {
            message: checked.errors.map(({ detail }) => detail).join(' '),
            errors: checked.errors,
          });
        const { key, name, email, password } = checked.value;
        // Looked at before it is used up, so that a form with a field missing does not cost the key.
        const purpose = await peek(ctx, key);
        if (purpose.kind !== 'enter' && password === undefined)
          throw new APIError('UNPROCESSABLE_ENTITY', { message: 'Choose a password.' });
        if (purpose.kind === 'first-owner' && (name === undefined || email === undefined))
          throw new APIError('UNPROCESSABLE_ENTITY', { message: 'Say your name and your e-mail address.' });
        if (!(await ctx.context.internalAdapter.consumeVerificationValue(entryIdentifier(key)))) throw usedUp();

        const userId =
          purpose.kind === 'first-owner' ? await makeOwner(ctx, name as string, email as string) : purpose.userId;
        const user = await ctx.context.internalAdapter.findUserById(userId);
        // Somebody who was removed since.
        if (!user) throw usedUp();
        if (purpose.kind !== 'enter') {
          await setPassword(ctx, userId, password as string);
          // A new password is asked for where an old one, or a link, may be in other hands.
          await ctx.context.internalAdapter.deleteUserSessions(userId);
          await forgetLinksOf(ctx.context.adapter, userId);
          await forgetSecondFactor(ctx, userId);
        }
        const session = await ctx.context.internalAdapter.createSession(user.id);
        happened('link-used', { purpose: purpose.kind, person: user.id });
        await setSessionCookie(ctx, { session, user });
        return ctx.json({ entered: true });
      }),
    },
  } satisfies BetterAuthPlugin;
}

async function peek(ctx: GenericEndpointContext, key: string): Promise<EntryPurpose> {
  const found = await ctx.context.internalAdapter.findVerificationValue(entryIdentifier(key));
  if (!found || found.expiresAt.getTime() <= Date.now()) throw usedUp();
  return JSON.parse(found.value) as EntryPurpose;
}

async function makeOwner(ctx: GenericEndpointContext, name: string, email: string): Promise<string> {
  if ((await ctx.context.adapter.count({ model: 'user' })) > 0) throw usedUp();
  const owner = await ctx.context.internalAdapter.createUser(
    { name: name.trim(), email: email.toLowerCase(), emailVerified: false, role: 'owner' },
    { method: 'admin' },
  );
  return owner.id;
}

async function setPassword(ctx: GenericEndpointContext, userId: string, password: string): Promise<void> {
  const hash = await ctx.context.password.hash(password);
  const accounts = await ctx.context.internalAdapter.findAccounts(userId);
  if (accounts.some(({ providerId }) => providerId === 'credential'))
    await ctx.context.internalAdapter.updatePassword(userId, hash);
  else
    await ctx.context.internalAdapter.linkAccount({
      userId,
      providerId: 'credential',
      accountId: userId,
      password: hash,
    });
}

/** Whoever lost the phone comes in by an owner's link: the second factor is set up anew, or not. */
async function forgetSecondFactor(ctx: GenericEndpointContext, userId: string): Promise<void> {
  await ctx.context.adapter.deleteMany({ model: 'twoFactor', where: [{ field: 'userId', value: userId }] });
  await ctx.context.internalAdapter.updateUser(userId, { twoFactorEnabled: false });
}

function usedUp(): APIError {
  return new APIError('GONE', {
    message: 'This link has been used or is too old. Start Patient Shelf again for a new one, or ask its owner.',
  });
}
