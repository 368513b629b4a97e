import { MailParser, type AddressObject, type HeaderLines, type HeaderValue } from 'mailparser';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';

/** A mail as it was understood, or as it came with why it was not. */
export type MailRead =
  | {
      readonly kind: 'mail';
      readonly from: string;
      readonly recipients: readonly string[];
      readonly subject: string;
      /** What is written in it, and in mails that are passed on in it. */
      readonly words: string;
      /** When it says it was written. */
      readonly date: Date | null;
      readonly messageId: string | null;
      readonly mark: unknown;
    }
  | { readonly kind: 'unread'; readonly because: string; readonly raw: string };

/** Longer than any mail server passes on. */
export const MOST_BYTES = 26_000_000;
const LONGEST_HTML = 300_000;
/** Of what cannot be read so much is kept to look at. */
const RAW_KEPT = 20_000;
/** A mail that is passed on holds one that is passed on … */
const [MOST_PASSED_ON, MOST_DEEP] = [10, 3];
/** More than a head ever says what it is by. */
const HEAD_LOOKED_AT = 64_000;

interface Parsed {
  readonly headers: ReadonlyMap<string, HeaderValue>;
  readonly text: string;
  /** Its date can be read: the parser puts that of today where it cannot. */
  readonly isDated: boolean;
  readonly passedOn: readonly Buffer[];
}

/** Takes a mail apart (RFC 5322, MIME). Attachments are passed over, but for mails in it. Whatever it is, there is an answer. */
export async function readMail(raw: Buffer, deep = 0): Promise<MailRead> {
  if (raw.length > MOST_BYTES) return unread(raw, 'It is longer than any mail.');
  if (!isMail(raw.subarray(0, HEAD_LOOKED_AT).toString('latin1')))
    return unread(raw, 'It has no head (From:, Subject:, Date:), as a mail begins with.');
  try {
    const { headers, text, isDated, passedOn } = await parsed(inUtf8(raw));
    const inside = deep < MOST_DEEP ? await Promise.all(passedOn.map((one) => readMail(one, deep + 1))) : [];
    const words = [text, ...inside.map((one) => (one.kind === 'mail' ? `${one.subject}\n${one.words}` : one.raw))];
    return {
      kind: 'mail',
      from: textOf(headers.get('from')),
      recipients: ['to', 'cc'].flatMap((name) => addressesIn(headers.get(name))),
      subject: textOf(headers.get('subject')),
      words: words.join('\n\n'),
      date: isDated ? dateOf(headers.get('date')) : null,
      messageId: textOf(headers.get('message-id')) || null,
      mark: headers.get('shelf-mark'),
    };
  } catch (error) {
    const { message } = error as Error;
    const because = /child nodes/i.test(message)
      ? 'It is parts within parts, deeper than any mail.'
      : /header size/i.test(message)
        ? 'Its head is longer than any mail’s.'
        : 'It could not be taken apart.';
    return unread(raw, because);
  }
}

/** It begins with the head of a mail. */
export function isMail(text: string): boolean {
  return /^[!-9;-~]+:/.test(text) && /^(from|subject|date):/im.test(text.slice(0, HEAD_LOOKED_AT));
}

/**
 * The mails of a mailbox file (RFC 4155), one after the other, or the one mail a text is. The text is bytes, one a character:
 * nothing is lost of what is in no known script.
 */
export function* mailsIn(latin1: string): Generator<string> {
  if (!/^From \S/.test(latin1)) {
    yield latin1;
    return;
  }
  const begins = /^From \S[^\n]*(?:\n|$)/gm;
  let from: number | null = null;
  for (let found = begins.exec(latin1); found; found = begins.exec(latin1)) {
    // One that follows a line with something on it is of the text.
    if (found.index > 0 && !/(?:^|\n)\r?\n$/.test(latin1.slice(Math.max(0, found.index - 3), found.index))) continue;
    if (from !== null) yield unquoted(latin1.slice(from, found.index));
    from = found.index + found[0].length;
  }
  yield unquoted(latin1.slice(from ?? 0));
}

function unquoted(mail: string): string {
  return mail.replace(/^>(>*From )/gm, '$1');
}

function unread(raw: Buffer, because: string): MailRead {
  return { kind: 'unread', because, raw: inUtf8(raw.subarray(0, RAW_KEPT)).toString('utf8') };
}

/** A mail of no named script that is no UTF-8 is in that of western offices (windows-1252), as old units write it. */
function inUtf8(raw: Buffer): Buffer {
  if (/charset=/i.test(raw.toString('latin1'))) return raw;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(raw);
    return raw;
  } catch {
    return Buffer.from(new TextDecoder('windows-1252').decode(raw), 'utf8');
  }
}

function parsed(raw: Buffer): Promise<Parsed> {
  return new Promise((resolve, reject) => {
    const parser = new MailParser({
      skipTextToHtml: true,
      skipImageLinks: true,
      maxHtmlLengthToParse: LONGEST_HTML,
    });
    let headers: ReadonlyMap<string, HeaderValue> = new Map();
    let [text, isDated] = ['', false];
    const passedOn: Promise<Buffer>[] = [];
    parser.on('headers', (found) => (headers = found));
    parser.on('headerLines', (lines) => (isDated = lines.some(isDate)));
    parser.on('data', (part) => {
      if (part.type === 'text') text = part.text ?? '';
      else {
        const isPassedOn = part.contentType === 'message/rfc822' && passedOn.length < MOST_PASSED_ON;
        if (isPassedOn) {
          const whole = buffer(part.content);
          passedOn.push(whole);
          // Where the mail around it breaks off, that is what is said.
          whole.catch(() => undefined);
        } else part.content.resume();
        part.content.once('end', () => part.release?.());
      }
    });
    parser.once('error', reject);
    parser.once('end', () => {
      Promise.all(passedOn).then((all) => resolve({ headers, text, isDated, passedOn: all }), reject);
    });
    Readable.from([raw]).pipe(parser);
  });
}

function isDate({ key, line }: HeaderLines[number]): boolean {
  return key === 'date' && !Number.isNaN(Date.parse(line.slice(line.indexOf(':') + 1)));
}

function isAddresses(value: HeaderValue | undefined): value is AddressObject {
  return typeof value === 'object' && 'html' in value && Array.isArray(value.value);
}

function textOf(value: HeaderValue | undefined): string {
  if (typeof value === 'string') return value;
  return isAddresses(value) ? value.text : '';
}

function dateOf(value: HeaderValue | undefined): Date | null {
  return value instanceof Date && !Number.isNaN(value.getTime()) ? value : null;
}

function addressesIn(value: HeaderValue | undefined): string[] {
  const all = (Array.isArray(value) ? value : [value]) as readonly (HeaderValue | undefined)[];
  return all
    .filter(isAddresses)
    .flatMap(({ value: of }) =>
      of.flatMap(({ address, group }) =>
        address === undefined ? (group ?? []).flatMap((inside) => inside.address ?? []) : [address],
      ),
    );
}
