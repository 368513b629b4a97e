import type { Contract, OperationName } from '~/service/contract';
import { send, type Sent } from './send';

/** The {names} in a path. */
type NamesIn<P extends string> = P extends `${string}{${infer N}}${infer Rest}` ? N | NamesIn<Rest> : never;

/** A value as it may be sent: nobody changes it on the way. */
type Frozen<T> = T extends readonly (infer I)[]
  ? readonly Frozen<I>[]
  : T extends object
    ? { readonly [K in keyof T]: Frozen<T[K]> }
    : T;

/** What an operation is asked with: a value for each name in its path, its body, what stands behind the path. */
export type AskedOf<N extends OperationName> = { readonly [K in NamesIn<N>]: string } & {
  readonly query?: Readonly<Record<string, string>>;
} & (Contract[N]['body'] extends undefined ? unknown : { readonly body: Frozen<Contract[N]['body']> });

export type AnswerOf<N extends OperationName> = Contract[N]['answer'];

/**
 * Asks one operation of this server. Every change a screen makes goes through here and the interface everybody else uses;
 * what goes in and what comes out is typed by the list of operations itself.
 */
export function api<N extends OperationName>(
  name: N,
  asked: AskedOf<N>,
  signal?: AbortSignal,
): Promise<Sent<AnswerOf<N>>> {
  const { body, query, ...names } = asked as {
    readonly body?: unknown;
    readonly query?: Readonly<Record<string, string>>;
  } & Readonly<Record<string, string>>;
  const [method, path] = name.split(' ') as [Parameters<typeof send>[0], string];
  const filled = path.replaceAll(/\{(\w+)\}/g, (_all, key: string) =>
    encodeURIComponent((names as Readonly<Record<string, string>>)[key] ?? ''),
  );
  const behind = query === undefined ? '' : `?${new URLSearchParams(query).toString()}`;
  return send<AnswerOf<N>>(method, `/api/v1${filled}${behind}`, body, signal);
}
