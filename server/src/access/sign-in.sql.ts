import { type Sql, sql } from '../database/sql';

/** Notes a try, before anything is compared: of many at once each counts all. */
export const noteTry = (subject: string, now: string): Sql => sql`
  insert into sign_in_try (subject, at) values (${subject}, ${now}::timestamptz)`;

export const countTries = (subjects: readonly string[], since: string): Sql => sql`
  select subject, count(*)::int as tries from sign_in_try
  where subject = any(${subjects}::text[]) and at > ${since}::timestamptz
  group by subject`;

export const forgetTries = (subjects: readonly string[]): Sql => sql`
  delete from sign_in_try where subject = any(${subjects}::text[])`;

export const forgetTry = (subject: string, at: string): Sql => sql`
  delete from sign_in_try where subject = ${subject} and at = ${at}::timestamptz`;

/** Tries count for minutes, addresses that an account signed in from for ninety days. */
export const dropOldTries = (now: string): Sql => sql`
  delete from sign_in_try
  where at < ${now}::timestamptz - interval '1 day' and subject not like 'known %'
    or at < ${now}::timestamptz - interval '90 days'`;
