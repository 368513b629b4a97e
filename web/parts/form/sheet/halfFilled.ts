/** What is typed into forms and not sent yet: kept in this window, until it is sent, thrown away, or whoever typed it signs out. */
const START = 'form ';

export function keepHalfFilled(name: string, values: object): void {
  sessionStorage.setItem(START + name, JSON.stringify(values));
}

export function forgetHalfFilled(name: string): void {
  sessionStorage.removeItem(START + name);
}

export function halfFilledOf(name: string): Record<string, unknown> | null {
  try {
    return JSON.parse(sessionStorage.getItem(START + name) ?? 'null') as Record<string, unknown> | null;
  } catch {
    return null;
  }
}

export function forgetAllHalfFilled(): void {
  for (const key of Object.keys(sessionStorage)) if (key.startsWith(START)) sessionStorage.removeItem(key);
}
