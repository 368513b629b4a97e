import { isRefusal, type Refusal } from '../value/refusal';
import { isSameSerial, printedSerial, readKey } from './serial';

/** Fields that name a drive. */
const ONE = new Set(['serial', 'replaces', 'onto', 'spare', 'replacement', 'for', 'expects']);
const MANY = new Set(['serials', 'spares', 'members']);
/** What is said of the unit itself has a serial too, which is no drive's. */
const NO_DRIVES = new Set(['details', 'profile']);

/**
 * A value that came from outside with every drive in it named by its key; where a drive is described with its serial,
 * the printed form is kept beside. The one place where what was typed becomes a key.
 *
 * @param pointer where the value stands (RFC 6901), for the refusal
 */
export function keyed<T>(value: T, pointer = ''): T | Refusal {
  if (Array.isArray(value))
    return listed(value, (item, i) => keyed(item as unknown, `${pointer}/${String(i)}`)) as T | Refusal;
  if (typeof value !== 'object' || value === null) return value;
  const made: Record<string, unknown> = {};
  for (const [name, inner] of Object.entries(value)) {
    const at = `${pointer}/${name}`;
    const next: unknown = NO_DRIVES.has(name)
      ? inner
      : ONE.has(name) && typeof inner === 'string'
        ? readKey(inner, at)
        : MANY.has(name) && Array.isArray(inner)
          ? listed(inner, (item, i) =>
              typeof item === 'string'
                ? readKey(item, `${at}/${String(i)}`)
                : keyed(item as unknown, `${at}/${String(i)}`),
            )
          : keyed(inner, at);
    if (isRefusal(next)) return next;
    made[name] = next;
  }
  const { serial, printed } = value as { readonly serial?: unknown; readonly printed?: unknown };
  if ('bytes' in value && typeof serial === 'string') {
    // What is said to be printed on it is believed where it is of this drive.
    const shown = typeof printed === 'string' && isSameSerial(printed, serial) ? printed : printedSerial(serial);
    delete made['printed'];
    if (shown !== made['serial']) made['printed'] = shown;
  }
  return made as T;
}

function listed(items: readonly unknown[], change: (item: unknown, i: number) => unknown): unknown {
  const made: unknown[] = [];
  for (const [i, item] of items.entries()) {
    const next = change(item, i);
    if (isRefusal(next)) return next;
    made.push(next);
  }
  return made;
}
