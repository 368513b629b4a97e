import { createHash } from 'node:crypto';
import { createTransport } from 'nodemailer';
import { mailServer, type MailServer } from '../../store/outgoing';
import type { App } from '../app';

/** Bounds of what a mail server may cost whoever asks it: common practice. */
const [CONNECT_MS, SILENT_MS] = [10_000, 20_000] as const;

export interface Mail {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  /** Of one content and one receiver: sent twice, it is the same mail (RFC 5322, 3.6.4). */
  readonly key: string;
}

/** What the server's password is sealed for: of use at that server only. */
export function aboutServer({ host, port }: Pick<MailServer, 'host' | 'port'>): string {
  return `mail ${host}:${String(port)}`;
}

/** Sends a mail by the server that is set. @returns why it did not go, as a sentence; `null` when it was taken */
export async function sendMail(app: App, mail: Mail): Promise<string | null> {
  const server = await mailServer(app.db);
  if (!server) return 'No mail server is set.';
  return sendBy(app, server, mail);
}

export async function sendBy(app: App, server: MailServer, { to, subject, text, key }: Mail): Promise<string | null> {
  const { host, port, security, userName, secret, sender } = server;
  const password = secret === null ? '' : app.seal.open(secret, aboutServer(server));
  if (password === null) return 'The password of the mail server was sealed on another installation: set it again.';
  const transport = createTransport({
    host,
    port,
    secure: security === 'tls',
    requireTLS: security === 'starttls',
    ignoreTLS: security === 'none',
    ...(userName === null ? {} : { auth: { user: userName, pass: password } }),
    connectionTimeout: CONNECT_MS,
    greetingTimeout: CONNECT_MS,
    socketTimeout: SILENT_MS,
    disableFileAccess: true,
    disableUrlAccess: true,
  });
  try {
    const messageId = messageIdOf(key, sender);
    const headers = {
      // Nobody answers it by a machine (RFC 3834).
      'auto-submitted': 'auto-generated',
      'shelf-mark': app.seal.mark(`mail ${messageId}`),
    };
    await transport.sendMail({ from: sender, to, subject, text, messageId, headers });
    return null;
  } catch (error) {
    const { responseCode, message } = error as Error & { responseCode?: number };
    return responseCode === undefined
      ? `The mail server could not be reached: ${message}.`
      : `The mail server refused it: ${message}.`;
  } finally {
    transport.close();
  }
}

/** Whether a mail is one of the shelf's own. */
export function isMarkedOurs(app: App, messageId: string, mark: unknown): boolean {
  return mark === app.seal.mark(`mail ${messageId}`);
}

function messageIdOf(key: string, sender: string): string {
  const domain = /@([\w.-]+)>?$/.exec(sender)?.[1] ?? 'shelf.invalid';
  return `<${createHash('sha256').update(key).digest('hex').slice(0, 32)}@${domain}>`;
}
