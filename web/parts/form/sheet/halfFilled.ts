/** What is typed into forms and not sent yet: kept in this window, until it is sent, thrown away, or whoever typed it signs out. */
const START = 'form ';

export function keepHalfFilled(name: string, values: object): void {
  sessionStorage.setItem(START + name, JSON.stringify({ at: new Date().toISOString(), values }));
}

export function forgetHalfFilled(name: string): void {
  sessionStorage.removeItem(START + name);
}

/** What was typed, and when (ISO 8601). */
interface HalfFilled {
  readonly at: string;
  readonly values: Record<string, unknown>;
}

export function halfFilledOf(name: string): HalfFilled | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(START + name) ?? 'null') as Partial<HalfFilled> | null;
    return kept?.at === undefined || kept.values === undefined ? null : { at: kept.at, values: kept.values };
  } catch {
    return null;
  }
}

export function forgetAllHalfFilled(): void {
  for (const key of Object.keys(sessionStorage)) if (key.startsWith(START)) sessionStorage.removeItem(key);
}
