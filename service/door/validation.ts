import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import formatsModule from 'ajv-formats';
import type { FromSchema, JSONSchema } from 'json-schema-to-ts';
import { explainFaults, type FieldError } from '../../schemas/faults';

export type Validated<T> =
  { readonly kind: 'valid'; readonly value: T } | { readonly kind: 'invalid'; readonly errors: readonly FieldError[] };

/** A body beyond this is told its first fault: looking for all of them may take longer than it took to send. */
const MOST_LOOKED_THROUGH = 200_000;

/** How schemas are read, here and where the checks of forms are made. */
export const AJV_OPTIONS = { discriminator: true, strictTypes: false, strictRequired: false } as const;
/** Compiled while somebody waits for the first answer: making the checks smaller would take longer than it saves. */
const AT_ONCE = { ...AJV_OPTIONS, inlineRefs: false, code: { optimize: false } } as const;
/** Stops at the first fault. */
const quick = new Ajv2020(AT_ONCE);
/** Looks for all of them. */
const thorough = new Ajv2020({ ...AT_ONCE, allErrors: true });
const addFormats = (
  typeof formatsModule === 'function' ? formatsModule : (formatsModule as { default: unknown }).default
) as (ajv: Ajv2020) => void;
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
    if ((JSON.stringify(input) ?? '').length > MOST_LOOKED_THROUGH)
      return { kind: 'invalid', errors: explainFaults(isRight.errors ?? []) };
    const look = (all ??= thorough.compile(withoutIds(schema) as object));
    look(input);
    return { kind: 'invalid', errors: explainFaults(look.errors ?? []) };
  };
}

/** A schema without the $id and $schema of its parts, for putting one into another. */
export function withoutIds(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutIds);
  if (typeof schema !== 'object' || schema === null) return schema;
  return Object.fromEntries(
    Object.entries(schema).flatMap(([key, inner]) =>
      key === '$id' || key === '$schema' ? [] : [[key, withoutIds(inner)]],
    ),
  );
}
