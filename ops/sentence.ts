import { isFullDisk } from '../service/door/health';

/**
 * Something the person at the terminal has to know, in one clear sentence. Thrown anywhere under bin/, printed once,
 * exit code 1. Anything else that is thrown is a bug and shows its trace.
 */
export class Sentence extends Error {}

/** Prints what ended the run and returns the exit code. */
export function explain(error: unknown): 1 {
  if (error instanceof Sentence) console.error(error.message);
  else if (isFullDisk(error))
    console.error('The disk is full: free some space and start again; nothing recorded has been lost.');
  else console.error(error);
  return 1;
}
