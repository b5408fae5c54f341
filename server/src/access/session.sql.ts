import type { Grant, Viewer } from '@gremium/contract';
import { type Sql, sql } from '../database/sql';

const viewerColumns = sql`a.id as account, a.email, a.name, a.language, a.person_id as "personId", a.grants`;

export const accountByEmail = (email: string): Sql => sql`
  select ${viewerColumns}, a.password_hash as "passwordHash" from account a where a.email = ${email} and a.active`;
export type AccountRow = Viewer & { passwordHash: string };

/** Idle for longer than this, a session is over. */
export const IDLE_HOURS = 12;

export const viewerOf = (tokenHash: string, now: string): Sql => sql`
  with seen as (
    update session set seen_at = ${now}::timestamptz
    where token_hash = ${tokenHash} and seen_at > ${now}::timestamptz - make_interval(hours => ${IDLE_HOURS})
    returning account_id
  )
  select ${viewerColumns} from seen join account a on a.id = seen.account_id and a.active`;

export const openSession = (tokenHash: string, account: number, now: string): Sql => sql`
  insert into session (token_hash, account_id, seen_at) values (${tokenHash}, ${account}, ${now}::timestamptz)`;

export const closeSession = (tokenHash: string): Sql =>
  sql`delete from session where token_hash = ${tokenHash}`;

export const closeIdleSessions = (now: string): Sql => sql`
  delete from session where seen_at <= ${now}::timestamptz - make_interval(hours => ${IDLE_HOURS})`;

export const insertAccount = (account: {
  email: string;
  name: string;
  language: string;
  passwordHash: string;
  personId: number | null;
  grants: string;
}): Sql => sql`
  insert into account (email, name, language, password_hash, person_id, grants)
  values (${account.email}, ${account.name}, ${account.language}, ${account.passwordHash}, ${account.personId},
    ${account.grants}::jsonb)
  returning id`;

export type AccountLine = { id: number; email: string; name: string; grants: Grant[]; active: boolean };
export const listAccounts = sql`select id, email, name, grants, active from account order by id`;

export const useLink = (tokenHash: string, purpose: string, now: string): Sql => sql`
  update one_time_link set used_at = ${now}::timestamptz
  where token_hash = ${tokenHash} and purpose = ${purpose} and used_at is null and expires_at > ${now}::timestamptz
  returning token_hash`;

export const insertLink = (tokenHash: string, purpose: string, now: string): Sql => sql`
  insert into one_time_link (token_hash, purpose, expires_at)
  values (${tokenHash}, ${purpose}, ${now}::timestamptz + interval '7 days')`;

/** An account as viewer, for work that goes on after its request. */
export const viewerOfAccount = (account: number): Sql => sql`
  select ${viewerColumns} from account a where a.id = ${account} and a.active`;
