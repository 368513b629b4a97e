import { simpleParser, type ParsedMail } from 'mailparser';
import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';

/** A mail server of our own, that keeps what it takes. */
export interface Postbox {
  readonly port: number;
  readonly mails: ParsedMail[];
  /** Refuses mails to whoever has this in the address, or nobody. */
  readonly refuse: (who: string | null) => void;
  readonly close: () => Promise<void>;
}

/** @param login takes mail only of this user with this password */
export async function postbox(login?: { readonly user: string; readonly password: string }): Promise<Postbox> {
  const mails: ParsedMail[] = [];
  let refused: string | null = null;
  const server = new SMTPServer({
    authOptional: login === undefined,
    disabledCommands: login === undefined ? ['STARTTLS', 'AUTH'] : ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: ({ username, password }, _session, done) =>
      username === login?.user && password === login?.password
        ? done(null, { user: username })
        : done(new Error('not this one')),
    onRcptTo: ({ address }, _session, done) =>
      refused !== null && address.includes(refused)
        ? done(Object.assign(new Error('not this one'), { responseCode: 550 }))
        : done(),
    onData: (stream, _session, done) => {
      simpleParser(stream).then(
        (mail) => {
          mails.push(mail);
          done();
        },
        (error: Error) => done(error),
      );
    },
  });
  server.on('error', () => undefined);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    port: (server.server.address() as AddressInfo).port,
    mails,
    refuse: (who) => void (refused = who),
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
