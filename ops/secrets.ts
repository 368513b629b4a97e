import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Made once a data folder, readable by its owner only. */
export interface Secrets {
  readonly superuser: string;
  readonly owner: string;
  readonly app: string;
  /** Signs session cookies. */
  readonly sessions: string;
}

export function openSecrets(folder: string): Secrets {
  const file = join(folder, 'secrets.json');
  if (!existsSync(file)) {
    const fresh = (): string => randomBytes(32).toString('base64url');
    const secrets: Secrets = { superuser: fresh(), owner: fresh(), app: fresh(), sessions: fresh() };
    writeFileSync(file, JSON.stringify(secrets), { mode: 0o600, flag: 'wx' });
  }
  return JSON.parse(readFileSync(file, 'utf8')) as Secrets;
}
