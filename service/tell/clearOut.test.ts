import { randomUUID } from 'node:crypto';
import { clearOut, KEPT_DAYS, OWN_MAIL_DAYS } from '~/store/clearOut';
import { shelfOfFile } from '../testing/testShelf';

const shelf = await shelfOfFile();

const daysAgo = (days: number): Date => new Date(Date.now() - days * 86_400_000);

it('takes away what is long over and whom it was told, and nothing that lasts, waits or is of late', async () => {
  const { db } = shelf.app;
  const unit = randomUUID();
  const cause = async (name: string, closed: number | null): Promise<string> => {
    const id = randomUUID();
    const began = daysAgo(900);
    await db
      .insertInto('cause')
      .values({
        id,
        unit,
        root: name,
        code: 'drive-failed',
        severity: 'sign',
        urgency: 1,
        grave: [],
        title: name,
        reason: name,
        others: 0,
        began_at: began,
        changed_at: began,
        closed_at: closed === null ? null : daysAgo(closed),
      })
      .execute();
    return id;
  };
  const causes = [
    await cause('over', KEPT_DAYS + 1),
    await cause('of late', KEPT_DAYS - 1),
    await cause('lasts', null),
  ];
  const rule = randomUUID();
  await db
    .insertInto('tell_rule')
    .values({ id: rule, channel: 'mail', address: 'a@example.org', least: 'sign', set_by: 'A' })
    .execute();
  for (const about of causes)
    await db
      .insertInto('told')
      .values({ rule, about, changed_at: daysAgo(900), at: daysAgo(KEPT_DAYS + 100) })
      .execute();
  const letter = async (subject: string, came: number, settled: number | null, isOurs = false): Promise<void> => {
    await db
      .insertInto('letter')
      .values({
        id: randomUUID(),
        message_id: subject,
        came_at: daysAgo(came),
        sender: 'unit@example.org',
        recipients: ['shelf@example.org'],
        subject,
        words: subject,
        is_ours: isOurs,
        settled_at: settled === null ? null : daysAgo(settled),
      })
      .execute();
  };
  await letter('settled long ago', 900, KEPT_DAYS + 1);
  await letter('settled of late', 900, 10);
  await letter('waits', 900, null);
  await letter('ours, old', OWN_MAIL_DAYS + 1, null, true);
  await letter('ours, of late', OWN_MAIL_DAYS - 1, null, true);

  expect(await clearOut(db)).toBe(4);
  const titles = await db.selectFrom('cause').select('title').orderBy('title').execute();
  expect(titles.map(({ title }) => title)).toEqual(['lasts', 'of late']);
  const told = await db.selectFrom('told').select('about').execute();
  expect(told.map(({ about }) => about).sort()).toEqual(causes.slice(1).sort());
  const letters = await db.selectFrom('letter').select('subject').orderBy('subject').execute();
  expect(letters.map(({ subject }) => subject)).toEqual(['ours, of late', 'settled of late', 'waits']);
  expect(await clearOut(db)).toBe(0);
});
