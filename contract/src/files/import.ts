import { z } from 'zod';
import { Problem } from '../problems';
import { SectionNameSchema } from '../catalogue';
import { Bound, Day, Moment } from '../time/day';
import { Named } from '../time/record-out';
import { Id } from '../time/section';

/**
 * How far an import is. `in_repair`: some rows are refused; `ready`: none is, and there is something to write;
 * `checked`: all rows are as the register says already.
 */
export const ImportState = z.enum([
  'uploaded',
  'checked',
  'in_repair',
  'ready',
  'written',
  'cancelled',
  'undone',
]);
export type ImportState = z.infer<typeof ImportState>;

/** What a row does to the register; `left_out`: somebody said that it is not to be taken in. */
export const RowStatus = z.enum(['new', 'changed', 'same', 'refused', 'left_out']);
export type RowStatus = z.infer<typeof RowStatus>;

/** How many rows of a file do what. */
export const ImportCounts = z.object({
  read: z.int(),
  new: z.int(),
  changed: z.int(),
  same: z.int(),
  refused: z.int(),
  left_out: z.int(),
});
export type ImportCounts = z.infer<typeof ImportCounts>;

/** A column's field: of people (`ImportField`), or of a plain subject. */
export const ColumnField = z.string().min(1).max(120);
export type ColumnField = z.infer<typeof ColumnField>;

/** Something wrong with a row: which cell, what, and what could be typed there instead. */
export const Fault = z.object({
  /** Null where it is not one cell's fault. */
  field: ColumnField.nullable(),
  problem: Problem,
  /** Readings of the cell; one alone is an offer to mend, several are to be chosen from. */
  offers: z.array(z.string()),
});
export type Fault = z.infer<typeof Fault>;

/** What of an import is worked on, in the background. */
export const ImportWork = z.object({
  what: z.enum(['read', 'check', 'write']),
  /** Rows done and rows in all of the present step; 0 of 0 while nothing can be said. */
  done: z.int(),
  total: z.int(),
});
export type ImportWork = z.infer<typeof ImportWork>;

/** One line of the list of imports. */
export const ImportLine = z.object({
  id: Id,
  name: z.string(),
  at: Moment,
  by: z.string(),
  state: ImportState,
  counts: ImportCounts.nullable(),
  work: ImportWork.nullable(),
});
export type ImportLine = z.infer<typeof ImportLine>;

/** Which of day and month comes first where both are numbers. */
export const DayOrder = z.enum(['day_first', 'month_first']);
export type DayOrder = z.infer<typeof DayOrder>;

/** A column of a file with what it is taken for, and by what. */
export const ImportColumn = z.object({
  heading: z.string(),
  /** What it is taken for; null is not taken in. */
  field: ColumnField.nullable(),
  /** How the match was found. */
  how: z.enum(['name', 'memory', 'chosen', 'split']).nullable(),
  samples: z.array(z.string()),
  /** Of a column of days that was checked: which of day and month comes first, and what says so. */
  days: z
    .object({
      /** Null: it is to be asked. */
      order: DayOrder.nullable(),
      /** Somebody said so. */
      chosen: z.boolean(),
      /** A cell that is a day both ways, another one each. */
      example: z.string().nullable(),
      /** A cell that is a day in one order only. */
      told: z.string().nullable(),
    })
    .nullable(),
});
export type ImportColumn = z.infer<typeof ImportColumn>;

/** One value that a row changes: of which section, from when, what it was (null: nothing) and what it will be. */
export const RowChange = z.object({
  section: SectionNameSchema,
  field: z.string(),
  from: Bound,
  was: z.unknown(),
  is: z.unknown(),
});
export type RowChange = z.infer<typeof RowChange>;

/** The first rows of a sheet as they stand, to choose its headings from. */
export const SheetPreview = z.object({
  name: z.string(),
  rows: z.array(z.object({ row: z.int(), cells: z.array(z.string()) })),
});
export type SheetPreview = z.infer<typeof SheetPreview>;

/** A row of the file with its cells as they now stand, in the order of the columns. */
export const ImportRow = z.object({
  /** Line of the file, counted from 1. */
  row: z.int(),
  cells: z.array(z.string()),
  status: RowStatus,
  faults: z.array(Fault),
  /** What it changes; of the first few thousand rows. */
  changes: z.array(RowChange),
  /** Whom it is about, once recognised or written. */
  personId: Id.nullable(),
  person: z.string().nullable(),
  /** Of a plain subject: the thing whose record shows it, once known or written. */
  opens: Named.nullable(),
});
export type ImportRow = z.infer<typeof ImportRow>;

/** What writing would do. */
export const ImportSummary = z.object({
  hires: z.int(),
  moves: z.int(),
  others: z.int(),
  /** Rows that hold from today or earlier, and later ones with the first and last of their days. */
  begun: z.int(),
  later: z.int(),
  firstLater: Day.nullable(),
  lastLater: Day.nullable(),
});
export type ImportSummary = z.infer<typeof ImportSummary>;

/** A warning with the rows that have it: written only with a word for it. */
export const ImportWarning = z.object({ problem: Problem, count: z.int(), rows: z.array(z.int()) });
export type ImportWarning = z.infer<typeof ImportWarning>;

/** An import as its page shows it. */
export const ImportOut = ImportLine.extend({
  fileName: z.string(),
  /** What its rows are about: `people`, or a section. */
  subject: z.string(),
  /** What columns can be taken for, with what they are called. */
  fields: z.array(z.object({ name: ColumnField, label: z.string() })),
  format: z.enum(['csv', 'xlsx', 'zip']),
  /** The files it consists of, where it is of several: in the order in which they came. */
  parts: z.array(ImportLine.extend({ fileName: z.string(), subject: z.string(), trouble: z.array(Problem) })),
  /** The import it is one of several files of. */
  partOf: Id.nullable(),
  /** Which sheet of how many was read. */
  sheet: z.string().nullable(),
  sheets: z.int(),
  comments: z.int(),
  /** Its sheets, which of them is taken in (from 0), and the row of its headings; null before it is read. */
  preview: z.object({ sheets: z.array(SheetPreview), at: z.int(), headingRow: z.int() }).nullable(),
  /** The day from which rows hold that do not say their own. */
  day: Day,
  /** Numbers nobody has are noted as new people with that number. */
  newNumbers: z.boolean(),
  columns: z.array(ImportColumn),
  summary: ImportSummary.nullable(),
  warnings: z.array(ImportWarning),
  /** What stopped the reading or the writing as a whole. */
  trouble: z.array(Problem),
  /** Number of the entry that wrote it. */
  entry: z.int().nullable(),
  /** Number of the entry that undid it. */
  undoneBy: z.int().nullable(),
  /** Whether the viewer may go on with it. */
  own: z.boolean(),
});
export type ImportOut = z.infer<typeof ImportOut>;
