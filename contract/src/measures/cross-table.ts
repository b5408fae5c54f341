import { z } from 'zod';
import { ReasonClass } from '../structure/list-entry';
import { Day } from '../time/day';
import { Lens, Page } from '../time/records.endpoints';

/** What figures can be split by. */
export const DimensionName = z.enum([
  'whole',
  'unit',
  'division',
  'location',
  'country',
  'jobFamily',
  'job',
  'legalEntity',
  'workerType',
]);
export type DimensionName = z.infer<typeof DimensionName>;

/** The figures of a cross table; definitions in docs/model.md, "Figures". */
export const MeasureName = z.enum(['headcount', 'fte', 'fteAtWork', 'joiners', 'leavers', 'turnover']);
export type MeasureName = z.infer<typeof MeasureName>;

/** A month `YYYY-MM`, from 1900 to 2199. */
export const Month = z.string().regex(/^(19|20|21)\d{2}-(0[1-9]|1[0-2])$/, { error: 'day_invalid' });

const narrowed = /^(([a-zA-Z]+):[^;:]+)?(;[a-zA-Z]+:[^;:]+)*$/;

/** Values that people are narrowed to, as `country:FI,EE;workerType:12;class:by_employee`; `-` is "none". */
export const Narrow = z.string().max(4000).regex(narrowed, { error: 'value_invalid' });

/** What a cross table is asked: one measure by one dimension over months. */
export const CrossQuery = Lens.extend({
  measure: MeasureName.default('headcount'),
  by: DimensionName.default('division'),
  from: Month,
  until: Month,
  narrow: Narrow.default(''),
});
export type CrossQuery = z.infer<typeof CrossQuery>;

/** A value of a dimension: an id, the code of a country, 0 for the whole, null for none. */
export const KeyOut = z.union([z.int(), z.string(), z.null()]);

/** A name in both languages; things named once have the same in both. */
export const Label = z.object({ en: z.string(), de: z.string() });
export type Label = z.infer<typeof Label>;

const MonthAbout = {
  /** Day at whose close people are counted. */
  end: Day,
  /** It ends after today: planned things are in it. */
  isFuture: z.boolean(),
  /** Counted up to the day looked at, before the month is over ("so far"). */
  isCut: z.boolean(),
  /** False where the data do not reach back far enough: cells are blank. */
  isKnown: z.boolean(),
};

/** A cross table: a line for each value, a cell for each month. */
export const CrossOut = z.object({
  /** Number of the entry after which it was worked out. */
  entry: z.int(),
  /** The day looked at, and today. */
  on: Day,
  today: Day,
  /** First day for which figures are complete. */
  dataFrom: Day,
  months: z.array(
    z.object({
      month: z.string(),
      ...MonthAbout,
    }),
  ),
  rows: z.array(
    z.object({
      key: KeyOut,
      label: Label,
      /** People as whole numbers, FTE in hundredths, rates as fractions; null is no rate, or blank where not known. */
      values: z.array(z.number().nullable()),
      /** How much the row weighs beside others: the sum of what its rates are of, or of its values. */
      weight: z.number(),
      /** For a rate: at how many of the 12 closes the value existed, where not at all of them. */
      closes: z.array(z.int()).optional(),
    }),
  ),
  total: z.object({ values: z.array(z.number().nullable()) }),
  /** The measure's numerator by value, under all narrowings but the dimension's own. */
  chips: z.array(
    z.object({
      dimension: DimensionName,
      values: z.array(z.object({ key: KeyOut, label: Label, count: z.number() })),
    }),
  ),
  classes: z.array(z.object({ class: ReasonClass, count: z.int() })),
  /** Units whose branches the viewer sees; null is the whole organisation. */
  scope: z.array(Label).nullable(),
});
export type CrossOut = z.infer<typeof CrossOut>;

const Cell = { key: z.string().max(40), month: Month };

/** One cell: the key of its row (`all` for the total) and its month; and which of its people. */
export const WhyQuery = CrossQuery.extend({ ...Cell, ...Page.shape });
export type WhyQuery = z.infer<typeof WhyQuery>;

/** What a figure is made of, with a page of the people behind it. */
export const WhyOut = z.object({
  entry: z.int(),
  label: Label.nullable(),
  value: z.number().nullable(),
  ...MonthAbout,
  /** Inputs by month: headcount at the close (null where the value did not exist), joiners, leavers. */
  months: z.array(
    z.object({ month: z.string(), close: z.int().nullable(), joiners: z.int(), leavers: z.int() }),
  ),
  average: z.number().nullable(),
  leavers: z.int(),
  /** People behind the numerator, `total` of them: latest day first, then by name. */
  people: z.array(
    z.object({
      personId: z.int(),
      number: z.string(),
      name: z.string(),
      title: z.string(),
      place: z.string(),
      /** Last day of a leaver, first day of a joiner; else null. */
      day: Day.nullable(),
      class: ReasonClass.nullable(),
      /** FTE in hundredths, where FTE is counted. */
      fte: z.int().nullable(),
    }),
  ),
  total: z.int(),
});
export type WhyOut = z.infer<typeof WhyOut>;

const AsFile = { format: z.enum(['csv', 'xlsx']), language: z.enum(['en', 'de']).default('en') };

/** The same table as a file; `language` is that of its headings and names. */
export const CrossFileQuery = CrossQuery.extend(AsFile);
export type CrossFileQuery = z.infer<typeof CrossFileQuery>;

/** All people behind a cell as a file. */
export const WhyFileQuery = CrossQuery.extend({ ...Cell, ...AsFile });
export type WhyFileQuery = z.infer<typeof WhyFileQuery>;
