import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import formatsModule from 'ajv-formats';
import type { FromSchema, JSONSchema } from 'json-schema-to-ts';

/** One thing that is wrong with an input: where (RFC 9457 writes it as a URI fragment) and what. */
export interface FieldError {
  readonly pointer: string;
  readonly detail: string;
}

export type Validated<T> = { readonly kind: 'valid'; readonly value: T } | { readonly kind: 'invalid'; readonly errors: readonly FieldError[] };

/** No answer lists more faults than a person reads. */
const MOST_ERRORS = 50;

/** A body beyond this is told its first fault: looking for all of them may take longer than it took to send. */
const MOST_LOOKED_THROUGH = 200_000;

const OPTIONS = { discriminator: true, strictTypes: false, strictRequired: false } as const;
/** Stops at the first fault. */
const quick = new Ajv2020(OPTIONS);
/** Looks for all of them. */
const thorough = new Ajv2020({ ...OPTIONS, allErrors: true });
const addFormats = (typeof formatsModule === 'function' ? formatsModule : (formatsModule as { default: unknown }).default) as (ajv: Ajv2020) => void;
addFormats(quick);
addFormats(thorough);

/** Compiles a schema once; the check gives the typed value, or every bad field with a pointer and a sentence. */
export function createValidator<const S extends JSONSchema>(schema: S): (input: unknown) => Validated<FromSchema<S>> {
  return compileCheck(schema as object) as (input: unknown) => Validated<FromSchema<S>>;
}

/** The same for a schema whose type is not known here. Compiled when first asked: a start does not wait for what nobody sends. */
export function compileCheck(schema: object): (input: unknown) => Validated<unknown> {
  let [first, all]: (ValidateFunction | undefined)[] = [];
  return (input) => {
    // Shared parts carry an $id; compiled on their own they would clash.
    const isRight = (first ??= quick.compile(withoutIds(schema) as object));
    if (isRight(input)) return { kind: 'valid', value: input };
    if ((JSON.stringify(input) ?? '').length > MOST_LOOKED_THROUGH) return { kind: 'invalid', errors: explain(isRight.errors ?? []) };
    const look = (all ??= thorough.compile(withoutIds(schema) as object));
    look(input);
    return { kind: 'invalid', errors: explain(look.errors ?? []) };
  };
}

/** A schema without the $id and $schema of its parts, for putting one into another. */
export function withoutIds(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutIds);
  if (typeof schema !== 'object' || schema === null) return schema;
  return Object.fromEntries(Object.entries(schema).flatMap(([key, inner]) => (key === '$id' || key === '$schema' ? [] : [[key, withoutIds(inner)]])));
}

function explain(errors: readonly ErrorObject[]): FieldError[] {
  const found = new Map<string, FieldError>();
  for (const error of errors) {
    const field = explainOne(error);
    if (field && !found.has(field.pointer + field.detail)) found.set(field.pointer + field.detail, field);
  }
  return [...found.values()].slice(0, MOST_ERRORS);
}

function explainOne({ instancePath, keyword, params, message }: ErrorObject): FieldError | null {
  const at = (path: string, detail: string): FieldError => ({ pointer: `#${path}`, detail });
  const under = (name: string): string => `${instancePath}/${name.replaceAll('~', '~0').replaceAll('/', '~1')}`;
  switch (keyword) {
    case 'required':
      return at(under((params as { missingProperty: string }).missingProperty), 'is required.');
    case 'additionalProperties':
      return at(under((params as { additionalProperty: string }).additionalProperty), 'is not a known field.');
    case 'enum':
      return at(instancePath, `must be one of ${(params as { allowedValues: unknown[] }).allowedValues.join(', ')}.`);
    case 'if':
      return null;
    case 'anyOf':
      return at(instancePath, 'fits none of the forms allowed here.');
    default:
      return at(instancePath, `${message ?? 'is not right'}.`);
  }
}
