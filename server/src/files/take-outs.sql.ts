import type { Grant, Problem, TakeOutAsk, Viewer } from '@gremium/contract';
import { may } from '@gremium/contract';
import { type Sql, sql } from '../database/sql';

/** Days for which a file is kept. */
export const KEPT_DAYS = 30;

export type Kept = {
  id: number;
  account: number;
  at: string;
  by: string;
  title: string;
  asked: TakeOutAsk;
  format: 'csv' | 'xlsx' | 'zip';
  state: 'waiting' | 'ready' | 'failed' | 'cancelled' | 'gone';
  on: string;
  entry: number;
  /** As they were, in JSON: compared as text. */
  grants: string;
  counts: number[];
  sections: string[];
  bytes: number | null;
  trouble: Problem[];
  work: 'write' | null;
  done: number;
  total: number;
  until: string;
};

const COLUMNS = sql`t.id, t.account_id as account, to_char(t.at at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as at,
  a.name as by, t.title, t.asked, t.format, t.state, t.on_day::text as on, t.entry, t.grants, t.counts, t.sections, t.bytes,
  t.trouble, t.work, t.done, t.total, (t.at + make_interval(days => ${KEPT_DAYS}))::date::text as until`;

// Whoever reads the journal of the whole organisation sees what anybody took out; everybody else their own.
const theirs = (viewer: Viewer): Sql =>
  may(viewer).doEverywhere('journal') ? sql`true` : sql`t.account_id = ${viewer.account}`;

export const takeOutsOf = (viewer: Viewer, { limit, offset }: { limit: number; offset: number }): Sql => sql`
  select ${COLUMNS} from take_out t join account a on a.id = t.account_id
  where ${theirs(viewer)} order by t.id desc limit ${limit} offset ${offset}`;

export const countTakeOuts = (viewer: Viewer): Sql => sql`
  select count(*)::int as total from take_out t where ${theirs(viewer)}`;

export const takeOutOf = (viewer: Viewer, id: number): Sql => sql`
  select ${COLUMNS} from take_out t join account a on a.id = t.account_id where t.id = ${id} and ${theirs(viewer)}`;

/** The same for the desk and its worker. */
export const takeOutById = (id: number): Sql => sql`
  select ${COLUMNS} from take_out t join account a on a.id = t.account_id where t.id = ${id}`;

export const insertTakeOut = (made: {
  account: number;
  at: string;
  asked: TakeOutAsk;
  format: string;
  on: string;
  entry: number;
  grants: readonly Grant[];
}): Sql => sql`
  insert into take_out (account_id, at, title, asked, format, on_day, entry, grants, work)
  values (${made.account}, ${made.at}::timestamptz, ${made.asked.title}, ${JSON.stringify(made.asked)}::jsonb, ${made.format},
    ${made.on}::date, ${made.entry}, ${JSON.stringify(made.grants)}, 'write')
  returning id`;

/** What was written of a file before its work was taken over: it begins anew. */
export const dropContent = (id: number): Sql => sql`delete from take_out_part where take_out_id = ${id}`;

export const addContent = (id: number, place: number, content: Buffer): Sql => sql`
  insert into take_out_part (take_out_id, place, content) values (${id}, ${place}, ${content})`;

export const contentAt = (id: number, place: number): Sql => sql`
  select content from take_out_part where take_out_id = ${id} and place = ${place}`;

/** It is there whole: nobody fetches it before. */
export const keepReady = (
  id: number,
  worker: string,
  { counts, sections, bytes }: { counts: number[]; sections: string[]; bytes: number },
): Sql => sql`
  update take_out set state = 'ready', counts = ${JSON.stringify(counts)}::jsonb, sections = ${sections}::text[], bytes = ${bytes},
    work = null, worker = null
  where id = ${id} and worker = ${worker} and state = 'waiting'
  returning id`;

export const keepTrouble = ({ id }: { id: number }, worker: string, problems: readonly Problem[]): Sql => sql`
  update take_out set state = 'failed', trouble = ${JSON.stringify(problems)}::jsonb, work = null, worker = null
  where id = ${id} and worker = ${worker} and state = 'waiting'`;

/** Stops it, or gives its file up. */
export const cancelTakeOut = (id: number): Sql => sql`
  update take_out set state = case when state = 'ready' then 'gone' else 'cancelled' end, work = null, worker = null
  where id = ${id} and state in ('waiting', 'ready')
  returning id`;

/** Files older than they are kept for. */
export const markOld = (now: string): Sql => sql`
  update take_out set state = 'gone' where state = 'ready' and at < ${now}::timestamptz - make_interval(days => ${KEPT_DAYS})`;

/** Contents that nobody will fetch any more. */
export const dropGone: Sql = sql`
  delete from take_out_part p using take_out t where t.id = p.take_out_id and t.state in ('gone', 'cancelled', 'failed')`;
