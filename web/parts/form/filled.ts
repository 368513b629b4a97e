/** Of what was typed, the named fields that are not empty, trimmed: what is left empty is not sent. */
export function filled<K extends string>(
  values: Readonly<Record<K, string>>,
  ...names: readonly K[]
): { [N in K]?: string } {
  return Object.fromEntries(
    names.map((name) => [name, values[name].trim()] as const).filter(([, text]) => text !== ''),
  ) as { [N in K]?: string };
}
