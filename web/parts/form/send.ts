/** What came back of a request: the answer, or why not, with a sentence for each field that is at fault. */
export type Sent =
  | { readonly kind: 'done'; readonly answer: Record<string, unknown> }
  | {
      readonly kind: 'refused';
      readonly sentence: string;
      readonly fields: Readonly<Record<string, string>>;
      /** The refusal's code; `no-answer` when the server was not reached at all. */
      readonly code: string;
      /** Everything it said. */
      readonly answer: Record<string, unknown>;
    };

export const NO_ANSWER = 'no-answer';

/** Sends JSON to this server. Every change a screen makes goes through here and the interface everybody else uses. */
export async function send(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<Sent> {
  let response: Response;
  try {
    response = await fetch(path, { method, ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }) });
  } catch {
    return { kind: 'refused', code: NO_ANSWER, sentence: 'The server does not answer. Nothing was stored; try again when it is back.', fields: {}, answer: {} };
  }
  const answer = ((await response.json().catch(() => null)) ?? {}) as Record<string, unknown>;
  if (response.ok) return { kind: 'done', answer };
  const errors = (Array.isArray(answer['errors']) ? answer['errors'] : []) as { pointer: string; detail: string }[];
  return {
    kind: 'refused',
    code: String(answer['code'] ?? ''),
    answer,
    sentence: String(
      answer['detail'] ?? answer['message'] ?? (response.status === 429 ? 'Too many tries. Wait a minute.' : `The server answered ${String(response.status)}.`),
    ),
    fields: Object.fromEntries(errors.map(({ pointer, detail }) => [pointer.replace(/^#\//, ''), detail])),
  };
}
