import { z } from 'zod';
import { OwnKind } from '../structure/own';
import { FileReply, endpoint } from '../endpoint';
import { ProblemCodeSchema } from '../problems';
import { Day } from '../time/day';
import { Named } from '../time/record-out';
import { Page } from '../time/records.endpoints';
import { Id, Text } from '../time/section';
import { ColumnField, DayOrder, ImportLine, ImportOut, ImportRow, RowStatus } from './import';

const ImportId = z.object({ id: z.coerce.number().int() });
const right = { act: 'import' } as const;

/** What is typed into a cell. */
export const Repair = z.strictObject({
  row: z.int(),
  field: ColumnField,
  text: z.string().max(1000),
  /** Also in all rows that say the same there and are wrong in the same way. */
  alike: z.boolean().default(false),
});
export type Repair = z.infer<typeof Repair>;

/** Files taken in, their rows and templates. */
export const fileEndpoints = {
  imports: endpoint({
    method: 'GET',
    path: '/api/imports',
    summary:
      'Imports, newest first: all of them, or one’s own where only a part of the organisation is covered',
    right,
    query: Page,
    reply: z.object({ imports: z.array(ImportLine), total: z.int() }),
  }),
  uploadImport: endpoint({
    method: 'POST',
    path: '/api/imports',
    summary: 'Take in a file of people (CSV, tab-separated or XLSX), sent as application/octet-stream',
    right,
    query: z.strictObject({
      name: z.string().trim().min(1).max(200),
      /** What its rows are about: `people`, a section, or `any`: what its headings tell. */
      subject: z.string().max(60).default('people'),
      /** The day from which its rows hold that say none; today if left out. */
      day: Day.optional(),
    }),
    reply: z.object({ id: Id }),
  }),
  import: endpoint({
    method: 'GET',
    path: '/api/imports/:id',
    summary: 'One import as it now stands',
    right,
    params: ImportId,
    reply: ImportOut,
  }),
  importProgress: endpoint({
    method: 'GET',
    path: '/api/imports/:id/progress',
    summary: 'Server-sent events: the state of an import and its work, each time they change',
    right,
    params: ImportId,
    reply: FileReply,
  }),
  importRows: endpoint({
    method: 'GET',
    path: '/api/imports/:id/rows',
    summary: 'Rows of an import by what they do, in the order of the file',
    right,
    params: ImportId,
    query: Page.extend({ status: RowStatus.optional() }),
    /** `names`: of what changes name. */
    reply: z.object({ rows: z.array(ImportRow), total: z.int(), names: z.array(Named) }),
  }),
  proposedField: endpoint({
    method: 'GET',
    path: '/api/imports/:id/columns/:at/field',
    summary:
      'What own field a column of a file would be kept in: kind and choices, and how many cells do not fit',
    right,
    params: ImportId.extend({ at: z.coerce.number().int().min(0).max(1000) }),
    reply: z.object({
      kind: OwnKind,
      choices: z.array(z.string()),
      said: z.int(),
      unfit: z.int(),
    }),
  }),
  importMissing: endpoint({
    method: 'GET',
    path: '/api/imports/:id/missing',
    summary: 'What is in the register on the day of the file, and not in the file; nothing becomes of it',
    right,
    params: ImportId,
    reply: z.object({ things: z.array(Named), total: z.int() }),
  }),
  arrangeImport: endpoint({
    method: 'POST',
    path: '/api/imports/:id/arrange',
    summary:
      'Say what the columns are, and what holds for all rows; then it is checked again. Another sheet or row of headings is read anew',
    right,
    params: ImportId,
    body: z.strictObject({
      /** The field of each column, in the order of the file. */
      columns: z.array(ColumnField.nullable()).max(200).optional(),
      /** What its rows are about: the file is read anew. */
      subject: z.string().max(60).optional(),
      /** Of columns of days, counted from 0: which of day and month comes first in them. */
      dayOrders: z
        .array(z.strictObject({ column: z.int().min(0).max(1000), order: DayOrder }))
        .max(200)
        .optional(),
      day: Day.optional(),
      newNumbers: z.boolean().optional(),
      /** The sheet, counted from 0, and the row of the headings in it: all that was typed is lost with the rows. */
      sheet: z.int().min(0).max(1000).optional(),
      headingRow: z.int().min(1).max(1_048_576).optional(),
      name: Text.optional(),
    }),
    reply: z.object({}),
  }),
  repairImport: endpoint({
    method: 'POST',
    path: '/api/imports/:id/repair',
    summary:
      'Type into cells, also into all of the column that say the same and are wrong alike; then it is checked again',
    right,
    params: ImportId,
    body: z.strictObject({
      repairs: z.array(Repair).min(1).max(1000),
    }),
    reply: z.object({ cells: z.int() }),
  }),
  leaveOutRows: endpoint({
    method: 'POST',
    path: '/api/imports/:id/leave-out',
    summary:
      'Leave rows out (a line of totals, somebody who is not meant), or put them back; then it is checked again',
    right,
    params: ImportId,
    body: z.strictObject({ rows: z.array(z.int()).min(1).max(1000), leftOut: z.boolean() }),
    reply: z.object({}),
  }),
  checkImport: endpoint({
    method: 'POST',
    path: '/api/imports/:id/check',
    summary: 'Check all rows again against the register as it now is',
    right,
    params: ImportId,
    reply: z.object({}),
  }),
  writeImport: endpoint({
    method: 'POST',
    path: '/api/imports/:id/write',
    summary: 'Write all rows, or all good ones, as one entry; in the background',
    right,
    params: ImportId,
    body: z.strictObject({
      rows: z.enum(['all', 'good']),
      /** A word for each warning, by its code. */
      words: z.partialRecord(ProblemCodeSchema, Text).default({}),
      reason: Text.optional(),
    }),
    reply: z.object({}),
  }),
  cancelImport: endpoint({
    method: 'POST',
    path: '/api/imports/:id/cancel',
    summary: 'Cancel an import, at any stage before it is written',
    right,
    params: ImportId,
    reply: z.object({}),
  }),
  importWorkbook: endpoint({
    method: 'GET',
    path: '/api/imports/:id/workbook',
    summary: 'The rows as a workbook to mend and take in again: bad cells coloured and explained',
    right,
    params: ImportId,
    query: z.strictObject({ rows: z.enum(['all', 'refused']).default('refused') }),
    reply: FileReply,
  }),
  importSubjects: endpoint({
    method: 'GET',
    path: '/api/import-subjects',
    summary: 'What files can be about, with their columns',
    right,
    reply: z.object({
      subjects: z.array(
        z.object({
          name: z.string(),
          label: z.string(),
          columns: z.array(z.object({ name: ColumnField, label: z.string() })),
        }),
      ),
    }),
  }),
  importTemplate: endpoint({
    method: 'GET',
    path: '/api/import-template',
    summary: 'An empty file for people: chosen columns, required ones marked, pick lists inside',
    right,
    query: z.strictObject({
      /** What it is about: `people`, or a section. */
      subject: z.string().max(60).default('people'),
      format: z.enum(['xlsx', 'csv', 'tsv']).default('xlsx'),
      /** Names of fields, separated by commas; all if left out. */
      columns: z
        .string()
        .max(1000)
        .transform((text) => text.split(',').filter(Boolean))
        .pipe(z.array(ColumnField))
        .optional(),
    }),
    reply: FileReply,
  }),
};
