import { sql } from 'kysely';
import type { Database } from './database';

/**
 * Everything in a database that does or holds something, a line each: tables, columns, constraints, indexes, views,
 * triggers, rules, policies, functions, types, extensions. Two databases made by one program give the same lines.
 */
export async function catalogueOf(db: Database): Promise<string[]> {
  const { rows } = await sql<{ line: string }>`
    with ours as (select oid, nspname as name from pg_namespace where nspname not in ('pg_catalog', 'information_schema') and nspname !~ '^pg_(toast|temp)'),
    things as (
      select c.oid, c.relkind, ours.name || '.' || c.relname as name, c.relrowsecurity from pg_class c join ours on ours.oid = c.relnamespace
    )
    select 'schema ' || name as line from ours
    union all select case relkind
        when 'r' then 'table' when 'v' then 'view' when 'm' then 'materialised view' when 'S' then 'sequence' when 'f' then 'foreign table'
        when 'p' then 'partitioned table' when 'c' then 'type' else 'relation of kind ' || relkind::text end
      || ' ' || name || case when relrowsecurity then ' with row security' else '' end
      || case when relkind in ('v', 'm') then ' as ' || pg_get_viewdef(oid) else '' end
      from things where relkind not in ('i', 'I', 't')
    union all select 'column ' || things.name || '.' || a.attname || ' ' || format_type(a.atttypid, a.atttypmod) || case when a.attnotnull then ' not null' else '' end
      || case when a.attidentity <> '' then ' identity' else '' end || coalesce(' default ' || pg_get_expr(d.adbin, d.adrelid), '')
      from things join pg_attribute a on a.attrelid = things.oid and a.attnum > 0 and not a.attisdropped
      left join pg_attrdef d on d.adrelid = a.attrelid and d.adnum = a.attnum where things.relkind in ('r', 'v', 'm', 'f', 'p')
    union all select 'constraint ' || k.conname || ' on ' || things.name || ': ' || pg_get_constraintdef(k.oid) from pg_constraint k join things on things.oid = k.conrelid
    union all select 'index: ' || pg_get_indexdef(i.indexrelid) from pg_index i join things on things.oid = i.indrelid where things.relkind <> 't'
    union all select 'trigger: ' || pg_get_triggerdef(t.oid) || case when t.tgenabled = 'O' then '' else ' (switched)' end
      from pg_trigger t join things on things.oid = t.tgrelid where not t.tgisinternal
    union all select 'rule: ' || pg_get_ruledef(r.oid) from pg_rewrite r join things on things.oid = r.ev_class where r.rulename <> '_RETURN'
    union all select 'policy ' || p.polname || ' on ' || things.name from pg_policy p join things on things.oid = p.polrelid
    union all select 'function ' || ours.name || '.' || f.proname || '(' || pg_get_function_identity_arguments(f.oid) || ')' from pg_proc f join ours on ours.oid = f.pronamespace
    union all select 'type ' || ours.name || '.' || t.typname from pg_type t join ours on ours.oid = t.typnamespace where t.typtype in ('d', 'e', 'r', 'm')
    union all select 'extension ' || extname from pg_extension
    union all select 'event trigger ' || evtname from pg_event_trigger
    union all select 'publication ' || pubname from pg_publication
    order by line`.execute(db);
  return rows.map(({ line }) => line);
}
