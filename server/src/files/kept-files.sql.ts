import type { Moment } from '@gremium/contract';
import { type Sql, sql } from '../database/sql';

type Kept = { id: string; account: number; at: Moment; type: string; bytes: Buffer };

/** Keeps a file that no row names yet. */
export const keepFile = ({ id, account, at, type, bytes }: Kept): Sql =>
  sql`insert into kept_file (id, account_id, at, type, bytes) values (${id}, ${account}, ${at}, ${type}, ${bytes})`;

/** How many files an account sent since a moment that no row names. */
export const unnamedSince = (account: number, moment: Moment): Sql =>
  sql`select count(*)::int as count from kept_file where account_id = ${account} and entry is null and at > ${moment}::timestamptz - interval '1 day'`;

/** The bytes of a file. */
export const bytesOf = (id: string): Sql => sql`select bytes from kept_file where id = ${id}`;

/** Of some files those that an account sent, as they are. */
export const sentBy = (account: number, ids: readonly string[]): Sql =>
  sql`select id, type, length(bytes) as bytes, encode(sha256(bytes), 'hex') as digest from kept_file where account_id = ${account} and id = any (${ids})`;

/** Notes the entry that first named some files. */
export const nameFiles = (ids: readonly string[], entry: number): Sql =>
  sql`update kept_file set entry = ${entry} where id = any (${ids}) and entry is null`;

const DAYS_UNNAMED = 30;

/** Drops what was sent and never named. */
export const dropUnnamed = (now: Moment): Sql =>
  sql`delete from kept_file where entry is null and at < ${now}::timestamptz - make_interval(days => ${DAYS_UNNAMED})`;
