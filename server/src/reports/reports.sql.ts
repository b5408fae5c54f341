import type { ReportKept, ReportShare } from '@gremium/contract';
import { type Sql, empty, sql } from '../database/sql';

/** A report as it is kept. */
export type Kept = ReportKept & {
  id: number;
  account: number;
  owner: string;
  email: string;
  changedAt: string;
  deletedAt: string | null;
};

const at = (column: Sql) => sql`to_char(${column} at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

const COLUMNS = sql`r.id, r.account_id as account, a.name as owner, a.email, r.name, r.folder, r.tags, r.shared, r.view,
  ${at(sql`r.changed_at`)} as "changedAt", ${at(sql`r.deleted_at`)} as "deletedAt"`;

/** All reports, the last changed first; or one. */
export const keptReports = (id?: number): Sql => sql`
  select ${COLUMNS} from report r join account a on a.id = r.account_id
  ${id === undefined ? empty : sql`where r.id = ${id}`}
  order by r.changed_at desc, r.id desc limit 2000`;

type ToKeep = Omit<ReportKept, 'shared'> & { shared: readonly ReportShare[]; at: string };

/** Keeps a new report; answers with its id. */
export const insertReport = (
  account: number,
  { name, folder, tags, shared, view, at: now }: ToKeep,
): Sql => sql`
  insert into report (account_id, name, folder, tags, shared, view, changed_at)
  values (${account}, ${name}, ${folder}, ${JSON.stringify(tags)}::jsonb, ${JSON.stringify(shared)}::jsonb,
    ${JSON.stringify(view)}::jsonb, ${now}::timestamptz)
  returning id`;

/** Keeps a report as it now is. */
export const updateReport = (id: number, { name, folder, tags, shared, view, at: now }: ToKeep): Sql => sql`
  update report set name = ${name}, folder = ${folder}, tags = ${JSON.stringify(tags)}::jsonb,
    shared = ${JSON.stringify(shared)}::jsonb, view = ${JSON.stringify(view)}::jsonb, changed_at = ${now}::timestamptz
  where id = ${id} returning id`;

/** Takes a report from the shelf, or brings it back (null). */
export const markDeleted = (id: number, now: string | null): Sql => sql`
  update report set deleted_at = ${now}::timestamptz where id = ${id} returning id`;

/** Those deleted thirty days before a moment go for good. */
export const forgetDeleted = (now: string): Sql => sql`
  delete from report where deleted_at < ${now}::timestamptz - interval '30 days'`;
