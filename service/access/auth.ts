import { betterAuth } from 'better-auth';
import { twoFactor } from 'better-auth/plugins/two-factor';
import type { Database } from '../../store/database';
import { CLIENT_HEADER } from './clientHeader';
import { entryPlugin } from './entryPlugin';
import { guessHooks } from './guesses';
import { isSecure, originsOf } from './origins';

/** Sessions last a month, and are renewed daily while used. */
const MONTH_SECONDS = 30 * 24 * 3600;
const DAY_SECONDS = 24 * 3600;

export interface AuthSettings {
  readonly baseUrl: string;
  readonly secret: string;
}

/** Accounts, passwords and sessions. Nobody signs up by himself: people come in by one-time keys. */
export function createAuth(db: Database, { baseUrl, secret }: AuthSettings) {
  return betterAuth({
    database: { db, type: 'postgres', schemaName: 'auth', transaction: true },
    baseURL: baseUrl,
    basePath: '/api/auth',
    secret,
    trustedOrigins: originsOf(baseUrl),
    telemetry: { enabled: false },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: 10,
      maxPasswordLength: 200,
      revokeSessionsOnPasswordReset: true,
    },
    user: { additionalFields: { role: { type: 'string', required: true, defaultValue: 'reader', input: false } } },
    session: { expiresIn: MONTH_SECONDS, updateAge: DAY_SECONDS, cookieCache: { enabled: false } },
    advanced: {
      cookiePrefix: 'patient-shelf',
      useSecureCookies: isSecure(baseUrl),
      ipAddress: { ipAddressHeaders: [CLIENT_HEADER] },
    },
    rateLimit: {
      enabled: true,
      storage: 'database',
      window: 60,
      max: 200,
      customRules: {
        '/sign-in/email': { window: 60, max: 60 },
        '/entry': { window: 60, max: 20 },
        '/change-password': { window: 60, max: 10 },
        '/two-factor/*': { window: 60, max: 20 },
      },
    },
    hooks: guessHooks(db),
    logger: { level: 'error' },
    // A code of somebody's phone, beside the password, for whoever wants it.
    plugins: [entryPlugin(), twoFactor({ issuer: 'Patient Shelf', totpOptions: { digits: 6, period: 30 } })],
  });
}

export type Auth = ReturnType<typeof createAuth>;

/** All of the library's paths that are open to a browser; every other one answers "not found". */
export const AUTH_PATHS = [
  '/sign-in/email',
  '/sign-out',
  '/entry',
  '/change-password',
  '/list-sessions',
  '/revoke-session',
  '/revoke-other-sessions',
  '/two-factor/enable',
  '/two-factor/disable',
  '/two-factor/verify-totp',
  '/two-factor/verify-backup-code',
] as const;
