import { randomUUID } from 'node:crypto';
import type { App } from '../service/app';
import { takeLetter } from '../service/letter/takeLetter';
import { mailServer, saveMailServer } from '../store/outgoing';
import { saveRule } from '../store/tellRules';
import { DEMO } from './past';

/** What a unit without a voice has written, for somebody to read. */
const LETTER = `From: Bittern <bittern@marrowfen.example>
To: shelf+bittern@marrowfen.example
Subject: Bittern: warning, disk 2
Message-ID: <1.bittern@marrowfen.example>

Disk 2 reports reallocated sectors: 24, before 3. It works still.
All other disks are well.
`;

/**
 * Has the demo's owner told, by mail that comes back to this machine, which shows it; and brings in a mail of one of its
 * units. The port is another after every start.
 *
 * @param isFresh the demo has just been made
 */
export async function tellDemo(app: App, owner: string, port: number, isFresh: boolean): Promise<void> {
  const before = await mailServer(app.db);
  if (isFresh || before?.setBy === DEMO.name)
    await saveMailServer(app.db, {
      host: '127.0.0.1',
      port,
      security: 'none',
      userName: null,
      secret: null,
      sender: 'shelf@marrowfen.example',
      setBy: DEMO.name,
    });
  if (!isFresh) return;
  await saveRule(app.db, {
    id: randomUUID(),
    userId: owner,
    channel: 'mail',
    address: null,
    secret: null,
    sites: [],
    least: 'sign',
    quiet: { from: '22:00', to: '07:00', zone: 'Europe/Lisbon' },
    repeatHours: 24,
    isOn: true,
    setBy: DEMO.name,
  });
  await takeLetter(app, Buffer.from(LETTER.replace(/\n/g, '\r\n')));
}
