import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** What this is: the version it says it is, and the commit of the checkout, empty where it is none. */
export function whatThisIs(root: string): { readonly version: string; readonly commit: string } {
  const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { readonly version: string };
  const { status, stdout } = spawnSync('git', ['-C', root, 'rev-parse', '--short=12', 'HEAD'], { encoding: 'utf8' });
  return { version, commit: status === 0 ? stdout.trim() : '' };
}
