import { copyFile, rename, stat, truncate } from 'node:fs/promises';

const MOST_BYTES = 10_000_000;
/** How many earlier ones are kept, the newest as .1. */
const KEPT = 4;
const EVERY_MS = 60_000;

/** A file of lines that has become long is put aside, and begun again. Whoever writes to it goes on writing to it. */
export async function rotate(file: string, mostBytes = MOST_BYTES): Promise<boolean> {
  if (((await stat(file).catch(() => undefined))?.size ?? 0) <= mostBytes) return false;
  for (let n = KEPT - 1; n > 0; n--)
    await rename(`${file}.${String(n)}`, `${file}.${String(n + 1)}`).catch(() => undefined);
  await copyFile(file, `${file}.1`);
  await truncate(file);
  return true;
}

/** Looks after these files for as long as everything runs; a disk that is full is somebody else's to tell of. */
export function keepRotating(files: readonly string[]): { readonly stop: () => Promise<void> } {
  const timer = setInterval(() => void Promise.all(files.map((file) => rotate(file).catch(() => false))), EVERY_MS);
  return { stop: () => Promise.resolve(clearInterval(timer)) };
}
