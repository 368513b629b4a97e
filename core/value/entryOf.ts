/**
 * An entry of a record by a key that came from outside: only what was put there, never what every object brings along
 * ("constructor" is a serial somebody may type).
 */
export function entryOf<T>(record: Readonly<Record<string, T>>, key: string): T | undefined {
  return Object.hasOwn(record, key) ? record[key] : undefined;
}
