/** One thing that is wrong with an input: where (RFC 9457 writes it as a URI fragment) and what. */
export interface FieldError {
  readonly pointer: string;
  readonly detail: string;
}

/** What a check of JSON Schema says of one fault; the server's and the forms' checks say it alike. */
export interface SchemaFault {
  readonly instancePath: string;
  readonly keyword: string;
  readonly params: Readonly<Record<string, unknown>>;
  readonly message?: string | undefined;
}

/** No answer lists more faults than a person reads. */
const MOST_ERRORS = 50;

/** Faults in sentences, each field's each once. */
export function explainFaults(faults: readonly SchemaFault[]): FieldError[] {
  const found = new Map<string, FieldError>();
  for (const fault of faults) {
    const field = explainOne(fault);
    if (field && !found.has(field.pointer + field.detail)) found.set(field.pointer + field.detail, field);
  }
  return [...found.values()].slice(0, MOST_ERRORS);
}

function explainOne({ instancePath, keyword, params, message }: SchemaFault): FieldError | null {
  const at = (path: string, detail: string): FieldError => ({ pointer: `#${path}`, detail });
  const under = (name: unknown): string =>
    `${instancePath}/${String(name).replaceAll('~', '~0').replaceAll('/', '~1')}`;
  switch (keyword) {
    case 'required':
      return at(under(params['missingProperty']), 'is required.');
    case 'additionalProperties':
      return at(under(params['additionalProperty']), 'is not a known field.');
    case 'enum':
      return at(instancePath, `must be one of ${(params['allowedValues'] as unknown[]).join(', ')}.`);
    case 'if':
      return null;
    case 'anyOf':
      return at(instancePath, 'fits none of the forms allowed here.');
    case 'minLength':
      return at(
        instancePath,
        params['limit'] === 1 ? 'must not be empty.' : `must have at least ${String(params['limit'])} characters.`,
      );
    case 'maxLength':
      return at(instancePath, `must have at most ${String(params['limit'])} characters.`);
    case 'format':
      return at(
        instancePath,
        params['format'] === 'date' ? 'must be a day that there is, as 2026-11-30.' : `${message ?? 'is not right'}.`,
      );
    default:
      return at(instancePath, `${message ?? 'is not right'}.`);
  }
}
