import { simpleParser, type AddressObject, type ParsedMail } from 'mailparser';
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

/** No warning is longer; pictures and attachments are not kept. */
export const MOST_BYTES = 1_000_000;
const LONGEST_HTML = 300_000;
const [LONGEST_WORDS, LONGEST_LINE, MOST_RECIPIENTS] = [20_000, 500, 50] as const;
/** What agrees with the record is settled by itself, and says so. */
const AGREES = 'the record agrees';

/**
 * Takes in a mail (RFC 5322): whose it is, what it says, kept as plain text. One that was taken already is not taken again.
 * Nothing of it is recorded: it waits for a person, unless all it tells is on record.
 *
 * @param to whom it was handed over for, where that is known besides what it says
 * @returns its id; `null` where it was there
 */
export async function takeLetter(app: App, raw: Buffer | string, to: readonly string[] = []): Promise<string | null> {
  const mail = await simpleParser(raw, {
    skipHtmlToText: false,
    skipImageLinks: true,
    skipTextToHtml: true,
    maxHtmlLengthToParse: LONGEST_HTML,
  });
  const letter = letterOf(mail, to);
  const messageId = mail.messageId?.slice(0, LONGEST_LINE) ?? createHash('sha256').update(raw).digest('hex');
  const isOurs = isMarkedOurs(app, mail.messageId ?? '', mail.headers.get('shelf-mark'));
  const units = isOurs ? [] : (await allUnits(app.db)).filter(({ state }) => !state.retired);
  const about = unitMeant(
    letter,
    units.map(({ id, state }) => ({ id, name: state.name, serials: Object.keys(state.drives) })),
  );
  const now = (await app.clock.now()).toISOString();
  const writtenAt = writtenIn(mail, now);
  const taken = await inTransaction(app.db, async (tx) => {
    if (about) await hold(tx, [unitLedger(about.id)]);
    const unit = about && (await unitById(tx, about.id));
    const settledBy = isOurs ? 'the shelf' : unit && saysNoNews(unit.state, letter, writtenAt ?? now) ? AGREES : null;
    const id = await addLetter(tx, {
      ...letter,
      messageId,
      isOurs,
      settledBy,
      writtenAt,
      unit: unit?.id ?? null,
    });
    if (id !== null && unit && settledBy === null) await projectReckoned(tx, unit);
    return { id };
  });
  return 'id' in taken ? taken.id : null;
}

function letterOf(mail: ParsedMail, to: readonly string[]): Letter {
  const addresses = [mail.to, mail.cc].flatMap((of) => of ?? []).flatMap(addressesIn);
  return {
    sender: plain(mail.from?.text ?? '', LONGEST_LINE),
    recipients: [...new Set([...to, ...addresses])].slice(0, MOST_RECIPIENTS).map((one) => plain(one, LONGEST_LINE)),
    subject: plain(mail.subject ?? '', LONGEST_LINE),
    words: plain(mail.text ?? '', LONGEST_WORDS),
  };
}

/** When it says it was written; nothing where it says none, or a time to come: its clock may be wrong. */
function writtenIn({ date }: ParsedMail, now: string): string | null {
  if (!date || Number.isNaN(date.getTime()) || date.getTime() < 0) return null;
  const written = date.toISOString();
  return written <= now ? written : null;
}

function addressesIn({ value }: AddressObject): string[] {
  return value.flatMap(({ address, group }) =>
    address === undefined ? (group ?? []).flatMap((one) => one.address ?? []) : [address],
  );
}

/** As text to be kept and shown: without what no text has (the database keeps no NUL), and not longer. */
function plain(words: string, most: number): string {
  return words
    .replace(/[\0-\x08\x0b\x0c\x0e-\x1f\x7f]/g, ' ')
    .slice(0, most)
    .replace(/\p{Cs}/gu, '')
    .trim();
}

/** The mails of a mailbox file (RFC 4155), or the one mail a text is. */
export function mailsIn(text: string): string[] {
  const lines = text.split(/\r?\n/);
  if (!/^From \S/.test(lines[0] ?? '')) return [text];
  const mails: string[][] = [];
  let isAfterBlank = true;
  for (const line of lines) {
    if (isAfterBlank && /^From \S/.test(line)) mails.push([]);
    else mails.at(-1)?.push(line.replace(/^>(>*From )/, '$1'));
    isAfterBlank = line === '';
  }
  return mails.map((mail) => mail.join('\r\n'));
}
