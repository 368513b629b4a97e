import { sql, type Selectable } from 'kysely';
import type { TellRule, Told } from '../core/tell/isDue';
import type { QuietHours } from '../core/tell/quietHours';
import type { Severity } from '../core/tell/severity';
import type { CHANNELS } from '../schemas/tell';
import type { Database, Transaction } from './database';
import type { TellRule as Row } from './generated';
import { personOfEmail } from './people';

export type Channel = (typeof CHANNELS)[number];

/** What is told at one time, as it is handed over. */
export interface Telling {
  readonly told: readonly Omit<Told, 'at'>[];
  /** A mail, or what is posted to a program. */
  readonly subject: string;
  readonly text: string;
  /** Of this telling alone: handed over twice, it is the same. */
  readonly key: string;
}

/** Who is told of what, and how that went. */
export interface StoredRule extends TellRule {
  readonly userId: string | null;
  /** Of the person it is for. */
  readonly person: string | null;
  readonly channel: Channel;
  /** An address of mail, or of a webhook. */
  readonly address: string;
  /** What its posts are signed with, sealed. */
  readonly secret: Buffer | null;
  readonly isOn: boolean;
  readonly tries: number;
  /** What somebody was telling who died with it. */
  readonly pending: Telling | null;
  /** Why it went wrong the last time; `null` when it did not. */
  readonly trouble: string | null;
  readonly toldAt: string | null;
  /** When a test of it was taken by whoever it is for, or by the server that brings it. */
  readonly testedAt: string | null;
  readonly setBy: string;
}

export type NewRule = Pick<
  StoredRule,
  'id' | 'userId' | 'channel' | 'sites' | 'least' | 'quiet' | 'repeatHours' | 'isOn' | 'setBy' | 'secret'
> & {
  /** Where it goes; `null` for a person's own e-mail. */
  readonly address: string | null;
};

type RowWithPerson = Selectable<Row> & { readonly person: string | null; readonly email: string | null };

const WITH_PERSON = sql`select tell_rule.*, person.name as person, person.email as email
  from tell_rule left join auth."user" as person on person.id = tell_rule.user_id`;

/** Every rule, or those of one person. */
export async function tellRules(db: Database, userId?: string): Promise<StoredRule[]> {
  const { rows } = await sql<RowWithPerson>`
    ${WITH_PERSON} ${userId === undefined ? sql`` : sql`where user_id = ${userId}`} order by set_at, id`.execute(db);
  return rows.map(ruleIn);
}

export async function ruleById(db: Database, id: string): Promise<StoredRule | undefined> {
  const { rows } = await sql<RowWithPerson>`${WITH_PERSON} where tell_rule.id = ${id}`.execute(db);
  return rows[0] && ruleIn(rows[0]);
}

/** Adds a rule, or changes one; where it goes and what it is signed with stay as they were. */
export async function saveRule(db: Database, rule: NewRule): Promise<void> {
  const { id, userId, channel, address, secret, sites, least, quiet, repeatHours, isOn, setBy } = rule;
  const changes = {
    sites: [...sites],
    least,
    quiet: quiet === null ? null : JSON.stringify(quiet),
    repeat_hours: repeatHours,
    is_on: isOn,
    set_by: setBy,
    tries: 0,
    pending: null,
    next_try_at: null,
    trouble: null,
  };
  await db
    .insertInto('tell_rule')
    .values({ id, user_id: userId, channel, address, secret, ...changes })
    .onConflict((conflict) => conflict.column('id').doUpdateSet(changes))
    .execute();
}

/** A rule by which a person is told by mail, with their e-mail. */
export interface MailRule extends Pick<StoredRule, 'id' | 'sites' | 'least' | 'quiet' | 'repeatHours' | 'isOn'> {
  readonly person: string;
}

