'use client';
import { rowsOf } from '~/web/parts/form/rowsOf';
import { readDriveList, type DriveList } from '~/core/drive/driveList';

const KEY = 'shelf-bench-sheet';
const AT = 'shelf-bench-sheet-at';

/** The sheet on the bench is a draft of this browser until it is put on the shelf: nothing is sent anywhere before. */
export function loadDraft(): string {
  return localStorage.getItem(KEY) ?? '';
}

/** When the draft was last changed (ISO 8601); `null` without one. */
export function draftAt(): string | null {
  return loadDraft() === '' ? null : localStorage.getItem(AT);
}

export function saveDraft(text: string): void {
  try {
    if (text === '') localStorage.removeItem(KEY);
    else {
      localStorage.setItem(KEY, text);
      localStorage.setItem(AT, new Date().toISOString());
    }
  } catch {
    // A sheet too large to keep is still on screen; it is only gone after a reload.
  }
}

/** Reads a sheet as CSV (RFC 4180), whatever its delimiter; cells copied from a table come with tabs. */
export function readSheet(text: string): DriveList {
  return readDriveList(rowsOf(text));
}

/** A file's text; a binary one comes out with the replacement characters that give it away. */
export function readFile(file: File): Promise<string> {
  return file.text();
}
