import { chmodSync, mkdirSync, statfsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Sentence } from './sentence';

/** The checkout. */
export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '..');

const LEAST_FREE_BYTES = 300e6;

/**
 * The data folder: inside the checkout, git-ignored, unless PATIENT_SHELF_DATA names another (tests do, so that they
 * never touch the user's). Others may pass through it, as the database's own user must, but not list it.
 */
export function openDataFolder(): string {
  const folder = resolve(process.env['PATIENT_SHELF_DATA'] || join(ROOT, '.data'));
  try {
    mkdirSync(join(folder, 'log'), { recursive: true });
    chmodSync(folder, 0o711);
  } catch (error) {
    if ((error as { code?: string }).code === 'ENOSPC') throw error;
    throw new Sentence(`The data folder ${folder} cannot be written: ${(error as Error).message}.`);
  }
  const { bavail, bsize } = statfsSync(folder);
  if (bavail * bsize < LEAST_FREE_BYTES) {
    throw new Sentence(
      `The disk that holds ${folder} is full: ${String(Math.round((bavail * bsize) / 1e6))} MB are free and 300 MB are needed.`,
    );
  }
  return folder;
}
