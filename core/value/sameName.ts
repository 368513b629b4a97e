/** Whether two names that people gave mean the same: case does not count, nor do blanks around them. */
export function isSameName(a: string, b: string): boolean {
  return a.trim().toLowerCase() === b.trim().toLowerCase();
}
