import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Sentence } from './sentence';

const LEAST_CHARACTERS = 32;

/** Made once a data folder, readable by its owner only. */
export interface Secrets {
  readonly superuser: string;
  readonly owner: string;
  readonly app: string;
  /** Signs session cookies. */
  readonly sessions: string;
}

/** Where several machines share one database, they share what signs the sessions: the same text, or a file of it, on each. */
function sharedSecret(): string | undefined {
  const { PATIENT_SHELF_SECRET: text = '', PATIENT_SHELF_SECRET_FILE: file = '' } = process.env;
  if (text === '' && file === '') return undefined;
  if (text !== '' && file !== '')
    throw new Sentence('Give the shared secret once: as PATIENT_SHELF_SECRET, or as PATIENT_SHELF_SECRET_FILE.');
  let secret: string;
  try {
    secret = (text === '' ? readFileSync(file, 'utf8') : text).trim();
  } catch (error) {
    throw new Sentence(`The file of PATIENT_SHELF_SECRET_FILE cannot be read: ${(error as Error).message}.`);
  }
  if (secret.length < LEAST_CHARACTERS)
    throw new Sentence(
      `The shared secret has ${String(secret.length)} characters; ${String(LEAST_CHARACTERS)} of chance are needed: "openssl rand -base64 32" makes one.`,
    );
  return secret;
}

export function openSecrets(folder: string): Secrets {
  const file = join(folder, 'secrets.json');
  if (!existsSync(file)) {
    const fresh = (): string => randomBytes(32).toString('base64url');
    const secrets: Secrets = { superuser: fresh(), owner: fresh(), app: fresh(), sessions: fresh() };
    writeFileSync(file, JSON.stringify(secrets), { mode: 0o600, flag: 'wx' });
  }
  const secrets = JSON.parse(readFileSync(file, 'utf8')) as Secrets;
  return { ...secrets, sessions: sharedSecret() ?? secrets.sessions };
}
