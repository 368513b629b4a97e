import { sql } from 'kysely';
import type { Database } from './database';
import { PROJECTIONS } from './grants';

/** Something wrong with the ledgers as rows; `isBroken` where what they hold is not whole. */
export interface LedgerFault {
  readonly fault: string;
  readonly isBroken: boolean;
}

/** What is wrong with the ledgers as rows, a sentence each; of a kind of fault no more than a few. */
export async function faultsOfLedgers(db: Database): Promise<LedgerFault[]> {
  const { rows } = await sql<LedgerFault>`
    (select true as "isBroken", 'The ledger of ' || ledger || ' ' || subject || ' has ' || count(*) || ' entries numbered up to ' || max(seq) || '.' as fault
      from entry group by ledger, subject having max(seq) <> count(*) or min(seq) <> 1 order by ledger, subject limit 5)
    union all (select true, 'Act ' || act.id || ' has no entry.' from act where not exists (select from entry where entry.act = act.id) limit 5)
    union all (select true, 'Act ' || act || ' has ' || count(*) || ' entries placed up to ' || max(place) || '.' from entry group by act having max(place) <> count(*) limit 5)
    union all (select true, 'An entry of ' || ledger || ' ' || subject || ' happened at another time than its act.'
      from entry join act on act.id = entry.act where entry.happened_at <> act.happened_at limit 5)
    union all (select false, 'Act ' || id || ' was recorded at ' || recorded_at || ', which has not come yet.' from act where recorded_at > now() + interval '1 minute' limit 5)
    union all (select false, 'Act ' || id || ' is said to have happened at ' || happened_at || ', after it was recorded.' from act where happened_at > recorded_at + interval '1 day' limit 5)
    union all (select false, 'Act ' || id || ' is said to have happened at ' || happened_at || ', before there were such units.' from act where happened_at < '1980-01-01T00:00:00Z' limit 5)
    union all (select false, 'Act ' || id || ' is by nobody.' from act where by_name !~ '\\S' or (by_kind in ('person', 'token') and coalesce(by_id, '') = '') limit 5)
    union all (select false, 'Act ' || act.id || ' takes back an act that was recorded later.' from act join act of on of.id = act.takes_back where of.n > act.n limit 5)`.execute(
    db,
  );
  return rows;
}

/** Whose row in each projection it is. */
const SUBJECTS: Readonly<Record<(typeof PROJECTIONS)[number], string>> = {
  unit_now: 'unit',
  drive_now: 'unit',
  drive_life: 'serial',
  plan_now: 'plan',
  need_now: 'unit',
  wait_now: 'unit',
  reading_now: 'unit',
  reading_day: 'unit',
};

/** What is computed, as a hash for each table and each unit, drive or plan in it. */
export async function fingerprints(db: Database): Promise<Map<string, string>> {
  const made = new Map<string, string>();
  for (const table of PROJECTIONS) {
    const subject = sql.ref(SUBJECTS[table]);
    const { rows } = await sql<{ of: string; hash: string }>`
      select ${subject}::text as of, md5(string_agg(t::text, E'\\n' order by t::text)) as hash from ${sql.table(table)} t group by 1`.execute(
      db,
    );
    for (const { of, hash } of rows) made.set(`${table} ${of}`, hash);
  }
  return made;
}
