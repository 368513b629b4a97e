/** The event by which any part of a page opens the box in which everything is recorded. */
export const OPEN_RECORD = 'open-record-box';

export function openRecord(): void {
  window.dispatchEvent(new Event(OPEN_RECORD));
}
