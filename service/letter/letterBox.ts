import { mkdir, readdir, readFile, rename, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { App } from '../app';
import { mailsIn, takeLetter } from './takeLetter';

/** A mailbox file may hold a year of warnings. */
const MOST_FILE_BYTES = 50_000_000;

/**
 * Takes in what lies in a folder as files of mail (.eml) or as mailbox files (.mbox): each is read whole and then put away
 * below it, into `taken`, or into `not-read` where it is none. Each look gives what went wrong, as sentences, once each.
 */
export function openLetterBox(app: App, folder: string): () => Promise<string[]> {
  const said = new Set<string>();
  return async () => {
    const names = (await readdir(folder).catch(() => [])).filter((name) => /\.(eml|mbox)$/i.test(name));
    const troubles: string[] = [];
    for (const name of names) {
      const trouble = await take(app, folder, name);
      if (trouble !== null && !said.has(trouble)) troubles.push(trouble);
      if (trouble !== null) said.add(trouble);
    }
    return troubles;
  };
}

/** One file; a trouble with it is no trouble of the others. */
async function take(app: App, folder: string, name: string): Promise<string | null> {
  const file = join(folder, name);
  try {
    const { size, mtimeMs } = await stat(file);
    // Somebody may still be writing it.
    if (Date.now() - mtimeMs < 1000) return null;
    const isRead = size <= MOST_FILE_BYTES && (await takeFile(app, file));
    const to = join(folder, isRead ? 'taken' : 'not-read');
    await mkdir(to, { recursive: true });
    await rename(file, join(to, name));
    return isRead ? null : `${name} holds no mail that can be read: it was put into ${to}.`;
  } catch (error) {
    return `${name} could not be taken in: ${(error as Error).message}. It is tried again.`;
  }
}

async function takeFile(app: App, file: string): Promise<boolean> {
  const mails = mailsIn(await readFile(file, 'utf8'));
  if (mails.some((mail) => !isMail(mail))) return false;
  for (const mail of mails) await takeLetter(app, mail);
  return true;
}

/** It begins with the head of a mail. */
export function isMail(text: string): boolean {
  return /^[!-9;-~]+:/.test(text) && /^(from|subject|date):/im.test(text.slice(0, 20_000));
}
