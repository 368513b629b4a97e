/** What came back of a request: the answer, or why not, with a sentence for each field that is at fault. */
export type Sent<A = Record<string, unknown>> = { readonly kind: 'done'; readonly answer: A } | NotDone;

export interface NotDone {
  readonly kind: 'refused';
  readonly sentence: string;
  readonly fields: Readonly<Record<string, string>>;
  /** The refusal's code; `no-answer` when the server was not reached at all. */
  readonly code: string;
  /** Everything it said. */
  readonly answer: Record<string, unknown>;
}

export const NO_ANSWER = 'no-answer';

/** Sends JSON to this server: the way under the operations (see api.ts), and the one to the sign-in. */
export async function send<A = Record<string, unknown>>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<Sent<A>> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(signal === undefined ? {} : { signal }),
      ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    return {
      kind: 'refused',
      code: NO_ANSWER,
      sentence: 'The server does not answer. Nothing was stored; try again when it is back.',
      fields: {},
      answer: {},
    };
  }
  const answer = ((await response.json().catch(() => null)) ?? {}) as Record<string, unknown>;
  if (response.ok) return { kind: 'done', answer: answer as A };
  const errors = (Array.isArray(answer['errors']) ? answer['errors'] : []) as { pointer: string; detail: string }[];
  return {
    kind: 'refused',
    code: String(answer['code'] ?? ''),
    answer,
    sentence: String(
      answer['detail'] ??
        answer['message'] ??
        (response.status === 429
          ? 'Too many tries. Wait a minute.'
          : `The server answered ${String(response.status)}.`),
    ),
    fields: Object.fromEntries(errors.map(({ pointer, detail }) => [pointer.replace(/^#\//, ''), detail])),
  };
}
