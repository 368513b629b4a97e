/** What the user's own list of tested drives says of a drive, as a sentence. */
export function driveListed(
  { model }: { readonly model?: string },
  tested: ((model: string) => 'works' | 'avoid' | undefined) | undefined,
): string {
  if (model === undefined) return 'Hold its model against the maker’s list of tested drives, and your own.';
  const verdict = tested?.(model);
  if (verdict === 'works') return `${model} works, by your own list; the maker’s comes first.`;
  if (verdict === 'avoid') return `${model} is on your own list as one to avoid.`;
  return `${model} is not on your own list: hold it against the maker’s.`;
}
