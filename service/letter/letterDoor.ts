import { SMTPServer } from 'smtp-server';
import type { AddressInfo, Socket } from 'node:net';
import { cameLately } from '../../store/letters';
import type { App } from '../app';
import { MOST_BYTES } from './readMail';
import { takeLetter } from './takeLetter';

/** Bounds of what whoever hands mail in may cost: common practice. */
const [MOST_CLIENTS, SILENT_MS, MOST_A_MINUTE] = [40, 30_000, 200] as const;
/** All mails together that are on their way in, held in memory. */
const MOST_HELD = 4 * MOST_BYTES;

export interface LetterDoor {
  readonly port: number;
  readonly stop: () => Promise<void>;
}

/**
 * A door for mail (SMTP, RFC 5321) on this machine alone: what a mail server here, or a unit by it, hands in is kept. It
 * passes nothing on. Too much in a minute is put off (452): whoever sends tries again.
 */
export async function openLetterDoor(app: App, port: number): Promise<LetterDoor> {
  let held = 0;
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    socketTimeout: SILENT_MS,
    disableReverseLookup: true,
    banner: 'mail of units',
    onData: (stream, { envelope }, done) => {
      const pieces: Buffer[] = [];
      let size = 0;
      let isPutOff = false;
      const end = (error?: Error): void => {
        held -= pieces.reduce((sum, { length }) => sum + length, 0);
        done(error);
      };
      stream.on('data', (piece: Buffer) => {
        size += piece.length;
        isPutOff ||= held + piece.length > MOST_HELD;
        if (size > MOST_BYTES || isPutOff) return;
        pieces.push(piece);
        held += piece.length;
      });
      stream.on('end', () => {
        if (size > MOST_BYTES) return end(refused(552, 'Longer than any mail.'));
        if (isPutOff) return end(refused(452, 'Too much at once: try again later.'));
        take(
          Buffer.concat(pieces),
          envelope.rcptTo.map(({ address }) => address),
        ).then(
          () => end(),
          (error: Error & { responseCode?: number }) =>
            end(error.responseCode === undefined ? refused(451, 'It could not be kept: try again.') : error),
        );
      });
    },
  });
  const take = async (raw: Buffer, to: readonly string[]): Promise<void> => {
    if ((await cameLately(app.db)) >= MOST_A_MINUTE) throw refused(452, 'Too much at once: try again later.');
    await takeLetter(app, raw, to);
  };
  // Whoever only keeps a line open makes room for whoever comes.
  const open = new Map<Socket, number>();
  server.server.on('connection', (socket: Socket) => {
    if (open.size >= MOST_CLIENTS) {
      const [longest] = [...open].reduce((a, b) => (b[1] < a[1] ? b : a));
      open.delete(longest);
      longest.destroy();
    }
    const heard = (): void => void (open.has(socket) && open.set(socket, performance.now()));
    open.set(socket, performance.now());
    socket.on('data', heard);
    socket.once('close', () => open.delete(socket));
  });
  // A client that goes away in the middle is its own affair.
  server.on('error', () => undefined);
  await new Promise<void>((resolve, reject) => {
    server.server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    port: (server.server.address() as AddressInfo).port,
    stop: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

function refused(responseCode: number, words: string): Error & { responseCode: number } {
  return Object.assign(new Error(words), { responseCode });
}
