import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Problem } from '../problems';
import { type SectionName, sectionNames } from '../sections';
import { Bound, Day, Moment } from './day';
import { Edit, Entry } from './entry';
import { Id, Kind, Text } from './section';

/** The two clocks of every reading: in effect on a day (today if left out), as recorded by a moment (now). */
export const Lens = z.strictObject({ on: Day.optional(), recordedBy: Moment.optional() });
export type Lens = z.infer<typeof Lens>;
export const Page = z.strictObject({
  limit: z.coerce.number().int().min(1).max(1000).default(100),
  offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
});

/** A version as it travels; values are those of its section. */
export const RowOut = z.object({
  id: z.int(),
  thing: z.int(),
  from: Bound,
  until: Bound,
  values: z.record(z.string(), z.unknown()),
});
export type RowOut = z.infer<typeof RowOut>;

export const SectionNameSchema = z.enum(sectionNames as [SectionName, ...SectionName[]]);
const Reason = Text.optional();

/** What an act wrote, or would write. */
export const Written = z.object({
  /** Number of the entry; null for a preview. */
  entry: z.int().nullable(),
  problems: z.array(Problem),
});

export const recordEndpoints = {
  records: endpoint({
    method: 'GET',
    path: '/api/records/:kind',
    summary: 'Things of one kind with the versions of their base section in effect on a day',
    right: 'signed_in',
    params: z.object({ kind: Kind }),
    query: Lens.extend(Page.shape),
    reply: z.object({ rows: z.array(RowOut) }),
  }),
  record: endpoint({
    method: 'GET',
    path: '/api/records/:kind/:id',
    summary: 'All versions of all sections of one thing, as recorded by a moment',
    right: 'signed_in',
    params: z.object({ kind: Kind, id: z.coerce.number().int() }),
    query: z.strictObject({ recordedBy: Moment.optional() }),
    reply: z.object({
      sections: z.array(
        z.object({
          name: SectionNameSchema,
          /** Number of the last entry that touched it: named when saving. */
          lastEntry: z.int(),
          rows: z.array(RowOut),
        }),
      ),
    }),
  }),
  createRecord: endpoint({
    method: 'POST',
    path: '/api/records/:kind',
    summary: 'Make a thing, or preview it',
    right: { act: 'create' },
    params: z.object({ kind: Kind }),
    body: z.strictObject({
      from: Bound,
      until: Bound.default('infinity'),
      sections: z.partialRecord(SectionNameSchema, z.record(z.string(), z.unknown())),
      reason: Reason,
      preview: z.boolean().default(false),
    }),
    reply: Written.extend({ id: Id }),
  }),
  editRecord: endpoint({
    method: 'POST',
    path: '/api/records/:kind/:id/:section',
    summary: 'Change one section: from a day on, or as recorded wrongly; or preview it',
    right: 'signed_in',
    params: z.object({ kind: Kind, id: z.coerce.number().int(), section: SectionNameSchema }),
    body: z.strictObject({
      edit: Edit,
      /** Number of the last entry that touched the section, as it was read. */
      basedOn: z.int(),
      reason: Reason,
      preview: z.boolean().default(false),
    }),
    reply: Written,
  }),
};

const EntryNumber = z.object({ number: z.coerce.number().int() });

export const journalEndpoints = {
  journal: endpoint({
    method: 'GET',
    path: '/api/journal',
    summary: 'Entries, latest first',
    right: { act: 'journal' },
    query: Page.extend({ thing: z.coerce.number().int().optional() }),
    reply: z.object({ entries: z.array(Entry) }),
  }),
  entry: endpoint({
    method: 'GET',
    path: '/api/journal/:number',
    summary: 'One entry with the rows it recorded and superseded',
    right: { act: 'journal' },
    params: EntryNumber,
    reply: z.object({
      entry: Entry,
      recorded: z.array(RowOut.extend({ section: SectionNameSchema })),
      superseded: z.array(RowOut.extend({ section: SectionNameSchema })),
    }),
  }),
  planUndo: endpoint({
    method: 'POST',
    path: '/api/journal/:number/undo-plan',
    summary: 'What must be undone together with an entry, in order',
    right: { act: 'undo' },
    params: EntryNumber,
    reply: z.object({ entries: z.array(Entry), problems: z.array(Problem) }),
  }),
  undo: endpoint({
    method: 'POST',
    path: '/api/journal/:number/undo',
    summary: 'Undo an entry by its plan, whole or not at all',
    right: { act: 'undo' },
    params: EntryNumber,
    body: z.strictObject({
      /** Numbers of the plan as it was shown, latest first. */
      plan: z.array(z.int()).min(1),
      reason: Reason,
    }),
    reply: Written,
  }),
  putBack: endpoint({
    method: 'POST',
    path: '/api/journal/:number/put-back',
    summary: 'Put back what an entry did to one thing only',
    right: { act: 'undo' },
    params: EntryNumber,
    body: z.strictObject({ thing: Id, reason: Reason, preview: z.boolean().default(false) }),
    reply: Written,
  }),
};
