/** True for an id as this program makes and writes them: a UUID in small letters (RFC 9562). */
export function isUuid(text: string | undefined): text is string {
  return text !== undefined && /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text);
}
