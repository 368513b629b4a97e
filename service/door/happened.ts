/** What whoever runs the server wants to find in its log. */
export type Happened = 'sign-in-failed' | 'sign-in-throttled' | 'link-used' | 'unit-silent';

/** Says that something has happened, as a line of its log with fields of its own: who and where, and no key, ever. */
export function happened(event: Happened, fields: Readonly<Record<string, string | number | null>>): void {
  console.info({ event, ...fields });
}
