import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Sentence } from './sentence';

/** Makes sure that one start at a time works in a data folder. Returns what to call at the end. */
export function claimFolder(folder: string, url: string): () => void {
  const file = join(folder, 'running.json');
  if (existsSync(file)) {
    const other = readClaim(file);
    if (other && isStart(other.pid))
      throw new Sentence(`Patient Shelf is running already (process ${String(other.pid)}), at ${other.url}.`);
  }
  writeFileSync(file, JSON.stringify({ pid: process.pid, url }));
  return () => {
    rmSync(file, { force: true });
  };
}

function readClaim(file: string): { pid: number; url: string } | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as { pid: number; url: string };
  } catch {
    return null;
  }
}

/** A number alone proves nothing after a restart of the machine: the process must be one of ours. */
function isStart(pid: number): boolean {
  if (pid === process.pid) return false;
  try {
    return readFileSync(`/proc/${String(pid)}/cmdline`, 'utf8').includes('ops/');
  } catch {
    return false;
  }
}
