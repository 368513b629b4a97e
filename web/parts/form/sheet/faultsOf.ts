import { explainFaults, type FieldError } from '~/schemas/faults';
import type { OperationName } from '~/service/contract';

/** What the server would find wrong with a body, by the same schema. Where the check cannot be fetched the server is left to say it. */
export async function faultsOf(operation: OperationName, body: unknown): Promise<readonly FieldError[]> {
  try {
    const { CHECKS } = await import('~/web/.checks/index.mjs');
    const check = (await CHECKS[operation]?.())?.default;
    // What would not be sent is not there.
    return !check || check(JSON.parse(JSON.stringify(body ?? null))) ? [] : explainFaults(check.errors ?? []);
  } catch {
    return [];
  }
}

/** Faults by the fields of a form: each at the field whose value stands there or above, the rest under `root`. */
export function byField(faults: readonly FieldError[], pointers: Readonly<Record<string, string>>): Record<string, string> {
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
