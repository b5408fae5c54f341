import { type Db, type Sql, join, name, one, sql } from '../database/sql';

const KEPT = sql`to_char(m.kept_at at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

const columns = sql`m.key, m.kind, m.about, m.state, m.input, m.typed, ${KEPT} as "keptAt", m.result,
  m.entry_number as "entryNumber", (select e.id from entry e where e.number = m.entry_number) as "entryId"`;

/** What somebody is preparing, latest first. */
export const movementsOf = (account: number): Sql => sql`
  select ${columns} from movement m
  where m.account_id = ${account} and m.state = 'draft'
  order by m.kept_at desc
  limit 500`;

export const movementBy = (account: number, key: string): Sql => sql`
  select ${columns} from movement m where m.account_id = ${account} and m.key = ${key}`;

export type ToKeep = { key: string; kind: string; about: string; input: string; typed: string; at: string };

/** Keeps a movement in preparation; one that was recorded stays as it is, and nothing comes back. */
export const keepMovement = (account: number, { key, kind, about, input, typed, at }: ToKeep): Sql => sql`
  insert into movement as m (account_id, key, kind, about, input, typed, kept_at)
  values (${account}, ${key}, ${kind}, ${about}, ${input}::jsonb, ${typed}::jsonb, ${at}::timestamptz)
  on conflict (account_id, key) do update
  set kind = excluded.kind, about = excluded.about, input = excluded.input, typed = excluded.typed,
    kept_at = excluded.kept_at, revision = m.revision + 1
  where m.state = 'draft'
  returning ${KEPT} as "keptAt"`;

export const discardMovement = (account: number, key: string): Sql => sql`
  delete from movement where account_id = ${account} and key = ${key} and state = 'draft'`;

export type Recorded = Omit<ToKeep, 'typed'> & { entry: number; result: string };

/** What was carried out, as it was asked, with the entry it became; nothing comes back where its key was recorded before. */
export const recordMovement = (account: number, movement: Recorded): Sql => sql`
  insert into movement (account_id, key, kind, about, state, input, typed, kept_at, entry_number, result)
  values (${account}, ${movement.key}, ${movement.kind}, ${movement.about}, 'recorded', ${movement.input}::jsonb,
    '{}'::jsonb, ${movement.at}::timestamptz, ${movement.entry}, ${movement.result}::jsonb)
  on conflict (account_id, key) do update
  set state = 'recorded', kind = excluded.kind, about = excluded.about, input = excluded.input, typed = excluded.typed,
    kept_at = excluded.kept_at, entry_number = excluded.entry_number, result = excluded.result, revision = movement.revision + 1
  where movement.state <> 'recorded'
  returning id`;

/** How many believed rows there are of sections, all in all. */
export const countRows = async (db: Db, sections: readonly string[]): Promise<number> => {
  const each = sections.map(
    (section) => sql`select count(*) as n from ${name(`${section}_version`)} where superseded_by is null`,
  );
  const { count } = await one<{ count: number }>(
    db,
    sql`select sum(n)::int as count from (${join(each, ' union all ')}) all_of_them`,
  );
  return count;
};
