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
        properties: { pointer: { type: 'string', description: 'URI fragment of the field, e.g. "#/drives/3/bytes".' }, detail: { type: 'string' } },
      },
    },
  },
} as const;

/** The OpenAPI 3.1 document, from the same schemas requests are checked with. */
export function openApiDocument(operations: readonly Operation[]): object {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const { method, path, summary, needs, scope, bodySchema, answerSchema, status } of operations) {
    const names = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
    paths[path] = {
      ...paths[path],
      [method.toLowerCase()]: {
        summary,
        description: `Needs the role ${needs}${scope === null ? '; not with a token' : `; a token needs the scope ${scope}`}.`,
        security: [{ session: [] }, ...(scope === null ? [] : [{ bearer: [] }])],
        ...(names.length === 0 ? {} : { parameters: names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })) }),
        ...(bodySchema === null ? {} : { requestBody: { required: true, content: { 'application/json': { schema: withoutIds(bodySchema) } } } }),
        responses: {
          [String(status)]: {
            description: 'Done',
            content: { 'application/json': { schema: answerSchema === null ? { type: 'object' } : withoutIds(answerSchema) } },
          },
          default: { description: 'A problem (RFC 9457)', content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } },
        },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Patient Shelf', version: '1', description: 'Sizes are whole bytes; counts that can pass 2^53 are decimal strings.' },
    servers: [{ url: '/api/v1' }],
    paths,
    components: {
      schemas: { Problem: PROBLEM },
      securitySchemes: { bearer: { type: 'http', scheme: 'bearer' }, session: { type: 'apiKey', in: 'cookie', name: 'patient-shelf.session_token' } },
    },
  };
}