/** All by which people are told by mail. */
export async function mailRules(db: Database): Promise<MailRule[]> {
  const rules = await tellRules(db);
  return rules
    .flatMap(({ id, userId, channel, address, sites, least, quiet, repeatHours, isOn }): MailRule[] =>
      channel === 'mail' && userId !== null ? [{ id, person: address, sites, least, quiet, repeatHours, isOn }] : [],
    )
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** Gives somebody a rule of before, where there is such a person and it is not here. */
export async function bringRule(
  tx: Transaction,
  { person, ...rule }: MailRule,
  setBy: string,
): Promise<'added' | 'there' | 'nobody'> {
  if (await ruleById(tx, rule.id)) return 'there';
  const userId = await personOfEmail(tx, person);
  if (userId === undefined) return 'nobody';
  await saveRule(tx, { ...rule, userId, channel: 'mail', address: null, secret: null, setBy });
  return 'added';
}

export async function deleteRule(db: Database, id: string): Promise<boolean> {
  return (await db.deleteFrom('tell_rule').where('id', '=', id).executeTakeFirst()).numDeletedRows > 0n;
}

/** Takes the test of a rule: one at a time, and none sooner than a while after the one before. */
export async function takeTest(db: Database, id: string, everySeconds: number): Promise<boolean> {
  const { numAffectedRows } = await sql`
    update tell_rule set test_sent_at = now()
    where id = ${id} and (test_sent_at is null or test_sent_at <= now() - make_interval(secs => ${everySeconds}))`.execute(
    db,
  );
  return (numAffectedRows ?? 0n) > 0n;
}

/** Its test went through. */
export async function saveTested(db: Database, id: string): Promise<void> {
  await sql`update tell_rule set tested_at = now(), tries = 0, next_try_at = null, trouble = null where id = ${id}`.execute(
    db,
  );
}

/**
 * Takes a rule that is to be told by: nobody else tells by it meanwhile. Whoever dies with it lets go of it after
 * `heldSeconds`.
 */
export async function takeRule(db: Database, id: string, heldSeconds: number): Promise<boolean> {
  const { numAffectedRows } = await sql`
    update tell_rule set held_until = now() + make_interval(secs => ${heldSeconds})
    where id = ${id} and is_on and (held_until is null or held_until <= now())
      and (next_try_at is null or next_try_at <= now())`.execute(db);
  return (numAffectedRows ?? 0n) > 0n;
}

/** Keeps what is about to be told, before it is. */
export async function savePending(db: Database, id: string, telling: Telling): Promise<void> {
  await db
    .updateTable('tell_rule')
    .set({ pending: JSON.stringify(telling) })
    .where('id', '=', id)
    .execute();
}

export async function letGoOfRule(db: Database, id: string): Promise<void> {
  await db.updateTable('tell_rule').set({ held_until: null }).where('id', '=', id).execute();
}

/** What is said of everything that was told, by rule. */
export async function allTold(db: Database, rule?: string): Promise<Map<string, Told>> {
  const rows = await db
    .selectFrom('told')
    .select(['rule', 'about', 'changed_at', 'at'])
    .$if(rule !== undefined, (query) => query.where('rule', '=', rule ?? ''))
    .execute();
  return new Map(
    rows.map(({ rule: by, about, changed_at, at }) => [
      toldKey(by, about),
      { about, changedAt: changed_at.toISOString(), at: at.toISOString() },
    ]),
  );
}

export function toldKey(rule: string, about: string): string {
  return `${rule} ${about}`;
}

/** It was told of these, as they were since then. */
export async function saveTold(db: Database, rule: string, told: readonly Omit<Told, 'at'>[]): Promise<void> {
  await sql`
    insert into told (rule, about, changed_at, at)
    select ${rule}::uuid, of.about, of.changed_at, now()
      from unnest(${told.map(({ about }) => about)}::uuid[], ${told.map(({ changedAt }) => changedAt)}::timestamptz[])
        as of (about, changed_at)
    on conflict (rule, about) do update set changed_at = excluded.changed_at, at = excluded.at, times = told.times + 1`.execute(
    db,
  );
  await sql`update tell_rule set held_until = null, pending = null, told_at = now(), tries = 0, next_try_at = null, trouble = null where id = ${rule}`.execute(
    db,
  );
}

/** One that is refused again and again is tried again at least this often. */
const MOST_WAIT_MINUTES = 60;

/** It went wrong: it is tried again, later each time. */
export async function saveTrouble(db: Database, rule: string, trouble: string): Promise<void> {
  await sql`
    update tell_rule set held_until = null, pending = null, tries = tries + 1, trouble = ${trouble},
      next_try_at = now() + make_interval(mins => least(${MOST_WAIT_MINUTES}, power(2, least(tries, 10)))::int)
    where id = ${rule}`.execute(db);
}

function ruleIn(row: RowWithPerson): StoredRule {
  return {
    id: row.id,
    userId: row.user_id,
    person: row.person,
    channel: row.channel as Channel,
    address: row.address ?? row.email ?? '',
    secret: row.secret,
    sites: row.sites,
    least: row.least as Severity,
    quiet: row.quiet as unknown as QuietHours | null,
    repeatHours: row.repeat_hours,
    isOn: row.is_on,
    tries: row.tries,
    pending: row.pending as unknown as Telling | null,
    trouble: row.trouble,
    toldAt: row.told_at?.toISOString() ?? null,
    testedAt: row.tested_at?.toISOString() ?? null,
    setBy: row.set_by,
    since: row.set_at.toISOString(),
  };
}
