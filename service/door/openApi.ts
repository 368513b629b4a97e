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
    paths[path] = {
      ...paths[path],
      [method.toLowerCase()]: {
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
          default: {
            description: 'A problem (RFC 9457)',
            content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
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
