import { SMTPServer } from 'smtp-server';
import type { AddressInfo } from 'node:net';
import { cameLately } from '../../store/letters';
import type { App } from '../app';
import { MOST_BYTES, takeLetter } from './takeLetter';

/** Bounds of what whoever hands mail in may cost: common practice. */
const [MOST_CLIENTS, SILENT_MS, MOST_A_MINUTE] = [20, 30_000, 200] as const;

export interface LetterDoor {
  readonly port: number;
  readonly stop: () => Promise<void>;
}

/**
 * A door for mail (SMTP, RFC 5321) on this machine alone: what a mail server here, or a unit by it, hands in is kept. It
 * passes nothing on. Too much in a minute is put off (452): whoever sends tries again.
 */
export async function openLetterDoor(app: App, port: number): Promise<LetterDoor> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    maxClients: MOST_CLIENTS,
    socketTimeout: SILENT_MS,
    disableReverseLookup: true,
    banner: 'mail of units',
    onData: (stream, { envelope }, done) => {
      const pieces: Buffer[] = [];
      let size = 0;
      stream.on('data', (piece: Buffer) => {
        size += piece.length;
        if (size <= MOST_BYTES) pieces.push(piece);
      });
      stream.on('end', () => {
        if (size > MOST_BYTES) return done(refused(552, 'Longer than any warning.'));
        take(
          Buffer.concat(pieces),
          envelope.rcptTo.map(({ address }) => address),
        ).then(
          () => done(),
          (error: Error & { responseCode?: number }) =>
            done(error.responseCode === undefined ? refused(451, 'It could not be kept: try again.') : error),
        );
      });
    },
  });
  const take = async (raw: Buffer, to: readonly string[]): Promise<void> => {
    if ((await cameLately(app.db)) >= MOST_A_MINUTE) throw refused(452, 'Too much at once: try again later.');
    await takeLetter(app, raw, to);
  };
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
