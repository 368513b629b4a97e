import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import answers from '~/schemas/answers.json' with { type: 'json' };
import { answerSchema } from '~/service/door/openApi';
import { OPERATIONS } from '~/service/operations';

const ajv = new Ajv2020({ strict: false });
const compiled = new Map<string, ValidateFunction>();

/** What of a good answer is not as its operation says it is; every answer in a test is held against that. */
export function faultsOf(method: string, path: string, body: unknown): readonly unknown[] {
  const matching = OPERATIONS.filter(
    (one) => one.method === method && new RegExp(`^${one.path.replaceAll(/\{\w+\}/g, '[^/]+')}$`).test(path),
  );
  // "/units/{id}" would match "/units/sheet": the one with the fewest gaps is meant.
  const operation = matching.sort((a, b) => a.path.split('{').length - b.path.split('{').length)[0];
  if (!operation || operation.file !== null) return [];
  const name = `${method} ${operation.path}`;
  const check =
    compiled.get(name) ??
    ajv.compile({ ...answerSchema(method, operation.path), components: { schemas: answers.definitions } });
  compiled.set(name, check);
  return check(body) ? [] : (check.errors ?? []);
}
