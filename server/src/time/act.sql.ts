import { type Sql, empty, sql } from '../database/sql';

/** Advisory locks held to the end of the transaction, taken in the order of their ids. */
export const lockThings = (ids: readonly number[], exclusive: readonly boolean[]): Sql => sql`
  select case when exclusive then pg_advisory_xact_lock(id)::text else pg_advisory_xact_lock_shared(id)::text end
  from (
    select * from unnest(${ids}::bigint[], ${exclusive}::boolean[]) as t (id, exclusive) order by id
  ) s`;

/** Twins of one key wait here for each other. */
export const lockKey = (account: number, key: string): Sql => sql`
  select pg_advisory_xact_lock(hashtextextended(${`${account} ${key}`}, 4680))`;

export const findReply = (account: number, key: string): Sql => sql`
  select k.request_digest as digest, k.reply, e.number as entry
  from kept_reply k
  join entry e on e.id = k.entry_id
  where k.account_id = ${account} and k.key = ${key}`;

/** Kept before the entry has its number: it is named by its id. */
export const insertReply = (reply: {
  account: number;
  key: string;
  digest: string;
  reply: string;
  entry: number;
  at: string;
}): Sql => sql`
  insert into kept_reply (account_id, key, request_digest, reply, entry_id, at)
  values (${reply.account}, ${reply.key}, ${reply.digest}, ${reply.reply}, ${reply.entry}, ${reply.at}::timestamptz)`;

/** Replies are kept for thirty days; no more than `most` are dropped at once. */
export const dropOldReplies = (now: string, most: number): Sql => sql`
  delete from kept_reply where (account_id, key) in (
    select account_id, key from kept_reply where at < ${now}::timestamptz - interval '30 days' order by at limit ${most}
    for update skip locked
  )`;

/**
 * The number of the last entry, and whether one of those after `began` (up to it, or to `until`) touched any of the keys that
 * a decision read; null instead of keys: whatever they touched.
 */
export const overtakenSince = (
  began: number,
  keys: readonly string[] | null,
  until: number | null = null,
): Sql => sql`
  select h.number, exists (
    select from entry e left join entry_touch t on t.entry_id = e.id
    where e.number > ${began} and (${until}::bigint is null or e.number < ${until}::bigint)
      ${keys === null ? empty : sql`and (t.keys is null or t.keys && ${keys}::text[])`}
  ) as overtaken
  from journal_head h`;

/** What an entry touches, as keys. */
export const insertTouch = (entry: number, keys: readonly string[]): Sql =>
  sql`insert into entry_touch (entry_id, keys) values (${entry}, ${keys}::text[])`;

/** No decision takes a day: what entries before that touched is compared with nothing any more. */
export const dropOldTouches = (now: string, most: number): Sql => sql`
  delete from entry_touch where entry_id in (
    select t.entry_id from entry_touch t join entry e on e.id = t.entry_id
    where e.moment < ${now}::timestamptz - interval '1 day' limit ${most})`;
