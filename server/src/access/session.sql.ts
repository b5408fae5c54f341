import type { Gift } from '@gremium/contract';
import { grantsOf } from '@gremium/contract';
import { givenOn } from '@gremium/core';
import { type Db, type Sql, sql } from '../database/sql';
import type { Catalogues, Seer } from '../time/catalogues';
import { todayOf } from '../structure/organisation.sql';
import type { Clock } from '../time/clock';
import { utc } from '../time/journal.sql';

const viewerColumns = sql`a.id as account, a.email, a.name, a.language, a.person_id as "personId", a.roles, a.grants,
  (select defined from journal_head) as defined, (select number from journal_head) as entry,
  -- the last day of access, of the employment that gives it longest: as its leaving says, else its own last day
  (select max(e.until) from (
    select coalesce(min(v.access_until), max(v.valid_until) - 1) as until
    from employment_version v
    where v.person_id = a.person_id and v.superseded_by is null
    group by v.employment_id
  ) e)::text as "accessUntil"`;

/** An account as it is kept, with the number of the last entry that defined a section. */
export type Kept = Omit<Seer, 'catalogue'> & {
  roles: Gift[];
  defined: number;
  /** The number of the last entry. */
  entry: number;
  /** Null for an account of nobody who was ever employed. */
  accessUntil: string | null;
};

/** Whether an account is let in today: whoever left is not, from the day after, or at once where the leaving says so. */
export const isLetIn = async (db: Db, clock: Clock, { accessUntil }: Kept): Promise<boolean> =>
  accessUntil === null || accessUntil === 'infinity' || (await todayOf(db, clock)) <= accessUntil;

/** Whoever asks, with what they may do by the sections there are now. */
export const seerOf = async (
  db: Db,
  catalogues: Catalogues,
  { roles, defined, accessUntil: _, entry, ...kept }: Kept,
  clock: Clock,
): Promise<Seer> => {
  const catalogue = await catalogues.knowing(db, defined);
  const isDated = roles.some(({ from, lastDay }) => from !== undefined || lastDay !== undefined);
  const held = isDated ? givenOn(roles, await todayOf(db, clock)) : roles;
  const holds = held.map(({ role }) => role);
  const given = grantsOf({ roles: held, grants: kept.grants }, catalogue);
  const grants = await catalogues.successors.of(db, given, { entry, clock });
  return { ...kept, grants, holds, catalogue };
};

export const accountByEmail = (email: string): Sql => sql`
  select ${viewerColumns}, a.password_hash as "passwordHash" from account a where a.email = ${email} and a.active`;
export type AccountRow = Kept & { passwordHash: string | null };

/** Idle for longer than this, a session is over. */
export const IDLE_HOURS = 12;

export const viewerOf = (tokenHash: string, now: string): Sql => sql`
  with own as (
    select s.token_hash, s.account_id, s.seen_at from session s
    where s.token_hash = ${tokenHash} and s.seen_at > ${now}::timestamptz - make_interval(hours => ${IDLE_HOURS})
  ), seen as (
    -- written once a minute, and never waited for
    update session set seen_at = ${now}::timestamptz
    where token_hash in (
      select s.token_hash from session s
      where s.token_hash = ${tokenHash}
        and s.seen_at between ${now}::timestamptz - make_interval(hours => ${IDLE_HOURS})
          and ${now}::timestamptz - interval '1 minute'
      for update skip locked
    )
  )
  select ${viewerColumns} from own join account a on a.id = own.account_id and a.active`;

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
  passwordHash: string | null;
  personId: number | null;
  roles: string;
  grants: string;
}): Sql => sql`
  insert into account (email, name, language, password_hash, person_id, roles, grants)
  values (${account.email}, ${account.name}, ${account.language}, ${account.passwordHash}, ${account.personId},
    ${account.roles}::jsonb, ${account.grants}::jsonb)
  returning id`;

export type AccountLine = Kept & {
  id: number;
  active: boolean;
  hasPassword: boolean;
  seenAt: string | null;
};
/** Who has other rights than those over their own record, by name. */
export const accountsBesideCrew = sql`
  select name, roles, grants from account
  where active and (jsonb_array_length(grants) > 0 or jsonb_path_exists(roles, '$[*] ? (@.role != "crew")'))
  order by name`;

/** Accounts as those see them who may let others in; one of them where its id is given. */
export const accountLines = (id: number | null = null): Sql => sql`
  select ${viewerColumns}, a.id, a.active, a.password_hash is not null as "hasPassword",
    ${utc(sql`greatest(a.seen_at, (select max(s.seen_at) from session s where s.account_id = a.id))`)} as "seenAt"
  from account a where ${id}::bigint is null or a.id = ${id}::bigint order by a.name, a.id`;

