/** A name nothing goes by yet, "volume-2". Names are used again once they are free: the same history gives the same names. */
export function freeName(taken: Readonly<Record<string, unknown>>, kind: string): string {
  let n = 1;
  while (Object.hasOwn(taken, `${kind}-${String(n)}`)) n++;
  return `${kind}-${String(n)}`;
}
