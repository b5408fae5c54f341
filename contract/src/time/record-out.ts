import { z } from 'zod';
import { SectionNameSchema } from '../catalogue';
import { Bound } from './day';
import { Entry } from './entry';
import { Kind } from './section';

/** A version as it travels; values are those of its section. */
export const RowOut = z.object({
  id: z.int(),
  thing: z.int(),
  from: Bound,
  until: Bound,
  values: z.record(z.string(), z.unknown()),
});
export type RowOut = z.infer<typeof RowOut>;

const Correction = z.object({
  entry: z.int(),
  before: z.record(z.string(), z.unknown()),
  after: z.record(z.string(), z.unknown()),
});

/** A version with its section and the entry that recorded it: enough to build a register of them again. */
export const SectionRowOut = RowOut.extend({
  section: SectionNameSchema,
  lineage: z.int(),
  /** Id of the entry that recorded it. */
  entry: z.int(),
  /** Id of the entry, not undone, that gave its values their present form: later ones only cut it or its neighbours. */
  formedBy: z.int().optional(),
  /** Id of the entry that gave it its present end. */
  endedBy: z.int().optional(),
  /** Later entries that gave it other values on the same first day, with those before and after: what was recorded wrongly. */
  corrections: z.array(Correction).optional(),
});
export type SectionRowOut = z.infer<typeof SectionRowOut>;

/** A thing by its name. */
export const Named = z.object({ kind: Kind, id: z.int(), name: z.string() });
export type Named = z.infer<typeof Named>;

/** A manager met on the way up; bridged where positions between have nobody who leads. */
export const ManagerOut = z.object({
  personId: z.int(),
  positionId: z.int(),
  name: z.string(),
  title: z.string(),
  bridged: z.boolean(),
});
export type ManagerOut = z.infer<typeof ManagerOut>;

/** All that the page of a record shows for any day: versions, who recorded them, names of what they refer to. */
export const RecordOut = z.object({
  rows: z.array(SectionRowOut),
  /** Number of the last entry that touched each section of each thing: named when saving. */
  lastEntries: z.array(z.object({ section: SectionNameSchema, thing: z.int(), number: z.int() })),
  entries: z.array(Entry),
  names: z.array(Named),
  /** Managers on the day looked at, nearest first. */
  managers: z.array(ManagerOut),
});
export type RecordOut = z.infer<typeof RecordOut>;
