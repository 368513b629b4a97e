/** What stands before the standard's own addresses. */
export function baseOf(address: string): string {
  return new URL(address).pathname.replace(/\/(redfish(\/v1)?\/?)?$/, '');
}
