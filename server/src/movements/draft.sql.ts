import { type Sql, sql } from '../database/sql';

const KEPT = sql`to_char(kept_at at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

export const draftsOf = (account: number): Sql => sql`
  select key, kind, about, content, ${KEPT} as "keptAt"
  from draft
  where account_id = ${account}
  order by kept_at desc
  limit 500`;

export type DraftToKeep = { key: string; kind: string; about: string; content: string; at: string };

export const keepDraft = (account: number, { key, kind, about, content, at }: DraftToKeep): Sql => sql`
  insert into draft (account_id, key, kind, about, content, kept_at)
  values (${account}, ${key}, ${kind}, ${about}, ${content}::jsonb, ${at}::timestamptz)
  on conflict (account_id, key) do update
  set kind = excluded.kind, about = excluded.about, content = excluded.content, kept_at = excluded.kept_at
  returning ${KEPT} as "keptAt"`;

export const discardDraft = (account: number, key: string): Sql => sql`
  delete from draft where account_id = ${account} and key = ${key}`;
