import type { Refusal } from '../../core/value/refusal';
import type { Role, Scope } from '../../schemas/access';
import type { App } from '../app';
import type { MadeAnswer } from './madeAnswer';
import { compileCheck, type Validated } from './validation';
import type { Viewer } from '../access/viewer';

export interface Asked<B> {
  readonly app: App;
  readonly viewer: Viewer;
  readonly body: B;
  /** Values of the {names} in the path. */
  readonly params: Readonly<Record<string, string>>;
  readonly query: URLSearchParams;
  readonly now: Date;
  /** Aborted when nobody waits for the answer any more. */
  readonly signal: AbortSignal;
}

/** An answer that is not JSON: a file to take away. */
export interface FileAnswer {
  readonly kind: 'file';
  readonly name: string;
  readonly type: string;
  readonly text?: string;
  readonly bytes?: Uint8Array;
  /** A file that is made while it is sent. */
  readonly pieces?: AsyncGenerator<string>;
  /** Shown in the page rather than saved: pictures only. */
  readonly isShown?: boolean;
}

/** An answer with a status of its own. */
export interface StatusAnswer<A extends object = object> {
  readonly kind: 'status-answer';
  readonly status: number;
  readonly body: A;
}

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/**
 * One thing a client can ask for. The list of operations is the whole interface: routes, rights, validation, the OpenAPI
 * document and the types of the client are all read off it.
 *
 * `M`, `P`, `B`, `A`: its method, its path, and the types of its body and of its answer.
 */
export interface Operation<M extends Method = Method, P extends string = string, B = unknown, A = unknown> {
  readonly method: M;
  /** Below /api/v1, e.g. "/units/{id}". */
  readonly path: P;
  readonly summary: string;
  /** What may stand behind the path as ?name=, with what it says. */
  readonly query: Readonly<Record<string, string>>;
  readonly needs: Role;
  /** What a bearer token must be scoped for; `null` means that no token may, only a person who is signed in. */
  readonly scope: Scope | null;
  readonly bodySchema: object | null;
  /** The media type of an answer that is a file; `null` where it is JSON. */
  readonly file: string | null;
  readonly status: number;
  /** Longest body taken; left out means the door's own limit. */
  readonly mostBytes?: number;
  readonly check: (body: unknown) => Validated<unknown>;
  readonly run: (asked: Asked<never>) => Promise<unknown>;
  /** Never there: it tells the compiler what goes in and what comes out. */
  readonly types?: { readonly body: B; readonly answer: A };
}

interface Described<M, P, B, A> extends Pick<Operation, 'summary' | 'needs' | 'scope' | 'mostBytes'> {
  readonly method: M;
  readonly path: P;
  readonly query?: Readonly<Record<string, string>>;
  readonly file?: string;
  /** Of a good answer; 200 when left out. */
  readonly status?: number;
  readonly run: (asked: Asked<B>) => Promise<A>;
}

/** What is sent as JSON of what an operation gives. */
type Sent<A> = A extends Refusal | FileAnswer
  ? never
  : A extends StatusAnswer<infer B>
    ? B
    : A extends MadeAnswer<infer B>
      ? B
      : A;

/** An operation without a body. */
export function operation<M extends Method, const P extends string, A extends object>(
  described: Described<M, P, undefined, A>,
): Operation<M, P, undefined, Sent<A>> {
  return describe(null, () => ({ kind: 'valid', value: undefined }), described);
}

/** An operation that takes a body, checked by its schema before anything else happens. `B` is the schema's type. */
export function operationTaking<B>(body: object) {
  return <M extends Method, const P extends string, A extends object>(
    described: Described<M, P, B, A>,
  ): Operation<M, P, B, Sent<A>> => describe(body, compileCheck(body), described);
}

function describe<M extends Method, P extends string, B, A>(
  bodySchema: object | null,
  check: Operation['check'],
  { query = {}, file, status = 200, run, ...rest }: Described<M, P, B, A>,
): Operation<M, P, B, Sent<A>> {
  return Object.freeze({
    ...rest,
    query,
    file: file ?? null,
    bodySchema,
    status,
    check,
    run: run as unknown as Operation['run'],
  });
}
