import { isRefusal } from '../../core/value/refusal';
import type { App } from '../app';
import type { MadeAnswer } from './madeAnswer';
import type { FileAnswer, Operation, StatusAnswer } from './operation';
import { OPERATIONS } from '../operations';
import { bodyText } from './bodyText';
import { isFullDisk } from './health';
import { problemOf, problems, type Problem } from './problem';
import { isFromHere } from '../access/origins';
import { mayAct, viewerOf, type Viewer } from '../access/viewer';

/** Where an operation does not say otherwise. */
const MOST_BODY_BYTES = 5_000_000;

/**
 * The one door to everything below /api/v1: who is asking, may they, is the input right, do it, answer. Closed by
 * default: an operation nobody listed does not exist, and one that is listed names who may.
 *
 * @param path below /api/v1, e.g. "/layouts"
 */
export async function answer(app: App, request: Request, path: string): Promise<Response> {
  try {
    return await answerOpenly(app, request, path);
  } catch (error) {
    console.error(error);
    return toResponse(isFullDisk(error) ? problems.diskFull : problems.ourFault);
  }
}

async function answerOpenly(app: App, request: Request, path: string): Promise<Response> {
  const viewer = await viewerOf(app, request.headers);
  if (!viewer) return toResponse(problems.nobody);

  const here = OPERATIONS.flatMap((operation) => {
    const params = match(operation.path, path);
    return params ? [{ operation, params }] : [];
  });
  if (here.length === 0) return toResponse(problems.noSuchOperation);
  const found = here.find(({ operation }) => operation.method === request.method);
  if (!found)
    return toResponse(problems.wrongMethod, { allow: here.map(({ operation }) => operation.method).join(', ') });
  const { operation, params } = found;
  const query = new URL(request.url).searchParams;
  // Nothing here is called by what the database cannot keep.
  if (!isStorable([params, [...query]])) return toResponse(problems.notText);

  const forbidden = whyNot(app, viewer, operation, request);
  if (forbidden) return toResponse(problems.notAllowed(forbidden));

  const body = await readBody(request, operation);
  if ('problem' in body) return toResponse(body.problem);
  const checked = operation.check(body.value);
  if (checked.kind === 'invalid') return toResponse(problems.invalid(checked.errors));

  const asked = {
    app,
    viewer,
    params,
    body: checked.value as never,
    query,
    now: await app.clock.now(),
    signal: request.signal,
  };
  const result = await operation.run(asked);
  if (isRefusal(result)) return toResponse(problemOf(result));
  if (isFile(result)) {
    return new Response(bodyOf(result), {
      headers: {
        ...HEADERS,
        'content-type': result.type,
        'content-disposition': `${result.isShown === true ? 'inline' : 'attachment'}; filename="${result.name.replace(/[^\w. -]+/g, '_')}"`,
        // Whatever is in it: it runs nothing and reaches nothing.
        'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      },
    });
  }
  if (isMadeAnswer(result))
    return new Response(result.json, {
      status: operation.status,
      headers: { ...HEADERS, 'content-type': 'application/json' },
    });
  if (isStatusAnswer(result)) return Response.json(result.body, { status: result.status, headers: HEADERS });
  return Response.json(result, { status: operation.status, headers: HEADERS });
}

const HEADERS = { 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' };

/** Pieces go out as they are made, no faster than they are taken: an export is never in memory as a whole. */
function bodyOf({ text, bytes, pieces }: FileAnswer): BodyInit {
  if (pieces === undefined) return text ?? new Uint8Array(bytes ?? []);
  const encoder = new TextEncoder();
  return new ReadableStream<Uint8Array>({
    pull: async (out) => {
      const next = await pieces.next();
      if (next.done === true) out.close();
      else out.enqueue(encoder.encode(next.value));
    },
    cancel: async () => void (await pieces.return(undefined)),
  });
}

function isFile(result: unknown): result is FileAnswer {
  return (result as { kind?: unknown } | null)?.kind === 'file';
}

function isMadeAnswer(result: unknown): result is MadeAnswer {
  return (result as { kind?: unknown } | null)?.kind === 'made-answer';
}

function isStatusAnswer(result: unknown): result is StatusAnswer {
  return (result as { kind?: unknown } | null)?.kind === 'status-answer';
}

/** `undefined` when the viewer may. */
function whyNot(
  { baseUrl }: App,
  viewer: Viewer,
  { needs, scope, method }: Operation,
  request: Request,
): string | undefined {
  if (viewer.via === 'token' && scope === null) return 'No token may do this: sign in.';
  if (viewer.via === 'token' && scope !== null && !viewer.scopes.includes(scope))
    return `This token is not scoped for "${scope}".`;
  if (!mayAct(viewer, needs)) return `This needs the role "${needs}"; yours is "${viewer.role}".`;
  // A page elsewhere can make a browser send the session's cookie along, but not without saying where it comes from; what
  // says nothing is no browser, and a cookie alone opens nothing to it.
  if (viewer.via === 'session' && method !== 'GET' && isFromHere(request.headers, baseUrl) !== true)
    return 'This request does not say that it comes from a page of this server.';
  return undefined;
}

async function readBody(
  request: Request,
  operation: Operation,
): Promise<{ readonly value: unknown } | { readonly problem: Problem }> {
  if (operation.bodySchema === null) return { value: undefined };
  if (!/^application\/(?:[\w.+-]+\+)?json\b/i.test(request.headers.get('content-type') ?? ''))
    return { problem: problems.wrongType };
  const most = operation.mostBytes ?? MOST_BODY_BYTES;
  const read = await bodyText(request, most);
  if ('trouble' in read) return { problem: read.trouble === 'too-large' ? problems.tooLarge(most) : problems.cutShort };
  try {
    const value: unknown = JSON.parse(read.text);
    return isStorable(value) ? { value } : { problem: problems.notText };
  } catch {
    return { problem: problems.notJson };
  }
}

/** The database keeps neither the NUL character nor half of a surrogate pair; JSON can carry both, and writes both escaped. */
function isStorable(value: unknown): boolean {
  return !/(?:^|[^\\])(?:\\\\)*\\u(?:0000|d[89a-f][0-9a-f]{2})/i.test(JSON.stringify(value));
}

/** The values of the {names} in a path, or `undefined` when it is another path. */
function match(pattern: string, path: string): Record<string, string> | undefined {
  const [want, have] = [pattern.split('/'), path.split('/')];
  if (want.length !== have.length) return undefined;
  const params: Record<string, string> = {};
  for (const [i, part] of want.entries()) {
    const name = /^\{(\w+)\}$/.exec(part)?.[1];
    if (name !== undefined) {
      const value = decoded(have[i] as string);
      if (value === undefined) return undefined;
      params[name] = value;
    } else if (part !== have[i]) return undefined;
  }
  return params;
}

/** A serial may hold anything: it stands in the path encoded. */
function decoded(part: string): string | undefined {
  try {
    return decodeURIComponent(part);
  } catch {
    return undefined;
  }
}

function toResponse(problem: Problem, headers: Record<string, string> = {}): Response {
  const challenge: Record<string, string> = problem.status === 401 ? { 'www-authenticate': 'Bearer' } : {};
  return new Response(JSON.stringify({ type: 'about:blank', ...problem }), {
    status: problem.status,
    headers: { ...HEADERS, 'content-type': 'application/problem+json', ...challenge, ...headers },
  });
}
