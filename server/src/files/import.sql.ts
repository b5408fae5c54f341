import type { DayOrder, ImportOut, Repair, Viewer } from '@gremium/contract';
import { may } from '@gremium/contract';
import { type ColumnOrder, bareNumber } from '@gremium/core';
import { type Sql, sql } from '../database/sql';

const MOMENT = sql`to_char(i.at at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

// Undone, if the entry that wrote it is undone by one in force.
const UNDONE = sql`(
  select u.number from entry e
  join entry_undo eu on eu.undone_id = e.id
  join entry u on u.id = eu.entry_id
  where e.number = i.entry
    and not exists (select from entry_undo again where again.undone_id = u.id)
  order by u.number desc limit 1)`;

const COLUMNS = sql`i.id, i.subject, i.account_id as account, ${MOMENT} as at, a.name as by, i.name,
  i.file_name as "fileName", i.format, i.sheet, i.sheets, i.comments, i.headings, i.columns, i.days, i.day::text as day,
  i.new_numbers as "newNumbers", i.state, i.counts, i.summary, i.warnings, i.trouble, i.entry, i.revision,
  i.part_of as "partOf", i.work, i.done, i.total, i.sheet_at as "sheetAt", i.heading_row as "headingRow", i.preview, ${UNDONE} as "undoneBy"`;

export type Matched = {
  field: string | null;
  how: 'name' | 'memory' | 'chosen' | 'split' | null;
  /** Of a column of days: which of day and month comes first, where somebody said so. */
  order?: DayOrder;
};

export type Kept = {
  id: number;
  /** What its rows are about: `people`, or a section. */
  subject: string;
  account: number;
  at: string;
  by: string;
  name: string;
  fileName: string;
  format: 'csv' | 'xlsx' | 'zip';
  /** The import it is one of several files of. */
  partOf: number | null;
  sheet: string | null;
  sheets: number;
  comments: number;
  headings: string[];
  columns: Matched[];
  /** What columns of days show, by the field they are taken for. */
  days: Record<string, ColumnOrder>;
  day: string;
  newNumbers: boolean;
  state: 'uploaded' | 'checked' | 'written' | 'cancelled';
  counts: {
    read: number;
    new: number;
    changed: number;
    same: number;
    refused: number;
    left_out?: number;
  } | null;
  summary: object | null;
  warnings: object[];
  trouble: object[];
  entry: number | null;
  revision: number;
  work: 'read' | 'check' | 'write' | null;
  done: number;
  total: number;
  undoneBy: number | null;
  sheetAt: number | null;
  headingRow: number | null;
  preview: (NonNullable<ImportOut['preview']> & { dayBase?: 1900 | 1904 | null }) | null;
};

// Whoever covers the whole organisation sees all imports, anybody else their own.
const theirs = (viewer: Viewer): Sql =>
  may(viewer).doEverywhere('import') ? sql`true` : sql`i.account_id = ${viewer.account}`;

export const importsOf = (viewer: Viewer, { limit, offset }: { limit: number; offset: number }): Sql => sql`
  select ${COLUMNS} from import i join account a on a.id = i.account_id
  where ${theirs(viewer)} and i.part_of is null
  order by i.id desc
  limit ${limit} offset ${offset}`;

export const countImports = (viewer: Viewer): Sql => sql`
  select count(*)::int as total from import i where ${theirs(viewer)} and i.part_of is null`;

export const importOf = (viewer: Viewer, id: number): Sql => sql`
  select ${COLUMNS} from import i join account a on a.id = i.account_id
  where i.id = ${id} and ${theirs(viewer)}`;

/** The same for the worker, which acts for the account that took the file in. */
export const importById = (id: number): Sql => sql`
  select ${COLUMNS} from import i join account a on a.id = i.account_id where i.id = ${id}`;

export const insertImport = (made: {
  account: number;
  at: string;
  name: string;
  fileName: string;
  format: string;
  content: Buffer;
  day: string;
  subject: string;
}): Sql => sql`
  insert into import (subject, account_id, at, name, file_name, format, content, day, work)
  values (${made.subject}, ${made.account}, ${made.at}::timestamptz, ${made.name}, ${made.fileName}, ${made.format}, ${made.content},
    ${made.day}::date, 'read')
  returning id`;

/** The files of one import of several. */
export const partsOf = (id: number): Sql => sql`
  select ${COLUMNS} from import i join account a on a.id = i.account_id where i.part_of = ${id} order by i.id`;

/** Forgets the parts that were read before. */
export const dropParts = (id: number): Sql => sql`delete from import where part_of = ${id}`;

/** A file of several; its worker is that of the whole, for as long as it is read. */
export const insertPart = (
  of: Kept,
  worker: string,
  { name, format, content }: { name: string; format: string; content: Buffer },
): Sql => sql`
  insert into import (subject, account_id, at, name, file_name, format, content, day, part_of, worker)
  select 'any', i.account_id, i.at, ${name}, ${name}, ${format}, ${content}, i.day, i.id, ${worker}
  from import i where i.id = ${of.id}
  returning id`;

/** All files are read: what they come to is checked. */
export const keepPartsRead = (id: number, worker: string): Sql => sql`
  update import set sheets = (select count(*) from import p where p.part_of = ${id}),
    work = 'check', worker = null, attempts = 0, done = 0, total = 0
  where id = ${id} and worker = ${worker} and state <> 'cancelled'
  returning id`;

/** What a check found of one of several files. */
export const keepPart = (id: number, counts: object): Sql => sql`
  update import set state = 'checked', counts = ${JSON.stringify(counts)}::jsonb where id = ${id}`;

/** The files of one import are written as one entry. */
export const keepPartsWritten = (id: number, entry: number): Sql => sql`
  update import set state = 'written', entry = ${entry} where part_of = ${id} and state = 'checked'`;

export const contentOf = (id: number): Sql => sql`select content from import where id = ${id}`;

export const sampleCells = (id: number): Sql => sql`
  select cells from import_row where import_id = ${id} order by row limit 3`;

/** Rows with what was found of them; somebody new is there only once they are written. */
export const rowsOf = (
  id: number,
  status: string | null,
  page: { limit: number; offset: number },
): Sql => sql`
  select r.row, r.cells, coalesce(o.status, 'refused') as status, coalesce(o.faults, '[]') as faults,
    coalesce(o.changes, '[]') as changes,
    case when o.status = 'new' and i.state <> 'written' then null else o.person_id end as "personId",
    case when o.status = 'new' and i.state <> 'written' then null else o.opens_kind end as "opensKind",
    case when o.status = 'new' and i.state <> 'written' then null else o.opens_id end as "opensId"
  from import_row r
  join import i on i.id = r.import_id
  left join import_outcome o on o.import_id = r.import_id and o.row = r.row
  where r.import_id = ${id} and (${status}::text is null or o.status = ${status})
  order by r.row
  limit ${page.limit} offset ${page.offset}`;

export const countRows = (id: number): Sql => sql`
  select count(*)::int as total from import_row where import_id = ${id}`;

/** Rows of an import, and of the files it consists of. */
export const countRowsOfAll = (id: number): Sql => sql`
  select count(*)::int as total from import_row
  where import_id = ${id} or import_id in (select id from import where part_of = ${id})`;

export const countOutcomes = (id: number, status: string): Sql => sql`
  select count(*)::int as total from import_outcome where import_id = ${id} and status = ${status}`;

/** Rows from one on, for the worker. */
export const cellsFrom = (id: number, after: number, most: number): Sql => sql`
  select row, cells from import_row
  where import_id = ${id} and row > ${after} and not left_out order by row limit ${most}`;

/** What a column says, row by row; of so many rows as are enough to tell what it is. */
export const columnTexts = (id: number, at: number): Sql => sql`
  select cells[${at + 1}] as text from import_row where import_id = ${id} and not left_out order by row limit 20000`;

export const dropRows = (id: number): Sql => sql`delete from import_row where import_id = ${id}`;

/** Asks for a check; whatever runs meanwhile is then of an older revision. What failed too often is tried again only where something is other.
 *  No row while it is read or written, or over. */
export const askCheck = (id: number, isOther: boolean): Sql => sql`
  update import
  set revision = revision + 1, attempts = case when ${isOther} then 0 else attempts end, trouble = '[]', done = 0, total = 0,
    worker = case when work = 'check' then worker end, work = 'check'
  where id = ${id} and state in ('uploaded', 'checked') and (work is null or work = 'check')
  returning id`;

/** Asks for the file to be read anew, from another sheet or row of headings. */
export const askRead = (
  id: number,
  { sheet, headingRow, subject }: { sheet: number; headingRow: number | null; subject: string | null },
): Sql => sql`
  update import
  set revision = revision + 1, attempts = 0, trouble = '[]', done = 0, total = 0, counts = null, summary = null,
    warnings = '[]', state = 'uploaded', worker = null, work = 'read', sheet_at = ${sheet}, heading_row = ${headingRow},
    subject = coalesce(${subject}, subject)
  where id = ${id} and state in ('uploaded', 'checked') and work is null
  returning id`;

/** Leaves rows out, or puts them back: what is left out is not looked at by any check. */
export const leaveOut = (id: number, rows: readonly number[], isOut: boolean): Sql => sql`
  with turned as (
    update import_row set left_out = ${isOut} where import_id = ${id} and row = any(${rows}::int[]) returning row
  )
  insert into import_outcome (import_id, row, status)
  select ${id}, row, ${isOut ? 'left_out' : 'refused'} from turned
  on conflict (import_id, row) do update set status = excluded.status, faults = null, changes = null, person_id = null`;

/** How many rows are left out. */
export const countLeftOut = (id: number): Sql => sql`
  select count(*)::int as total from import_row where import_id = ${id} and left_out`;

/** Checks all imports again that wait to be written: what they were compared with was undone. */
export const recheckAll: Sql = sql`
  update import set revision = revision + 1, attempts = 0, done = 0, total = 0, worker = null, work = 'check'
  where state = 'checked' and work is null and part_of is null`;

/** All rows with one column, to split what stands in it. */
export const cellsOfColumn = (id: number, column: number): Sql => sql`
  select row, coalesce(cells[${column}::int], '') as text from import_row where import_id = ${id} order by row`;

/** Cells after those of the file, in two columns more. */
export const addCells = (
  id: number,
  width: number,
  found: { rows: number[]; given: string[]; family: string[] },
): Sql => sql`
  update import_row r set cells = r.cells[1:${width}::int] || array[n.given, n.family]
  from unnest(${found.rows}::int[], ${found.given}::text[], ${found.family}::text[]) as n (row, given, family)
  where r.import_id = ${id} and r.row = n.row`;

export const askWrite = (id: number, writing: object): Sql => sql`
  update import
  set work = 'write', worker = null, attempts = 0, trouble = '[]', done = 0, total = 0,
    writing = ${JSON.stringify(writing)}::jsonb
  where id = ${id} and state = 'checked' and work is null
  returning id`;

/** With the files it consists of. */
export const cancel = (id: number): Sql => sql`
  update import set state = 'cancelled', work = null, worker = null
  where (id = ${id} or part_of = ${id}) and state in ('uploaded', 'checked')
  returning id`;

export const arrange = (
  id: number,
  to: {
    headings?: string[];
    columns?: Matched[];
    day?: string;
    newNumbers?: boolean;
    name?: string;
    subject?: string;
  },
): Sql => sql`
  update import set
    subject = coalesce(${to.subject ?? null}, subject),
    headings = coalesce(${to.headings ? JSON.stringify(to.headings) : null}::jsonb, headings),
    columns = coalesce(${to.columns ? JSON.stringify(to.columns) : null}::jsonb, columns),
    day = coalesce(${to.day ?? null}::date, day),
    new_numbers = coalesce(${to.newNumbers ?? null}::boolean, new_numbers),
    name = coalesce(${to.name ?? null}, name)
  where id = ${id}`;

export const remember = (
  subject: string,
  headings: readonly string[],
  fields: readonly (string | null)[],
): Sql => sql`
  insert into import_heading (subject, heading, field)
  select ${subject}, * from unnest(${headings}::text[], ${fields}::text[])
  on conflict (subject, heading) do update set field = excluded.field`;

export const remembered = (subject: string, headings: readonly string[]): Sql => sql`
  select heading, field from import_heading where subject = ${subject} and heading = any(${headings}::text[])`;

export const keepDays = (id: number, days: Record<string, ColumnOrder>): Sql => sql`
  update import set days = ${JSON.stringify(days)}::jsonb where id = ${id}`;

/** Types into a cell (columns counted from 1), or into all cells of the column that say the same and are wrong in the same way. */
export const repair = (
  id: number,
  { row, field, column, text, alike }: Repair & { column: number },
): Sql => sql`
  update import_row r set cells[${column}::int] = ${text}
  where r.import_id = ${id}
    and (r.row = ${row}
      or (${alike}
        and trim(r.cells[${column}::int]) = (
          select trim(o.cells[${column}::int]) from import_row o where o.import_id = ${id} and o.row = ${row})
        and exists (
          select from import_outcome mine, import_outcome theirs,
            jsonb_array_elements(mine.faults) a, jsonb_array_elements(theirs.faults) b
          where mine.import_id = ${id} and mine.row = ${row} and theirs.import_id = ${id} and theirs.row = r.row
            and a ->> 'field' = ${field} and b ->> 'field' = ${field}
            and a #>> '{problem,code}' = b #>> '{problem,code}')))`;

export const keepRead = (
  id: number,
  worker: string,
  read: {
    headings: string[];
    columns: Matched[];
    sheet: string | null;
    sheets: number;
    comments: number;
    preview: object;
    subject: string;
  },
): Sql => sql`
  update import set subject = ${read.subject}, headings = ${JSON.stringify(read.headings)}::jsonb, columns = ${JSON.stringify(read.columns)}::jsonb,
    sheet = ${read.sheet}, sheets = ${read.sheets}, comments = ${read.comments},
    preview = ${JSON.stringify(read.preview)}::jsonb,
    work = case when part_of is null then 'check' end, worker = null, attempts = 0, done = 0, total = 0
  where id = ${id} and worker = ${worker} and state <> 'cancelled'
  returning id`;

/** The first rows of its sheets, before its own are read: where there are none, another can be chosen. */
export const keepPreview = (id: number, worker: string, preview: object): Sql => sql`
  update import set preview = ${JSON.stringify(preview)}::jsonb where id = ${id} and worker = ${worker}`;

/** What a check found. Another one follows if the rows were changed meanwhile. */
export const keepChecked = (
  id: number,
  worker: string,
  found: { revision: number; counts: object; summary: object; warnings: object[] },
): Sql => sql`
  update import set state = 'checked', counts = ${JSON.stringify(found.counts)}::jsonb,
    summary = ${JSON.stringify(found.summary)}::jsonb, warnings = ${JSON.stringify(found.warnings)}::jsonb,
    work = case when revision = ${found.revision} then null else 'check' end, worker = null, attempts = 0
  where id = ${id} and worker = ${worker} and state <> 'cancelled'
  returning id`;

export const writingOf = (id: number): Sql => sql`select writing from import where id = ${id}`;

export const keepCounts = (id: number, counts: object): Sql => sql`
  update import set counts = ${JSON.stringify(counts)}::jsonb where id = ${id}`;

/** In the transaction of the entry: all of it is there, or none. */
export const keepWritten = (id: number, worker: string, entry: number): Sql => sql`
  update import set state = 'written', entry = ${entry}, work = null, worker = null
  where id = ${id} and worker = ${worker} and state = 'checked'
  returning id`;

/** What stopped the work. After a write that was refused, the rows are checked as the register is now; and they are where something
 *  was changed while an earlier revision was looked at: its trouble is no longer true. */
export const keepTrouble = (
  { id, revision }: { id: number; revision: number },
  worker: string,
  trouble: object[],
  isGivenUp = false,
): Sql => sql`
  update import set worker = null,
    trouble = case when work = 'check' and revision <> ${revision} then '[]' else ${JSON.stringify(trouble)}::jsonb end,
    attempts = case when ${isGivenUp} then attempts else 0 end,
    work = case when work = 'write' and attempts <= 3 or work = 'check' and revision <> ${revision} then 'check' end
  where id = ${id} and worker = ${worker}`;

export type Outcome = {
  row: number;
  status: string;
  faults: string | null;
  person: number | null;
  thing: number | null;
  opensKind: string | null;
  opensId: number | null;
  changes: string | null;
};

/** After a repair most rows are as they were: those are not written again. */
export const keepOutcomes = (id: number, outcomes: readonly Outcome[]): Sql => sql`
  insert into import_outcome as kept
    (import_id, row, status, faults, person_id, changes, thing_id, opens_kind, opens_id)
  select ${id}, o.*
  from unnest(${outcomes.map(({ row }) => row)}::int[], ${outcomes.map(({ status }) => status)}::text[],
    ${outcomes.map(({ faults }) => faults)}::jsonb[], ${outcomes.map(({ person }) => person)}::bigint[],
    ${outcomes.map(({ changes }) => changes)}::jsonb[], ${outcomes.map(({ thing }) => thing)}::bigint[],
    ${outcomes.map(({ opensKind }) => opensKind)}::text[], ${outcomes.map(({ opensId }) => opensId)}::bigint[]) as o
  on conflict (import_id, row) do update
  set status = excluded.status, faults = excluded.faults, person_id = excluded.person_id, changes = excluded.changes,
    thing_id = excluded.thing_id, opens_kind = excluded.opens_kind, opens_id = excluded.opens_id
  where (kept.status, kept.faults, kept.person_id, kept.changes, kept.thing_id, kept.opens_id) is distinct from
    (excluded.status, excluded.faults, excluded.person_id, excluded.changes, excluded.thing_id, excluded.opens_id)`;

/** The things that rows of an import are about: people, or things of its subject. */
export const thingsIn = (id: number): Sql => sql`
  select distinct coalesce(person_id, thing_id) as id from import_outcome
  where import_id = ${id} and coalesce(person_id, thing_id) is not null`;

/** People with one of the numbers (zeros at the beginning aside), emails (small letters) or folded names. */
export const peopleNamed = (
  numbers: readonly string[],
  emails: readonly string[],
  names: readonly string[],
): Sql => sql`
  select person_id as id from person_version
  where superseded_by is null and ltrim(lower(number), '0') = any(${numbers.map(bareNumber)}::text[])
  union
  select person_id from contact_version
  where superseded_by is null and kind = 'email' and lower(value) = any(${emails}::text[])
  union
  select person_id from person_name_version
  where superseded_by is null and (search = any(${names}::text[]) or sort = any(${names}::text[]))`;

/** Positions with one of the codes (small letters). */
export const positionsCoded = (codes: readonly string[]): Sql => sql`
  select distinct position_id as id from position_version
  where superseded_by is null and lower(code) = any(${codes}::text[])`;

/** People whose numbers, leading zeros aside, are among some (small letters). */
export const peopleNumbered = (bare: readonly string[]): Sql => sql`
  select distinct person_id as id, number from person_version
  where superseded_by is null and ltrim(lower(number), '0') = any(${bare}::text[])`;
