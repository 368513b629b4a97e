/**
 * JSON with every object's keys in code-unit order: two equal values give the same text, whatever order they were
 * built in. Used to compare states and to hash them. Source: the idea of RFC 8785, without its number rules, which
 * matter only beyond what JSON.stringify already writes the same way on every engine.
 */
export function canonicalJson(value: unknown): string {
  return JSON.stringify(value, (_key, inner: unknown) =>
    typeof inner === 'object' && inner !== null && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );
}
