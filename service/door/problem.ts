import type { Refusal } from '../../core/value/refusal';
import type { FieldError } from '../../schemas/faults';

/** An answer of "no" as RFC 9457 writes it. */
export interface Problem {
  readonly status: number;
  readonly title: string;
  readonly detail: string;
  /** The refusal's code, for programs. */
  readonly code: string;
  readonly errors?: readonly FieldError[];
}

const STATUS: Record<string, number> = {
  'not-allowed': 403,
  'version-conflict': 409,
  'name-taken': 409,
  'drive-elsewhere': 409,
  'not-found': 404,
  'last-owner': 409,
  'act-differs': 409,
  'too-much-at-once': 429,
};

const TITLES: Record<number, string> = { 403: 'Not allowed', 404: 'Not found', 409: 'Conflict' };

export function problemOf({ code, sentence, pointer, more }: Refusal): Problem {
  const status = STATUS[code] ?? 422;
  const title = TITLES[status] ?? 'Cannot be done';
  return {
    ...more,
    status,
    title,
    code,
    detail: sentence,
    ...(pointer === undefined ? {} : { errors: [{ pointer: `#${pointer}`, detail: sentence }] }),
  };
}

export const problems = {
  nobody: {
    status: 401,
    title: 'Not signed in',
    code: 'not-signed-in',
    detail: 'This needs a session or a bearer token.',
  },
  notAllowed: (detail: string): Problem => ({ status: 403, title: 'Not allowed', code: 'not-allowed', detail }),
  noSuchOperation: { status: 404, title: 'Not found', code: 'not-found', detail: 'There is nothing at this address.' },
  wrongMethod: {
    status: 405,
    title: 'Method not allowed',
    code: 'wrong-method',
    detail: 'This address does not take that method.',
  },
  notJson: { status: 400, title: 'Not JSON', code: 'not-json', detail: 'The body is not JSON.' },
  cutShort: {
    status: 400,
    title: 'Cut short',
    code: 'cut-short',
    detail: 'The body ended before its length: it was cut on its way. Send it again.',
  },
  notText: {
    status: 422,
    title: 'Bad input',
    code: 'not-text',
    detail: 'A text holds a character that cannot be stored: NUL, or half of a pair.',
  },
  wrongType: {
    status: 415,
    title: 'Unsupported media type',
    code: 'wrong-type',
    detail: 'Send JSON, with Content-Type: application/json.',
  },
  tooLarge: (most: number): Problem => ({
    status: 413,
    title: 'Too large',
    code: 'too-large',
    detail: `The body is larger than ${String(Math.round(most / 1e6))} MB.`,
  }),
  invalid: (errors: readonly FieldError[]): Problem => ({
    status: 422,
    title: 'Bad input',
    code: 'bad-input',
    detail: errors
      .map(({ pointer, detail }) => `${pointer === '#' ? 'The body' : pointer.slice(2).replaceAll('/', ' ')} ${detail}`)
      .join(' '),
    errors,
  }),
  diskFull: {
    status: 507,
    title: 'Disk full',
    code: 'disk-full',
    detail: 'The disk is full: nothing was stored. Free some space on it, then send this again; reading goes on.',
  },
  ourFault: {
    status: 500,
    title: 'Internal error',
    code: 'internal',
    detail: 'Something went wrong here. Nothing was stored.',
  },
} as const;
