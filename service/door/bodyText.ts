/** What arrived of a body: its text, or why it is not taken. */
export type BodyText = { readonly text: string } | { readonly trouble: 'too-large' | 'cut-short' };

/**
 * Reads a body as it arrives, and stops at the byte that is too much: what it says of its length is a claim, and nothing that is
 * not taken is kept.
 *
 * @param most bytes
 */
export async function bodyText({ body, headers }: Request, most: number): Promise<BodyText> {
  const claimed = Number(headers.get('content-length') ?? 0);
  if (claimed > most) return { trouble: 'too-large' };
  const parts: string[] = [];
  const decoder = new TextDecoder();
  const reader = body?.getReader();
  let seen = 0;
  for (let next = await reader?.read(); next?.done === false; next = await reader?.read()) {
    const chunk = next.value as Uint8Array;
    seen += chunk.byteLength;
    if (seen > most) {
      await reader?.cancel();
      return { trouble: 'too-large' };
    }
    parts.push(decoder.decode(chunk, { stream: true }));
  }
  // What does not arrive whole is not taken for what it begins with.
  if (seen < claimed) return { trouble: 'cut-short' };
  parts.push(decoder.decode());
  return { text: parts.join('') };
}
