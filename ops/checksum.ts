import { createHash } from 'node:crypto';
import { createReadStream, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Sentence } from './sentence';

/** The checksum of a file stands beside it, as "sha256sum --check" reads it. */
const beside = (file: string): string => `${file}.sha256`;

async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** @param file as it will be called; read as it is called now */
export async function writeChecksum(file: string, now: string = file): Promise<void> {
  writeFileSync(beside(file), `${await sha256Of(now)}  ${basename(file)}\n`, { mode: 0o600 });
}

/** @returns false where there is no checksum to hold it against */
export async function isAsWritten(file: string): Promise<boolean> {
  if (!existsSync(beside(file))) return false;
  const said = /^[0-9a-f]{64}/.exec(readFileSync(beside(file), 'utf8'))?.[0];
  if (said !== (await sha256Of(file)))
    throw new Sentence(`${file} is not as it was written: its checksum is another. Take another copy of it.`);
  return true;
}
