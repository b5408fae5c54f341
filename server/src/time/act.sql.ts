import { type Sql, sql } from '../database/sql';

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
  select request_digest, reply from kept_reply where account_id = ${account} and key = ${key}`;

export const dropOldReplies = (now: string): Sql => sql`
  delete from kept_reply where at < ${now}::timestamptz - interval '30 days'`;

export const insertReply = (reply: {
  account: number;
  key: string;
  digest: string;
  reply: string;
  at: string;
}): Sql => sql`
  insert into kept_reply (account_id, key, request_digest, status, reply, at)
  values (${reply.account}, ${reply.key}, ${reply.digest}, 200, ${reply.reply}, ${reply.at})`;
