import { z } from 'zod';
import { type FieldMeta, cellOf, metaOf } from './field';
import type { Kind } from './kind';

export * from './field';
export * from './kind';

/** A field that names other things: one, or several. */
export type Reference = { field: string; kind: Kind; past: boolean; several: boolean };

/** Whose a row is: the thing that a field of it names; `thing`: the thing itself. */
export type Owner = { field: string; kind: Kind };

/**
 * Who sees a row: everybody with the right (it describes no person and belongs to no unit); whose part of the organisation
 * it is in on its own days; or whose part its owner is in now.
 */
export type ScopedBy = 'everybody' | 'own_days' | 'owner_now';

/** What a section says of itself beside its fields. */
export type Traits = {
  /** The field that names whose it is. Left out: a section beside the base one is of its thing; a base one is nobody's. */
  owner?: string;
  /** As its owner, if left out. */
  scope?: ScopedBy;
  /** Several at a time of one owner, each a thing of its own; where it has an owner by a field, unless said otherwise. */
  several?: boolean;
  /** Ends with its owner (when an employment ends, its pay does). */
  endsWithOwner?: boolean;
  /** Goes on in the employment that continues the one it is of. */
  continues?: boolean;
  /** Nobody records it of themselves (law `own_record`). */
  notByOneself?: boolean;
  /** Only roles that name it give it. */
  sensitive?: boolean;
  /** Left out of the register in memory until somebody asks. */
  rare?: boolean;
  /** Not told in the chronicle of whose it is. */
  untold?: boolean;
  /** Told by people of themselves: no role sees it of others, and no list of acts tells of it. */
  byOneself?: boolean;
  /** Roles that see it and that record in it, where that is said of it alone. */
  given?: Given;
};

/** Roles by name; null: as they see, or record in, everything. */
export type Given = { see: readonly string[] | null; edit: readonly string[] | null };

/**
 * One part of a thing that is kept in versions: its table is `<name>_version`, its columns are the fields in snake case.
 * `base` sections carry the thing's existence: the thing exists on the days its base section has a version.
 */
export type Section = {
  name: string;
  kind: Kind;
  base: boolean;
  /** A whole version. Sections have no defaults: an edit of one field would blank the rest. */
  fields: z.ZodObject;
  /** Of a new version: what may be empty may be left out, so that requests from before a field was added still pass. */
  create: z.ZodType<Record<string, unknown>>;
  /** Its fields that may be empty, as null. */
  nulls: Readonly<Record<string, null>>;
  /** Of a change: only what is named is written. */
  edit: z.ZodObject;
  metas: ReadonlyMap<string, FieldMeta>;
  refs: readonly Reference[];
  owner: Owner | null;
  scope: ScopedBy | null;
  several: boolean;
  endsWithOwner: boolean;
  continues: boolean;
  notByOneself: boolean;
  sensitive: boolean;
  rare: boolean;
  untold: boolean;
  byOneself: boolean;
  given: Given | null;
  /** The id of the own section it is, kept in the table that own sections share; null for one of a table of its own. */
  own: number | null;
};

const referenceIn = (name: string, meta: FieldMeta): Reference[] => {
  if (meta.is === 'ref') return [{ field: name, kind: meta.kind, past: meta.past === true, several: false }];
  if (meta.is === 'refs') return [{ field: name, kind: meta.kind, past: true, several: true }];
  if (meta.is !== 'list' && meta.is !== 'lists') return [];
  return [{ field: name, kind: 'list_entry', past: false, several: meta.is === 'lists' }];
};

const nullsOf = (fields: z.ZodObject): Record<string, null> => {
  const nulls: Record<string, null> = {};
  for (const [name, schema] of Object.entries(fields.shape))
    if (schema instanceof z.ZodNullable) nulls[name] = null;
  return nulls;
};

const withNulls = (fields: z.ZodObject, nulls: object): z.ZodType<Record<string, unknown>> => {
  const fill = (value: unknown): unknown =>
    typeof value === 'object' && value !== null && !Array.isArray(value) ? { ...nulls, ...value } : value;
  return z.preprocess(fill, fields) as z.ZodType<Record<string, unknown>>;
};

const ownerIn = (name: string, kind: Kind, { owner }: Traits, metas: Section['metas']): Owner | null => {
  if (owner === undefined) return name === kind ? null : { field: 'thing', kind };
  const meta = metas.get(owner);
  if (meta?.is !== 'ref') throw new Error(`section ${name}: its owner ${owner} names no other thing`);
  return { field: owner, kind: meta.kind };
};

// What each version says of itself.
const COLUMNS = new Set(['id', 'lineage', 'validFrom', 'validUntil', 'recordedBy', 'supersededBy', 'salt']);

/** Declares a section; what cannot be is said at start. */
export const section = <const N extends string, F extends z.ZodRawShape>(
  name: N,
  kind: Kind,
  fields: z.ZodObject<F>,
  traits: Traits = {},
  own: number | null = null,
): Omit<Section, 'name' | 'fields'> & { name: N; fields: z.ZodObject<F> } => {
  const metas = new Map<string, FieldMeta>();
  for (const [fieldName, schema] of Object.entries(fields.shape)) {
    const meta = metaOf(`${name}.${fieldName}`, schema as z.ZodType);
    if (schema instanceof z.ZodOptional || schema instanceof z.ZodDefault)
      throw new Error(`field ${name}.${fieldName} has a default or may be left out: an edit would blank it`);
    if (COLUMNS.has(fieldName))
      throw new Error(`field ${name}.${fieldName}: every version has such a column`);
    cellOf(meta);
    metas.set(fieldName, meta);
  }
  const nulls = nullsOf(fields);
  const { scope = null, several = traits.owner !== undefined } = traits;
  const { endsWithOwner = false, continues = false, notByOneself = false } = traits;
  const { sensitive = false, rare = false, untold = false, byOneself = false, given = null } = traits;
  return {
    name,
    kind,
    base: name === (kind as string) || own !== null,
    fields,
    create: withNulls(fields, nulls),
    nulls,
    edit: fields.partial(),
    metas,
    refs: [...metas].flatMap(([fieldName, meta]) => referenceIn(fieldName, meta)),
    owner: ownerIn(name, kind, traits, metas),
    scope,
    several,
    endsWithOwner,
    continues,
    notByOneself,
    sensitive,
    rare,
    untold,
    byOneself,
    given,
    own,
  };
};
