/** A file as a list of files has it: what the list does not say is left out. */
export interface ListedFile {
  /** With `/` between folders, and nothing before the first. */
  readonly path: string;
  /** Bytes. */
  readonly size?: number;
  /** When it was last changed, ms since 1970. */
  readonly time?: number;
  /** Its checksum, hexadecimal, in small letters. */
  readonly sum?: string;
}

export interface ListingProblem {
  /** The line of the text, counted from 1. */
  readonly line: number;
  readonly reason: string;
}

export interface Listing {
  readonly kind: 'listing';
  readonly files: readonly ListedFile[];
  /** The first lines that are no file; more are only counted. */
  readonly problems: readonly ListingProblem[];
  readonly problemCount: number;
}

/** Says how far long work is, 0..1. */
export type Progress = (share: number) => void;

/** More problems than this are counted and not told one by one. */
export const MOST_PROBLEMS = 20;
/** Lines between two words of progress. */
export const PROGRESS_LINES = 50_000;

/** A path as it is compared: `/` between folders, no drive letter, no "./" and no `/` before it. */
export function plainPath(path: string): string {
  const isWindows = /^[A-Za-z]:\\/.test(path) || (path.includes('\\') && !path.includes('/'));
  const slashed = isWindows ? path.replaceAll('\\', '/') : path;
  let from = 0;
  if (/^[A-Za-z]:\//.test(slashed)) from = 3;
  while (slashed.startsWith('./', from)) from += 2;
  while (slashed[from] === '/') from += 1;
  return slashed.slice(from);
}
