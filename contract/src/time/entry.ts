import { z } from 'zod';
import { movementKinds } from '../movements/movements';
import type { SectionName, Values } from '../sections';
import { Bound, Moment } from './day';
import { Id } from './section';

/**
 * One version of one section of one thing, believed from the entry that recorded it on.
 * `lineage` is the id of the first row with this content: an undo records rows again under new ids, the lineage stays.
 */
export type Row<S extends SectionName = SectionName> = {
  id: number;
  lineage: number;
  section: S;
  thing: number;
  from: Bound;
  until: Bound;
  values: Values<S>;
  /** The entry that recorded it. */
  entry: number;
};

/** What an entry did: rows now believed, rows no longer believed. Swapping the two reverses it. */
export type Change = { recorded: Row[]; superseded: Row[] };

/** What kind of act an entry came of. */
export const EntryKind = z.enum([
  'set_up',
  'create',
  'edit',
  'mend',
  'end',
  ...movementKinds,
  'undo',
  'put_back',
  'import',
  'bulk_change',
  'merge',
  'replace',
]);
export type EntryKind = z.infer<typeof EntryKind>;

/** The head of an entry as the journal lists it. */
export const Entry = z.object({
  id: Id,
  number: z.int(),
  moment: Moment,
  kind: EntryKind,
  account: z.string(),
  /** Null where the entry also touches records the viewer may not see. */
  reason: z.string().nullable(),
  /** Numbers of the entries it undoes. */
  undoes: z.array(z.int()),
  /** Number of the undoing entry in force, if any. */
  undoneBy: z.int().nullable(),
  rows: z.int(),
  digest: z.string(),
});
export type Entry = z.infer<typeof Entry>;

/** How a section is changed. `set`: it changed from a day on. `mend`: it was recorded wrongly. */
export const EditMode = z.enum(['set', 'mend', 'begin', 'end', 'remove', 'shift']);
export type EditMode = z.infer<typeof EditMode>;

/** One change of a section, by its mode. */
export const Edit = z.discriminatedUnion('mode', [
  z.strictObject({
    mode: z.literal('set'),
    from: Bound,
    until: Bound.optional(),
    values: z.record(z.string(), z.unknown()),
    override: z.boolean().default(false),
  }),
  z.strictObject({
    mode: z.literal('mend'),
    row: Id,
    values: z.record(z.string(), z.unknown()),
  }),
  z.strictObject({
    mode: z.literal('begin'),
    from: Bound,
    until: Bound.default('infinity'),
    values: z.record(z.string(), z.unknown()),
  }),
  z.strictObject({ mode: z.literal('end'), lastDay: Bound }),
  z.strictObject({ mode: z.literal('remove'), row: Id }),
  z.strictObject({ mode: z.literal('shift'), row: Id, from: Bound }),
]);
export type Edit = z.infer<typeof Edit>;
