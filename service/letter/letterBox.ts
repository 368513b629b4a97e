import { mkdir, readdir, readFile, rename, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { App } from '../app';
import { mailsIn } from './readMail';
import { takeLetter } from './takeLetter';

/** A mailbox file may hold a year of warnings. */
const MOST_FILE_BYTES = 50_000_000;

/**
 * Takes in what lies in a folder as files of mail (.eml) or as mailbox files (.mbox): each is taken mail by mail and then put away
 * below it, into `taken`, or into `not-read` where nothing in it is one. What cannot be read is kept as it came, beside the others.
 * Each look gives what went wrong, as sentences, once each.
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
    const { read, unread } = size <= MOST_FILE_BYTES ? await takeFile(app, file) : { read: 0, unread: 0 };
    const to = join(folder, read > 0 ? 'taken' : 'not-read');
    await mkdir(to, { recursive: true });
    await rename(file, join(to, name));
    if (read === 0) return `${name} holds no mail that can be read: it was put into ${to}.`;
    return unread === 0
      ? null
      : `${String(unread)} of the mails in ${name} could not be read: they are kept as they came.`;
  } catch (error) {
    return `${name} could not be taken in: ${(error as Error).message}. It is tried again.`;
  }
}

/** One mail after the other: what is wrong with one keeps none of the others waiting. */
async function takeFile(app: App, file: string): Promise<{ readonly read: number; readonly unread: number }> {
  let [read, unread] = [0, 0];
  for (const mail of mailsIn(await readFile(file, 'latin1'))) {
    const { isRead } = await takeLetter(app, Buffer.from(mail, 'latin1'));
    if (isRead) read++;
    else unread++;
  }
  return { read, unread };
}
