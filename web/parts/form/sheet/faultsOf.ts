import { explainFaults, type FieldError, type SchemaFault } from '~/schemas/faults';
import type { OperationName } from '~/service/contract';

type Check = ((body: unknown) => boolean) & { readonly errors?: readonly SchemaFault[] | null };

/** So long a check is waited for; without a network it may never come. */
const MOST_WAIT_MS = 1500;

const loaded = new Map<OperationName, Promise<Check | null>>();

/** Fetches the check of an operation: as soon as something is typed, so that it is there when it is needed. */
export function loadCheck(operation: OperationName): Promise<Check | null> {
  const found =
    loaded.get(operation) ??
    import('~/web/.checks/index.mjs')
      .then(({ CHECKS }) => CHECKS[operation]?.())
      .then((module) => module?.default ?? null)
      .catch(() => {
        loaded.delete(operation);
        return null;
      });
  loaded.set(operation, found);
  return found;
}

/** What the server would find wrong with a body, by the same schema. Where the check cannot be had the server is left to say it. */
export async function faultsOf(operation: OperationName, body: unknown): Promise<readonly FieldError[]> {
  const inTime = new Promise<null>((resolve) => setTimeout(() => resolve(null), MOST_WAIT_MS));
  const check = await Promise.race([loadCheck(operation), inTime]);
  // What would not be sent is not there.
  return !check || check(JSON.parse(JSON.stringify(body ?? null))) ? [] : explainFaults(check.errors ?? []);
}

/** Faults by the fields of a form: each at the field whose value stands there or above, the rest under `root`. */
export function byField(
  faults: readonly FieldError[],
  pointers: Readonly<Record<string, string>>,
): Record<string, string> {
  const found: Record<string, string> = {};
  for (const { pointer, detail } of faults) {
    const at = pointer.replace(/^#/, '');
    const [field] = Object.entries(pointers)
      .filter(([, of]) => at === of || at.startsWith(`${of}/`))
      .sort(([, a], [, b]) => b.length - a.length)
      .map(([name]) => name);
    if (field !== undefined) found[field] ??= detail;
    else found['root'] ??= `${at.slice(1).replaceAll('/', ' › ')} ${detail}`.trim();
  }
  return found;
}
