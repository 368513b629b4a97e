import { createHash } from 'node:crypto';
import { saysNoNews, unitMeant, type Letter } from '../../core/observe/readLetter';
import { unitLedger } from '../../core/world/ledger';
import { addLetter } from '../../store/letters';
import { allUnits, unitById } from '../../store/units';
import type { App } from '../app';
import { inTransaction } from '../ledgers/inTransaction';
import { projectReckoned } from '../ledgers/project';
import { hold } from '../ledgers/recordAct';
import { isMarkedOurs } from '../tell/mail';
import { readMail, type MailRead } from './readMail';

const [LONGEST_WORDS, LONGEST_LINE, MOST_RECIPIENTS] = [20_000, 500, 50] as const;
/** What agrees with the record is settled by itself, and says so. */
const AGREES = 'the record agrees';

/**
 * Takes in a mail (RFC 5322): whose it is, what it says, kept as plain text. One that was taken already is not taken again.
 * Nothing of it is recorded: it waits for a person, unless all it tells is on record. One that cannot be read is kept as it came,
 * with why: what a dying unit writes may be the one that is broken.
 *
 * @param to whom it was handed over for, where that is known besides what it says
 */
export async function takeLetter(app: App, raw: Buffer, to: readonly string[] = []): Promise<Taken> {
  const mail = await readMail(raw);
  const isRead = mail.kind === 'mail';
  const letter = isRead
    ? letterOf(mail, to)
    : {
        sender: '',
        recipients: [...to],
        subject: 'A mail that could not be read',
        words: plain(mail.raw, LONGEST_WORDS),
      };
  const messageId = isRead && mail.messageId !== null ? identityOf(mail.messageId, letter, mail.date) : hashOf(raw);
  const isOurs = isRead && isMarkedOurs(app, mail.messageId ?? '', mail.mark);
  const units = isOurs ? [] : (await allUnits(app.db)).filter(({ state }) => !state.retired);
  const about = unitMeant(
    letter,
    units.map(({ id, state }) => ({ id, name: state.name, serials: Object.keys(state.drives) })),
  );
  const now = (await app.clock.now()).toISOString();
  const writtenAt = isRead ? writtenIn(mail.date, now) : null;
  const taken = await inTransaction(app.db, async (tx) => {
    if (about) await hold(tx, [unitLedger(about.id)]);
    const unit = about && (await unitById(tx, about.id));
    const settledBy = isOurs
      ? 'the shelf'
      : isRead && unit && saysNoNews(unit.state, letter, writtenAt ?? now)
        ? AGREES
        : null;
    const id = await addLetter(tx, {
      ...letter,
      messageId,
      isOurs,
      settledBy,
      unreadBecause: isRead ? null : mail.because,
      writtenAt,
      unit: unit?.id ?? null,
    });
    if (id !== null && unit && settledBy === null) await projectReckoned(tx, unit);
    return { id };
  });
  return { id: 'id' in taken ? taken.id : null, isRead };
}

/** There are units that give every mail the same Message-ID: what says something else is another. */
function identityOf(messageId: string, { subject, words }: Letter, date: Date | null): string {
  return `${messageId.slice(0, LONGEST_LINE)} ${hashOf(JSON.stringify([subject, words, date]))}`;
}

function hashOf(of: Buffer | string): string {
  return createHash('sha256').update(of).digest('hex');
}

/** What became of a mail. */
export interface Taken {
  /** `null` where it was there. */
  readonly id: string | null;
  readonly isRead: boolean;
}

function letterOf(mail: Extract<MailRead, { kind: 'mail' }>, to: readonly string[]): Letter {
  return {
    sender: plain(mail.from, LONGEST_LINE),
    recipients: [...new Set([...to, ...mail.recipients])]
      .slice(0, MOST_RECIPIENTS)
      .map((one) => plain(one, LONGEST_LINE)),
    subject: plain(mail.subject, LONGEST_LINE),
    words: plain(mail.words, LONGEST_WORDS),
  };
}

/** When it says it was written; nothing where it says none, or a time to come: its clock may be wrong. */
function writtenIn(date: Date | null, now: string): string | null {
  if (!date || date.getTime() < 0) return null;
  const written = date.toISOString();
  return written <= now ? written : null;
}

/** As text to be kept and shown: without what no text has (the database keeps no NUL), and not longer. */
function plain(words: string, most: number): string {
  return words
    .replace(/[\0-\x08\x0b\x0c\x0e-\x1f\x7f]/g, ' ')
    .slice(0, most)
    .replace(/\p{Cs}/gu, '')
    .trim();
}
