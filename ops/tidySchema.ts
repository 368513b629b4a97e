/** A JSON Schema as a value. */
export type Schema = Readonly<Record<string, unknown>>;

/** Where parts that occur more than once stand. */
const DEFINITIONS = '#/definitions/';
/** A part shorter than this is written where it is used. */
const SHORT = 160;

/** A fixed row of parts as the schema of today writes it: the one they are read off writes it as that of 2019 did. */
function tupleOfToday(schema: Schema): Schema {
  const { items, additionalItems: _never, ...rest } = schema;
  return Array.isArray(items) ? { ...rest, prefixItems: items as unknown, items: false } : schema;
}

/**
 * The schema of an object whose properties are each a schema of their own, with every part that occurs more than once named
 * and written once: by its type where that has a name, else by its `kind`, else by the field it was found in.
 *
 * @param made as read off types: its parts may be named by the whole text of a type
 */
export function tidySchema(made: Schema): {
  readonly answers: Record<string, unknown>;
  readonly definitions: Record<string, unknown>;
} {
  const parts = (made['definitions'] ?? {}) as Record<string, Schema>;
  const count = new Map<string, number>();
  const names = new Map<string, string>();
  const taken = new Set<string>();

  /** In full: no part left as a reference. */
  const whole = (schema: unknown): unknown => {
    if (Array.isArray(schema)) return schema.map(whole);
    if (!isObject(schema)) return schema;
    const ref = schema['$ref'];
    if (typeof ref === 'string') {
      const name = decodeURIComponent(ref.slice(DEFINITIONS.length));
      const part = whole(parts[name]) as Schema;
      if (/^[A-Z]\w+$/.test(name) && !/^Pick$|^Omit$/.test(name)) named(text(part), name.replace(/_\d+$/, ''));
      return part;
    }
    return closed(Object.fromEntries(Object.entries(tupleOfToday(schema)).map(([key, inner]) => [key, whole(inner)])));
  };
  const named = (key: string, wish: string): string => {
    const known = names.get(key);
    if (known !== undefined) return known;
    let name = wish;
    for (let i = 2; taken.has(name); i++) name = `${wish}${String(i)}`;
    taken.add(name);
    names.set(key, name);
    return name;
  };
  const tally = (schema: unknown): void => {
    if (Array.isArray(schema)) return schema.forEach(tally);
    if (!isObject(schema)) return;
    if (isPart(schema)) {
      const key = text(schema);
      count.set(key, (count.get(key) ?? 0) + 1);
      if (count.get(key) !== 1) return;
    }
    Object.values(schema).forEach(tally);
  };
  const definitions: Record<string, unknown> = {};
  const short = (schema: unknown, field: string): unknown => {
    if (Array.isArray(schema)) return schema.map((one) => short(one, field));
    if (!isObject(schema)) return schema;
    const key = text(schema);
    if (!isPart(schema) || (count.get(key) ?? 0) < 2) return inside(schema, field);
    const name = named(key, kindOf(schema) ?? pascal(field));
    definitions[name] ??= inside(schema, field);
    return { $ref: `#/components/schemas/${name}` };
  };
  const inside = (schema: Schema, field: string): Schema =>
    Object.fromEntries(
      Object.entries(schema).map(([key, inner]) =>
        key === 'properties' && isObject(inner)
          ? [key, Object.fromEntries(Object.entries(inner).map(([name, one]) => [name, short(one, name)]))]
          : [key, short(inner, field)],
      ),
    );

  const answers = whole(made['properties'] ?? {}) as Record<string, unknown>;
  tally(Object.values(answers));
  const tidied = Object.fromEntries(Object.entries(answers).map(([name, schema]) => [name, short(schema, 'Answer')]));
  return { answers: sorted(tidied), definitions: sorted(definitions) };
}

/** Without initial values; with nothing allowed that is not said, in an object of which something is. */
function closed({ default: _initial, ...schema }: Schema): Schema {
  const { allOf, ...rest } = schema;
  if (Array.isArray(allOf)) return closed({ ...rest, ...both(allOf as Schema[]) });
  const properties = isObject(schema['properties']) ? Object.keys(schema['properties']) : [];
  return properties.length > 0 && schema['additionalProperties'] === undefined
    ? { ...schema, additionalProperties: false }
    : schema;
}

/** What is each of several at once: the fields of all of them; or, a brand on a text being nothing that is sent, the text. */
function both(parts: readonly Schema[]): Schema {
  const simple = parts.find(({ type }) => type === 'string' || type === 'number');
  if (simple) return simple;
  const properties = Object.assign({}, ...parts.map((part) => part['properties'])) as Schema;
  const required = [...new Set(parts.flatMap((part) => (part['required'] ?? []) as string[]))].sort();
  return { type: 'object', properties, ...(required.length === 0 ? {} : { required }) };
}

function isPart(schema: Schema): boolean {
  return (schema['type'] === 'object' || Array.isArray(schema['anyOf'])) && text(schema).length > SHORT;
}

function isObject(value: unknown): value is Schema {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function text(schema: unknown): string {
  return JSON.stringify(schema);
}

function kindOf(schema: Schema): string | undefined {
  const kind = isObject(schema['properties']) ? schema['properties']['kind'] : undefined;
  const only = isObject(kind)
    ? (kind['const'] ?? (Array.isArray(kind['enum']) && kind['enum'].length === 1 ? kind['enum'][0] : undefined))
    : undefined;
  return typeof only === 'string' ? pascal(only) : undefined;
}

function pascal(name: string): string {
  return name
    .replaceAll(/(?:^|[^A-Za-z0-9]+)([A-Za-z0-9])/g, (_all, letter: string) => letter.toUpperCase())
    .replaceAll(/[^A-Za-z0-9]/g, '');
}

function sorted(record: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1)));
}