/** Whether there is any account. */
export const anyAccount = sql`select 1 from account limit 1`;

/** Adds a gift to an account's. */
export const addGift = (account: number, gift: string): Sql => sql`
  update account set roles = roles || ${gift}::jsonb where id = ${account} returning jsonb_array_length(roles) - 1 as place`;

/** Writes over what is said of one gift. */
export const changeGift = (account: number, place: number, gift: string): Sql => sql`
  update account set roles = jsonb_set(roles, array[${place}::text], ${gift}::jsonb) where id = ${account}`;

export const sawAccount = (account: number, now: string): Sql => sql`
  update account set seen_at = ${now}::timestamptz where id = ${account}`;

export const useLink = (tokenHash: string, purpose: Purpose, now: string): Sql => sql`
  update one_time_link set used_at = ${now}::timestamptz
  where token_hash = ${tokenHash} and purpose = ${purpose} and used_at is null and expires_at > ${now}::timestamptz
  returning account_id as account`;

export type Purpose = 'first_administrator' | 'password';

/** Links for one account take the place of those made for it before. */
export const insertLink = (
  {
    tokenHash,
    purpose,
    account,
    days,
  }: { tokenHash: string; purpose: Purpose; account: number | null; days: number },
  now: string,
): Sql => sql`
  with old as (
    delete from one_time_link where account_id = ${account}::bigint and purpose = ${purpose}
  )
  insert into one_time_link (token_hash, purpose, account_id, expires_at)
  values (${tokenHash}, ${purpose}, ${account}, ${now}::timestamptz + make_interval(days => ${days}))
  returning ${utc(sql`expires_at`)} as expires`;

/** Held to the end of the transaction: two first administrators are not made at once. */
export const lockAccounts = sql`select pg_advisory_xact_lock(4681)`;

/** Of whom an account is that may let others in. */
export type Letting = { name: string; personId: number | null };

/** Accounts that may let others in at some time: by one of the roles named, or by what was granted to them alone. */
export const lettingIn = (roles: readonly string[]): Sql => sql`
  select l.*, l.active and l."passwordHash" is not null as "isActive" from (
    select ${viewerColumns}, a.active, a.password_hash as "passwordHash" from account a
    where exists (select from jsonb_array_elements(a.roles) r where r ->> 'role' = any(${roles}::text[]))
      or exists (select from jsonb_array_elements(a.grants) g where g -> 'acts' ? 'access')) l`;

/** Whether anybody may let others in. */
export const administrators = sql`
  select count(*)::int as count from account a
  where exists (select from jsonb_array_elements(a.grants) g where g -> 'acts' ? 'access')
    or a.roles @> '[{"role": "administrator"}]'`;

export const changeAccount = (
  id: number,
  to: {
    name?: string | undefined;
    language?: string | undefined;
    personId?: number | null | undefined;
    grants?: string | undefined;
    active?: boolean | undefined;
  },
): Sql => sql`
  update account set
    name = coalesce(${to.name ?? null}, name),
    language = coalesce(${to.language ?? null}, language),
    person_id = case when ${to.personId !== undefined} then ${to.personId ?? null}::bigint else person_id end,
    grants = coalesce(${to.grants ?? null}::jsonb, grants),
    active = coalesce(${to.active ?? null}::boolean, active)
  where id = ${id}
  returning id`;

/** Lets an account in again; not as of somebody whose employments are over, to which its access is tied. */
export const letInAgain = (email: string): Sql => sql`
  update account a set active = true, person_id = case when exists (
      select from employment_version v where v.person_id = a.person_id and v.superseded_by is null and v.valid_until = 'infinity')
    then a.person_id end
  where email = ${email} returning id`;

export const closeSessionsOf = (account: number): Sql =>
  sql`delete from session where account_id = ${account}`;

export const setPassword = (account: number, passwordHash: string): Sql => sql`
  update account set password_hash = ${passwordHash} where id = ${account} and active returning email`;

/** An account as viewer, for work that goes on after its request. */
export const viewerOfAccount = (account: number): Sql => sql`
  select ${viewerColumns} from account a where a.id = ${account} and a.active`;

/** Active accounts among these, as they are called. */
export const accountsCalled = (emails: readonly string[]): Sql => sql`
  select email, name from account where email = any(${emails}::text[]) and active`;
