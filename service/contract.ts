import type { OPERATIONS } from './operations';

type Listed = (typeof OPERATIONS)[number];
type TypesOf<O extends Listed> = NonNullable<O['types']>;

/**
 * Everything that can be asked for, by method and path, with the types of what goes in and of what comes out. Nobody
 * writes it down: the compiler reads it off the list of operations, the client of the screens is typed by it, and the JSON
 * Schemas of the answers (schemas/answers.json) are made from it by `npm run types:answers`.
 */
export type Contract = {
  readonly [O in Listed as `${O['method']} ${O['path']}`]: {
    readonly body: TypesOf<O>['body'];
    readonly answer: TypesOf<O>['answer'];
  };
};

/** The name of an operation, e.g. "GET /units/{id}". */
export type OperationName = keyof Contract;

/** What each operation answers; `never` where that is a file. */
export type Answers = { readonly [N in OperationName]: Contract[N]['answer'] };
