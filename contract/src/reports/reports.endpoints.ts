import { z } from 'zod';
import { RoleName } from '../access/roles';
import { SectionNameSchema } from '../catalogue';
import { endpoint } from '../endpoint';
import { Moment } from '../time/day';
import { Lens } from '../time/records.endpoints';
import { Id, Kind } from '../time/section';
import { TotalName, ViewDefinition } from './view';

/** A field that a report about a subject can have. */
export const ReportFieldOut = z.object({
  id: z.string(),
  section: SectionNameSchema,
  /** What the section is called, and the field in it. */
  group: z.string(),
  label: z.string(),
  kind: z.enum([
    'text',
    'number',
    'hundredths',
    'exact',
    'day',
    'yes_no',
    'choice',
    'entry',
    'entries',
    'thing',
  ]),
  /** Several rows at a time: shown as how many, the latest, or all of them. */
  isSeveral: z.boolean(),
  isWorkedOut: z.boolean(),
  isOwn: z.boolean(),
  /** The words it is one of. */
  options: z.array(z.object({ value: z.string(), label: z.string() })).optional(),
});
export type ReportFieldOut = z.infer<typeof ReportFieldOut>;

/** What a report can be about. */
export const SubjectOut = z.object({ name: SectionNameSchema, label: z.string() });
export type SubjectOut = z.infer<typeof SubjectOut>;

const Cell = z.union([z.string(), z.number(), z.boolean(), z.null()]);
/** A total of a column; null where nothing has a value. */
const TotalOut = z.object({ name: TotalName, value: Cell }).nullable();

/** A report as it was worked out: one page of its rows, groups and totals of all. */
export const ReportRun = z.object({
  columns: z.array(
    z.object({
      field: z.string(),
      label: z.string(),
      kind: ReportFieldOut.shape.kind,
      /** It is not there, or not the viewer's to see: it stands blank. */
      why: z.enum(['hidden', 'unknown']).nullable(),
      /** The section that is not the viewer's. */
      section: z.string().optional(),
    }),
  ),
  rows: z.array(z.object({ kind: Kind, id: Id, cells: z.array(Cell) })),
  groups: z.array(
    z.object({
      depth: z.int(),
      label: z.string(),
      /** Which row of all is its first. */
      first: z.int(),
      rows: z.int(),
      things: z.int(),
      totals: z.array(TotalOut),
    }),
  ),
  totals: z.array(TotalOut),
  /** Different people (or what the report is about) in all rows. */
  things: z.int(),
  looked: z.int(),
  matched: z.int(),
  /** Just at a bound that the condition leaves out; and those for which it has no value. */
  boundary: z.int(),
  noValue: z.int(),
  on: z.string(),
  /** Number of the entry after which this was so. */
  entry: z.int(),
});
export type ReportRun = z.infer<typeof ReportRun>;

const Language = z.enum(['en', 'de']);

const Run = z.strictObject({
  view: ViewDefinition,
  ...Lens.shape,
  language: Language.default('en'),
  limit: z.int().min(1).max(500).default(100),
  offset: z.int().min(0).default(0),
});

/** Whom a report is shared with: a role, or somebody with an account. */
export const ReportShare = z.strictObject({
  role: RoleName.optional(),
  account: z.string().max(200).optional(),
  may: z.enum(['view', 'shape']),
});
export type ReportShare = z.infer<typeof ReportShare>;

/** A report as it is kept. */
export const ReportKept = z.strictObject({
  name: z.string().trim().min(1).max(120),
  folder: z.string().trim().max(80).default(''),
  tags: z.array(z.string().trim().min(1).max(40)).max(12).default([]),
  shared: z.array(ReportShare).max(50).default([]),
  view: ViewDefinition,
});
export type ReportKept = z.infer<typeof ReportKept>;

/** A report on the shelf. */
export const ReportOut = ReportKept.extend({
  /** Below nothing: one that is shipped. */
  id: z.int(),
  /** Who made it; nobody where it was shipped. */
  owner: z.string().nullable(),
  isMine: z.boolean(),
  mayShape: z.boolean(),
  changedAt: Moment,
  /** Deleted: brought back within thirty days. */
  deletedAt: Moment.nullable(),
});
export type ReportOut = z.infer<typeof ReportOut>;

const Key = z.object({ id: z.coerce.number().int() });

/** List reports: what they can have, worked out, taken out, kept on a shelf and shared. */
export const reportEndpoints = {
  reportFields: endpoint({
    method: 'GET',
    path: '/api/report-fields',
    summary: 'What reports can be about, and the fields of a subject that the viewer may see',
    right: 'signed_in',
    query: z.strictObject({ subject: SectionNameSchema.optional(), language: Language.default('en') }),
    reply: z.object({ subjects: z.array(SubjectOut), fields: z.array(ReportFieldOut) }),
  }),
  reportChoices: endpoint({
    method: 'GET',
    path: '/api/report-choices',
    summary:
      'What a field of entries or things can be compared with: codes and labels, those that fit a text first',
    right: 'signed_in',
    query: Lens.extend({
      subject: SectionNameSchema,
      field: z.string().max(100),
      search: z.string().max(100).default(''),
      language: Language.default('en'),
    }),
    reply: z.object({ choices: z.array(z.object({ code: z.string(), label: z.string() })) }),
  }),
  runReport: endpoint({
    method: 'POST',
    path: '/api/reports/run',
    summary: 'Work out a view on a day: a page of rows, groups with subtotals, totals, how many match',
    right: 'signed_in',
    body: Run,
    reply: ReportRun,
  }),
  matching: endpoint({
    method: 'POST',
    path: '/api/reports/matching',
    summary: 'Which things a condition matches on a day: their ids, and how many there are without a value',
    right: 'signed_in',
    body: z.strictObject({
      subject: SectionNameSchema,
      condition: z.string().max(4000),
      ...Lens.shape,
      language: Language.default('en'),
    }),
    reply: z.object({
      ids: z.array(Id),
      looked: z.int(),
      boundary: z.int(),
      noValue: z.int(),
    }),
  }),
  reports: endpoint({
    method: 'GET',
    path: '/api/reports',
    summary:
      'The shelf: own reports, those shared with the viewer, those that are shipped, and own deleted ones',
    right: 'signed_in',
    query: z.strictObject({ language: Language.optional() }),
    reply: z.object({ reports: z.array(ReportOut) }),
  }),
  makeReport: endpoint({
    method: 'POST',
    path: '/api/reports',
    summary: 'Keep a report',
    right: 'signed_in',
    body: ReportKept,
    reply: ReportOut,
  }),
  changeReport: endpoint({
    method: 'POST',
    path: '/api/reports/:id',
    summary: 'Keep a report as it now is; only whoever made it shares it',
    right: 'signed_in',
    params: Key,
    body: ReportKept,
    reply: ReportOut,
  }),
  deleteReport: endpoint({
    method: 'DELETE',
    path: '/api/reports/:id',
    summary: 'Take a report from the shelf; it can be brought back for thirty days',
    right: 'signed_in',
    params: Key,
    reply: z.object({}),
  }),
  restoreReport: endpoint({
    method: 'POST',
    path: '/api/reports/:id/restore',
    summary: 'Bring a deleted report back',
    right: 'signed_in',
    params: Key,
    reply: ReportOut,
  }),
};
