import type { Refusal } from '../../core/value/refusal';
import type { Role, Scope } from '../../schemas/access';
import type { App } from '../app';
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
export interface StatusAnswer {
  readonly kind: 'status-answer';
  readonly status: number;
  readonly body: object;
}

/**
 * One thing a client can ask for. The list of operations is the whole interface: routes, rights, validation and the
 * OpenAPI document are all read off it.
 */
export interface Operation {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** Below /api/v1, e.g. "/units/{id}". */
  readonly path: string;
  readonly summary: string;
  readonly needs: Role;
  /** What a bearer token must be scoped for; `null` means that no token may, only a person who is signed in. */
  readonly scope: Scope | null;
  readonly bodySchema: object | null;
  readonly answerSchema: object | null;
  readonly status: number;
  /** Longest body taken; left out means the door's own limit. */
  readonly mostCharacters?: number;
  readonly check: (body: unknown) => Validated<unknown>;
  readonly run: (asked: Asked<never>) => Promise<unknown>;
}

interface Described<B> extends Pick<Operation, 'method' | 'path' | 'summary' | 'needs' | 'scope' | 'mostCharacters'> {
  readonly answer?: object;
  /** Of a good answer; 200 when left out. */
  readonly status?: number;
  readonly run: (asked: Asked<B>) => Promise<object | Refusal>;
}

/** An operation without a body. */
export function operation(described: Described<undefined>): Operation {
  return describe(null, () => ({ kind: 'valid', value: undefined }), described);
}

/** An operation that takes a body, checked by its schema before anything else happens. `B` is the schema's type. */
export function operationTaking<B>(body: object, described: Described<B>): Operation {
  return describe(body, compileCheck(body), described);
}

function describe<B>(bodySchema: object | null, check: Operation['check'], { answer, status = 200, run, ...rest }: Described<B>): Operation {
  return Object.freeze({ ...rest, bodySchema, answerSchema: answer ?? null, status, check, run: run as unknown as Operation['run'] });
}
