import { z } from 'zod';
import { SectionNameSchema } from '../catalogue';
import { endpoint } from '../endpoint';
import { Problem, ProblemCodeSchema } from '../problems';
import { Bound, Day, Moment } from './day';
import { Edit, Entry } from './entry';
import { Named, RecordOut, RowOut, SectionRowOut } from './record-out';
import { Id, Kind, Text } from './section';

/** The two clocks of every reading: in effect on a day (today if left out), as recorded by a moment (now). */
export const Lens = z.strictObject({ on: Day.optional(), recordedBy: Moment.optional() });
export type Lens = z.infer<typeof Lens>;
/** Which part of a list is wanted. */
export const Page = z.strictObject({
  limit: z.coerce.number().int().min(1).max(1000).default(100),
  offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
});

const Reason = Text.optional();

/** Something found by its name, with a line that tells it from its namesakes. */
export const Found = Named.extend({
  kind: z.enum(['person', 'unit', 'position', 'job', 'grade']),
  about: z.string().nullable(),
  /** Of a position: its mark, and who leads it as far as the viewer may know. */
  mark: z.string().optional(),
  manager: z.string().optional(),
});
export type Found = z.infer<typeof Found>;

/** What an act wrote, or would write. */
export const Written = z.object({
  /** Number of the entry; null for a preview. */
  entry: z.int().nullable(),
  problems: z.array(Problem),
  /** Sections of which it recorded or superseded rows: what shows others need not be asked for anew. */
  touched: z.array(SectionNameSchema),
});

/** A word for each warning, by its code: without one nothing is recorded (`word_missing`). */
export const Words = z.partialRecord(ProblemCodeSchema, Text).default({});
export type Words = z.infer<typeof Words>;

/** An edit of one section: of a thing that is there, or (`create`) one more of what somebody or something has. */
export const SectionEdit = z.union([
  z.strictObject({ kind: Kind, id: Id, section: SectionNameSchema, edit: Edit, basedOn: z.int() }),
  z.strictObject({
    section: SectionNameSchema,
    edit: z.strictObject({
      mode: z.literal('create'),
      from: Bound,
      until: Bound.default('infinity'),
      values: z.record(z.string(), z.unknown()),
    }),
  }),
]);
export type SectionEdit = z.infer<typeof SectionEdit>;

/** Records of every kind: read, made, changed. */
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
      sections: z.record(z.string().max(60), z.record(z.string(), z.unknown())),
      reason: Reason,
      preview: z.boolean().default(false),
      words: Words,
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
      words: Words,
    }),
    reply: Written,
  }),
  saveEdits: endpoint({
    method: 'POST',
    path: '/api/edits',
    summary:
      'Change, begin and end rows of several sections as one entry, or preview it; what now stands comes back',
    right: 'signed_in',
    body: z.strictObject({
      edits: z.array(SectionEdit).min(1).max(50),
      reason: Reason,
      preview: z.boolean().default(false),
      words: Words,
    }),
    /** All versions of what was edited, with who made them, as far as the viewer may see; nothing for a preview. */
    reply: Written.extend(RecordOut.omit({ managers: true }).shape),
  }),
  reference: endpoint({
    method: 'GET',
    path: '/api/reference',
    summary: 'All versions of what describes no person: lists, jobs, grades, locations, legal entities …',
    right: 'signed_in',
    query: z.strictObject({ recordedBy: Moment.optional() }),
    reply: z.object({ rows: z.array(SectionRowOut) }),
  }),
  ticks: endpoint({
    method: 'GET',
    path: '/api/ticks',
    summary: 'Days of a period on which somebody begins, moves or ends, with how many',
    right: { section: 'placement', level: 'view' },
    query: z.strictObject({ from: Day, until: Day, recordedBy: Moment.optional() }),
    reply: z.object({ ticks: z.array(z.object({ day: Day, count: z.int() })) }),
  }),
  find: endpoint({
    method: 'GET',
    path: '/api/find',
    summary:
      'People, units, positions and jobs by a part of their name, code or number: exact codes first, then beginnings of names, then of words, then the rest',
    right: 'signed_in',
    query: Lens.extend({
      /** Empty: nothing, but with `free` all there are. */
      text: z.string().trim().max(100).default(''),
      /** `yes`: only where somebody can be hired into; `first`: these before the others. */
      free: z.enum(['yes', 'first']).optional(),
      /** Things of this kind only, then more of them. */
      kind: z.enum(['person', 'unit', 'position', 'job', 'grade']).optional(),
      /** Only positions of this unit itself. */
      unit: z.coerce.number().int().optional(),
    }),
    reply: z.object({ found: z.array(Found) }),
  }),
  named: endpoint({
    method: 'GET',
    path: '/api/named',
    summary:
      'People, units, positions and jobs by their ids, as found: those the viewer may see, in the order asked',
    right: 'signed_in',
    query: Lens.extend({
      /** As `person:12,unit:3`; 20 at most. */
      of: z
        .string()
        .max(600)
        .regex(/^((person|unit|position|job):\d{1,15})(,(person|unit|position|job):\d{1,15}){0,19}$/, {
          error: 'value_invalid',
        }),
    }),
    reply: z.object({ found: z.array(Found) }),
  }),
};

/** A section that an act changed: from when its new values hold, or until when it still does. */
export const Changed = z.object({ section: SectionNameSchema, day: Bound, isEnd: z.boolean() });
export type Changed = z.infer<typeof Changed>;

/** An entry with what it is about: the people, positions or units it touched, a few of them. */
export const JournalLine = Entry.extend({
  about: z.array(Named),
  /** There are more than those named. */
  isMore: z.boolean(),
  /** Of an act on sections: which, and from when. */
  changed: z.array(Changed),
});
export type JournalLine = z.infer<typeof JournalLine>;

const EntryNumber = z.object({ number: z.coerce.number().int() });

/** Entries, what they did, and how they are undone. */
export const journalEndpoints = {
  journal: endpoint({
    method: 'GET',
    path: '/api/journal',
    summary: 'Entries, latest first',
    right: { act: 'journal' },
    query: Page.extend({
      thing: z.coerce.number().int().optional(),
      /** A condition in CEL over the fields of entries. */
      where: z.string().max(4000).optional(),
    }),
    reply: z.object({ entries: z.array(JournalLine) }),
  }),
  entry: endpoint({
    method: 'GET',
    path: '/api/journal/:number',
    summary: 'One entry with the rows it recorded and superseded',
    right: { act: 'journal' },
    params: EntryNumber,
    reply: z.object({
      entry: JournalLine,
      recorded: z.array(RowOut.extend({ section: SectionNameSchema })),
      superseded: z.array(RowOut.extend({ section: SectionNameSchema })),
      /** Names of what the rows belong to and refer to. */
      names: z.array(Named),
    }),
  }),
  planUndo: endpoint({
    method: 'POST',
    path: '/api/journal/:number/undo-plan',
    summary: 'What must be undone together with an entry, in order',
    right: { act: 'undo' },
    params: EntryNumber,
    reply: z.object({ entries: z.array(JournalLine), problems: z.array(Problem) }),
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
