import answers from '../../schemas/answers.json' with { type: 'json' };
import type { Operation } from './operation';
import { withoutIds } from './validation';

const PROBLEM = {
  type: 'object',
  required: ['type', 'title', 'status', 'detail', 'code'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    code: { type: 'string' },
    errors: {
      type: 'array',
      items: {
        type: 'object',
        required: ['pointer', 'detail'],
        properties: {
          pointer: { type: 'string', description: 'URI fragment of the field, e.g. "#/drives/3/bytes".' },
          detail: { type: 'string' },
        },
      },
    },
  },
} as const;

/** What an operation answers, as a JSON Schema whose parts stand under components; made from its types. */
export function answerSchema(method: string, path: string): object {
  return (answers.answers as Readonly<Record<string, object>>)[`${method} ${path}`] ?? {};
}

const problem = { content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } };

/** What may be refused of every operation, of those about one thing, of those that take something in; what else, `code` says. */
const REFUSALS: readonly { readonly status: number; readonly of: 'all' | 'one' | 'body'; readonly why: string }[] = [
  { status: 401, of: 'all', why: 'Neither a session nor a bearer token that is known (not-signed-in)' },
  { status: 403, of: 'all', why: 'Another role or scope, or a page from elsewhere (not-allowed)' },
  { status: 429, of: 'all', why: 'Too much at once (too-much-at-once)' },
  { status: 404, of: 'one', why: 'There is no such thing (not-found)' },
  { status: 400, of: 'body', why: 'Not JSON, or cut on its way (not-json, cut-short)' },
  {
    status: 409,
    of: 'body',
    why: 'Somebody was first, or the same id says something else (version-conflict, act-differs, name-taken)',
  },
  { status: 413, of: 'body', why: 'Longer than it may be (too-large)' },
  { status: 415, of: 'body', why: 'Not sent as JSON (wrong-type)' },
  { status: 422, of: 'body', why: 'Refused, with the field it is about: by its form, or by what is on record' },
  { status: 507, of: 'body', why: 'The disk is full: nothing was stored (disk-full)' },
];

/** "POST /units/{id}/events" as `postUnitsByIdEvents`: unlike every other, and as stable as the path. */
export function operationId(method: string, path: string): string {
  const words = path.split(/[/.-]/).filter((part) => part !== '');
  return (
    method.toLowerCase() +
    words
      .map((word) =>
        word.replace(/^\{(.*)\}$/, 'by-$1').replace(/(?:^|-)(\w)/g, (_, letter: string) => letter.toUpperCase()),
      )
      .join('')
  );
}

/** What it is about: the first word of its path. */
function tagOf(path: string): string {
  return /^\/([a-z-]+)/.exec(path)?.[1] ?? 'shelf';
}

/** The OpenAPI 3.1 document, from the same schemas requests are checked with. */
export function openApiDocument(operations: readonly Operation[]): object {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const { method, path, query, summary, needs, scope, bodySchema, file, status } of operations) {
    const parameters = [
      ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
        name,
        in: 'path',
        required: true,
        schema: { type: 'string' },
      })),
      ...Object.entries(query).map(([name, description]) => ({
        name,
        in: 'query',
        description,
        schema: { type: 'string' },
      })),
    ];
    const refused = REFUSALS.filter(
      ({ of }) => of === 'all' || (of === 'body' ? bodySchema !== null : path.includes('{')),
    );
    paths[path] = {
      ...paths[path],
      [method.toLowerCase()]: {
        operationId: operationId(method, path),
        tags: [tagOf(path)],
        summary,
        description: `Needs the role ${needs}${scope === null ? '; not with a token' : `; a token needs the scope ${scope}`}.`,
        security: [{ session: [] }, ...(scope === null ? [] : [{ bearer: [] }])],
        ...(parameters.length === 0 ? {} : { parameters }),
        ...(bodySchema === null
          ? {}
          : { requestBody: { required: true, content: { 'application/json': { schema: withoutIds(bodySchema) } } } }),
        responses: {
          [String(status)]: {
            description: 'Done',
            content: file === null ? { 'application/json': { schema: answerSchema(method, path) } } : { [file]: {} },
          },
          ...Object.fromEntries(
            refused.map(({ status: code, why }) => [String(code), { ...problem, description: why }]),
          ),
          default: {
            ...problem,
            description: 'A problem (RFC 9457)',
          },
        },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Patient Shelf',
      version: '1',
      description: 'Sizes are whole bytes; counts that can pass 2^53 are decimal strings.',
    },
    servers: [{ url: '/api/v1' }],
    tags: [...new Set(operations.map(({ path }) => tagOf(path)))].sort().map((name) => ({ name })),
    paths,
    components: {
      schemas: { Problem: PROBLEM, ...answers.definitions },
      securitySchemes: {
        bearer: { type: 'http', scheme: 'bearer' },
        session: { type: 'apiKey', in: 'cookie', name: 'patient-shelf.session_token' },
      },
    },
  };
}
